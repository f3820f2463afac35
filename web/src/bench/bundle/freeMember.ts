import type { Edit } from '../../types/Edit'
import { copiesOf } from '../canvas/drag'
import { IDENTITY, type Matrix } from '../geometry/matrix'
import { setRepeat, repeatOf, withLook } from '../repeat/repeats'
import { edit } from '../state/edits'
import { selectAll } from '../state/selection'
import { bench, viewOf, type BenchState } from '../state/store'
import { unitView } from '../state/unit'
import { piecesOf } from './bundles'

/** The edit that takes pieces to where a member of a bundle is seen; none where it lies where the bundle lies. Photos that run behind all members stay. */
export const takenTo = (pieces: readonly string[], by: Matrix, behind: boolean): Edit[] =>
  by.every((v, k) => v === IDENTITY[k]) ? [] : [{ edit: 'transform', pieces: [...pieces], what: behind ? 'opening' : 'both', by }]

/** Whether one photo runs behind all members of a bundle. */
export const runsBehind = (s: BenchState, bundle: string) => repeatOf(s, bundle)?.behind ?? false

/** The edit that lets pieces look as one member of a bundle shows them; none where no member has anything of its own. */
export function lookingAs(s: BenchState, bundle: string, pieces: readonly string[], member: number): Edit[] {
  const hasOwn = (piece: string) => (viewOf(s, piece)?.bundle_members?.length ?? 0) > 0
  return piecesOf(s.bench?.sheet, bundle).some(hasOwn) ? [{ edit: 'look_as_member', pieces: [...pieces], member, behind: runsBehind(s, bundle) }] : []
}

/** Copies of the pieces of a repeated bundle as a bundle that is shown once, as a member is seen; and the edits that make them. */
export function memberCopy(s: BenchState, bundle: string, member: number, by: Matrix): { copies: string[]; edits: Edit[] } {
  const { copies, edits } = copiesOf(piecesOf(s.bench?.sheet, bundle), (id) => id === bundle)
  return { copies, edits: [...edits, ...lookingAs(s, bundle, copies, member), ...takenTo(copies, by, runsBehind(s, bundle))] }
}

/** Makes a bundle of its own of one member of a repeated bundle, where it lies. Its place in the layout stays empty. */
export async function freeBundleMember(bundle: string, member: number) {
  const s = bench.get()
  const repeat = repeatOf(s, bundle)
  const at = unitView(s, bundle).members?.[member]?.transform
  if (!repeat || !at) return
  const { copies, edits } = memberCopy(s, bundle, member, at as Matrix)
  if (await edit([...edits, setRepeat(s, bundle, withLook(repeat, member, { hidden: true, by: IDENTITY }))])) selectAll(copies)
}
