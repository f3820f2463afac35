import { say } from '../parts/notices'
import type { DrawingCard } from '../types/DrawingCard'
import type { FontCard } from '../types/FontCard'
import type { Join } from '../types/Join'
import { keepForm, newForm } from './forms'
import { bench } from './store'
import { upload } from './uploads'

export const isDrawing = (file: File) => file.type === 'image/svg+xml' || /\.svg$/i.test(file.name)

export const isFont = (file: File) => /\.(ttf|otf|woff2)$/i.test(file.name)

export const uploadFont = (file: File) => upload<FontCard>('fonts', file)

/** Brings an SVG drawing in: into the opening of `piece`, or as a window of its own; as large as three quarters of the sheet allow. */
export async function bringInDrawing(file: File, piece: string | null, join: Join = 'add') {
  const card = await upload<DrawingCard>('drawings', file)
  const sheet = bench.get().bench?.sheet
  if (!card || !sheet) return
  const all = card.pieces.map((p) => p.bounds)
  const [l, t] = [Math.min(...all.map((b) => b[0])), Math.min(...all.map((b) => b[1]))]
  const [r, b] = [Math.max(...all.map((x) => x[2])), Math.max(...all.map((x) => x[3]))]
  const scale = Math.min((0.75 * sheet.width) / (r - l), (0.75 * sheet.height) / (b - t))
  const form = newForm(
    { kind: 'drawing', drawing: card.id, specks: 0 },
    sheet.width / 2 - ((l + r) / 2) * scale,
    sheet.height / 2 - ((t + b) / 2) * scale,
    join,
  )
  form.pose.wide = form.pose.tall = scale
  for (const note of card.notes) say(note)
  if (await keepForm(piece, form, true)) bench.set({ open: 'form' })
}
