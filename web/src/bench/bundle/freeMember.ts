import type { Edit } from '../../types/Edit'
import { copiesOf } from '../canvas/drag'
import type { Matrix } from '../geometry/matrix'
import { setRepeat, repeatOf, withLook } from '../repeat/repeats'
import { edit } from '../state/edits'
import { selectAll } from '../state/selection'
import { bench } from '../state/store'
import { unitView } from '../state/unit'
import { piecesOf } from './bundles'

/** Makes a bundle of its own of one member of a repeated bundle, where it lies. Its place in the layout stays empty. */
export async function freeBundleMember(bundle: string, member: number) {
  const s = bench.get()
  const repeat = repeatOf(s, bundle)
  const at = unitView(s, bundle).members?.[member]?.transform
  if (!repeat || !at) return
  const { copies, edits } = copiesOf(piecesOf(s.bench?.sheet, bundle), (id) => id === bundle)
  const all: Edit[] = [...edits, { edit: 'transform', pieces: [...copies], what: 'both', by: at as Matrix }, setRepeat(s, bundle, withLook(repeat, member, { hidden: true, by: [1, 0, 0, 1, 0, 0] }))]
  if (await edit(all)) selectAll(copies)
}
