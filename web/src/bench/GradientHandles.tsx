import type { Edit } from '../types/Edit'
import type { Gradient } from '../types/Gradient'
import type { Paint } from '../types/Paint'
import type { Span } from '../types/Span'
import { attempt, edit, forget } from './edits'
import { chosenFill } from './fills'
import type { Locate } from './formDrag'
import { toScreen } from './geometry'
import { gradientOf } from './inks'
import { follow } from './pointer'
import type { Point } from './similarity'
import { bench, layerOf, useBench, type BenchState } from './store'

/** A gradient whose ends can be taken hold of, and the edit that puts them elsewhere. */
interface Target {
  gradient: Gradient
  span: Span
  put: (span: Span) => Edit
}

/** Where a gradient runs if nobody said so: over all of what is painted, as the scene has it. */
function over(gradient: Gradient, [l, t, r, b]: readonly [number, number, number, number]): Span {
  const [x, y] = [(l + r) / 2, (t + b) / 2]
  return gradient.way === 'linear' ? { from: [x, t], to: [x, b] } : { from: [x, y], to: [x + Math.hypot(r - l, b - t) / 2, y] }
}

function targetOf(s: BenchState): Target | null {
  const sheet = s.bench?.sheet
  if (!sheet || s.mode) return null
  const inks = sheet.inks ?? []
  if (s.open === 'fill' && s.selected) {
    const [piece, fill, layer] = [s.selected, chosenFill(s), layerOf(s, s.selected)]
    if (!fill || !layer || fill.paint.kind === 'photo' || fill.paint.kind === 'tile' || fill.paint.kind === 'form' || fill.paint.kind === 'window') return null
    const paint = fill.paint
    const gradient = gradientOf(paint, inks)
    if (!gradient || paint.kind === 'colour') return null
    return {
      gradient,
      span: paint.span ?? over(gradient, layer.bounds),
      put: (span) => ({ edit: 'set_fill', piece, fill: { ...fill, paint: { ...paint, span } } }),
    }
  }
  if (s.open === 'background' && sheet.backdrop && sheet.backdrop.kind !== 'colour') {
    const paint: Paint = sheet.backdrop
    const gradient = gradientOf(paint, inks)
    if (!gradient) return null
    return {
      gradient,
      span: paint.span ?? over(gradient, [0, 0, sheet.width, sheet.height]),
      put: (span) => ({ edit: 'set_backdrop', paint: { ...paint, span } }),
    }
  }
  return null
}

/** The ends of the gradient whose card is open, on the sheet. */
export function GradientHandles({ locate }: { locate: Locate }) {
  const s = useBench()
  const target = targetOf(s)
  if (!target) return null
  const { span, put } = target
  const start = (e: React.PointerEvent, end: 'from' | 'to') => {
    e.preventDefault()
    e.stopPropagation()
    const begun = locate(e)
    let made: Edit | null = null
    const moved = (p: Point): Span => {
      const by: Point = [p[0] - begun[0], p[1] - begun[1]]
      const next: Span = { ...span, [end]: [span[end][0] + by[0], span[end][1] + by[1]] }
      // the centre of a gradient that runs around takes its reach along
      return end === 'from' && target.gradient.way === 'radial' ? { ...next, to: [span.to[0] + by[0], span.to[1] + by[1]] } : next
    }
    follow({
      move: (m) => {
        made = put(moved(locate(m)))
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
  const [from, to] = [toScreen(s.view, span.from), toScreen(s.view, span.to)]
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
            className="pointer-events-auto cursor-move"
            onPointerDown={(e) => start(e, end)}
          >
            <title>{end === 'from' ? 'Where the gradient begins' : 'Where it ends'}</title>
          </circle>
        )
      })}
    </svg>
  )
}
