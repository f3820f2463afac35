import type { Bundle } from '../../types/Bundle'
import type { Sheet } from '../../types/Sheet'
import { memberOf } from '../state/indexed'

/** Bundles: pieces that are handled as one. Pieces and bundles are a tree; what is selected is said by its pieces. */

/** The bundles around something in `innermost`, the innermost first. */
export function bundlesAround(sheet: Sheet | undefined, innermost: string | null | undefined): string[] {
  const around: string[] = []
  let next = innermost
  while (next && !around.includes(next)) {
    const id = next
    const bundle = memberOf(sheet?.bundles, id, (b) => b.id)
    if (!bundle) break
    around.push(id)
    next = bundle.within
  }
  return around
}

/** The bundles around a piece, the innermost first. */
export const bundlesAroundPiece = (sheet: Sheet | undefined, piece: string) => bundlesAround(sheet, memberOf(sheet?.pieces, piece, (p) => p.id)?.bundle)

/** The pieces of a bundle and of those in it, from back to front. */
export const piecesOf = (sheet: Sheet | undefined, bundle: string): string[] => sheet?.pieces.filter((p) => bundlesAround(sheet, p.bundle).includes(bundle)).map((p) => p.id) ?? []

/** The innermost repeated bundle around a piece: what the piece has for single members of a bundle, it has for those of this one. */
export const repeatedAround = (sheet: Sheet | undefined, piece: string): string | null =>
  bundlesAroundPiece(sheet, piece).find((id) => memberOf(sheet?.bundles, id, (b) => b.id)?.repeat) ?? null

/** What a press on a piece takes hold of, seen from within a bundle: the outermost bundle around it there; null for the piece itself. */
export function unitOf(sheet: Sheet | undefined, piece: string, inside: string | null): string | null {
  const around = bundlesAroundPiece(sheet, piece)
  const at = inside === null ? around.length : around.indexOf(inside)
  return around[at - 1] ?? null
}

/** The innermost bundle around the one that was stepped into, that one included, that a piece lies in. */
export function commonInside(sheet: Sheet | undefined, piece: string, inside: string | null): string | null {
  const around = bundlesAroundPiece(sheet, piece)
  return bundlesAround(sheet, inside).find((b) => around.includes(b)) ?? null
}

/** The pieces that a press on one of them takes, from within a bundle. */
export function unitPieces(sheet: Sheet | undefined, piece: string, inside: string | null): string[] {
  const bundle = unitOf(sheet, piece, inside)
  return bundle === null ? [piece] : piecesOf(sheet, bundle)
}

interface Units {
  bundles: string[]
  pieces: string[]
}

/** What was asked last: it is asked again with every frame of a drag, and takes long where many pieces are selected. */
let asked: { sheet: Sheet | undefined; of: readonly string[]; inside: string | null; units: Units } | null = null

/** Pieces as the bundles that they are, and those that are none by themselves. */
export function unitsOf(sheet: Sheet | undefined, pieces: readonly string[], inside: string | null): Units {
  if (asked?.sheet === sheet && asked?.of === pieces && asked.inside === inside) return asked.units
  const bundles = new Set<string>()
  const single: string[] = []
  for (const piece of pieces) {
    const bundle = unitOf(sheet, piece, inside)
    if (bundle !== null && piecesOf(sheet, bundle).every((p) => pieces.includes(p))) bundles.add(bundle)
    else single.push(piece)
  }
  const units = { bundles: [...bundles], pieces: single }
  asked = { sheet, of: pieces, inside, units }
  return units
}

/** What is selected of a sheet, and the bundle that was stepped into. */
interface Selection {
  bench: { sheet: Sheet } | null
  selected: string | null
  several: readonly string[]
  inside: string | null
}

/** The one bundle that is selected, if it is one. */
export function chosenBundle({ bench, selected, several, inside }: Selection): string | null {
  if (selected === null && several.length === 0) return null
  const { bundles, pieces } = unitsOf(bench?.sheet, selected === null ? several : [selected], inside)
  return pieces.length === 0 && bundles.length === 1 ? (bundles[0] ?? null) : null
}

/** What is drawn one over the other: a piece, or a bundle that is drawn as a whole, with what it holds from back to front. */
export type Layer = { piece: string } | { bundle: Bundle; inside: Layer[] }

/** Whether a bundle looks other than its pieces do by themselves. */
export const isWhole = ({ finish, split, repeat }: Bundle) => (split?.lines?.length ?? 0) > 0 || Boolean(repeat) || hasFinish(finish)

const hasFinish = (finish: Bundle['finish']) => finish !== undefined && ((finish.strength ?? 1) < 1 || (finish.blend ?? 'normal') !== 'normal' || (finish.shadows?.some((s) => !s.off) ?? false))

/** Pieces, from back to front, within the bundles that are drawn as a whole. */
export function layersOf(sheet: Sheet | undefined, pieces: readonly string[]): Layer[] {
  if (!sheet?.bundles?.some(isWhole)) return pieces.map((piece) => ({ piece }))
  const layers: Layer[] = []
  for (const piece of pieces) {
    let at = layers
    for (const id of bundlesAroundPiece(sheet, piece).reverse()) {
      const bundle = memberOf(sheet?.bundles, id, (b) => b.id)
      if (!bundle || !isWhole(bundle)) continue
      let last = at.at(-1)
      if (!last || !('bundle' in last) || last.bundle !== bundle) {
        last = { bundle, inside: [] }
        at.push(last)
      }
      at = last.inside
    }
    at.push({ piece })
  }
  return layers
}

/** What a bundle is called: its own name, or one after how many pieces it holds. */
export function bundleLabel(sheet: Sheet | undefined, bundle: string): string {
  const count = piecesOf(sheet, bundle).length
  return sheet?.bundles?.find((b) => b.id === bundle)?.name ?? `Bundle of ${count === 1 ? 'one' : count}`
}
