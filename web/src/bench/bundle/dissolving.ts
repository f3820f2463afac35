import type { Edit } from '../../types/Edit'
import { say } from '../../parts/notices'
import { IDENTITY, type Matrix } from '../geometry/matrix'
import { repeatOf, setRepeat } from '../repeat/repeats'
import { edit } from '../state/edits'
import { chosen, selectAll } from '../state/selection'
import { bench, type BenchState } from '../state/store'
import { unitView } from '../state/unit'
import { piecesOf, unitsOf } from './bundles'
import { lookingAs, memberCopy, runsBehind, takenTo } from './freeMember'

/**
 * Dissolves the bundles that are selected: their pieces stay where they are, and stay selected; the panes of a bundle become those of its pieces. What is repeated falls into its members first, each a
 * bundle where it is seen.
 */
export async function dissolveChosen() {
  const s = bench.get()
  const now = chosen(s)
  const { bundles } = unitsOf(s.bench?.sheet, now, s.inside)
  const repeated = bundles.filter((b) => repeatOf(s, b))
  if (repeated.length > 0) {
    if (await edit(repeated.flatMap((b) => fallenApart(s, b)))) say('Each member is a bundle by itself now. Dissolve one to have its pieces.')
    return
  }
  if (bundles.length === 0 || !(await edit(bundles.map((bundle): Edit => ({ edit: 'dissolve', bundle }))))) return
  selectAll(now)
}

/** The edits that make a bundle by itself of every member that is seen; the first of them is the bundle itself. */
function fallenApart(s: BenchState, bundle: string): Edit[] {
  const seen = (unitView(s, bundle).members ?? []).flatMap((m, at) => (m.hidden ? [] : [{ at, by: m.transform as Matrix }]))
  const [first = { at: 0, by: IDENTITY }, ...others] = seen
  const own = piecesOf(s.bench?.sheet, bundle)
  return [...others.flatMap(({ at, by }) => memberCopy(s, bundle, at, by).edits), ...lookingAs(s, bundle, own, first.at), setRepeat(s, bundle, null), ...takenTo(own, first.by, runsBehind(s, bundle))]
}
