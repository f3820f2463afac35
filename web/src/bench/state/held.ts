import type { Edit } from '../../types/Edit'
import type { Fill } from '../../types/Fill'
import type { Grip } from '../../types/Grip'
import type { PaneView } from '../../types/PaneView'
import type { Similarity } from '../../types/Similarity'
import { hasPlace, movedFill, placedFills } from '../fill/fills'
import { isPicture } from '../opening/forms'
import { boxAround } from '../bundle/divided'
import { boxCorners, cornersOf } from '../geometry/boxes'
import { memberOf } from './indexed'
import type { Matrix } from '../geometry/matrix'
import { chosenPane, movedPane, setSplit, splitOf } from '../panes/split'
import { chosenMember, movedMember, repeatOf, setRepeat } from '../repeat/repeats'
import { chosen } from './selection'
import type { Point } from '../geometry/similarity'
import { bench, pieceOf, viewOf, type BenchState, type Drag } from './store'
import { unitNow } from './unit'

/** What a hand, a key or a number moves: pieces, whole or one half of each; or one pane or member of a window or a bundle, which is named in place of pieces. */
export interface Held {
  pieces: readonly string[]
  what: Grip
  /** The one of several fills of a single piece that is moved. */
  fill: string | null
  /** The pane of a single piece that is moved by itself, as it was before. */
  pane?: { view: PaneView; index: number }
  /** The member of a repeated window that is moved by itself. */
  member?: number
  /** The box around what is moved: clockwise from the top left. */
  corners: Point[]
}

const isShared = (f: Fill) => f.paint.kind === 'photo' && Boolean(f.paint.shared)

/** What a drag of a piece moves: what nothing masks has no halves. */
export function gripFor(piece: string): Grip {
  const s = bench.get()
  const found = pieceOf(s, piece)
  if (!found || isPicture(found)) return 'both'
  // a colour alone cannot be moved within its opening
  const halves = found.kind.fills.some((f) => hasPlace(f.paint))
  // a photo behind several windows stays where it is for the others
  const stays = s.grip === 'both' && found.kind.fills.some(isShared)
  return stays ? 'opening' : halves ? s.grip : 'both'
}

/** Whether a piece has an opening and something behind it that can be moved by itself. */
export function hasHalves(s: BenchState, piece: string): boolean {
  const kind = pieceOf(s, piece)?.kind
  return kind?.kind === 'window' && kind.opening.forms.some((f) => !f.off) && kind.fills.some((f) => hasPlace(f.paint))
}

/** Whether a photo of a piece stays while pieces are moved: it lies behind a window that is not among them. */
export function staysBehind(s: BenchState, piece: string, pieces: readonly string[]): boolean {
  const own = pieceOf(s, piece)?.kind.fills.filter(isShared) ?? []
  if (own.length === 0) return false
  const others = s.bench?.sheet.pieces.filter((p) => !pieces.includes(p.id)).flatMap((p) => p.kind.fills) ?? []
  return own.some(({ paint }) => paint.kind === 'photo' && others.some((o) => o.paint.kind === 'photo' && o.paint.shared === paint.shared && o.paint.photo === paint.photo))
}

/** One piece, or one half of it. */
export function heldPiece(piece: string, what: Grip = gripFor(piece)): Held | null {
  const s = bench.get()
  const pieceView = viewOf(s, piece)
  if (!pieceView) return null
  const fill = movedFill(s, piece)
  return { pieces: [piece], what, fill: what === 'fill' ? fill : null, corners: cornersOf(pieceView, what, fill) }
}

/** Pieces as one; what is locked stays. */
export function heldPieces(pieces: readonly string[]): Held | null {
  const s = bench.get()
  const free = pieces.filter((p) => pieceOf(s, p)?.locked === false)
  const box = boxAround(s, free)
  if (!box) return null
  const halves = free.some((p) => hasHalves(s, p))
  return { pieces: free, what: halves ? s.grip : 'both', fill: null, corners: boxCorners(box) }
}

/** What is selected, as it is moved. */
export function heldNow(): Held | null {
  const s = bench.get()
  const pane = chosenPane(s)
  const unit = unitNow(s)
  if (pane && unit !== null) return { pieces: [unit], what: 'both', fill: null, pane, corners: boxCorners(pane.view.bounds) }
  const member = chosenMember(s)
  if (member && unit !== null) return { pieces: [unit], what: 'both', fill: null, member: member.index, corners: boxCorners(member.view.bounds) }
  const now = chosen(s)
  const [only, ...others] = now
  return only !== undefined && others.length === 0 ? heldPiece(only) : heldPieces(now)
}

/** The edit that moves it: of several fills, one is moved by itself. */
export function moveOf({ pieces, what, fill, pane, member }: Held, by: Similarity): Edit {
  const [only, ...others] = pieces
  const repeat = member === undefined || only === undefined ? null : repeatOf(bench.get(), only)
  if (only !== undefined && member !== undefined && repeat) return setRepeat(bench.get(), only, movedMember(repeat, member, [by.a, by.b, -by.b, by.a, by.dx, by.dy]))
  if (only !== undefined && pane) return setSplit(bench.get(), only, movedPane(splitOf(bench.get(), only), pane.view, [by.a, by.b, -by.b, by.a, by.dx, by.dy]))
  if (only === undefined || others.length > 0) return transformOf({ pieces, what }, [by.a, by.b, -by.b, by.a, by.dx, by.dy])
  return fill === null ? { edit: 'move', piece: only, what, by } : { edit: 'move_fill', piece: only, fill, by }
}

/** The edit that reshapes it by any transform of the sheet. */
export const transformOf = ({ pieces, what }: Pick<Held, 'pieces' | 'what'>, by: Matrix): Edit => ({ edit: 'transform', pieces: [...pieces], what, by })

/** What the drag moves of a piece: of its own piece what is held, and of the others behind which the same photo lies that photo. */
export function dragOf(s: BenchState, piece: string): Drag | null {
  const { drag } = s
  if (!drag) return null
  if (memberOf(drag.pieces, piece, (p) => p) !== undefined) return drag.what === 'both' && staysBehind(s, piece, drag.pieces) ? { ...drag, what: 'opening' } : drag
  if (drag.what !== 'fill') return null
  const held = drag.pieces.flatMap((p) => placedFills(s, p)).filter((f) => drag.fill === null || f.id === drag.fill).map((f) => f.paint)
  const same = placedFills(s, piece).find(({ paint }) => paint.kind === 'photo' && paint.shared && held.some((h) => h.kind === 'photo' && h.shared === paint.shared && h.photo === paint.photo))
  return same ? { ...drag, fill: same.id } : null
}
