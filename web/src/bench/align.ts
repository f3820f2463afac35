import type { Edit } from '../types/Edit'
import { edit } from './edits'
import { formView } from './forms'
import { around, type Bounds } from './geometry'
import { moveBy } from './matrix'
import { bench, viewOf } from './store'

export type Edge = 'left' | 'middle' | 'right' | 'top' | 'centre' | 'bottom'

/** What forms are lined up with: one another, the one held last, the rest of the opening, the sheet. */
export type Relation = 'others' | 'last' | 'opening' | 'sheet'

const joined = (all: Bounds[]): Bounds | null =>
  all.length === 0 ? null : around(all.flatMap(([l, t, r, b]) => [[l, t] as const, [r, b] as const]))

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

const isAcross = (edge: Edge) => edge === 'left' || edge === 'middle' || edge === 'right'

function boundsOfForm(piece: string, form: string): Bounds | null {
  const view = formView(bench.get(), piece, form)
  return view ? around(view.corners) : null
}

/** Moves each held form so that one of its edges or middles lies where the relation says; undone in one step. */
export async function alignForms(piece: string, held: string[], edge: Edge, relation: Relation) {
  const s = bench.get()
  const boxes = held.flatMap((form) => {
    const box = boundsOfForm(piece, form)
    return box ? [{ form, box }] : []
  })
  const others = viewOf(s, piece)?.forms.filter((v) => v.list === null && !held.includes(v.form)) ?? []
  const sheet = s.bench?.sheet
  const reference: Record<Relation, Bounds | null> = {
    others: joined(boxes.map((b) => b.box)),
    last: boxes.at(-1)?.box ?? null,
    opening: joined(others.map((v) => around(v.corners))),
    sheet: sheet ? [0, 0, sheet.width, sheet.height] : null,
  }
  const target = reference[relation]
  if (!target) return
  const at = place(target, edge)
  await moveEach(
    piece,
    boxes.map(({ form, box }) => ({ form, by: at - place(box, edge) })),
    isAcross(edge),
  )
}

/** Moves the forms between the first and the last so that all gaps are alike. */
export async function spreadForms(piece: string, held: string[], way: 'across' | 'down') {
  const [low, high] = way === 'across' ? ([0, 2] as const) : ([1, 3] as const)
  const boxes = held
    .flatMap((form) => {
      const box = boundsOfForm(piece, form)
      return box ? [{ form, box }] : []
    })
    .sort((a, b) => a.box[low] + a.box[high] - b.box[low] - b.box[high])
  const [first, last] = [boxes[0], boxes.at(-1)]
  if (!first || !last || boxes.length < 3) return
  const taken = boxes.reduce((sum, { box }) => sum + box[high] - box[low], 0)
  const gap = (last.box[high] - first.box[low] - taken) / (boxes.length - 1)
  let next = first.box[low]
  const moves = boxes.map(({ form, box }) => {
    const by = next - box[low]
    next += box[high] - box[low] + gap
    return { form, by }
  })
  await moveEach(piece, moves, way === 'across')
}

async function moveEach(piece: string, moves: { form: string; by: number }[], across: boolean) {
  const gesture = crypto.randomUUID()
  for (const { form, by } of moves) {
    if (Math.abs(by) < 1e-9) continue
    const move: Edit = { edit: 'opening', piece, change: 'transform', forms: [form], by: across ? moveBy(by, 0) : moveBy(0, by) }
    if (!(await edit(move, gesture))) return
  }
}
