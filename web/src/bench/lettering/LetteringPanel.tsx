import { useRef, useState } from 'react'
import { NumberField } from '../../parts/NumberField'
import { Radios, WORDS } from '../../parts/Radios'
import { readLength, showLength } from '../../parts/units'
import type { Align } from '../../types/Align'
import type { Lettering } from '../../types/Lettering'
import type { Join } from '../../types/Join'
import { change, windowOf } from '../opening/forms'
import { allForms } from '../opening/formTree'
import { bench, useBench } from '../state/store'
import { readNumber } from '../recipe/fields'
import { AlongFields, FeatureTicks, LetterFields } from './LetteringExtras'
import { FontList } from './FontList'
import { useFonts } from './fonts'
import { WordField } from './WordField'
import { amendWord, wordProblem } from './words'

const ALIGNS: { value: Align; face: string }[] = [
  { value: 'left', face: 'Left' },
  { value: 'centre', face: 'Centre' },
  { value: 'right', face: 'Right' },
]

/** Adds a word to an opening and holds it, its letters ready to be typed over. */
export async function addWord(piece: string, join: Join) {
  const form = crypto.randomUUID()
  const font = usedFont(piece) ?? 'archivo-black'
  if (await change(piece, { change: 'add_word', form, text: 'WORD', font, join })) bench.set({ forms: [form], open: 'form', typesInto: true })
}

/** The font of the opening's first lettering, so that a second word matches it. */
function usedFont(piece: string): string | undefined {
  const forms = allForms(windowOf(bench.get(), piece)?.opening.forms ?? [])
  return forms.flatMap((f) => (f.shape.kind === 'lettering' ? [f.shape.font] : []))[0]
}

/** The controls of a word. */
export function LetteringControls({ piece, form, shape }: { piece: string; form: string; shape: Lettering }) {
  const fonts = useFonts()
  const sheet = useBench((s) => s.bench?.sheet)
  const problem = useBench((s) => s.wordProblem)
  // what is being typed stays, whatever the server says of it
  const [draft, setDraft] = useState<string | null>(null)
  const gesture = useRef('')
  if (!sheet) return null
  const set = amending(piece, form)
  const once = (change: Partial<Lettering>) => set(change, crypto.randomUUID())
  return (
    <div className="grid w-[790px] grid-cols-[230px_150px_1fr] gap-5">
      <div>
        <WordField
          label="Word"
          text={draft ?? shape.text}
          problem={problem}
          onFocus={() => {
            gesture.current = crypto.randomUUID()
          }}
          onChange={(text) => {
            setDraft(text)
            set({ text }, gesture.current)
          }}
          onBlur={() => {
            if (problem === null) setDraft(null)
          }}
        />
        <Radios<Align>
          label="Alignment of lines"
          className="mt-3 flex gap-1"
          optionClass={`flex-1 ${WORDS}`}
          options={ALIGNS}
          value={shape.align}
          onChange={(align) => once({ align })}
        />
      </div>
      <div className="space-y-2">
        <NumberField
          label={`Size in ${sheet.unit}`}
          value={shape.size}
          step={1}
          show={(v) => showLength(v, sheet.unit, sheet.ppi)}
          read={(t) => readLength(t, sheet.unit, sheet.ppi)}
          onChange={(size, g) => set({ size }, g)}
          slider={{ min: 2, max: Math.max(sheet.width, sheet.height) }}
        />
        <NumberField
          label="Tracking in ‰ of the em"
          value={shape.tracking}
          step={5}
          show={(v) => String(Math.round(v))}
          read={readNumber}
          onChange={(tracking, g) => set({ tracking }, g)}
          slider={{ min: -200, max: 500 }}
        />
        <NumberField
          label="Leading, × size"
          value={shape.leading}
          step={0.05}
          show={(v) => String(Number(v.toFixed(2)))}
          read={readNumber}
          onChange={(leading, g) => set({ leading }, g)}
        />
      </div>
      <FontList fonts={fonts} chosen={shape.font} sample={shape.text} onChoose={(font) => once({ font })} tried={(font) => ({ edit: 'set_lettering', piece, form, lettering: { ...shape, font }, fit: false })} />
    </div>
  )
}

/** Changes of a word that are not typed. */
const amending = (piece: string, form: string) => (change: Partial<Lettering>, gesture: string) => {
  wordProblem(null)
  void amendWord(piece, form, change, gesture, false)
}

/** What the font offers, and single letters on their own. */
export function LettersPanel({ piece, form, shape }: { piece: string; form: string; shape: Lettering }) {
  const fonts = useFonts()
  const set = amending(piece, form)
  return (
    <div className="flex w-[790px] flex-wrap items-start gap-x-8 gap-y-3">
      <FeatureTicks shape={shape} card={fonts.find((f) => f.id === shape.font)} onChange={(features) => set({ features }, crypto.randomUUID())} />
      <LetterFields shape={shape} onChange={(letters, g) => set({ letters }, g)} />
    </div>
  )
}

/** Sets a word along another form's edge. */
export function AlongPanel({ piece, form, shape }: { piece: string; form: string; shape: Lettering }) {
  return <AlongFields piece={piece} form={form} shape={shape} onChange={amending(piece, form)} />
}
