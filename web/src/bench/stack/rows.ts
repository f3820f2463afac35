import type { Piece } from '../../types/Piece'
import type { Sheet } from '../../types/Sheet'
import { bundlesAround } from '../bundle/bundles'

/** A line of the stack: a bundle, or a piece; so many bundles are around it. */
export type Row = { bundle: string; piece: null; depth: number; isFolded: boolean } | { bundle: null; piece: Piece; depth: number }

/** The lines of the stack, from front to back; what lies in a folded bundle is left out. */
export function rowsOf(sheet: Sheet, isFolded: (bundle: string) => boolean): Row[] {
  const begun = new Set<string>()
  return [...sheet.pieces].reverse().flatMap((piece) => {
    const around = bundlesAround(sheet, piece.bundle).reverse()
    const rows: Row[] = []
    for (const [depth, bundle] of around.entries()) {
      const folded = isFolded(bundle)
      if (!begun.has(bundle)) rows.push({ bundle, piece: null, depth, isFolded: folded })
      begun.add(bundle)
      if (folded) return rows
    }
    return [...rows, { bundle: null, piece, depth: around.length }]
  })
}
