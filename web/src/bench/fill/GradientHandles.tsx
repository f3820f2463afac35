import type { Edit } from '../../types/Edit'
import type { Gradient } from '../../types/Gradient'
import type { Paint } from '../../types/Paint'
import type { Rim } from '../../types/Rim'
import type { GradientVector } from '../../types/GradientVector'
import { attempt, edit, forget } from '../state/edits'
import { chosenFill, finishOf } from './fills'
import type { Locate } from '../canvas/place'
import { toScreen } from '../canvas/viewport'
import { gradientOf } from './inks'
import { movedByKeys } from '../canvas/keyMove'
import { follow } from '../canvas/pointer'
import { useSheetState } from '../state/sheetState'
import { bench, viewOf, pieceOf, useBench, type BenchState } from '../state/store'

/** A gradient whose ends can be taken hold of, and the edit that puts them elsewhere. */
interface Target {
  gradient: Gradient
  vector: GradientVector
  put: (vector: GradientVector) => Edit
}

/** Where a gradient runs if nobody said so: over all of what is painted, as the scene has it. */
function over(gradient: Gradient, [l, t, r, b]: readonly [number, number, number, number]): GradientVector {
  const [x, y] = [(l + r) / 2, (t + b) / 2]
  return gradient.kind === 'linear' ? { from: [x, t], to: [x, b] } : { from: [x, y], to: [x + Math.hypot(r - l, b - t) / 2, y] }
}

/** What a rim covers, as the scene has it. */
function grown([l, t, r, b]: readonly [number, number, number, number], rim: Rim) {
  const by = rim.side === 'centre' ? rim.width / 2 : rim.width
  return [l - by, t - by, r + by, b + by] as const
}

/** The gradients of the open card. */
function targetsOf(s: BenchState): Target[] {
  const sheet = s.bench?.sheet
  if (!sheet || s.mode) return []
  const inks = sheet.inks ?? []
  const target = (paint: Paint, bounds: readonly [number, number, number, number], put: (paint: Paint) => Edit): Target[] => {
    const gradient = gradientOf(paint, inks)
    if (!gradient || paint.kind === 'colour') return []
    return [{ gradient, vector: paint.vector ?? over(gradient, bounds), put: (vector) => put({ ...paint, vector }) }]
  }
  const [piece, pieceView] = [s.selected, viewOf(s, s.selected)]
  if (piece && pieceView && s.open === 'fill') {
    const fill = chosenFill(s)
    const paint = fill?.paint
    if (!paint || (paint.kind !== 'gradient' && paint.kind !== 'ink')) return []
    return target(paint, pieceView.bounds, (next) => ({ edit: 'set_fill', piece, fill: { ...fill, paint: next } }))
  }
  if (piece && pieceView && s.open === 'rims') {
    const kind = pieceOf(s, piece)?.kind
    if (kind?.kind !== 'window') return []
    const finish = finishOf(kind)
    const rims = finish.rims ?? []
    return rims.flatMap((rim, k) =>
      target(rim.paint, grown(pieceView.bounds, rim), (paint) => ({ edit: 'set_finish', piece, finish: { ...finish, rims: rims.map((r, i) => (i === k ? { ...r, paint } : r)) } })),
    )
  }
  if (s.open === 'background' && sheet.backdrop) return target(sheet.backdrop, [0, 0, sheet.width, sheet.height], (paint) => ({ edit: 'set_backdrop', paint }))
  return []
}

/** Whether the open card has handles of its own on the sheet, which others must not cover. */
export const hasOwnHandles = (s: BenchState) => s.open === 'opening' || targetsOf(s).length > 0

/** The ends of the gradients whose card is open, on the sheet. */
export function GradientHandles({ locate }: { locate: Locate }) {
  const targets = targetsOf(useSheetState())
  return targets.map((target, k) => <Handles key={k} target={target} locate={locate} />)
}

type End = 'from' | 'to'

const NAMES: Record<End, string> = { from: 'Where the gradient begins', to: 'Where the gradient ends' }

function Handles({ target, locate }: { target: Target; locate: Locate }) {
  const view = useBench((s) => s.view)
  const { vector, put } = target
  const moved = (end: End, dx: number, dy: number): GradientVector => {
    const next: GradientVector = { ...vector, [end]: [vector[end][0] + dx, vector[end][1] + dy] }
    // the centre of a gradient that runs around takes its reach along
    return end === 'from' && target.gradient.kind === 'radial' ? { ...next, to: [vector.to[0] + dx, vector.to[1] + dy] } : next
  }
  const start = (e: React.PointerEvent, end: End) => {
    e.preventDefault()
    e.stopPropagation()
    const begun = locate(e)
    let made: Edit | null = null
    follow({
      move: (m) => {
        const p = locate(m)
        made = put(moved(end, p[0] - begun[0], p[1] - begun[1]))
        attempt([made])
      },
      up: () => {
        if (!made) return
        bench.set({ trying: false })
        void edit(made).finally(forget)
      },
      drop: forget,
    })
  }
  const [from, to] = [toScreen(view, vector.from), toScreen(view, vector.to)]
  return (
    <svg className="pointer-events-none absolute inset-0 h-full w-full overflow-hidden">
      <line x1={from[0]} y1={from[1]} x2={to[0]} y2={to[1]} stroke="var(--color-leaf)" strokeWidth={4} strokeOpacity={0.8} />
      <line x1={from[0]} y1={from[1]} x2={to[0]} y2={to[1]} stroke="var(--color-sea)" strokeWidth={2} />
      {(['from', 'to'] as const).map((end) => {
        const [x, y] = end === 'from' ? from : to
        return (
          <circle
            key={end}
            data-testid={`gradient-${end}`}
            cx={x}
            cy={y}
            r={end === 'from' ? 7 : 6}
            fill={end === 'from' ? 'var(--color-sea)' : 'var(--color-leaf)'}
            stroke={end === 'from' ? 'var(--color-leaf)' : 'var(--color-sea)'}
            strokeWidth={2.5}
            className="pointer-events-auto cursor-move outline-none focus-visible:stroke-rose focus-visible:[stroke-width:4]"
            onPointerDown={(e) => start(e, end)}
            {...movedByKeys(NAMES[end], (dx, dy, gesture) => void edit(put(moved(end, dx, dy)), gesture))}
          >
            <title>{NAMES[end]}</title>
          </circle>
        )
      })}
    </svg>
  )
}
