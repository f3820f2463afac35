import type { Edit } from '../../types/Edit'
import { say } from '../../parts/notices'
import { bundlesAround, bundlesAroundPiece, chosenBundle, piecesOf, unitOf, unitsOf } from './bundles'
import { edit } from '../state/edits'
import { topmost } from './divided'
import { chosen, selectAll, takeable } from '../state/selection'
import type { Point } from '../geometry/similarity'
import { bench, select } from '../state/store'

/** Makes one bundle of what is selected. */
export async function bundleChosen() {
  const s = bench.get()
  const now = chosen(s)
  const units = unitsOf(s.bench?.sheet, now, s.inside)
  if (units.bundles.length + units.pieces.length < 2) {
    say('A bundle is made of at least two. Select more of them first, with Shift.')
    return
  }
  if (await edit({ edit: 'bundle', bundle: crypto.randomUUID(), within: s.inside, ...units })) selectAll(now)
}

/** Steps into the selected bundle: what is in it is handled by itself. False where no bundle is selected. */
export function stepIn(): boolean {
  const s = bench.get()
  const bundle = chosenBundle(s)
  if (bundle === null) return false
  const front = piecesOf(s.bench?.sheet, bundle).at(-1) ?? null
  bench.set({ inside: bundle })
  select(front)
  return true
}

/** Steps out of a bundle, which is selected then. False outside of all. */
export function stepOut(): boolean {
  const s = bench.get()
  if (s.inside === null) return false
  const sheet = s.bench?.sheet
  const pieces = piecesOf(sheet, s.inside)
  bench.set({ inside: bundlesAround(sheet, s.inside)[1] ?? null })
  selectAll(pieces)
  return true
}

/** Steps into the bundle that a double press falls on, and takes what is there. False where it falls on a piece by itself. */
export function stepInAt(point: Point): boolean {
  const s = bench.get()
  const hit = topmost(s, takeable(s), point)
  const bundle = hit ? unitOf(s.bench?.sheet, hit.piece, s.inside) : null
  if (!hit || bundle === null) return false
  bench.set({ inside: bundle })
  select(hit.piece)
  return true
}

/** Selects a piece by itself, inside of the bundle that it is in. */
export function pick(piece: string) {
  bench.set((s) => ({ inside: bundlesAroundPiece(s.bench?.sheet, piece)[0] ?? null }))
  select(piece)
}

/** Selects a bundle, seen from the one that it is in. */
export function pickBundle(bundle: string) {
  bench.set((s) => ({ inside: bundlesAround(s.bench?.sheet, bundle)[1] ?? null }))
  selectAll(piecesOf(bench.get().bench?.sheet, bundle))
}

/** Copies of bundles for copies of their pieces: each copy lies in a bundle of its own, beside the one that it was copied from. One for which `once` holds is shown once. */
export function bundleCopies(pieces: readonly string[], copyOf: (piece: string) => string, once: (bundle: string) => boolean): Edit[] {
  const s = bench.get()
  const sheet = s.bench?.sheet
  const copies = new Map<string, string>()
  const edits: Edit[] = []
  const whole = (sheet?.bundles ?? []).filter((b) => piecesOf(sheet, b.id).every((p) => pieces.includes(p)))
  // the innermost first, so that the others can hold them
  const depth = (id: string) => bundlesAround(sheet, id).length
  for (const bundle of whole.sort((a, b) => depth(b.id) - depth(a.id))) {
    const made = crypto.randomUUID()
    copies.set(bundle.id, made)
    const inner = whole.filter((b) => b.within === bundle.id).flatMap((b) => copies.get(b.id) ?? [])
    const own = sheet?.pieces.filter((p) => p.bundle === bundle.id).map((p) => copyOf(p.id)) ?? []
    edits.push({ edit: 'bundle', bundle: made, within: bundle.within ?? null, pieces: own, bundles: inner })
    if (bundle.finish) edits.push({ edit: 'set_bundle_finish', bundle: made, finish: bundle.finish })
    if (bundle.split) edits.push({ edit: 'set_bundle_split', bundle: made, split: bundle.split })
    if (bundle.repeat && !once(bundle.id)) edits.push({ edit: 'set_bundle_repeat', bundle: made, repeat: bundle.repeat })
    if (bundle.name) edits.push({ edit: 'name_bundle', bundle: made, name: bundle.name })
  }
  return edits
}

