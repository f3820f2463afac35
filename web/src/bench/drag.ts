import type { Grip } from '../types/Grip'
import type { Edit } from '../types/Edit'
import { attempt, edit, forget } from './edits'
import { hasPlace, movedFill } from './fills'
import { isPicture } from './forms'
import { boundsOf, cornersOf, middle, moved } from './geometry'
import type { Locate } from './place'
import { follow, leaving } from './pointer'
import { snapper } from './snap'
import { about, isStill, shift, STILL, then, type Point } from './similarity'
import { bench, viewOf, pieceOf, type Drag } from './store'
import type { Similarity } from '../types/Similarity'
import { CARRIES, CarryWheel, CopyWheel, sayWheel } from './wheel'

/** What a drag of a piece moves: what nothing masks has no halves. */
export function gripFor(piece: string): Grip {
  const s = bench.get()
  const found = pieceOf(s, piece)
  if (!found || isPicture(found)) return 'both'
  // a colour alone cannot be moved within its opening
  const halves = found.kind.fills.some((f) => hasPlace(f.paint))
  // a photo behind several windows stays where it is for the others
  const stays = s.grip === 'both' && found.kind.fills.some((f) => f.paint.kind === 'photo' && Boolean(f.paint.shared))
  return stays ? 'opening' : halves ? s.grip : 'both'
}

/** The edit that a grip makes: of several fills, one is moved by itself. */
export function moveOf(piece: string, what: Grip, by: Similarity): Edit {
  const fill = what === 'fill' ? movedFill(bench.get(), piece) : null
  return fill === null ? { edit: 'move', piece, what, by } : { edit: 'move_fill', piece, fill, by }
}

interface Carrying {
  /** Hears of a press that moved nothing. */
  still?: (() => void) | undefined
  /** The press that the drag began with, and what the wheel does meanwhile. */
  wheel?: { begun: PointerEvent; spin: (e: WheelEvent) => void }
}

/** Moves a piece as the pointer says until it is let go. */
function dragPiece(piece: string, what: Grip, byOf: (e: PointerEvent) => Similarity, { still, wheel }: Carrying = {}) {
  let current: Drag | null = null
  let last = wheel?.begun
  const tries = what !== 'both'
  const move = (e: PointerEvent) => {
    last = e
    const by = byOf(e)
    if (!current && isStill(by)) return
    if (!current && wheel) sayWheel(e, CARRIES)
    current = { piece, what, fill: what === 'fill' ? movedFill(bench.get(), piece) : null, by }
    bench.set({ drag: current })
    if (tries) attempt([moveOf(piece, what, by)], by)
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
      bench.set({ guides: [], carryHint: null })
      if (!current) {
        still?.()
        return
      }
      const made = current
      void edit(moveOf(piece, what, made.by)).finally(() => {
        if (bench.get().drag === made) {
          bench.set({ drag: null })
          forget()
        }
      })
    },
    drop: () => {
      bench.set({ drag: null, guides: [], carryHint: null })
      forget()
    },
  })
}

/** Makes a copy of a piece in its place, and selects it; null if it is not taken. */
export async function copyPiece(piece: string, gesture: string | null = null): Promise<string | null> {
  const made = crypto.randomUUID()
  if (!(await edit({ edit: 'copy_piece', piece, copy: made }, gesture))) return null
  bench.set({ selected: made, forms: [] })
  return made
}

/** Takes a copy of a piece away with the pointer, or as many as the wheel says, in equal steps: one step to be undone. */
export function startCopyDrag(e: React.PointerEvent, piece: string, locate: Locate) {
  const copies = [crypto.randomUUID()]
  const start = locate(e)
  const left = leaving(e)
  const snap = snapper(boundsOf(viewOf(bench.get(), piece)), { piece: copies[0] ?? piece, forms: [] })
  const wheel = new CopyWheel()
  let last = e.nativeEvent
  let by: Point | null = null
  // the first copy is the one that the pointer has; the others lie between it and what is copied
  const edits = ([dx, dy]: Point): Edit[] =>
    copies.slice(0, wheel.count).flatMap((copy, k) => {
      const share = (wheel.count - k) / wheel.count
      return [
        { edit: 'copy_piece', piece, copy },
        { edit: 'move', piece: copy, what: 'both', by: shift(dx * share, dy * share) },
      ]
    })
  const move = (m: PointerEvent) => {
    last = m
    if (!left(m)) return
    const [x, y] = locate(m)
    by = snap(x - start[0], y - start[1], m)
    sayWheel(m, wheel.count === 1 ? 'The wheel makes more copies, in equal steps' : `${wheel.count} copies in equal steps`)
    attempt(edits(by))
  }
  const end = () => bench.set({ guides: [], carryHint: null })
  follow({
    move,
    wheel: (w) => {
      wheel.spin(w)
      while (copies.length < wheel.count) copies.push(crypto.randomUUID())
      move(last)
    },
    up: () => {
      end()
      if (!by) return
      const carried = copies[0]
      void edit(edits(by)).then((kept) => {
        if (kept && carried !== undefined) bench.set({ selected: carried, forms: [] })
        forget()
      })
    },
    drop: () => {
      end()
      forget()
    },
  })
}

