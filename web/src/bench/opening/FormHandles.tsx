import { useShallow } from 'zustand/react/shallow'
import { formOf, handledForms } from './forms'
import { frameOf, heldViews, pullBy, startFormTurn, startHandle } from './formDrag'
import type { Locate } from '../canvas/place'
import { ownHandles, startOwn } from './figureHandles'
import { knobOf, middle } from '../geometry/boxes'
import { toScreen } from '../canvas/viewport'
import { movedByKeys } from '../canvas/keyMove'
import { map } from '../geometry/matrix'
import type { Point } from '../geometry/similarity'
import { bench, useBench, viewOf } from '../state/store'

const SIDES: readonly Point[] = [[0.5, 0], [1, 0.5], [0.5, 1], [0, 0.5]]
const CORNERS: readonly Point[] = [[0, 0], [1, 0], [1, 1], [0, 1]]

/** The handles of forms: of those that are held, else (`beside` the grip, which has corners and knob) of the only one. */
export function FormHandles({ piece, beside, locate }: { piece: string; beside: boolean; locate: Locate }) {
  const view = useBench((s) => s.view)
  const handling = useBench((s) => s.handling)
  const forms = useBench(useShallow(handledForms))
  const fills = useBench((s) => viewOf(s, piece)?.fill_forms?.some((v) => forms.includes(v.form)) ?? false)
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
  const own = only && form ? ownHandles(form, only) : []
  // those of a form that fills the window look like the grip of the fill
  const [colour, ownColour] = fills ? ['var(--color-sea)', 'var(--color-ink)'] : ['var(--color-rose)', 'var(--color-sea)']
  return (
    <>
      <svg className="pointer-events-none absolute inset-0 h-full w-full overflow-hidden">
        {!beside && (
          <>
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
          </>
        )}
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
                fill={handling === 'slant' ? 'var(--color-leaf)' : colour}
                stroke={handling === 'slant' ? colour : 'var(--color-leaf)'}
                strokeWidth={1.5}
                className={`pointer-events-auto ${i % 2 === 0 === (handling === 'scale') ? 'cursor-ns-resize' : 'cursor-ew-resize'}`}
                onPointerDown={(e) => startHandle(e, handling, piece, x, y, null, locate)}
              />
            )
          })}
        {!(beside && handling !== 'pull') && corners.map((p, i) => {
          const [x, y] = CORNERS[i] ?? [0, 0]
          return (
            <path
              key={i}
              data-testid={`form-corner-${i}`}
              d={handling === 'pull' ? 'M0 -8L8 0L0 8L-8 0Z' : 'M-6 -6h7a5 5 0 0 1 5 5v7h-7a5 5 0 0 1-5-5Z'}
              transform={`translate(${p[0]} ${p[1]})`}
              fill={handling === 'pull' ? 'var(--color-leaf)' : colour}
              stroke={handling === 'pull' ? colour : 'var(--color-leaf)'}
              strokeWidth={handling === 'pull' ? 2 : 1.5}
              className={`pointer-events-auto ${handling === 'pull' ? 'cursor-move' : i % 2 === 0 ? 'cursor-nwse-resize' : 'cursor-nesw-resize'}`}
              onPointerDown={(e) => startHandle(e, handling, piece, x, y, i, locate)}
              {...(handling === 'pull' ? movedByKeys(`Corner ${i + 1} of the form`, (dx, dy, gesture) => pullBy(piece, i, dx, dy, gesture)) : {})}
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
                fill={ownColour}
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
    </>
  )
}
