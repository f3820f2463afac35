import { inMm } from '../../parts/units'
import type { GuideWay } from '../../types/GuideWay'
import { useBench } from '../state/store'
import { startGuide } from './dragGuide'

/** Pixels across a ruler. */
export const RULER = 20

/** Pixels between two numbers, at least. */
const ROOM = 56

/** Rulers along the upper and the left edge of the view, in the sheet's unit; guides are pulled out of them. None while the view is turned: they would say nothing true. */
export function Rulers() {
  const shown = useBench((s) => s.rulers && s.view.turn === 0)
  if (!shown) return null
  return (
    <>
      <Ruler way="level" />
      <Ruler way="upright" />
      <span className="absolute top-0 left-0 z-10 border-r border-b border-edge bg-leaf" style={{ width: RULER, height: RULER }} />
    </>
  )
}

/** The one above gives level guides, the one at the left upright ones. */
function Ruler({ way }: { way: GuideWay }) {
  const view = useBench((s) => s.view)
  const port = useBench((s) => s.port)
  const sheet = useBench((s) => s.bench?.sheet)
  if (!sheet) return null
  const above = way === 'level'
  const unit = inMm(sheet.unit, sheet.ppi)
  const pixels = view.zoom * unit
  const step = stepFor(ROOM / pixels)
  const [start, length] = above ? [view.x, port.width] : [view.y, port.height]
  const tick = (step / 5) * pixels
  const first = Math.floor((RULER - start) / tick)
  const ticks = Array.from({ length: Math.max(0, Math.ceil(length / tick) + 1) }, (_, k) => first + k)
  return (
    <svg
      role="img"
      aria-label={above ? 'Ruler above: drag down to pull a level guide out' : 'Ruler at the left: drag to the right to pull an upright guide out'}
      data-testid={`ruler-${way}`}
      className={`absolute top-0 left-0 touch-none bg-leaf ${above ? 'cursor-ns-resize border-b' : 'cursor-ew-resize border-r'} border-edge`}
      width={above ? port.width : RULER}
      height={above ? RULER : port.height}
      onPointerDown={(e) => startGuide(e, way, null)}
    >
      {ticks.map((k) => {
        const at = start + k * tick
        const whole = k % 5 === 0
        const long = whole ? RULER : 6
        return (
          <g key={k}>
            <line stroke="var(--color-ink)" strokeOpacity={whole ? 0.6 : 0.35} {...(above ? { x1: at, x2: at, y1: RULER - long, y2: RULER } : { x1: RULER - long, x2: RULER, y1: at, y2: at })} />
            {whole && (
              <text fontSize={10} fill="var(--color-ink)" {...(above ? { x: at + 3, y: 10 } : { transform: `translate(10 ${at + 3}) rotate(-90)`, textAnchor: 'end' })}>
                {Number(((k / 5) * step).toFixed(4))}
              </text>
            )}
          </g>
        )
      })}
    </svg>
  )
}

/** The smallest of 1, 2, 5, 10, 20, 50 … that is no less. */
function stepFor(least: number): number {
  const power = 10 ** Math.floor(Math.log10(least))
  return [1, 2, 5, 10].map((k) => k * power).find((v) => v >= least - 1e-9) ?? 10 * power
}
