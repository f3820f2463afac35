import type { Gradient } from '../../types/Gradient'
import type { Paint } from '../../types/Paint'
import { edit } from '../state/edits'
import { colourOf, cssGradient, gradientOf, useInks } from './inks'
import { useBench } from '../state/store'
import { gradientsOf, shareGradient } from './alike'
import { Radios, WORDS } from '../../parts/Radios'
import { Blob, ColourField } from './ColourField'
import { GradientField } from './GradientField'

interface Props {
  label: string
  /** None where nothing is painted. */
  paint: Paint | null
  onChange: (paint: Paint, gesture: string) => void
  /** Paints nothing any more. */
  onNone?: () => void
  /** What a gradient begins with where nothing is painted yet. */
  start?: string
}

/** A choice: one of the kinds, or an ink of the sheet by its identifier. */
type Choice = 'none' | 'colour' | 'gradient' | (string & {})

/** What an area or a line is painted with: a colour, a gradient, or an ink that it then follows; each by one press. */
export function PaintField({ label, paint, onChange, onNone, start = '#141b34' }: Props) {
  const inks = useInks()
  const sheet = useBench((s) => s.bench?.sheet)
  const gradient = paint && gradientOf(paint, inks)
  const others = sheet ? gradientsOf(sheet).filter((used) => JSON.stringify(used.gradient) !== JSON.stringify(gradient)).slice(0, 4) : []
  const first = gradient?.stops[0]
  const colour = paint?.kind === 'colour' ? paint.colour : first ? colourOf(first.tint, inks) : paint?.kind === 'ink' ? colourOf({ ink: paint.ink }, inks) : start
  const become = (choice: Choice) => {
    const gesture = crypto.randomUUID()
    if (choice === 'none') onNone?.()
    else if (choice === 'colour') onChange({ kind: 'colour', colour }, gesture)
    else if (choice === 'gradient') onChange({ kind: 'gradient', gradient: gradient ?? fresh(colour), ...vectorOf(paint) }, gesture)
    else if (others[Number(choice)]) void share(Number(choice), gesture)
    else onChange({ kind: 'ink', ink: choice, ...vectorOf(paint) }, gesture)
  }
  /** Paints with a gradient of the sheet: both follow one ink from now on. */
  const share = async (at: number, gesture: string) => {
    const used = others[at]
    const ink = used && (await shareGradient(used, gesture))
    if (ink) onChange({ kind: 'ink', ink, ...vectorOf(paint) }, gesture)
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
      <div>
        <p className="tag">{label}</p>
        <div className="mt-0.5 flex flex-wrap items-center gap-1">
          <Radios<Choice>
            label={label}
            className="flex flex-wrap gap-1"
            optionClass={WORDS}
            options={[
              onNone ? { value: 'none', face: 'Nothing' } : { value: 'colour', face: 'Colour' },
              { value: 'gradient', face: 'Gradient' },
              ...inks.map((ink) => ({
                value: ink.id,
                title: `${ink.name}: an ink of the sheet. What is painted with it follows it`,
                face: (
                  <span className="flex items-center gap-1.5">
                    <Blob ink={ink} />
                    {ink.name}
                  </span>
                ),
              })),
              ...others.map(({ label, gradient }, at) => ({
                value: String(at),
                name: `As “${label}”`,
                title: `The gradient of “${label}”: it becomes an ink, which both follow`,
                face: (
                  <span className="flex items-center gap-1.5">
                    <span aria-hidden className="inline-block h-5 w-5 rounded-full border border-ink/25" style={{ background: cssGradient(gradient, inks) }} />
                    As “{label}”
                  </span>
                ),
              })),
            ]}
            value={paint === null ? 'none' : paint.kind === 'ink' ? paint.ink : paint.kind}
            onChange={become}
          />
          {paint && paint.kind !== 'ink' && (
            <button className="plain px-2 text-[13.5px]" title="Make an ink of it: everything painted with the ink follows when it is changed" onClick={() => void keep()}>
              Keep as an ink
            </button>
          )}
        </div>
      </div>
      {paint?.kind === 'colour' && <ColourField label="Colour" colour={paint.colour} onChange={(c, g) => onChange({ kind: 'colour', colour: c }, g)} />}
      {paint?.kind === 'gradient' && <GradientField gradient={paint.gradient} onChange={(next, g) => onChange({ ...paint, gradient: next }, g)} />}
      {paint && paint.kind !== 'colour' && gradient && paint.vector && (
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

const vectorOf = (paint: Paint | null) => (paint && paint.kind !== 'colour' && paint.vector ? { vector: paint.vector } : {})

const LIGHT = '#f3c84b'

/** A gradient from a colour to another one. */
function fresh(colour: string): Gradient {
  return {
    kind: 'linear',
    stops: [
      { at: 0, tint: { colour }, opacity: 1 },
      { at: 1, tint: { colour: colour === LIGHT ? '#d7263d' : LIGHT }, opacity: 1 },
    ],
  }
}
