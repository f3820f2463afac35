import type { Edit } from '../../types/Edit'
import type { Similarity } from '../../types/Similarity'
import { bundleCopies } from '../bundle/bundling'
import { attempt, edit, forget } from '../state/edits'
import { around, cornersOf, middle } from '../geometry/boxes'
import { heldNow, heldPiece, heldPieces, moveOf, staysBehind, transformOf, type Held } from '../state/held'
import type { Matrix } from '../geometry/matrix'
import type { Locate } from './place'
import { follow, leaving } from './pointer'
import { snapper } from './snap'
import { chosen, selectAll } from '../state/selection'
import { about, isStill, shift, then, type Point } from '../geometry/similarity'
import { bench, viewOf, type Drag } from '../state/store'
import { CARRIES, CarryWheel, CopyWheel, sayWheel } from './wheel'

interface Carrying {
  /** Hears of a press that moved nothing. */
  still?: (() => void) | undefined
  /** The press that the drag began with, and what the wheel does meanwhile. */
  wheel?: { begun: PointerEvent; spin: (e: WheelEvent) => void }
}

/** Moves what is held as the pointer says until it is let go. */
function dragHeld(held: Held, byOf: (e: PointerEvent) => Similarity, { still, wheel }: Carrying = {}) {
  let current: Drag | null = null
  let last = wheel?.begun
  const tries = held.what !== 'both' || held.pane !== undefined || held.member !== undefined || held.pieces.some((p) => staysBehind(bench.get(), p, held.pieces))
  const move = (e: PointerEvent) => {
    last = e
    const by = byOf(e)
    if (!current && isStill(by)) return
    if (!current && wheel) sayWheel(e, CARRIES)
    current = { pieces: held.pieces, what: held.what, fill: held.fill, pane: held.pane?.index ?? null, member: held.member ?? null, by }
    bench.set({ drag: current })
    if (tries) attempt([moveOf(held, by)], by)
  }
  follow({
    move,
    ...(wheel && {
      wheel: (e: WheelEvent) => {
        wheel.spin(e)
        if (last) move(last)
      },
    }),
    up: () => {
      bench.set({ snapLines: [], carryHint: null })
      if (!current) {
        still?.()
        return
      }
      const made = current
      void edit(() => moveOf(held, made.by)).finally(() => {
        if (bench.get().drag === made) {
          bench.set({ drag: null })
          forget()
        }
      })
    },
    drop: () => {
      bench.set({ drag: null, snapLines: [], carryHint: null })
      forget()
    },
  })
}

/** Copies of pieces, from back to front, and the edits that make them, each where its piece lies. A bundle for which `once` holds is shown once. */
export function copiesOf(pieces: readonly string[], once: (bundle: string) => boolean = () => false): { copies: string[]; edits: Edit[] } {
  const order = bench.get().bench?.sheet.pieces.map((p) => p.id).filter((p) => pieces.includes(p)) ?? []
  const made = order.map((piece) => ({ piece, copy: crypto.randomUUID() }))
  const copies: Edit[] = made.map(({ piece, copy }) => ({ edit: 'copy_piece', piece, copy }))
  return { copies: made.map((m) => m.copy), edits: [...copies, ...bundleCopies(order, (piece) => made.find((m) => m.piece === piece)?.copy ?? piece, once)] }
}

/** Copies pieces in their places, and selects the copies; false if that is not taken. */
export async function copyPieces(pieces: readonly string[]): Promise<boolean> {
  const { copies, edits } = copiesOf(pieces)
  const kept = await edit(edits)
  if (kept) selectAll(copies)
  return kept
}

/** How the last copies were taken away from what was copied. */
let taken: Point | null = null

/** Copies what is selected once more, as far away as the last copy was taken. */
export async function copyAgain() {
  const pieces = chosen(bench.get())
  if (taken === null || pieces.length === 0) return
  const { copies, edits } = copiesOf(pieces)
  if (await edit([...edits, ...movesOf(copies, taken)])) selectAll(copies)
}

const movesOf = (copies: readonly string[], [dx, dy]: Point): Edit[] => [{ edit: 'transform', pieces: [...copies], what: 'both', by: [1, 0, 0, 1, dx, dy] }]

