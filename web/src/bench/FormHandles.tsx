import { formOf } from './forms'
import { startFormTurn, startHandle, frameOf, heldViews, type Locate } from './formDrag'
import { ownHandles, startOwn } from './figureHandles'
import { knobOf, middle, toScreen } from './geometry'
import { map } from './matrix'
import type { Point } from './similarity'
import { bench, useBench, type Handling } from './store'

const HANDLINGS: { what: Handling; label: string; key: string; title: string }[] = [
  { what: 'scale', label: 'Scale', key: 'S', title: 'Corners and sides scale; Shift the other way (even or free), Alt from the middle' },
  { what: 'slant', label: 'Slant', key: 'L', title: 'Sides slant the form' },
  { what: 'pull', label: 'Pull', key: 'P', title: 'Each corner is pulled on its own; Shift in one direction, Alt with its neighbour' },
]

const SIDES: readonly Point[] = [[0.5, 0], [1, 0.5], [0.5, 1], [0, 0.5]]
const CORNERS: readonly Point[] = [[0, 0], [1, 0], [1, 1], [0, 1]]

/** The handles of the held forms. */
export function FormHandles({ piece, locate }: { piece: string; locate: Locate }) {
  const view = useBench((s) => s.view)
  const handling = useBench((s) => s.handling)
  const forms = useBench((s) => s.forms)
  useBench((s) => s.tried)
  useBench((s) => s.bench)
  const views = heldViews(piece)
  const frame = frameOf(views)
  const [only] = views.length === 1 ? views : []
  const form = formOf(bench.get(), piece, forms.at(-1))
  if (!frame || views.length === 0) return null
  const box = CORNERS.map((c) => map(frame, c))
  // a pulled box shows its pulled corners; scaling acts on the box as it was
  const corners = (only ? only.corners : box).map((c) => toScreen(view, c))
  const [a, b] = corners
  if (!a || !b) return null
  const centre = middle(corners)
  const { top, knob } = knobOf(corners, 26)
  const side = (i: number): Point => {
    const [p, q] = [corners[i] ?? centre, corners[(i + 1) % 4] ?? centre]
    return [(p[0] + q[0]) / 2, (p[1] + q[1]) / 2]
  }
  const port = bench.get().port
  const low = Math.min(Math.max(...corners.map((p) => p[1])) + 14, port.height - 44)
  const own = only && form?.shape.kind === 'basic' ? ownHandles(form.shape) : []
  return (
    <>
      <svg className="pointer-events-none absolute inset-0 h-full w-full overflow-hidden">
        <polygon points={corners.map((p) => p.join(',')).join(' ')} fill="none" stroke="var(--color-rose)" strokeWidth={1} />
        <line x1={top[0]} y1={top[1]} x2={knob[0]} y2={knob[1]} stroke="var(--color-rose)" strokeWidth={1} />
        <circle
          data-testid="form-turn"
          cx={knob[0]}
          cy={knob[1]}
          r={6}
          fill="var(--color-leaf)"
          stroke="var(--color-rose)"
          strokeWidth={2}
          className="pointer-events-auto cursor-grab"
          onPointerDown={(e) => startFormTurn(e, piece, locate)}
        />
        {handling !== 'pull' &&
          SIDES.map(([x, y], i) => {
            const [px, py] = side(i)
            return (
              <circle
                key={`side${i}`}
                data-testid={`form-side-${i}`}
                cx={px}
                cy={py}
                r={5}
                fill={handling === 'slant' ? 'var(--color-leaf)' : 'var(--color-rose)'}
                stroke={handling === 'slant' ? 'var(--color-rose)' : 'var(--color-leaf)'}
                strokeWidth={1.5}
                className={`pointer-events-auto ${i % 2 === 0 === (handling === 'scale') ? 'cursor-ns-resize' : 'cursor-ew-resize'}`}
                onPointerDown={(e) => startHandle(e, handling, piece, x, y, null, locate)}
              />
            )
          })}
        {corners.map((p, i) => {
          const [x, y] = CORNERS[i] ?? [0, 0]
          return (
            <path
              key={i}
              data-testid={`form-corner-${i}`}
              d={handling === 'pull' ? 'M0 -8L8 0L0 8L-8 0Z' : 'M-6 -6h7a5 5 0 0 1 5 5v7h-7a5 5 0 0 1-5-5Z'}
              transform={`translate(${p[0]} ${p[1]})`}
              fill={handling === 'pull' ? 'var(--color-leaf)' : 'var(--color-rose)'}
              stroke={handling === 'pull' ? 'var(--color-rose)' : 'var(--color-leaf)'}
              strokeWidth={handling === 'pull' ? 2 : 1.5}
              className={`pointer-events-auto ${handling === 'pull' ? 'cursor-move' : i % 2 === 0 ? 'cursor-nwse-resize' : 'cursor-nesw-resize'}`}
              onPointerDown={(e) => startHandle(e, handling, piece, x, y, i, locate)}
            />
          )
        })}
        {only &&
          own.map((h) => {
            const p = toScreen(view, map(only.to_sheet, h.at))
            return (
              <circle
                key={h.name}
                data-testid={`own-${h.name}`}
                cx={p[0]}
                cy={p[1]}
                r={5.5}
                fill="var(--color-sea)"
                stroke="var(--color-leaf)"
                strokeWidth={1.5}
                className="pointer-events-auto cursor-pointer"
                onPointerDown={(e) => startOwn(e, piece, h, locate)}
              >
                <title>{h.title}</title>
              </circle>
            )
          })}
      </svg>
      <div
        role="radiogroup"
        aria-label="Handles"
        className="absolute flex -translate-x-1/2 overflow-hidden rounded-full border-[1.5px] border-rose bg-leaf text-[13px] font-medium shadow-sheet"
        style={{ left: Math.min(Math.max(centre[0], 230), port.width - 140), top: Math.max(low, 8) }}
        onPointerDown={(e) => e.stopPropagation()}
        onDoubleClick={(e) => e.stopPropagation()}
      >
        {HANDLINGS.filter((h) => h.what !== 'pull' || only).map((h) => (
          <button
            key={h.what}
            role="radio"
            aria-checked={handling === h.what}
            title={`${h.title} (key ${h.key})`}
            className={`flex items-center gap-1.5 px-3 py-1 ${handling === h.what ? 'bg-rose text-leaf' : 'hover:bg-rose/10'}`}
            onClick={() => bench.set({ handling: h.what })}
          >
            {h.label}
            <span className="key" aria-hidden>
              {h.key}
            </span>
          </button>
        ))}
      </div>
    </>
  )
}
