import type { BendKind } from '../../types/BendKind'
import type { Form } from '../../types/Form'
import type { LineCorner } from '../../types/LineCorner'
import type { LineEnd } from '../../types/LineEnd'
import type { LineSide } from '../../types/LineSide'
import type { OwnLine } from '../../types/OwnLine'
import { amendForm } from './forms'
import { ChoiceField, LengthField, PlainField, Tick } from '../recipe/fields'
import { AlongPanel } from '../lettering/LetteringPanel'

const WAYS: readonly (readonly [BendKind, string])[] = [
  ['bow_up', 'Bow up'],
  ['bow_down', 'Bow down'],
  ['ripple', 'Ripple'],
  ['banner', 'Banner'],
  ['swell', 'Swell'],
  ['pinch', 'Pinch'],
  ['climb', 'Climb'],
]

/** Bends a whole form along its width. */
export function BendPanel({ piece, form }: { piece: string; form: Form }) {
  const bend = form.bend
  const set = (next: Form['bend'], gesture: string) =>
    void amendForm(piece, form.id, ({ bend: _, ...rest }) => (next ? { ...rest, bend: next } : rest), gesture)
  return (
    <div className="grid w-[620px] grid-cols-[1fr_170px] gap-x-5 gap-y-3">
      <BendFields bend={bend} onChange={set} />
      {form.shape.kind === 'lettering' && (
        <div className="col-span-2">
          <AlongPanel piece={piece} form={form.id} shape={form.shape} />
        </div>
      )}
    </div>
  )
}

/** The way a form is bent, and how far. */
export function BendFields({ bend, onChange }: { bend: Form['bend']; onChange: (bend: Form['bend'], gesture: string) => void }) {
  return (
    <>
      <ChoiceField<BendKind | 'none'>
        label="Way"
        options={[['none', 'Straight'], ...WAYS]}
        value={bend?.kind ?? 'none'}
        onChange={(kind) => onChange(kind === 'none' ? undefined : { kind, amount: bend?.amount ?? 0.4 }, crypto.randomUUID())}
      />
      {bend && <PlainField label="Amount, %" value={bend.amount} factor={100} digits={0} min={-100} max={100} slider onChange={(amount, g) => onChange({ ...bend, amount }, g)} />}
    </>
  )
}

const SIDES: readonly (readonly [LineSide, string])[] = [
  ['inside', 'Inside'],
  ['centre', 'On the edge'],
  ['outside', 'Outside'],
]
const CORNERS: readonly (readonly [LineCorner, string])[] = [
  ['miter', 'Sharp'],
  ['round', 'Round'],
  ['bevel', 'Cut off'],
]
const ENDS: readonly (readonly [LineEnd, string])[] = [
  ['butt', 'Flat'],
  ['round', 'Round'],
  ['square', 'Longer'],
]

/** The line along a form's edge, in place of what the edge holds. */
export function LinePanel({ piece, form }: { piece: string; form: Form }) {
  const line = form.line
  const set = (next: OwnLine | undefined, gesture: string) =>
    void amendForm(piece, form.id, ({ line: _, ...rest }) => (next ? { ...rest, line: next } : rest), gesture)
  const once = (part: Partial<OwnLine>) => line && set({ ...line, ...part }, crypto.randomUUID())
  return (
    <div className="w-[620px]">
      <Tick
        checked={line !== undefined}
        onChange={(on) => set(on ? { width: 6, side: 'centre', corners: 'round', ends: 'round' } : undefined, crypto.randomUUID())}
      >
        The form is the line along its edge
      </Tick>
      {line && (
        <div className="mt-3 grid grid-cols-[130px_1fr_1fr_1fr] gap-4">
          <LengthField label="Width" value={line.width} least={0.05} slider={{ min: 0.1, max: 60 }} onChange={(width, g) => set({ ...line, width }, g)} />
          <ChoiceField label="Where" options={SIDES} value={line.side} onChange={(side) => once({ side })} />
          <ChoiceField label="Corners" options={CORNERS} value={line.corners} onChange={(corners) => once({ corners })} />
          <ChoiceField label="Ends" options={ENDS} value={line.ends} onChange={(ends) => once({ ends })} />
        </div>
      )}
    </div>
  )
}