/** Takes copies of pieces away with the pointer, or as many as the wheel says, in equal steps: one step to be undone. */
export function startCopyDrag(e: React.PointerEvent, pieces: readonly string[], locate: Locate) {
  const rounds = [copiesOf(pieces)]
  const start = locate(e)
  const left = leaving(e)
  const boxes = pieces.flatMap((p) => viewOf(bench.get(), p) ?? []).flatMap((v) => cornersOf(v, 'opening'))
  const snap = snapper(around(boxes), { pieces: rounds[0]?.copies ?? [], forms: [] })
  const wheel = new CopyWheel()
  let last = e.nativeEvent
  let by: Point | null = null
  // the first copy is the one that the pointer has; the others lie between it and what is copied
  const edits = ([dx, dy]: Point): Edit[] =>
    rounds.slice(0, wheel.count).flatMap((round, k) => {
      const share = (wheel.count - k) / wheel.count
      return [...round.edits, ...movesOf(round.copies, [dx * share, dy * share])]
    })
  const move = (m: PointerEvent) => {
    last = m
    if (!left(m)) return
    const [x, y] = locate(m)
    by = snap(x - start[0], y - start[1], m)
    sayWheel(m, wheel.count === 1 ? 'The wheel makes more copies, in equal steps' : `${wheel.count} copies in equal steps`)
    attempt(edits(by))
  }
  const end = () => bench.set({ snapLines: [], carryHint: null })
  follow({
    move,
    wheel: (w) => {
      wheel.spin(w)
      while (rounds.length < wheel.count) rounds.push(copiesOf(pieces))
      move(last)
    },
    up: () => {
      end()
      if (!by) return
      const step: Point = [by[0] / wheel.count, by[1] / wheel.count]
      const carried = rounds[0]?.copies ?? []
      void edit(edits(by)).then((kept) => {
        if (kept) {
          taken = step
          selectAll(carried)
        }
        forget()
      })
    },
    drop: () => {
      end()
      forget()
    },
  })
}

/** Moves what is held with the pointer; Shift keeps to one direction, the wheel scales and turns it about its middle. `still` hears of a press that moved nothing. */
export function startDrag(e: React.PointerEvent, held: Held | null, locate: Locate, still?: () => void) {
  if (!held) return
  const start = locate(e)
  const left = leaving(e)
  const snap = held.what === 'fill' ? null : snapper(around(heldBox(held)), { pieces: held.pieces, forms: [] })
  const [cx, cy] = middle(held.corners)
  const wheel = new CarryWheel()
  const byOf = (m: PointerEvent) => {
    const [x, y] = left(m) ? locate(m) : start
    let [dx, dy] = [x - start[0], y - start[1]]
    if (m.shiftKey) {
      if (Math.abs(dx) > Math.abs(dy)) dy = 0
      else dx = 0
    }
    if (!wheel.isStill) {
      bench.set({ snapLines: [] })
      return then(about(cx, cy, wheel.grown, wheel.turned), shift(dx, dy))
    }
    if (snap && left(m)) [dx, dy] = snap(dx, dy, m)
    return shift(dx, dy)
  }
  dragHeld(held, byOf, { still, wheel: { begun: e.nativeEvent, spin: (w) => wheel.spin(w) } })
}

/** The box of the pieces that are held, whichever half of them is moved. */
const heldBox = ({ pieces, pane, member, corners }: Held): Point[] => (pane || member !== undefined ? corners : ((heldPieces(pieces) ?? heldPiece(pieces[0] ?? '', 'opening'))?.corners ?? []))

