import type { ReactNode } from 'react'
import type { Fill } from '../../types/Fill'
import type { Form } from '../../types/Form'
import type { Paint } from '../../types/Paint'
import { amendFill } from './fills'
import { BendPanel, LinePanel } from '../opening/BendPanel'
import { LetteringControls, LettersPanel } from '../lettering/LetteringPanel'
import { PaintField } from './PaintField'
import { PlacePanel } from '../opening/PlacePanel'

/** The controls of a form that fills a window: as those of a form of its opening, and what it is painted with. */
export function formTabs(piece: string, fill: Fill, form: Form, paint: Paint): [string, ReactNode][] {
  const painted = (next: Paint, gesture: string) =>
    void amendFill(piece, fill.id, (f) => (f.paint.kind === 'form' ? { ...f, paint: { ...f.paint, paint: next } } : f), gesture)
  return [
    ...(form.shape.kind === 'lettering'
      ? ([
          ['Lettering', <LetteringControls key={form.id} piece={piece} form={form.id} shape={form.shape} />],
          ['Letters', <LettersPanel piece={piece} form={form.id} shape={form.shape} />],
        ] satisfies [string, ReactNode][])
      : []),
    ['Place', <PlacePanel piece={piece} form={form} />],
    ['Bend', <BendPanel piece={piece} form={form} />],
    ['Line', <LinePanel piece={piece} form={form} />],
    ['Painted with', <PaintField label="Painted with" paint={paint} onChange={painted} />],
  ]
}
