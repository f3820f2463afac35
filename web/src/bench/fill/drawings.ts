import { say } from '../../parts/notices'
import type { DrawingCard } from '../../types/DrawingCard'
import type { FontCard } from '../../types/FontCard'
import type { Join } from '../../types/Join'
import { edit } from '../state/edits'
import { keepForm, newForm } from '../opening/forms'
import { bench, viewOf } from '../state/store'
import { upload } from './uploads'

export const isDrawing = (file: File) => file.type === 'image/svg+xml' || /\.svg$/i.test(file.name)

export const isFont = (file: File) => /\.(ttf|otf|woff2)$/i.test(file.name)

export const uploadFont = (file: File) => upload<FontCard>('fonts', file)

/** Brings an SVG drawing in: into the opening of `piece`, or as a window of its own; as large as three quarters of the sheet allow. */
export async function bringInDrawing(file: File, piece: string | null, join: Join = 'add') {
  const card = await upload<DrawingCard>('drawings', file)
  if (card) await placeDrawing(card, piece, join)
}

/** A drawing as a form, as large as `room` (left, top, right, bottom in mm) allows. */
function drawnForm(card: DrawingCard, room: readonly [number, number, number, number], join: Join = 'add') {
  const all = card.pieces.map((p) => p.bounds)
  const [l, t] = [Math.min(...all.map((b) => b[0])), Math.min(...all.map((b) => b[1]))]
  const [r, b] = [Math.max(...all.map((x) => x[2])), Math.max(...all.map((x) => x[3]))]
  const [left, top, right, bottom] = room
  const scale = Math.min((right - left) / (r - l), (bottom - top) / (b - t))
  const form = newForm(
    { kind: 'drawing', drawing: card.id, specks: 0 },
    (left + right) / 2 - ((l + r) / 2) * scale,
    (top + bottom) / 2 - ((t + b) / 2) * scale,
    join,
  )
  form.pose.wide = form.pose.tall = scale
  return form
}

/** A drawing that was taken in: into the opening of `piece`, or as a window of its own. */
export async function placeDrawing(card: DrawingCard, piece: string | null, join: Join = 'add', gesture: string | null = null): Promise<boolean> {
  const sheet = bench.get().bench?.sheet
  if (!sheet) return false
  const form = drawnForm(card, [sheet.width / 8, sheet.height / 8, (sheet.width * 7) / 8, (sheet.height * 7) / 8], join)
  for (const note of card.notes) say(note)
  const kept = await keepForm(piece, form, true, gesture)
  if (kept) bench.set({ forms: [form.id], open: 'form', typesInto: false })
  return kept
}

/** A drawing that was taken in, as a fill in its own colours: it covers the opening, as a photo does. */
export async function fillWithDrawing(card: DrawingCard, piece: string, gesture: string | null = null): Promise<boolean> {
  const bounds = viewOf(bench.get(), piece)?.bounds
  if (!bounds) return false
  for (const note of card.notes) say(note)
  const [l, t, r, b] = bounds
  const [wide, high] = card.size
  const placement = { x: (l + r) / 2, y: (t + b) / 2, scale: Math.max((r - l) / wide, (b - t) / high), turn: 0, mirrored: false }
  const fill = crypto.randomUUID()
  const kept = await edit({ edit: 'add_fill', piece, fill: { id: fill, follows_opening: true, paint: { kind: 'drawing', drawing: card.id, placement } } }, gesture)
  if (kept) bench.set({ fill, open: 'fill' })
  return kept
}
