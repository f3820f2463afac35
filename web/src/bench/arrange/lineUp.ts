import type { Edit } from '../../types/Edit'
import { edit } from '../state/edits'
import { formView } from '../opening/forms'
import { boxAround } from '../bundle/divided'
import { around, joined, type Bounds } from '../geometry/boxes'
import { marginBox } from '../guides/layout'
import { heldPieces, transformOf } from '../state/held'
import { moveBy } from '../geometry/matrix'
import { chosen } from '../state/selection'
import { bench, viewOf } from '../state/store'

export type Edge = 'left' | 'middle' | 'right' | 'top' | 'centre' | 'bottom'

/** What things are lined up with: one another, the one taken last, the rest of the opening, the sheet, the box between its margins. */
export type Relation = 'others' | 'last' | 'opening' | 'sheet' | 'margins'

/** Which way things are spread. */
export type Way = 'across' | 'down'

/** Something with a box, and the way it is to go along one axis, in mm. */
interface Boxed {
  id: string
  box: Bounds
}

type Moves = { id: string; by: number }[]

/** The place of an edge or middle of a box, along the axis that it concerns. */
function place([l, t, r, b]: Bounds, edge: Edge): number {
  switch (edge) {
    case 'left':
      return l
    case 'middle':
      return (l + r) / 2
    case 'right':
      return r
    case 'top':
      return t
    case 'centre':
      return (t + b) / 2
    case 'bottom':
      return b
  }
}

const wayOf = (edge: Edge): Way => (edge === 'left' || edge === 'middle' || edge === 'right' ? 'across' : 'down')

/** What brings an edge or middle of each box to that of another one. */
const linedUp = (boxes: readonly Boxed[], target: Bounds, edge: Edge): Moves => boxes.map(({ id, box }) => ({ id, by: place(target, edge) - place(box, edge) }))

/**
 * What makes all gaps alike: as large as `gap` (mm), the first box staying where it is, or (null) as they come out between the first and the
 * last one.
 */
function spread(boxes: readonly Boxed[], way: Way, gap: number | null): Moves {
  const [low, high] = way === 'across' ? ([0, 2] as const) : ([1, 3] as const)
  const inOrder = [...boxes].sort((a, b) => a.box[low] + a.box[high] - b.box[low] - b.box[high])
  const [first, last] = [inOrder[0], inOrder.at(-1)]
  if (!first || !last) return []
  const taken = inOrder.reduce((sum, { box }) => sum + box[high] - box[low], 0)
  const even = gap ?? (last.box[high] - first.box[low] - taken) / (inOrder.length - 1)
  let next = first.box[low]
  return inOrder.map(({ id, box }) => {
    const by = next - box[low]
    next += box[high] - box[low] + even
    return { id, by }
  })
}

/** The selected pieces that can be moved, with their boxes. */
function chosenBoxes(): Boxed[] {
  const s = bench.get()
  return chosen(s).flatMap((id) => {
    const held = heldPieces([id])
    const box = boxAround(s, [id])
    return held && box ? [{ id, box }] : []
  })
}

/** Edits for what moves at all, each piece whole. */
const pieceMoves = (moves: Moves, way: Way): Edit[] => moves.filter((m) => Math.abs(m.by) > 1e-9).map(({ id, by }) => transformOf({ pieces: [id], what: 'both' }, way === 'across' ? moveBy(by, 0) : moveBy(0, by)))

function sheetBox(): Bounds | null {
  const sheet = bench.get().bench?.sheet
  return sheet ? [0, 0, sheet.width, sheet.height] : null
}

/** Moves each selected piece so that one of its edges or middles lies where the relation says; with `asOne` they keep their places among themselves. */
export async function linePiecesUp(edges: readonly Edge[], relation: Relation, asOne = false) {
  const boxes = chosenBoxes()
  const all = joined(boxes.map((b) => b.box))
  const last = boxAround(bench.get(), chosen(bench.get()).slice(-1))
  const target = relation === 'sheet' ? sheetBox() : relation === 'margins' ? marginBox(bench.get().bench?.sheet) : relation === 'last' ? last : all
  if (!target || !all) return
  const edits = edges.flatMap((edge) => {
    const together = place(target, edge) - place(all, edge)
    return pieceMoves(asOne ? boxes.map(({ id }) => ({ id, by: together })) : linedUp(boxes, target, edge), wayOf(edge))
  })
  if (edits.length > 0) await edit(edits)
}

/** Moves the selected pieces so that all gaps are alike, or as large as `gap`. */
export async function spreadPieces(way: Way, gap: number | null) {
  const edits = pieceMoves(spread(chosenBoxes(), way, gap), way)
  if (edits.length > 0) await edit(edits)
}

function boundsOfForm(piece: string, form: string): Bounds | null {
  const view = formView(bench.get(), piece, form)
  return view ? around(view.corners) : null
}

const formBoxes = (piece: string, held: readonly string[]): Boxed[] =>
  held.flatMap((id) => {
    const box = boundsOfForm(piece, id)
    return box ? [{ id, box }] : []
  })

/** Moves each held form so that one of its edges or middles lies where the relation says; undone in one step. */
export async function lineFormsUp(piece: string, held: string[], edge: Edge, relation: Relation) {
  const boxes = formBoxes(piece, held)
  const others = viewOf(bench.get(), piece)?.forms.filter((v) => v.list === null && !held.includes(v.form)) ?? []
  const reference: Record<Relation, Bounds | null> = {
    others: joined(boxes.map((b) => b.box)),
    last: boxes.at(-1)?.box ?? null,
    opening: joined(others.map((v) => around(v.corners))),
    sheet: sheetBox(),
    margins: marginBox(bench.get().bench?.sheet),
  }
  const target = reference[relation]
  if (target) await moveForms(piece, linedUp(boxes, target, edge), wayOf(edge))
}

/** Moves the forms between the first and the last so that all gaps are alike. */
export const spreadForms = (piece: string, held: string[], way: Way) => moveForms(piece, held.length < 3 ? [] : spread(formBoxes(piece, held), way, null), way)

async function moveForms(piece: string, moves: Moves, way: Way) {
  const edits = moves.filter((m) => Math.abs(m.by) > 1e-9).map(({ id, by }): Edit => ({ edit: 'opening', piece, change: 'transform', forms: [id], by: way === 'across' ? moveBy(by, 0) : moveBy(0, by) }))
  if (edits.length > 0) await edit(edits)
}
