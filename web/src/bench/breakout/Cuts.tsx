import type { CutView } from '../../types/CutView'
import { sheetWayOf } from '../canvas/keyMove'
import type { Point } from '../geometry/similarity'
import type { BreakoutMode } from '../mode/modes'
import { viewOf, useBench } from '../state/store'
import { dragCut, moveCut, shifted, type CutGrip } from './cuts'

interface Props {
  mode: BreakoutMode
  locate: (e: { clientX: number; clientY: number }) => Point
}

/** The cuts between what is out and what stays in, to be moved like lines, and the one that is being drawn. */
export function Cuts({ mode, locate }: Props) {
  const cuts = useBench((s) => viewOf(s, mode.piece)?.cuts)
  const zoom = useBench((s) => s.view.zoom)
  return (
    <>
      {cuts?.map((cut, k) => (
        <Cut key={k} number={k + 1} cut={cut} zoom={zoom} locate={locate} />
      ))}
      {mode.line && (
        <line
          data-testid="new-cut"
          x1={mode.line.from[0]}
          y1={mode.line.from[1]}
          x2={mode.line.to[0]}
          y2={mode.line.to[1]}
          stroke="var(--color-sea)"
          strokeWidth={3}
          vectorEffect="non-scaling-stroke"
        />
      )}
    </>
  )
}

function Cut({ number, cut, zoom, locate }: { number: number; cut: CutView; zoom: number; locate: Props['locate'] }) {
  const [[ax, ay], [bx, by]] = cut.line
  const line = { x1: ax, y1: ay, x2: bx, y2: by, vectorEffect: 'non-scaling-stroke', strokeLinecap: 'round' } as const
  const part = (grip: CutGrip, what: string) => ({
    role: 'button',
    tabIndex: 0,
    'aria-label': `${what} ${number}: arrow keys move it`,
    onPointerDown: (e: React.PointerEvent) => dragCut(cut, grip, e, locate),
    onKeyDown: (e: React.KeyboardEvent) => {
      const way = sheetWayOf(e.key)
      if (!way || e.altKey || e.ctrlKey || e.metaKey) return
      e.preventDefault()
      e.stopPropagation()
      const step = e.shiftKey ? 5 : 1
      moveCut(cut, shifted(cut.line, grip, [way[0] * step, way[1] * step]))
    },
  })
  const end = (grip: CutGrip, x: number, y: number) => (
    <circle
      {...part(grip, 'End of cut')}
      cx={x}
      cy={y}
      r={6 / zoom}
      strokeWidth={1.5 / zoom}
      className="cursor-crosshair fill-leaf stroke-ink outline-none hover:fill-sea focus-visible:fill-sea"
    />
  )
  return (
    <g data-testid="part-cut" className="pointer-events-auto">
      <g {...part('whole', 'Cut')} className="cursor-move outline-none [&:focus-visible>.seen]:stroke-sea [&:hover>.seen]:stroke-sea">
        <line {...line} stroke="transparent" strokeWidth={16} pointerEvents="stroke" />
        <line {...line} className="pointer-events-none stroke-leaf" strokeWidth={6} />
        <line {...line} className="seen pointer-events-none stroke-ink" strokeWidth={2.5} />
      </g>
      {end('first', ax, ay)}
      {end('last', bx, by)}
    </g>
  )
}
