import { useRef, useState } from 'react'
import { NumberField } from '../../parts/NumberField'
import { Radios, WORDS } from '../../parts/Radios'
import { readLength, showLength } from '../../parts/units'
import type { Align } from '../../types/Align'
import type { Lettering } from '../../types/Lettering'
import type { Join } from '../../types/Join'
import { edit } from '../edits'
import { change, formOf, isPicture, windowOf } from '../forms'
import { allForms } from '../formTree'
import { bench, pieceOf, useBench } from '../store'
import { readNumber } from './fields'
import { AlongFields, FeatureTicks, LetterFields } from './LetteringExtras'
import { FontList } from './FontList'
import { useFonts } from './fonts'

const ALIGNS: { value: Align; face: string }[] = [
  { value: 'left', face: 'Left' },
  { value: 'centre', face: 'Centre' },
  { value: 'right', face: 'Right' },
]

/** The picture that is selected, if it may be changed. */
function selectedPicture(): string | null {
  const piece = pieceOf(bench.get(), bench.get().selected)
  return piece && !piece.locked && isPicture(piece) ? piece.id : null
}

const wordProblem = (sentence: string | null) => bench.set({ wordProblem: sentence })

/** A word that is begun: the first letter makes the opening. */
export function NewWordPanel() {
  const fonts = useFonts()
  const [font, setFont] = useState<string | null>(null)
  const [text, setText] = useState('')
  const problem = useBench((s) => s.wordProblem)
  // typed on a picture, the picture shows through it
  const [masked] = useState(() => selectedPicture())
  const ids = useRef<{ piece: string; form: string; gesture: string } | null>(null)
  const chosen = font ?? fonts[0]?.id ?? ''

  const change = (next: string, nextFont: string) => {
    setText(next)
    wordProblem(null)
    const made = ids.current
    if (made) {
      void amend(made.piece, made.form, { text: next, font: nextFont }, made.gesture, true)
    } else if (next.trim() !== '') {
      const fresh = { piece: masked ?? crypto.randomUUID(), form: crypto.randomUUID(), gesture: crypto.randomUUID() }
      ids.current = fresh
      const { piece, form, gesture } = fresh
      const refused = (sentence: string) => {
        ids.current = null
        wordProblem(sentence)
      }
      const added = masked
        ? edit({ edit: 'opening', piece, change: 'add_word', form, text: next, font: nextFont, join: 'add' }, gesture, refused)
        : edit({ edit: 'add_lettering', piece, form, fill: crypto.randomUUID(), text: next, font: nextFont }, gesture, refused)
      arriving.set(form, added)
      void added.then((made) => {
        arriving.delete(form)
        if (made) bench.set({ selected: piece })
        // as large as the picture has room for
        if (made && masked) void amend(piece, form, {}, gesture, true)
      })
    }
  }
  return (
    <div className="grid w-[680px] grid-cols-[250px_1fr] gap-5">
      <div>
        <WordField label="Type a word" text={text} onChange={(t) => change(t, chosen)} problem={problem} />
        <p className="mt-3 text-[13px] leading-snug text-ink-soft">
          {masked ? 'The selected picture shows through it.' : 'It grows with what you type, as large as the sheet allows.'} Enter starts a second line.
        </p>
      </div>
      <FontList
        fonts={fonts}
        chosen={chosen}
        sample={text}
        onChoose={(f) => {
          setFont(f)
          if (ids.current) change(text, f)
        }}
      />
    </div>
  )
}

/** Words that are being added: what is typed meanwhile waits for them, one letter after the other. */
const arriving = new Map<string, Promise<boolean>>()

/** Changes a word as it is by then: what was typed before has to have arrived. */
async function amend(piece: string, form: string, change: Partial<Lettering>, gesture: string, fit: boolean) {
  const added = arriving.get(form)
  if (added && !(await added)) return
  const own = latest.get(form) ?? lettering(piece, form)
  if (!own) return
  const next = { ...own, ...change }
  latest.set(form, next)
  await edit({ edit: 'set_lettering', piece, form, lettering: next, fit }, gesture, wordProblem)
  if (latest.get(form) === next) latest.delete(form)
}

/** Letterings with changes that are not acknowledged yet. */
const latest = new Map<string, Lettering>()

function lettering(piece: string, form: string): Lettering | undefined {
  const shape = formOf(bench.get(), piece, form)?.shape
  return shape?.kind === 'lettering' ? shape : undefined
}

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
      <FontList fonts={fonts} chosen={shape.font} sample={shape.text} onChoose={(font) => once({ font })} />
    </div>
  )
}

/** Changes of a word that are not typed. */
const amending = (piece: string, form: string) => (change: Partial<Lettering>, gesture: string) => {
  wordProblem(null)
  void amend(piece, form, change, gesture, false)
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

interface WordFieldProps {
  label: string
  text: string
  problem: string | null
  onChange: (text: string) => void
  onFocus?: () => void
  onBlur?: () => void
}

function WordField({ label, text, problem, onChange, onFocus, onBlur }: WordFieldProps) {
  return (
    <label className="tag block">
      {label}
      <textarea
        data-first
        className="field mt-0.5 resize-none text-[20px] leading-tight font-semibold"
        rows={2}
        spellCheck={false}
        aria-invalid={problem !== null}
        value={text}
        onFocus={(e) => {
          e.target.select()
          onFocus?.()
        }}
        onBlur={onBlur}
        onChange={(e) => onChange(e.target.value)}
        onKeyDown={(e) => {
          if (e.key === 'Escape') e.currentTarget.blur()
        }}
      />
      {problem && (
        <span role="alert" className="block text-[13px] leading-snug font-medium text-rose">
          {problem}
        </span>
      )}
    </label>
  )
}
