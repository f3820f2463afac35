import { useRef, useState } from 'react'
import { readColour } from '../../parts/colour'
import { Radios } from '../../parts/Radios'
import type { Ink } from '../../types/Ink'
import type { Tint } from '../../types/Tint'
import { colourOf, useInks } from './inks'
import { sample } from './sampling'

/** Colours of the workshop's shelf. */
const SHELF = ['#ffffff', '#f6efdf', '#f3c84b', '#e9722f', '#d7263d', '#f2a7b5', '#5c2a4d', '#141b34', '#1f4e79', '#6fb3c8', '#0f766e', '#86a35b']

interface ColourProps {
  label: string
  colour: string
  onChange: (colour: string, gesture: string) => void
  /** Shows a colour while the pointer rests on it; null when it has left. */
  onTry?: (colour: string | null) => void
}

/** A colour: from the shelf, picked, or typed as CSS has it. */
export function ColourField({ label, colour, onChange, onTry }: ColourProps) {
  const [draft, setDraft] = useState<string | null>(null)
  const gesture = useRef('')
  const wrong = draft !== null && readColour(draft) === null
  const take = () => {
    const next = draft === null ? null : readColour(draft)
    if (next !== null && next !== colour) onChange(next, crypto.randomUUID())
    setDraft(null)
  }
  return (
    <div className="flex items-end gap-3">
      <div>
        <p className="tag">{label}</p>
        <div className="mt-1 grid grid-cols-[repeat(6,32px)] gap-1">
          {SHELF.map((c) => (
            <button
              key={c}
              aria-label={`Colour ${c}`}
              className={`h-8 w-8 rounded-full border-[1.5px] ${c === colour ? 'border-ink ring-2 ring-rose ring-offset-2 ring-offset-paper' : 'border-ink/25'}`}
              style={{ background: c }}
              onPointerEnter={() => onTry?.(c)}
              onPointerLeave={() => onTry?.(null)}
              onClick={() => onChange(c, crypto.randomUUID())}
            />
          ))}
        </div>
      </div>
      <div className="w-[104px] shrink-0 space-y-1">
        <div className="flex gap-1.5">
        <input
          type="color"
          aria-label={`${label}: pick`}
          className="block h-8 w-full cursor-pointer rounded-md border-[1.5px] border-edge bg-leaf"
          value={colour}
          onPointerDown={() => {
            gesture.current = crypto.randomUUID()
          }}
          onChange={(e) => onChange(e.target.value, gesture.current || crypto.randomUUID())}
        />
          <button
            className="grid h-8 w-9 shrink-0 place-items-center rounded-md border-[1.5px] border-edge bg-leaf hover:border-ink"
            aria-label={`${label}: take from the sheet`}
            title="Take a colour from the sheet"
            onClick={() => sample((c) => onChange(c, crypto.randomUUID()))}
          >
            <svg viewBox="0 0 16 16" className="h-4 w-4" aria-hidden>
              <path d="M8 1.5c2.6 3.3 4.2 5.6 4.2 8a4.2 4.2 0 0 1-8.4 0c0-2.4 1.6-4.7 4.2-8Z" fill="none" stroke="currentColor" strokeWidth="1.5" />
              <circle cx="8" cy="10" r="1.6" fill="currentColor" />
            </svg>
          </button>
        </div>
        <input
          aria-label={`${label}: a CSS colour`}
          title="Any CSS colour: #14213d, tomato, oklch(60% 0.15 40)"
          className="field tabular-nums"
          value={draft ?? colour}
          aria-invalid={wrong}
          onChange={(e) => setDraft(e.target.value)}
          onBlur={take}
          onKeyDown={(e) => {
            if (e.key === 'Enter') take()
            else if (e.key === 'Escape') setDraft(null)
            else return
            e.stopPropagation()
          }}
        />
      </div>
    </div>
  )
}

/** The sheet's inks, to be chosen from. */
export function InkChips({ chosen, onChoose, only }: { chosen: string | null; onChoose: (ink: Ink) => void; only?: 'colour' }) {
  const inks = useInks().filter((i) => !only || i.mix.mix === only)
  if (inks.length === 0) return <p className="text-[13px] text-ink-soft">This sheet has no inks yet. With nothing selected, the card “Inks” mixes them.</p>
  return (
    <Radios
      label="Inks of the sheet"
      className="flex flex-wrap gap-1.5"
      optionClass="flex items-center gap-1.5 rounded-full border-[1.5px] py-0.5 pr-3 pl-1 text-[13.5px] border-edge bg-leaf hover:border-ink data-checked:border-ink data-checked:bg-ink data-checked:text-leaf"
      options={inks.map((ink) => ({
        value: ink.id,
        face: (
          <>
            <Blob ink={ink} />
            {ink.name}
          </>
        ),
      }))}
      value={chosen}
      onChange={(id) => inks.filter((i) => i.id === id).forEach(onChoose)}
    />
  )
}

/** An ink as a small round picture. */
export function Blob({ ink }: { ink: Ink }) {
  const inks = useInks()
  const background =
    ink.mix.mix === 'colour'
      ? ink.mix.colour
      : `linear-gradient(to bottom, ${ink.mix.gradient.stops.map((s) => `${colourOf(s.tint, inks)} ${s.at * 100}%`).join(', ')})`
  return <span aria-hidden className="inline-block h-5 w-5 rounded-full border border-ink/25" style={{ background }} />
}

/** One colour, its own or that of an ink. */
export function TintField({ label, tint, onChange }: { label: string; tint: Tint; onChange: (tint: Tint, gesture: string) => void }) {
  const inks = useInks()
  return (
    <div className="space-y-2">
      <ColourField label={label} colour={colourOf(tint, inks)} onChange={(colour, g) => onChange({ colour }, g)} />
      {inks.length > 0 && (
        <InkChips chosen={'ink' in tint ? tint.ink : null} onChoose={(ink) => onChange({ ink: ink.id }, crypto.randomUUID())} />
      )}
    </div>
  )
}
