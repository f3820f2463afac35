import type { Edit } from '../../types/Edit'
import { say } from '../../parts/notices'
import { bundlesAroundPiece, piecesOf, unitOf, unitsOf } from '../bundle/bundles'
import { edit } from './edits'
import { bench, pieceOf, type BenchState } from './store'

/** Pieces taken off the sheet, in one step; those that are locked stay. */
export async function removePieces(pieces: readonly string[]) {
  const free = pieces.filter((p) => pieceOf(bench.get(), p)?.locked === false)
  if (free.length < pieces.length) say(free.length === 0 ? 'What is locked stays. Unlock it in the stack first.' : 'What is locked stays.')
  if (free.length > 0) await edit(free.map((piece): Edit => ({ edit: 'remove_piece', piece })))
}

/** Hides pieces; or shows them, where all of them are hidden. */
export function hidePieces(pieces: readonly string[]) {
  const hidden = !pieces.every((p) => pieceOf(bench.get(), p)?.hidden)
  return edit(pieces.map((piece): Edit => ({ edit: 'hide_piece', piece, hidden })))
}

/** Locks pieces; or unlocks them, where all of them are locked. */
export function lockPieces(pieces: readonly string[]) {
  const locked = !pieces.every((p) => pieceOf(bench.get(), p)?.locked)
  return edit(pieces.map((piece): Edit => ({ edit: 'lock_piece', piece, locked })))
}

/** How far pieces go in the order: by one other piece, or all the way. */
export type Raise = 'front' | 'forward' | 'backward' | 'back'

/** The order from back to front, with some pieces raised or lowered; they keep their order among themselves. */
export function raised(order: readonly string[], pieces: readonly string[], how: Raise): string[] {
  const moved = new Set(pieces)
  const own = order.filter((p) => moved.has(p))
  const others = order.filter((p) => !moved.has(p))
  if (how === 'front') return [...others, ...own]
  if (how === 'back') return [...own, ...others]
  const next = [...order]
  const step = how === 'forward' ? 1 : -1
  const places = next.map((_, k) => k)
  for (const k of how === 'forward' ? places.reverse() : places) {
    const [here, there] = [next[k], next[k + step]]
    if (here !== undefined && there !== undefined && moved.has(here) && !moved.has(there)) {
      next[k] = there
      next[k + step] = here
    }
  }
  return next
}

/** The edits that bring pieces to their places in an order from back to front; the others keep theirs among themselves. */
export function orderEdits(now: readonly string[], wanted: readonly string[], pieces: readonly string[]): Edit[] {
  const order = [...now]
  return wanted.flatMap((piece, k): Edit[] => {
    if (!pieces.includes(piece)) return []
    const at = order.indexOf(piece)
    order.splice(at, 1)
    // right in front of the one that it comes after
    const below = wanted[k - 1]
    const to = below === undefined ? 0 : order.indexOf(below) + 1
    order.splice(to, 0, piece)
    return at === to ? [] : [{ edit: 'order_piece', piece, to }]
  })
}

const orderNow = () => bench.get().bench?.sheet.pieces.map((p) => p.id) ?? []

/** The order with pieces raised or lowered among the pieces and bundles of the bundle that was stepped into. */
export function raisedNow(s: Pick<BenchState, 'bench' | 'inside'>, pieces: readonly string[], how: Raise): string[] {
  const sheet = s.bench?.sheet
  const order = sheet?.pieces.map((p) => p.id) ?? []
  const level = new Set(order.filter((p) => s.inside === null || bundlesAroundPiece(sheet, p).includes(s.inside)))
  const units = [...new Set([...level].map((p) => unitOf(sheet, p, s.inside) ?? p))]
  const own = [...new Set(pieces.map((p) => unitOf(sheet, p, s.inside) ?? p))]
  const wanted = raised(units, own, how).flatMap((unit) => (level.has(unit) ? [unit] : piecesOf(sheet, unit)))
  return order.map((p) => (level.has(p) ? (wanted.shift() ?? p) : p))
}

/** Raises or lowers pieces among the others, in one step. */
export function raisePieces(pieces: readonly string[], how: Raise) {
  return edit(() => {
    const edits = orderEdits(orderNow(), raisedNow(bench.get(), pieces, how), pieces)
    return edits.length > 0 ? edits : null
  })
}

/** Puts pieces, with the bundles that they are, right in front of another one or (null) behind all others; and into a bundle, or out of all. */
export function putInFront(pieces: readonly string[], over: string | null, into: string | null) {
  const s = bench.get()
  const sheet = s.bench?.sheet
  const units = unitsOf(sheet, pieces, s.inside)
  const below = orderNow().filter((p) => !pieces.includes(p))
  // in front of one that is moved itself: of what lies beneath that
  const at = over === null ? -1 : orderNow().indexOf(over)
  const kept = orderNow().slice(0, at + 1).findLast((p) => below.includes(p)) ?? null
  return edit({ edit: 'place', ...units, into, over: kept })
}
