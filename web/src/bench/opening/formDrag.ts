import type { Edit } from '../../types/Edit'
import type { Form } from '../../types/Form'
import type { FormView } from '../../types/FormView'
import { attempt, edit, forget } from '../state/edits'
import { amendForm, formOf, formView, handledForms } from './forms'
import { around, boxCorners, middle } from '../geometry/boxes'
import { followed, map, moveBy, turnAbout, undone, within, type Matrix } from '../geometry/matrix'
import type { Locate } from '../canvas/place'
import { follow, leaving } from '../canvas/pointer'
import { snapper } from '../canvas/snap'
import type { Point } from '../geometry/similarity'
import { bench, type Handling } from '../state/store'
import { CARRIES, CarryWheel, sayWheel } from '../canvas/wheel'

/** Tries edits while the pointer is down, and makes the last one when it is let go of. What is carried can also hear of the wheel. */
function tryWhile(made: (e: PointerEvent) => Edit | null, carried?: { begun: PointerEvent; wheel: CarryWheel }) {
  let last: Edit | null = null
  let pointer = carried?.begun
  const move = (e: PointerEvent) => {
    pointer = e
    const next = made(e)
    if (!next) return
    if (carried) sayWheel(e, CARRIES)
    last = next
    attempt([next])
  }
  follow({
    move,
    ...(carried && {
      wheel: (e: WheelEvent) => {
        carried.wheel.spin(e)
        if (pointer) move(pointer)
      },
    }),
    up: () => {
      bench.set({ snapLines: [], carryHint: null })
      if (last) void edit(last).finally(forget)
    },
    drop: () => {
      bench.set({ snapLines: [], carryHint: null })
      forget()
    },
  })
}

const transform = (piece: string, forms: string[], by: Matrix): Edit => ({ edit: 'opening', piece, change: 'transform', forms, by })

/** The box of the forms as an affine frame: (0, 0) is its top left corner, (1, 1) its bottom right one. */
export function frameOf(views: FormView[]): Matrix | null {
  const [view] = views
  if (!view) return null
  if (views.length > 1) {
    const [l, t, r, b] = around(views.flatMap((v) => v.corners))
    return [r - l, 0, 0, b - t, l, t]
  }
  const [l, t, r, b] = view.frame
  const at = (x: number, y: number) => map(view.to_sheet, [x, y])
  const [o, u, v] = [at(l, t), at(r, t), at(l, b)]
  return [u[0] - o[0], u[1] - o[1], v[0] - o[0], v[1] - o[1], o[0], o[1]]
}

export function heldViews(piece: string): FormView[] {
  const s = bench.get()
  return handledForms(s).flatMap((id) => formView(s, piece, id) ?? [])
}

/** The held forms with their frame, and the way into it; null where they have no extent. */
function heldFrame(piece: string) {
  const frame = frameOf(heldViews(piece))
  const back = frame && undone(frame)
  return frame && back ? { forms: handledForms(bench.get()), frame, back } : null
}

/** Moves the held forms; Shift keeps to one direction, the wheel scales and turns them about their middle. */
export function startFormMove(e: React.PointerEvent, piece: string, locate: Locate) {
  const forms = handledForms(bench.get())
  const start = locate(e)
  const left = leaving(e)
  const corners = heldViews(piece).flatMap((v) => v.corners)
  const [cx, cy] = middle(corners)
  const snap = snapper(around(corners), { pieces: [piece], forms })
  const wheel = new CarryWheel()
  const made = (m: PointerEvent) => {
    if (!left(m) && wheel.isStill) return null
    const p = locate(m)
    let [dx, dy] = [p[0] - start[0], p[1] - start[1]]
    if (m.shiftKey) {
      if (Math.abs(dx) > Math.abs(dy)) dy = 0
      else dx = 0
    }
    if (wheel.isStill) {
      ;[dx, dy] = snap(dx, dy, m)
      return transform(piece, forms, moveBy(dx, dy))
    }
    bench.set({ snapLines: [] })
    const g = wheel.grown
    const sized = followed(within([1, 0, 0, 1, cx, cy], [g, 0, 0, g, 0, 0]), turnAbout([cx, cy], wheel.turned))
    return transform(piece, forms, followed(sized, moveBy(dx, dy)))
  }
  tryWhile(made, { begun: e.nativeEvent, wheel })
}

/**
 * Scales by a corner or side: `x` and `y` are 0, 0.5 or 1 across the box, 0.5 where that direction stays as it is.
 * Shift is for even scaling where it is free and the other way round, Alt keeps the middle in place.
 */
export function startFormScale(e: React.PointerEvent, piece: string, x: number, y: number, locate: Locate) {
  e.stopPropagation()
  const held = heldFrame(piece)
  if (!held) return
  const { forms, frame, back } = held
  const corner = x !== 0.5 && y !== 0.5
  // type and pictures look wrong when they are stretched by chance; shapes are made to be stretched
  const form = forms.length === 1 ? formOf(bench.get(), piece, forms[0]) : undefined
  const evenly = form?.shape.kind !== 'basic'
  tryWhile((m) => {
    const [px, py] = map(back, locate(m))
    const [fx, fy] = m.altKey ? [0.5, 0.5] : [1 - x, 1 - y]
    const limit = (v: number) => (Math.abs(v) < 0.01 ? 0.01 * (Math.sign(v) || 1) : v)
    let sx = x === 0.5 ? 1 : limit((px - fx) / (x - fx))
    let sy = y === 0.5 ? 1 : limit((py - fy) / (y - fy))
    if (corner && evenly !== m.shiftKey) sx = sy = Math.max(0.01, (sx + sy) / 2)
    const by: Matrix = [sx, 0, 0, sy, fx - sx * fx, fy - sy * fy]
    return transform(piece, forms, within(frame, by))
  })
}