/** Scales by a corner, with the opposite corner (with Alt: the middle) staying in place; with Ctrl it turns along. */
export function startScale(e: React.PointerEvent, held: Held, corner: number, locate: Locate) {
  e.stopPropagation()
  const corners = held.corners
  const [far, centre, grabbed] = [corners[(corner + 2) % 4], middle(corners), corners[corner]]
  if (!far || !grabbed) return
  dragHeld(held, (m) => {
    const fixed = m.altKey ? centre : far
    const p = locate(m)
    // the share of the diagonal that the pointer reaches
    const d: Point = [grabbed[0] - fixed[0], grabbed[1] - fixed[1]]
    const q: Point = [p[0] - fixed[0], p[1] - fixed[1]]
    const n = d[0] * d[0] + d[1] * d[1]
    const turns = m.ctrlKey || m.metaKey
    const along = turns ? Math.hypot(d[0], d[1]) * Math.hypot(q[0], q[1]) : q[0] * d[0] + q[1] * d[1]
    const turn = turns ? ((Math.atan2(q[1], q[0]) - Math.atan2(d[1], d[0])) * 180) / Math.PI : 0
    return about(fixed[0], fixed[1], Math.min(50, Math.max(0.02, n > 0 ? along / n : 1)), turn)
  })
}

/** Slants pieces by a side of their box (0 is the upper one, then clockwise): it is moved along itself, and the opposite one stays. */
export function startSlant(e: React.PointerEvent, held: Held, side: number, locate: Locate) {
  e.stopPropagation()
  if (e.button !== 0) return
  const [l, t, r, b] = around(held.corners)
  const [from, left] = [locate(e), leaving(e)]
  let by: Matrix | null = null
  follow({
    move: (m) => {
      if (!left(m)) return
      const [x, y] = locate(m)
      const [wide, tall] = [Math.max(r - l, 0.1), Math.max(b - t, 0.1)]
      // how much one millimetre away from the side that stays moves along with it
      const k = side % 2 === 0 ? (x - from[0]) / tall : (y - from[1]) / wide
      const slants: Matrix[] = [
        [1, 0, -k, 1, k * b, 0],
        [1, k, 0, 1, 0, -k * l],
        [1, 0, k, 1, -k * t, 0],
        [1, -k, 0, 1, 0, k * r],
      ]
      by = slants[side] ?? null
      if (by) attempt([transformOf(held, by)])
    },
    up: () => (by === null ? forget() : void edit(transformOf(held, by)).finally(forget)),
    drop: forget,
  })
}

/** Scales the fill about the middle of its opening: larger to the right, smaller to the left. */
export function startFillScale(e: React.PointerEvent, piece: string) {
  e.stopPropagation()
  const pieceView = viewOf(bench.get(), piece)
  if (!pieceView || e.button !== 0) return
  const [cx, cy] = middle(cornersOf(pieceView, 'opening'))
  const from = e.clientX
  bench.set({ grip: 'fill', forms: [] })
  const held = heldPiece(piece, 'fill')
  if (held) dragHeld(held, (m) => about(cx, cy, Math.min(50, Math.max(0.02, Math.exp((m.clientX - from) / 150))), 0))
}

/** Turns about the middle; Shift turns in steps of 15 degrees. */
export function startTurn(e: React.PointerEvent, held: Held, locate: Locate) {
  e.stopPropagation()
  const [cx, cy] = middle(held.corners)
  const angle = ([x, y]: Point) => (Math.atan2(y - cy, x - cx) * 180) / Math.PI
  const from = angle(locate(e))
  dragHeld(held, (m) => {
    const turn = angle(locate(m)) - from
    return about(cx, cy, 1, m.shiftKey ? Math.round(turn / 15) * 15 : turn)
  })
}

/** A nudge by key: one gesture as long as keys follow one another. */
let nudging: { gesture: string; of: string; last: number } | null = null

/** Moves, scales or turns what is selected by a key. */
export function nudge(kind: 'move' | 'scale' | 'turn', x: number, y: number) {
  const held = heldNow()
  if (!held) return
  const now = performance.now()
  const of = `${held.what} ${held.pieces.join()} ${held.pane?.index ?? ''} ${held.member ?? ''}`
  if (nudging?.of !== of || now - nudging.last > 900) nudging = { gesture: crypto.randomUUID(), of, last: now }
  nudging.last = now
  const [cx, cy] = middle(held.corners)
  const by = kind === 'move' ? shift(x, y) : kind === 'scale' ? about(cx, cy, x, 0) : about(cx, cy, 1, x)
  void edit(() => moveOf(held, by), nudging.gesture)
}
