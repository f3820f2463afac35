import type { Piece } from '../../types/Piece'
import type { Sheet } from '../../types/Sheet'
import { photoOf } from '../fill/fills'
import { formLabel } from '../opening/forms'

/** What a piece is called: its own name, or one after what it shows. */
export function labelOf(piece: Piece, sheet: Sheet): string {
  if (piece.name) return piece.name
  const forms = piece.kind.opening.forms
  const first = forms.find((f) => f.shape.kind === 'lettering') ?? forms[0]
  if (first) return formLabel(first)
  const photo = piece.kind.fills.flatMap((f) => photoOf(f.paint) ?? []).at(-1)
  return (photo !== undefined ? sheet.photos[photo]?.name : undefined) ?? 'Picture'
}
