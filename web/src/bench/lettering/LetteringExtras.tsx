import { Radios } from '../../parts/Radios'
import { useState } from 'react'
import type { FontCard } from '../../types/FontCard'
import type { LetterShift } from '../../types/LetterShift'
import type { Lettering } from '../../types/Lettering'
import { formLabel, windowOf } from '../opening/forms'
import { useBench } from '../state/store'
import { PlainField, Tick } from '../recipe/fields'

/** Features that people switch, by the words of the OpenType registry made short; on by themselves or not. */
const FEATURES: { tag: string; name: string; usual: boolean }[] = [
  { tag: 'liga', name: 'Ligatures', usual: true },
  { tag: 'dlig', name: 'Rare ligatures', usual: false },
  { tag: 'kern', name: 'Kerning', usual: true },
  { tag: 'smcp', name: 'Small capitals', usual: false },
  { tag: 'swsh', name: 'Swashes', usual: false },
  { tag: 'salt', name: 'Alternates', usual: false },
  { tag: 'calt', name: 'Alternates in context', usual: true },
  { tag: 'onum', name: 'Old-style figures', usual: false },
  { tag: 'tnum', name: 'Level figures', usual: false },
]

const STYLISTIC = Array.from({ length: 20 }, (_, i) => ({ tag: `ss${String(i + 1).padStart(2, '0')}`, name: `Set ${i + 1}`, usual: false }))

/** What of OpenType the font offers. */
export function FeatureTicks({ shape, card, onChange }: { shape: Lettering; card: FontCard | undefined; onChange: (features: Lettering['features']) => void }) {
  const offered = [...FEATURES, ...STYLISTIC].filter((f) => card?.features.includes(f.tag))
  if (offered.length === 0) return null
  return (
    <div>
      <p className="tag">Of the font</p>
      <div className="mt-1 flex max-w-[300px] flex-wrap gap-x-3">
        {offered.map(({ tag, name, usual }) => {
          const on = shape.features?.find((f) => f.tag === tag)?.on ?? usual
          return (
            <Tick
              key={tag}
              checked={on}
              onChange={(next) => {
                const others = shape.features?.filter((f) => f.tag !== tag) ?? []
                onChange(next === usual ? others : [...others, { tag, on: next }])
              }}
            >
              {name}
            </Tick>
          )
        })}
      </div>
    </div>
  )
}

/** Sets the lines along the edge of another form. */
export function AlongFields({ piece, form, shape, onChange }: { piece: string; form: string; shape: Lettering; onChange: (change: Partial<Lettering>, gesture: string) => void }) {
  const forms = useBench((s) => windowOf(s, piece)?.opening.forms)
  const others = forms?.filter((f) => f.id !== form && !(f.shape.kind === 'lettering' && f.shape.along)) ?? []
  if (others.length === 0 || !forms?.some((f) => f.id === form)) return null
  const along = shape.along
  return (
    <div className="flex items-end gap-3">
      <label className="tag block">
        Along the edge of
        <select
          className="field mt-0.5 w-[150px] text-[14px]"
          value={along?.form ?? ''}
          onChange={(e) =>
            onChange({ along: e.target.value === '' ? undefined : { inside: false, start: 0, off: 0, ...along, form: e.target.value } } as Partial<Lettering>, crypto.randomUUID())
          }
        >
          <option value="">nothing: straight lines</option>
          {others.map((f) => (
            <option key={f.id} value={f.id}>
              {formLabel(f)}
            </option>
          ))}
        </select>
      </label>
      {along && (
        <>
          <span className="w-20">
            <PlainField label="Place, %" value={along.start} factor={100} digits={1} onChange={(start, g) => onChange({ along: { ...along, start } }, g)} />
          </span>
          <span className="w-24">
            <PlainField label="Off the edge, ‰" value={along.off} digits={0} step={10} onChange={(off, g) => onChange({ along: { ...along, off } }, g)} />
          </span>
          <span className="pb-1">
            <Tick checked={along.inside} onChange={(inside) => onChange({ along: { ...along, inside } }, crypto.randomUUID())}>
              Inside
            </Tick>
          </span>
        </>
      )}
    </div>
  )
}

/** A single letter on its own: shifted, turned, scaled. */
export function LetterFields({ shape, onChange }: { shape: Lettering; onChange: (letters: Lettering['letters'], gesture: string) => void }) {
  const [at, setAt] = useState<number | null>(null)
  const letters = [...shape.text]
  const own = shape.letters?.find((l) => l.at === at) ?? { at: at ?? 0, dx: 0, dy: 0, turn: 0, scale: 1 }
  const set = (part: Partial<LetterShift>, gesture: string) => {
    const next = { ...own, ...part }
    const rest = shape.letters?.filter((l) => l.at !== own.at) ?? []
    const still = next.dx === 0 && next.dy === 0 && next.turn === 0 && next.scale === 1
    onChange(still ? rest : [...rest, next].sort((a, b) => a.at - b.at), gesture)
  }
  if (letters.length > 60) return null
  return (
    <div className="flex items-end gap-3">
      <div>
        <p className="tag">A letter on its own</p>
        <Radios
          label="A letter on its own"
          className="mt-0.5 flex max-w-[230px] flex-wrap gap-0.5"
          optionClass="min-w-[26px] rounded-[5px] border-[1.5px] px-1 text-[15px] font-semibold bg-leaf data-checked:border-ink data-checked:bg-ink data-checked:text-leaf"
          options={letters.flatMap((c, i) =>
            c.trim() === ''
              ? []
              : [{ value: i, face: c, name: `Letter ${i + 1}: ${c}`, className: shape.letters?.some((l) => l.at === i) ? 'border-rose' : 'border-edge hover:border-ink' }],
          )}
          value={at}
          onChange={setAt}
        />
      </div>
      {at !== null && at < letters.length && (
        <div className="grid w-[300px] grid-cols-4 gap-2">
          <PlainField label="Right, ‰" value={own.dx} digits={0} step={5} onChange={(dx, g) => set({ dx }, g)} />
          <PlainField label="Down, ‰" value={own.dy} digits={0} step={5} onChange={(dy, g) => set({ dy }, g)} />
          <PlainField label="Turn, °" value={own.turn} onChange={(turn, g) => set({ turn }, g)} />
          <PlainField label="Scale, %" value={own.scale} factor={100} digits={0} min={5} max={1000} onChange={(scale, g) => set({ scale }, g)} />
        </div>
      )}
    </div>
  )
}
