import type { Gradient } from '../../types/Gradient'
import type { Paint } from '../../types/Paint'
import type { Sheet } from '../../types/Sheet'
import { edit } from '../state/edits'
import { amendFill } from './fills'
import { labelOf } from '../state/labels'
import { bench } from '../state/store'

/** A gradient that something on the sheet is painted with, and what that is. */
export interface Used {
  label: string
  gradient: Gradient
  paint: Paint
  /** The fill that has it; none for the background. */
  of: { piece: string; fill: string } | null
}

/** The gradients on a sheet that are no inks yet, each once. */
export function gradientsOf(sheet: Sheet): Used[] {
  const fills = sheet.pieces.flatMap((p) =>
    p.kind.fills.flatMap(({ id, paint }): Used[] => (paint.kind === 'gradient' ? [{ label: labelOf(p, sheet), gradient: paint.gradient, paint, of: { piece: p.id, fill: id } }] : [])),
  )
  const back = sheet.backdrop
  const all: Used[] = back?.kind === 'gradient' ? [...fills, { label: 'the background', gradient: back.gradient, paint: back, of: null }] : fills
  const told = new Set<string>()
  return all.filter(({ gradient }) => {
    const text = JSON.stringify(gradient)
    return !told.has(text) && told.add(text)
  })
}

/** Makes an ink of a gradient that is used already, which that then follows; null if it is not taken. */
export async function shareGradient({ gradient, paint, of }: Used, gesture: string): Promise<string | null> {
  const ink = crypto.randomUUID()
  const count = bench.get().bench?.sheet.inks?.length ?? 0
  if (!(await edit({ edit: 'set_ink', ink: { id: ink, name: `Ink ${count + 1}`, mix: { mix: 'gradient', gradient } } }, gesture))) return null
  const vector = paint.kind === 'gradient' && paint.vector ? { vector: paint.vector } : {}
  const inked: Paint = { kind: 'ink', ink, ...vector }
  const follows = of ? await amendFill(of.piece, of.fill, (f) => ({ ...f, paint: inked }), gesture) : await edit({ edit: 'set_backdrop', paint: inked }, gesture)
  return follows ? ink : null
}
