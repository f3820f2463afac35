import type { Gradient } from '../../types/Gradient'
import type { Paint } from '../../types/Paint'
import { edit } from '../edits'
import { colourOf, gradientOf, useInks } from '../inks'
import { ColourField, InkChips } from './ColourField'
import { ChoiceField } from './fields'
import { GradientField } from './GradientField'

interface Props {
  label: string
  paint: Paint
  onChange: (paint: Paint, gesture: string) => void
}

const KINDS: readonly (readonly [Paint['kind'], string])[] = [
  ['colour', 'Colour'],
  ['gradient', 'Gradient'],
  ['ink', 'Ink of the sheet'],
]

/** What an area or a line is painted with: a colour, a gradient, or an ink that it then follows. */
export function PaintField({ label, paint, onChange }: Props) {
  const inks = useInks()
  const gradient = gradientOf(paint, inks)
  const colour = paint.kind === 'colour' ? paint.colour : gradient?.stops[0] ? colourOf(gradient.stops[0].tint, inks) : paint.kind === 'ink' ? colourOf({ ink: paint.ink }, inks) : '#141b34'
  const become = (kind: Paint['kind']) => {
    const gesture = crypto.randomUUID()
    if (kind === 'colour') onChange({ kind, colour }, gesture)
    else if (kind === 'gradient') onChange({ kind, gradient: gradient ?? fresh(colour), ...vectorOf(paint) }, gesture)
    else if (inks[0]) onChange({ kind, ink: inks[0].id, ...vectorOf(paint) }, gesture)
    else void keep()
  }
  /** Makes an ink of what is painted now, and paints with that. */
  const keep = async () => {
    const ink = crypto.randomUUID()
    const gesture = crypto.randomUUID()
    const mix = gradient ? ({ mix: 'gradient', gradient } as const) : ({ mix: 'colour', colour } as const)
    if (await edit({ edit: 'set_ink', ink: { id: ink, name: `Ink ${inks.length + 1}`, mix } }, gesture)) {
      onChange({ kind: 'ink', ink, ...vectorOf(paint) }, gesture)
    }
  }
  return (
    <div className="space-y-2.5">
      <div className="flex items-end justify-between gap-4">
        <ChoiceField label={label} options={KINDS} value={paint.kind} onChange={become} />
        {paint.kind !== 'ink' && (
          <button className="plain text-[13.5px]" title="Make an ink of it: everything painted with the ink follows when it is changed" onClick={() => void keep()}>
            Keep as an ink
          </button>
        )}
      </div>
      {paint.kind === 'colour' && <ColourField label="Colour" colour={paint.colour} onChange={(c, g) => onChange({ kind: 'colour', colour: c }, g)} />}
      {paint.kind === 'gradient' && <GradientField gradient={paint.gradient} onChange={(next, g) => onChange({ ...paint, gradient: next }, g)} />}
      {paint.kind === 'ink' && <InkChips chosen={paint.ink} onChoose={(ink) => onChange({ ...paint, ink: ink.id }, crypto.randomUUID())} />}
      {paint.kind !== 'colour' && gradient && paint.vector && (
        <button
          className="plain text-[13.5px]"
          onClick={() => {
            const { vector: _, ...rest } = paint
            onChange(rest, crypto.randomUUID())
          }}
        >
          Over the whole again
        </button>
      )}
    </div>
  )
}

const vectorOf = (paint: Paint) => (paint.kind !== 'colour' && paint.vector ? { vector: paint.vector } : {})

/** A gradient from a colour to a lighter one. */
function fresh(colour: string): Gradient {
  return {
    kind: 'linear',
    stops: [
      { at: 0, tint: { colour }, opacity: 1 },
      { at: 1, tint: { colour: '#f3c84b' }, opacity: 1 },
    ],
  }
}
