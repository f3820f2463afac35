import type { Bundle } from '../../types/Bundle'
import type { BundleHandles } from '../../types/BundleHandles'
import type { PageView } from '../../types/PageView'
import { chosenBundle, piecesOf } from '../bundle/bundles'
import { joined, type Bounds } from '../geometry/boxes'
import { memberOf } from './indexed'
import { pieceOf, viewOf, type BenchState } from './store'

/** What is split or repeated: a window by itself or a bundle, by its identifier. */

/** The piece or the bundle that is selected. */
export const unitNow = (s: BenchState): string | null => s.selected ?? chosenBundle(s)

/** A bundle of the sheet. */
export const bundleOf = (s: BenchState, id: string | null): Bundle | undefined => (id === null ? undefined : memberOf(s.bench?.sheet.bundles, id, (b) => b.id))

/** What belongs to the sheet itself, as what is tried would make it. */
export const pageOf = (s: BenchState): PageView | undefined => s.triedPage?.page ?? s.bench?.scene.page

/** Its panes, the lines between them, and its members. */
type DividedView = Pick<BundleHandles, 'panes' | 'split_lines' | 'members' | 'member_line'>

const PLAIN: DividedView = {}

/** Where a window or a bundle is seen that is split or repeated. */
export const unitView = (s: BenchState, unit: string | null): DividedView => viewOf(s, unit) ?? pageOf(s)?.bundles.find((b) => b.bundle === unit)?.divided ?? PLAIN

/** The box of a window or a bundle, wherever its own panes and members lie. */
export function unitBounds(s: BenchState, unit: string): Bounds {
  const divided = pageOf(s)?.bundles.find((b) => b.bundle === unit)?.divided
  const inside = bundleOf(s, unit) ? piecesOf(s.bench?.sheet, unit) : [unit]
  return divided?.bounds ?? joined(inside.flatMap((p) => viewOf(s, p) ?? []).map((v) => v.bounds)) ?? [0, 0, 50, 50]
}

/** Whether nothing of it may be changed. */
export const isUnitLocked = (s: BenchState, unit: string | null): boolean =>
  unit === null || (bundleOf(s, unit) ? piecesOf(s.bench?.sheet, unit).every((p) => pieceOf(s, p)?.locked) : (pieceOf(s, unit)?.locked ?? true))
