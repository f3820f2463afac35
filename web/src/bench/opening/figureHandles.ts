import type { BasicShape } from '../../types/BasicShape'
import type { Figure } from '../../types/Figure'
import type { Form } from '../../types/Form'
import type { FormView } from '../../types/FormView'
import { attempt, edit, forget } from '../state/edits'
import { formView, handledForms } from './forms'
import type { Locate } from '../canvas/place'
import { around } from '../geometry/boxes'
import { map, undone } from '../geometry/matrix'
import { follow } from '../canvas/pointer'
import type { Point } from '../geometry/similarity'
import { bench } from '../state/store'

/** A handle that changes one number of a form; places are in the form's own space, in mm. */
export interface OwnHandle {
  name: string
  title: string
  at: Point
  /** The form with the handle dragged to a place, from where it was taken hold of. */
  made: (p: Point, start: Point) => Form
}

interface FigureHandle {
  name: string
  title: string
  /** About the middle of the shape. */
  at: Point
  read: (p: Point) => Figure
}

const between = (v: number, least: number, most: number) => Math.min(most, Math.max(least, v))

/** The box around a star on the unit circle: left, top, right, bottom. */
function starBox(points: number, inner: number) {
  return around(
    Array.from({ length: 2 * points }, (_, k): Point => {
      const [angle, radius] = [(Math.PI * k) / points, k % 2 === 0 ? 1 : inner]
      return [Math.sin(angle) * radius, -Math.cos(angle) * radius]
    }),
  )
}

/** The handles of a form beside its corners and sides. */
export function ownHandles(form: Form, view: FormView): OwnHandle[] {
  const shape = form.shape
  if (shape.kind !== 'basic') return shape.kind === 'lettering' || form.bend ? [bendHandle(form, view)] : []
  return figureHandles(shape).map(({ read, ...handle }) => ({ ...handle, made: (p) => ({ ...form, shape: { ...shape, figure: read(p) } }) }))
}

/** A bend smaller than this is none. */
const STRAIGHT = 0.03

/** On the upper edge, beside the handles of side and corner: up or down bends the form more or less. */
function bendHandle({ bend, ...form }: Form, { frame: [l, t, r] }: FormView): OwnHandle {
  // a bow of 1 is as high as the width by pi
  const reach = Math.max(r - l, 1e-3) / Math.PI
  return {
    name: 'bend',
    title: 'Bend it: up or down',
    at: [l + 0.75 * (r - l), t],
    made: ([, y], [, from]) => {
      const amount = between((bend?.amount ?? 0) + (from - y) / reach, -1, 1)
      return Math.abs(amount) < STRAIGHT ? form : { ...form, bend: { kind: bend?.kind ?? 'bow_up', amount } }
    },
  }
}

function figureHandles({ width: w, height: h, figure: f }: BasicShape): FigureHandle[] {
  const half = Math.min(w, h) / 2
  const one = (name: string, title: string, at: Point, read: (p: Point) => Figure): FigureHandle[] => [{ name, title, at, read }]
  switch (f.figure) {
    case 'box': {
      // one for each corner, on the diagonal, where the radius ends
      const signs = [[-1, -1], [1, -1], [1, 1], [-1, 1]] as const
      return signs.map(([sx, sy], i) => {
        const r = Math.max(f.corners[i] ?? 0, half * 0.12)
        return {
          name: `radius-${i}`,
          title: 'Radius of this corner',
          at: [sx * (w / 2 - r), sy * (h / 2 - r)],
          read: ([x, y]) => {
            const corners: typeof f.corners = [...f.corners]
            const reach = Math.min(w / 2 - sx * x, h / 2 - sy * y)
            corners[i] = reach < half * 0.13 ? 0 : between(reach, 0, half)
            return { ...f, corners }
          },
        }
      })
    }
    case 'ring':
      return one('hole', 'Size of the hole', [(f.hole * w) / 2, 0], ([x]) => ({ ...f, hole: between((2 * Math.abs(x)) / w, 0.02, 0.98) }))
    case 'sector': {
      const at = (deg: number): Point => [(Math.sin((deg * Math.PI) / 180) * w) / 2, (-Math.cos((deg * Math.PI) / 180) * h) / 2]
      const angle = ([x, y]: Point) => (Math.atan2(x / w, -y / h) * 180) / Math.PI
      const turn = (v: number) => ((v % 360) + 360) % 360
      return [
        { name: 'from', title: 'Where it begins', at: at(f.from), read: (p) => ({ ...f, from: angle(p), sweep: turn(f.from + f.sweep - angle(p)) || 360 }) },
        { name: 'to', title: 'Where it ends', at: at(f.from + f.sweep), read: (p) => ({ ...f, sweep: turn(angle(p) - f.from) || 360 }) },
      ]
    }
    case 'triangle':
      return one('lean', 'Where its top lies', [(f.lean - 0.5) * w, -h / 2], ([x]) => ({ ...f, lean: between(x / w + 0.5, 0, 1) }))
    case 'star': {
      const angle = Math.PI / f.points
      const inner = 1 - f.depth
      const [l, t, r, b] = f.fitted ? starBox(f.points, inner) : [-1, -1, 1, 1]
      const at: Point = [((Math.sin(angle) * inner - l) / (r - l) - 0.5) * w, ((-Math.cos(angle) * inner - t) / (b - t) - 0.5) * h]
      return one('depth', 'How deep the star is cut', at, ([x, y]) => ({
        ...f,
        depth: between(1 - Math.hypot((x / w + 0.5) * (r - l) + l, (y / h + 0.5) * (b - t) + t), 0, 0.98),
      }))
    }
    case 'arch':
      return one('rise', 'Where the arch begins', [w / 2, -h / 2 + f.rise * h], ([, y]) => ({ ...f, rise: between((y + h / 2) / h, 0, 1) }))
    case 'cross':
      return one('arm', 'Width of the arms', [(f.arm * w) / 2, -h / 2], ([x]) => ({ ...f, arm: between((2 * Math.abs(x)) / w, 0.02, 1) }))
    case 'arrow':
      return one('head', 'Length of the head and width of the shaft', [w / 2 - f.head * w, (-f.shaft * h) / 2], ([x, y]) => ({
        ...f,
        head: between((w / 2 - x) / w, 0.02, 1),
        shaft: between((-2 * y) / h, 0.02, 1),
      }))
    case 'zigzag':
      return one('depth', 'Depth of the teeth', [-w / 2, -h / 2 + f.depth * h], ([, y]) => ({ ...f, depth: between((y + h / 2) / h, 0.02, 1) }))
    default:
      return []
  }
}

/** Drags a handle of a form's own. */
export function startOwn(e: React.PointerEvent, piece: string, handle: OwnHandle, locate: Locate) {
  e.stopPropagation()
  const id = handledForms(bench.get()).at(-1)
  const view = formView(bench.get(), piece, id)
  const back = view && undone(view.to_sheet)
  if (!back) return
  const begun = map(back, locate(e))
  const made = (m: PointerEvent) => ({ edit: 'opening', piece, change: 'set_form', form: handle.made(map(back, locate(m)), begun) }) as const
  let last: ReturnType<typeof made> | null = null
  follow({
    move: (m) => {
      last = made(m)
      attempt([last])
    },
    up: () => {
      if (last) void edit(last).finally(forget)
    },
    drop: forget,
  })
}
