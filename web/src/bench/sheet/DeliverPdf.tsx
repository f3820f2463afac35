import { useInks } from '../fill/inks'
import { Tick } from '../recipe/fields'
import type { Terms } from './order'
import { PressField } from './PressField'

interface Props {
  terms: Terms
  onChange: (terms: Terms) => void
}

/** For which press a PDF is made, and what it has beside the sheet. */
export function DeliverPdf({ terms, onChange }: Props) {
  const spots = useInks().filter((ink) => ink.spot && ink.mix.mix === 'colour')
  return (
    <div className="mt-3 space-y-3">
      <PressField none="Any press or screen (PDF 1.7)" kind="PDF/X-4" press={terms.press} onChange={(press) => onChange({ ...terms, press })} />
      <Tick checked={terms.marks} onChange={(marks) => onChange({ ...terms, marks })}>
        Crop and register marks, patches of colour
      </Tick>
      <Tick checked={terms.sheetInside} onChange={(sheetInside) => onChange({ ...terms, sheetInside })}>
        The live sheet inside, to go on working with it
      </Tick>
      {spots.length > 0 && <p className="text-[13px] text-ink-soft">Printed as inks of their own: {spots.map((ink) => ink.name).join(', ')}.</p>}
    </div>
  )
}
