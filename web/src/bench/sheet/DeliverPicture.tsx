import { Tick } from '../recipe/fields'
import type { Terms } from './order'
import { PressField } from './PressField'

interface Props {
  terms: Terms
  /** Whether it can be in the inks of a press. */
  inked: boolean
  /** Pieces that are selected. */
  selected: number
  onChange: (terms: Terms) => void
}

/** What a picture shows, and in which colours. */
export function DeliverPicture({ terms, inked, selected, onChange }: Props) {
  return (
    <div className="mt-3 space-y-3">
      {inked && !terms.clear && <PressField none="Any press or screen (sRGB)" kind="CMYK" press={terms.press} onChange={(press) => onChange({ ...terms, press })} />}
      <Tick checked={terms.clear} onChange={(clear) => onChange({ ...terms, clear })}>
        Clear where no piece is, without the ground
      </Tick>
      {terms.clear && (
        <Tick checked={terms.trimmed} onChange={(trimmed) => onChange({ ...terms, trimmed })}>
          Without its clear edges
        </Tick>
      )}
      {selected > 0 && (
        <Tick checked={terms.selectedOnly} onChange={(selectedOnly) => onChange({ ...terms, selectedOnly })}>
          {selected === 1 ? 'Only the piece that is selected' : `Only the ${selected} pieces that are selected`}
        </Tick>
      )}
    </div>
  )
}
