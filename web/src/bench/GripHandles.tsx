import type { ReactNode } from 'react'
import type { Grip } from '../types/Grip'
import type { PieceView } from '../types/PieceView'
import type { Similarity } from '../types/Similarity'
import { movedFill } from './fills'
import { gripFor, startDrag, startScale, startTurn } from './drag'
import { cornersOf, knobOf, middle, moved, toScreen } from './geometry'
import type { Point } from './similarity'
import { bench, pieceOf, useBench } from './store'

interface Props {
  pieceView: PieceView
  residual: Similarity
  locate: (e: { clientX: number; clientY: number }) => Point
  locked: boolean
}

const GRIPS: { what: Grip; label: string; key: string; sign: ReactNode }[] = [
  // an opening, what lies behind it, and the two together
  { what: 'opening', label: 'Opening', key: 'O', sign: <path d="M3 15V8a5 5 0 0 1 10 0v7Z" fill="none" stroke="currentColor" strokeWidth="1.6" /> },
  { what: 'fill', label: 'Fill', key: 'F', sign: <path d="M1.500 3.500h13v10h-13Zm0 8 4-4 3 3 2-2 4 4" fill="none" stroke="currentColor" strokeWidth="1.6" strokeDasharray="2.400 1.400" /> },
  { what: 'both', label: 'Both', key: 'B', sign: <path d="M1.500 2.500h13v11h-13Zm4 11V9a2.500 2.500 0 0 1 5 0v4.500Z" fill="none" stroke="currentColor" strokeWidth="1.6" /> },
]

/** The grip: what a drag moves, with corners to scale and a knob to turn it. */
export function GripHandles({ pieceView, residual, locate, locked }: Props) {
  const view = useBench((s) => s.view)
  const dragging = useBench((s) => s.drag !== null)
  const grip = useBench((s) => s.grip)
  const isWindow = useBench((s) => pieceOf(s, pieceView.piece)?.kind.kind === 'window')
  const what = gripFor(pieceView.piece)
  const fill = useBench((s) => movedFill(s, pieceView.piece))
  // the rails for open sides stand where knob and bar do
  const rails = useBench((s) => s.open === 'opening')
  const piece = pieceView.piece
  const corners = moved(cornersOf(pieceView, what, fill), residual).map((c) => toScreen(view, c))
  const [a, b, c, d] = corners
  if (!a || !b || !c || !d) return null
  const centre = middle(corners)
  const { top, knob } = knobOf(corners, 24)
  const port = bench.get().port
  const low = Math.min(Math.max(...corners.map((p) => p[1])) + 12, port.height - 44)
  const hasPhoto = pieceView.photos.length > 0
  const colour = what === 'fill' ? 'var(--color-sea)' : 'var(--color-rose)'
  const stop = (e: React.PointerEvent) => e.stopPropagation()

  return (
    <>
      {!locked && (
        <svg className="pointer-events-none absolute inset-0 h-full w-full overflow-hidden">
          <polygon points={corners.map((p) => p.join(',')).join(' ')} fill="none" stroke={colour} strokeWidth={1} strokeDasharray="1 5" strokeLinecap="round" />
          {!rails && <line x1={top[0]} y1={top[1]} x2={knob[0]} y2={knob[1]} stroke={colour} strokeWidth={1} />}
          <circle
            data-testid="turn"
            display={rails ? 'none' : undefined}
            cx={knob[0]}
            cy={knob[1]}
            r={6}
            fill="var(--color-leaf)"
            stroke={colour}
            strokeWidth={2}
            className="pointer-events-auto cursor-grab"
            onPointerDown={(e) => startTurn(e, piece, locate)}
          />
          {corners.map((p, i) => (
            <path
              key={i}
              data-testid={`corner-${i}`}
              // a quarter of a disc that points outward
              d="M-7 -7h8a6 6 0 0 1 6 6v8h-8a6 6 0 0 1 -6 -6Z"
              transform={`translate(${p[0]} ${p[1]})`}
              fill={colour}
              stroke="var(--color-leaf)"
              strokeWidth={1.5}
              className={`pointer-events-auto ${i % 2 === 0 ? 'cursor-nwse-resize' : 'cursor-nesw-resize'}`}
              onPointerDown={(e) => startScale(e, piece, i, locate)}
            />
          ))}
        </svg>
      )}
      {isWindow && hasPhoto && !dragging && !locked && !rails && (
        <div
          role="radiogroup"
          aria-label="A drag moves"
          className="absolute flex -translate-x-1/2 overflow-hidden rounded-full border-[1.5px] border-ink bg-leaf text-[13px] font-medium shadow-sheet"
          style={{ left: Math.min(Math.max(centre[0], 250), port.width - 160), top: Math.max(low, 8) }}
          onPointerDown={stop}
          onDoubleClick={(e) => e.stopPropagation()}
        >
          {GRIPS.map((g) => (
            <button
              key={g.what}
              role="radio"
              aria-checked={grip === g.what}
              title={`A drag moves: ${g.label.toLowerCase()} (key ${g.key}, held or tapped)`}
              className={`flex cursor-grab items-center gap-1.5 px-3 py-1 ${grip === g.what ? 'bg-ink text-leaf' : 'hover:bg-ink/10'}`}
              onClick={() => bench.set({ grip: g.what })}
              onPointerDown={(e) => {
                if (e.button !== 0) return
                bench.set({ grip: g.what })
                startDrag(e, piece, locate, g.what)
              }}
            >
              <svg viewBox="0 0 16 16" className="h-4 w-4" aria-hidden>
                {g.sign}
              </svg>
              {g.label}
              <span className="key" aria-hidden>
                {g.key}
              </span>
            </button>
          ))}
        </div>
      )}
    </>
  )
}
