import { call, sentenceOf } from '../../api/client'
import { say } from '../../parts/notices'
import type { Credit } from '../../types/Credit'
import type { DrawingCard } from '../../types/DrawingCard'
import type { Licence } from '../../types/Licence'
import type { Sheet } from '../../types/Sheet'
import type { StockEntry } from '../../types/StockEntry'
import type { StockTaken } from '../../types/StockTaken'
import { fillWithDrawing, placeDrawing } from './drawings'
import { edit } from '../state/edits'
import { allForms } from '../opening/formTree'
import { maskedWindow, placePhoto } from './photos'
import { drawingOf, photoOf } from './fills'
import { bench } from '../state/store'

/** What a licence asks for, in a few words. */
export const LICENCES: Record<Licence, string> = {
  free: 'free',
  credit: 'credit needed',
  not_for_resale: 'not for resale',
}

/** Takes an entry out of the stock drawer: into the selected window, or onto the sheet. Its licence is recorded with it. */
export async function takeFromStock(entry: StockEntry) {
  const into = maskedWindow(bench.get().selected)
  try {
    const taken = await call<StockTaken>('POST', `/stock/${encodeURIComponent(entry.id)}/take`)
    const gesture = crypto.randomUUID()
    const of = taken.photo ?? taken.drawing
    const drawing = taken.drawing ? await call<DrawingCard>('GET', `/drawings/${taken.drawing}`) : null
    const placed = taken.photo
      ? await placePhoto(taken.photo, into, gesture)
      : drawing && (into === null ? await placeDrawing(drawing, null, 'add', gesture) : await fillWithDrawing(drawing, into, gesture))
    if (placed && of) await edit({ edit: 'set_credit', of, credit: taken.credit }, gesture)
  } catch (error) {
    say(sentenceOf(error))
  }
}

/** A photo or a drawing of the sheet that is seen somewhere on it. */
export interface Used {
  id: string
  name: string
  credit: Credit | undefined
}

/** What of others' and one's own work is on the sheet. */
export function usedOn(sheet: Sheet): Used[] {
  const ids = new Set<string>()
  for (const { kind } of sheet.pieces) {
    const forms = [...kind.opening.forms]
    for (const { paint } of kind.fills) {
      const own = photoOf(paint) ?? drawingOf(paint)
      if (own !== undefined) ids.add(own)
      if (paint.kind === 'form') forms.push(paint.form)
    }
    for (const form of allForms(forms)) if (form.shape.kind === 'drawing') ids.add(form.shape.drawing)
  }
  return [...ids].map((id) => ({ id, name: sheet.photos[id]?.name ?? sheet.drawings?.[id] ?? 'Drawing', credit: sheet.credits?.[id] }))
}

/** The credits as lines of type: who made what. Free work needs none, and is thanked all the same. */
export function creditLines(sheet: Sheet): string[] {
  const lines = usedOn(sheet).flatMap(({ credit, name }) => (credit && credit.maker !== '' ? [`${credit.title || name}: ${credit.maker}`] : []))
  return [...new Set(lines)]
}
