import { say } from '../../parts/notices'
import type { PhotoCard } from '../../types/PhotoCard'
import { seenMeanwhile } from './arriving'
import type { DrawingCard } from '../../types/DrawingCard'
import type { Figure } from '../../types/Figure'
import type { FillPaint } from '../../types/FillPaint'
import { bringInDrawing, fillWithDrawing, isDrawing } from './drawings'
import { edit } from '../state/edits'
import { tiledPiece } from './fills'
import { change, isPicture, newForm } from '../opening/forms'
import { settle } from './settle'
import { STILL } from '../geometry/similarity'
import { bench, pieceOf, select } from '../state/store'
import { lookForSubject } from '../subject/proposals'
import { upload } from './uploads'

/** The piece, if it has an opening that things go into. */
export function maskedWindow(piece: string | null): string | null {
  return piece !== null && !isPicture(pieceOf(bench.get(), piece)) ? piece : null
}

/** A basic shape in the middle of the sheet, for something that is dropped on it: one step to be undone together. */
async function shapeInTheMiddle(figure: Figure, gesture: string): Promise<string | null> {
  const sheet = bench.get().bench?.sheet
  if (!sheet) return null
  const piece = crypto.randomUUID()
  const side = Math.min(sheet.width, sheet.height) / 2
  const form = newForm({ kind: 'basic', width: side, height: figure.figure === 'line' ? side / 20 : side, figure }, sheet.width / 2, sheet.height / 2, 'add')
  if (!(await edit({ edit: 'add_window', piece, form, fill: crypto.randomUUID() }, gesture))) return null
  bench.set({ figure, selected: piece, forms: [] })
  return piece
}

/** Brings a file in, into the window `piece`, through a shape, or onto the sheet: a photo, or a drawing in its own colours (on the sheet: as a window). */
export async function bringIn(file: File, piece: string | null, figure: Figure | null = null) {
  // what is being drawn is what a photo that comes now is for
  const drawn = bench.get().mode !== null
  if (!(await settle())) return
  const into = figure === null ? maskedWindow(drawn ? (piece ?? bench.get().selected) : piece) : null
  if (isDrawing(file)) {
    if (into === null && figure === null) {
      await bringInDrawing(file, null)
      return
    }
    const drawing = await upload<DrawingCard>('drawings', file)
    const gesture = crypto.randomUUID()
    const piece = drawing && figure ? await shapeInTheMiddle(figure, gesture) : into
    if (drawing && piece !== null) await fillWithDrawing(drawing, piece, gesture)
    return
  }
  const gesture = crypto.randomUUID()
  const through = figure ? await shapeInTheMiddle(figure, gesture) : into
  await seenMeanwhile(file, through, async () => {
    const card = await upload<PhotoCard>('photos', file)
    if (!card) return
    for (const note of card.notes) say(note)
    await placePhoto(card.id, through, gesture)
  })
}

/** A photo that was taken in: into the window `piece`, or as a picture of its own. */
export async function placePhoto(photo: string, piece: string | null, gesture: string | null = null): Promise<boolean> {
  if (piece !== null) {
    const filled = await edit({ edit: 'fill_with_photo', piece, fill: crypto.randomUUID(), photo }, gesture)
    // a word that is filled is typed
    if (filled && bench.get().open === 'new-word') bench.set({ open: null })
    if (filled) void lookForSubject(photo)
    // a card that was opened meanwhile stays
    if (bench.get().selected !== piece) select(piece)
    return filled
  }
  const picture = crypto.randomUUID()
  const lies = await edit({ edit: 'add_picture', piece: picture, photo }, gesture)
  if (lies) {
    select(picture)
    void lookForSubject(photo)
  }
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
  const paint = pieceOf(bench.get(), piece)?.kind.fills[0]?.paint
  if (paint?.kind !== 'photo') return
  const { x, y, scale } = paint.placement
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

/** Another piece seen through a basic shape in the middle of the sheet: a window again and again, for once it would look like what it lies on. */
export async function pieceThrough(of: string, figure: Figure) {
  const gesture = crypto.randomUUID()
  const sheet = bench.get().bench?.sheet
  const piece = await shapeInTheMiddle(figure, gesture)
  if (piece !== null && sheet) await fillWithPiece(piece, of, gesture, tiledPiece(of, [sheet.width / 2, sheet.height / 2]))
}

/** Another piece as a fill of a window: a picture moves into it, a window is seen in it as well, where it lies or as `paint` says. */
export async function fillWithPiece(piece: string, of: string, gesture: string | null = null, paint: FillPaint = { kind: 'window', piece: of, by: STILL }): Promise<boolean> {
  if (isPicture(pieceOf(bench.get(), of))) {
    const taken = await edit({ edit: 'take_fills', piece, of }, gesture)
    if (taken) bench.set({ selected: piece, forms: [], open: null })
    return taken
  }
  const fill = crypto.randomUUID()
  const added = await edit({ edit: 'add_fill', piece, fill: { id: fill, paint, follows_opening: true } }, gesture)
  if (added) bench.set({ selected: piece, forms: [], fill, open: 'fill' })
  return added
}

/** What lies on another piece of the sheet comes together with it: a fill of a window, the mask of a picture. */
export async function putTogether(piece: string, other: string) {
  if (!isPicture(pieceOf(bench.get(), piece))) await fillWithPiece(piece, other)
  else if (!isPicture(pieceOf(bench.get(), other)) && (await edit({ edit: 'take_in', piece, other, form: crypto.randomUUID(), join: 'add' }))) bench.set({ selected: piece, forms: [], open: null })
}

/** Takes the mask off a window: its photo lies on the sheet whole, where it is. */
export async function freePhoto(piece: string) {
  const forms = pieceOf(bench.get(), piece)?.kind.opening.forms.map((f) => f.id) ?? []
  if (await change(piece, { change: 'remove_forms', forms })) bench.set({ forms: [], open: null })
}
