import type { BundleFinish } from '../../types/BundleFinish'
import { edit } from '../state/edits'
import { bench, type BenchState } from '../state/store'

const PLAIN: BundleFinish = {}

export const finishOfBundle = (s: BenchState, bundle: string | null): BundleFinish => s.bench?.sheet.bundles?.find((b) => b.id === bundle)?.finish ?? PLAIN

/** Changes how a bundle looks as a whole, as it is when its turn comes. */
export function amendBundleFinish(bundle: string, amend: (finish: BundleFinish) => BundleFinish, gesture: string) {
  return edit(() => {
    const s = bench.get()
    return s.bench?.sheet.bundles?.some((b) => b.id === bundle) ? { edit: 'set_bundle_finish', bundle, finish: amend(finishOfBundle(s, bundle)) } : null
  }, gesture)
}
