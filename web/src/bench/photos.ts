import { say } from '../parts/notices'
import type { PhotoCard } from '../types/PhotoCard'
import { bringInDrawing, isDrawing } from './drawings'
import { edit } from './edits'
import { bench, pieceOf, select } from './store'
import { upload } from './uploads'

/** Brings a file in: a photo into the window `piece` or as a picture of its own, a drawing into its opening or as a window. */
export async function bringIn(file: File, piece: string | null) {
  const into = piece !== null && pieceOf(bench.get(), piece)?.kind.kind === 'window' ? piece : null
  if (isDrawing(file)) {
    await bringInDrawing(file, into)
    return
  }
  const card = await upload<PhotoCard>('photos', file)
  if (!card) return
  for (const note of card.notes) say(note)
  await placePhoto(card.id, into)
}

/** A photo that was taken in: into the window `piece`, or as a picture of its own. */
export async function placePhoto(photo: string, piece: string | null, gesture: string | null = null): Promise<boolean> {
  if (piece !== null) {
    const filled = await edit({ edit: 'fill_with_photo', piece, fill: crypto.randomUUID(), photo }, gesture)
    // a card that was opened meanwhile stays
    if (bench.get().selected !== piece) select(piece)
    return filled
  }
  const picture = crypto.randomUUID()
  const lies = await edit({ edit: 'add_picture', piece: picture, photo }, gesture)
  if (lies) select(picture)
  return lies
}

/** Brings a photo in over what a window shows already. */
export async function addPhotoTo(file: File, piece: string) {
  const card = await upload<PhotoCard>('photos', file)
  if (!card) return
  for (const note of card.notes) say(note)
  const fill = crypto.randomUUID()
  if (await edit({ edit: 'add_photo', piece, fill, photo: card.id })) bench.set({ fill, open: 'fill' })
}

/** Brings a photo in that covers the whole sheet, behind everything, and locks it there: in one step to be undone. */
export async function layBehind(file: File) {
  const card = await upload<PhotoCard>('photos', file)
  const sheet = bench.get().bench?.sheet
  if (!card || !sheet) return
  for (const note of card.notes) say(note)
  const [piece, gesture] = [crypto.randomUUID(), crypto.randomUUID()]
  if (!(await edit({ edit: 'add_picture', piece, photo: card.id }, gesture))) return
  const kind = pieceOf(bench.get(), piece)?.kind
  if (kind?.kind !== 'picture') return
  const { x, y, scale } = kind.placement
  const cover = Math.max(sheet.width / card.photo.width, sheet.height / card.photo.height) / scale
  const by = { a: cover, b: 0, dx: sheet.width / 2 - x * cover, dy: sheet.height / 2 - y * cover }
  await edit({ edit: 'move', piece, what: 'both', by }, gesture)
  await edit({ edit: 'order_piece', piece, to: 0 }, gesture)
  await edit({ edit: 'lock_piece', piece, locked: true }, gesture)
}

/** The files of a drop or of the clipboard. */
export function photosOf(data: DataTransfer | null): File[] {
  return [...(data?.files ?? [])]
}