/** Slants by a side: its two corners move along it, those of the opposite side stay. */
export function startFormSlant(e: React.PointerEvent, piece: string, x: number, y: number, locate: Locate) {
  e.stopPropagation()
  const held = heldFrame(piece)
  if (!held) return
  const { forms, frame, back } = held
  const start = map(back, locate(e))
  tryWhile((m) => {
    const p = map(back, locate(m))
    const [dx, dy] = [p[0] - start[0], p[1] - start[1]]
    // along the top or bottom: x' = x + k (y - fixed); along a side the other way round
    const by: Matrix =
      x === 0.5
        ? [1, 0, dx / (2 * y - 1), 1, (-dx / (2 * y - 1)) * (1 - y), 0]
        : [1, dy / (2 * x - 1), 0, 1, 0, (-dy / (2 * x - 1)) * (1 - x)]
    return transform(piece, forms, within(frame, by))
  })
}

/** Turns about the middle; Shift turns in steps of 15 degrees. */
export function startFormTurn(e: React.PointerEvent, piece: string, locate: Locate) {
  e.stopPropagation()
  const forms = handledForms(bench.get())
  const views = heldViews(piece)
  const centre = middle(views.length > 1 ? cornersAround(views) : (views[0]?.corners ?? []))
  const angle = ([x, y]: Point) => (Math.atan2(y - centre[1], x - centre[0]) * 180) / Math.PI
  const from = angle(locate(e))
  tryWhile((m) => {
    const turn = angle(locate(m)) - from
    return transform(piece, forms, turnAbout(centre, m.shiftKey ? Math.round(turn / 15) * 15 : turn))
  })
}

const cornersAround = (views: FormView[]): Point[] => boxCorners(around(views.flatMap((v) => v.corners)))

/** Pulls one corner of a form's box away; Shift keeps to one direction, Alt pulls the corner beside it the other way. */
export function startPull(e: React.PointerEvent, piece: string, corner: number, locate: Locate) {
  e.stopPropagation()
  const id = handledForms(bench.get())[0]
  const view = formView(bench.get(), piece, id)
  const form = formOf(bench.get(), piece, id)
  const back = view && undone(view.to_sheet)
  if (!view || !form || !back) return
  const [l, t, r, b] = view.frame
  const start = map(back, locate(e))
  const before = form.pose.pull ?? [[0, 0], [0, 0], [0, 0], [0, 0]]
  tryWhile((m) => {
    const p = map(back, locate(m))
    let [dx, dy] = [(p[0] - start[0]) / (r - l || 1), (p[1] - start[1]) / (b - t || 1)]
    if (m.shiftKey) {
      if (Math.abs(dx) > Math.abs(dy)) dy = 0
      else dx = 0
    }
    const pull: typeof before = [...before]
    const at = before[corner] ?? [0, 0]
    pull[corner] = [at[0] + dx, at[1] + dy]
    if (m.altKey) {
      // corners run clockwise from the top left: 0 and 1, 2 and 3 lie beside one another
      const beside = corner ^ 1
      const own = before[beside] ?? [0, 0]
      pull[beside] = [own[0] - dx, own[1] + dy]
    }
    return { edit: 'opening', piece, change: 'set_form', form: { ...form, pose: { ...form.pose, pull } } }
  })
}

/** Moves a pulled corner of a form's box by so much on the sheet. */
export function pullBy(piece: string, corner: number, dx: number, dy: number, gesture: string) {
  const id = handledForms(bench.get())[0]
  const view = formView(bench.get(), piece, id)
  const back = view && undone(view.to_sheet)
  if (!view || !back || id === undefined) return
  const [l, t, r, b] = view.frame
  const [x, y] = [(back[0] * dx + back[2] * dy) / (r - l || 1), (back[1] * dx + back[3] * dy) / (b - t || 1)]
  const how = (form: Form): Form => {
    const pull = (form.pose.pull ?? [[0, 0], [0, 0], [0, 0], [0, 0]]).map(([u, v], k) => (k === corner ? [u + x, v + y] : [u, v]))
    return { ...form, pose: { ...form.pose, pull: pull as NonNullable<Form['pose']['pull']> } }
  }
  void amendForm(piece, id, how, gesture)
}

/** What a drag of a corner or side does, by what the handles are set to. */
export function startHandle(e: React.PointerEvent, handling: Handling, piece: string, x: number, y: number, corner: number | null, locate: Locate) {
  if (handling === 'pull' && corner !== null) startPull(e, piece, corner, locate)
  else if (handling === 'slant' && corner === null) startFormSlant(e, piece, x, y, locate)
  else startFormScale(e, piece, x, y, locate)
}

/** A nudge by key: one gesture as long as keys follow one another. */
let nudging: { gesture: string; last: number; what: string } | null = null

export function nudgeForms(piece: string, kind: 'move' | 'scale' | 'turn', x: number, y: number) {
  const forms = bench.get().forms
  const now = performance.now()
  const what = `${piece} ${forms.join()}`
  if (!nudging || nudging.what !== what || now - nudging.last > 900) nudging = { gesture: crypto.randomUUID(), last: now, what }
  nudging.last = now
  const views = heldViews(piece)
  const centre = middle(views.length > 1 ? cornersAround(views) : (views[0]?.corners ?? []))
  const about: Matrix = [1, 0, 0, 1, centre[0], centre[1]]
  const by = kind === 'move' ? moveBy(x, y) : kind === 'scale' ? within(about, [x, 0, 0, x, 0, 0]) : turnAbout(centre, x)
  void edit(transform(piece, forms, by), nudging.gesture)
}
