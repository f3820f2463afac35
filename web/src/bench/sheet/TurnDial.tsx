import { follow, leaving } from '../canvas/pointer'
import { turnView } from '../canvas/zoom'
import { useBench } from '../state/store'

/** Degrees for one CSS pixel that the dial is dragged. */
const PER_PIXEL = 0.5

/** How far the view is turned: dragged to the side it turns, a press sets it upright again. */
export function TurnDial() {
  const turn = useBench((s) => s.view.turn)
  const start = (e: React.PointerEvent) => {
    if (e.button !== 0) return
    const left = leaving(e)
    const from = e.clientX
    follow({
      move: (m) => {
        if (!left(m)) return
        const to = turn + (m.clientX - from) * PER_PIXEL
        turnView(m.shiftKey ? Math.round(to / 15) * 15 : Math.round(to))
      },
      up: (m) => !left(m) && turnView(0),
      drop: () => turnView(turn),
    })
  }
  return (
    <button
      className={`plain w-[58px] cursor-ew-resize justify-center gap-1 px-0 tabular-nums ${turn === 0 ? '' : 'bg-ink/10'}`}
      aria-label={`The view is turned by ${turn}°: press to set it upright, arrow keys turn it`}
      title="Drag to the side: the view turns (keys ( and ), with Shift in steps of 15°). A press sets it upright again"
      onPointerDown={start}
      onClick={(e) => e.detail === 0 && turnView(0)}
      onKeyDown={(e) => {
        const by = { ArrowLeft: -1, ArrowRight: 1 }[e.key]
        if (by === undefined) return
        e.preventDefault()
        e.stopPropagation()
        turnView(turn + by * (e.shiftKey ? 15 : 1))
      }}
    >
      <svg viewBox="0 0 16 16" className="h-4 w-4" aria-hidden style={{ transform: `rotate(${turn}deg)` }}>
        <rect x="3.500" y="2" width="9" height="12" rx="1" fill="none" stroke="currentColor" strokeWidth="1.500" />
        <path d="M6 5h4" stroke="currentColor" strokeWidth="1.500" />
      </svg>
      {turn}°
    </button>
  )
}
