import type { BasicShape } from '../types/BasicShape'
import type { Figure } from '../types/Figure'
import { attempt, edit, forget } from './edits'
import { formOf, formView, handledForms } from './forms'
import type { Locate } from './formDrag'
import { around } from './geometry'
import { map, undone } from './matrix'
import { follow } from './pointer'
import type { Point } from './similarity'
import { bench } from './store'

/** A handle that changes one number of a basic shape; places are in the shape's own space, in mm about its middle. */
export interface OwnHandle {
  name: string
  title: string
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

/** The handles of a shape beside its corners and sides. */
export function ownHandles({ width: w, height: h, figure: f }: BasicShape): OwnHandle[] {
  const half = Math.min(w, h) / 2
  const one = (name: string, title: string, at: Point, read: (p: Point) => Figure): OwnHandle[] => [{ name, title, at, read }]
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

/** Drags a handle of a shape's own. */
export function startOwn(e: React.PointerEvent, piece: string, handle: OwnHandle, locate: Locate) {
  e.stopPropagation()
  const id = handledForms(bench.get()).at(-1)
  const form = formOf(bench.get(), piece, id)
  const view = formView(bench.get(), piece, id)
  const back = view && undone(view.to_sheet)
  if (!form || !back || form.shape.kind !== 'basic') return
  const shape = form.shape
  const made = (m: PointerEvent) => {
    const figure = handle.read(map(back, locate(m)))
    return { edit: 'opening', piece, change: 'set_form', form: { ...form, shape: { ...shape, figure } } } as const
  }
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