/** Moves a piece with the pointer; Shift keeps to one direction, the wheel scales and turns it about its middle. `still` hears of a press that moved nothing. */
export function startDrag(e: React.PointerEvent, piece: string, locate: Locate, what: Grip = gripFor(piece), still?: () => void) {
  const start = locate(e)
  const left = leaving(e)
  const pieceView = viewOf(bench.get(), piece)
  const snap = what === 'fill' ? null : snapper(boundsOf(pieceView), { piece, forms: [] })
  const [cx, cy] = pieceView ? middle(cornersOf(pieceView, what, movedFill(bench.get(), piece))) : start
  const wheel = new CarryWheel()
  const byOf = (m: PointerEvent) => {
    const [x, y] = left(m) ? locate(m) : start
    let [dx, dy] = [x - start[0], y - start[1]]
    if (m.shiftKey) {
      if (Math.abs(dx) > Math.abs(dy)) dy = 0
      else dx = 0
    }
    if (!wheel.isStill) {
      bench.set({ guides: [] })
      return then(about(cx, cy, wheel.grown, wheel.turned), shift(dx, dy))
    }
    if (snap && left(m)) [dx, dy] = snap(dx, dy, m)
    return shift(dx, dy)
  }
  dragPiece(piece, what, byOf, { still, wheel: { begun: e.nativeEvent, spin: (w) => wheel.spin(w) } })
}

/** Scales by a corner, with the opposite corner (with Alt: the middle) staying in place; with Ctrl it turns along. */
export function startScale(e: React.PointerEvent, piece: string, corner: number, locate: Locate) {
  e.stopPropagation()
  const what = gripFor(piece)
  const pieceView = viewOf(bench.get(), piece)
  if (!pieceView) return
  const corners = cornersOf(pieceView, what, movedFill(bench.get(), piece))
  const [far, centre, grabbed] = [corners[(corner + 2) % 4], middle(corners), corners[corner]]
  if (!far || !grabbed) return
  dragPiece(piece, what, (m) => {
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

/** Scales the fill about the middle of its opening: larger to the right, smaller to the left. */
export function startFillScale(e: React.PointerEvent, piece: string) {
  e.stopPropagation()
  const pieceView = viewOf(bench.get(), piece)
  if (!pieceView || e.button !== 0) return
  const [cx, cy] = middle(cornersOf(pieceView, 'opening'))
  const from = e.clientX
  bench.set({ grip: 'fill', forms: [] })
  dragPiece(piece, 'fill', (m) => about(cx, cy, Math.min(50, Math.max(0.02, Math.exp((m.clientX - from) / 150))), 0))
}

/** Turns about the middle; Shift turns in steps of 15 degrees. */
export function startTurn(e: React.PointerEvent, piece: string, locate: Locate) {
  e.stopPropagation()
  const what = gripFor(piece)
  const pieceView = viewOf(bench.get(), piece)
  if (!pieceView) return
  const [cx, cy] = middle(cornersOf(pieceView, what, movedFill(bench.get(), piece)))
  const angle = ([x, y]: Point) => (Math.atan2(y - cy, x - cx) * 180) / Math.PI
  const from = angle(locate(e))
  dragPiece(piece, what, (m) => {
    const turn = angle(locate(m)) - from
    return about(cx, cy, 1, m.shiftKey ? Math.round(turn / 15) * 15 : turn)
  })
}

/** A nudge by key: one gesture as long as keys follow one another. */
let nudging: { gesture: string; piece: string; what: Grip; last: number } | null = null

export function nudge(piece: string, kind: 'move' | 'scale' | 'turn', x: number, y: number) {
  const what = gripFor(piece)
  const now = performance.now()
  if (!nudging || nudging.piece !== piece || nudging.what !== what || now - nudging.last > 900) {
    nudging = { gesture: crypto.randomUUID(), piece, what, last: now }
  }
  nudging.last = now
  const pieceView = viewOf(bench.get(), piece)
  if (!pieceView) return
  const [cx, cy] = middle(moved(cornersOf(pieceView, what, movedFill(bench.get(), piece)), STILL))
  const by = kind === 'move' ? shift(x, y) : kind === 'scale' ? about(cx, cy, x, 0) : about(cx, cy, 1, x)
  void edit(moveOf(piece, what, by), nudging.gesture)
}
