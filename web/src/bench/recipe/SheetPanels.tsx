import { useRef, useState } from 'react'
import { NumberField } from '../../parts/NumberField'
import { pixels, readLength, showLength, UNITS } from '../../parts/units'
import type { Unit } from '../../types/Unit'
import { edit } from '../edits'
import { useBench } from '../store'

/** Size and resolution of the sheet. */
export function SizePanel() {
  const sheet = useBench((s) => s.bench?.sheet)
  if (!sheet) return null
  const size = { width: sheet.width, height: sheet.height, unit: sheet.unit, ppi: sheet.ppi }
  const set = (change: Partial<typeof size>, gesture: string) => void edit({ edit: 'resize_sheet', ...size, ...change }, gesture)
  const length = {
    step: 1,
    show: (v: number) => showLength(v, sheet.unit, sheet.ppi),
    read: (t: string) => readLength(t, sheet.unit, sheet.ppi),
  }
  const [w, h] = pixels(sheet.width, sheet.height, sheet.ppi)
  return (
    <div className="w-[460px]">
      <div className="grid grid-cols-4 items-end gap-3">
        <NumberField label="Width" value={sheet.width} {...length} onChange={(width, g) => set({ width }, g)} />
        <NumberField label="Height" value={sheet.height} {...length} onChange={(height, g) => set({ height }, g)} />
        <label className="tag block">
          Unit
          <select className="field text-[15px]" value={sheet.unit} onChange={(e) => set({ unit: e.target.value as Unit }, crypto.randomUUID())}>
            {UNITS.map((u) => (
              <option key={u}>{u}</option>
            ))}
          </select>
        </label>
        <NumberField
          label="ppi"
          value={sheet.ppi}
          step={1}
          show={(v) => String(Number(v.toFixed(2)))}
          read={(t) => (Number(t) > 0 ? Number(t) : null)}
          onChange={(ppi, g) => set({ ppi }, g)}
        />
      </div>
      <p className="mt-2 text-[13px] text-ink-soft tabular-nums">
        {w.toLocaleString('en')} × {h.toLocaleString('en')} pixels
      </p>
    </div>
  )
}

export function BackgroundPanel() {
  const colour = useBench((s) => s.bench?.sheet.background)
  if (colour === undefined) return null
  return (
    <ColourField label="Background" colour={colour} onChange={(c, gesture) => void edit({ edit: 'set_background', colour: c }, gesture)} />
  )
}

/** Colours of the workshop's shelf. */
const SHELF = ['#ffffff', '#f6efdf', '#f3c84b', '#e9722f', '#d7263d', '#f2a7b5', '#5c2a4d', '#141b34', '#1f4e79', '#6fb3c8', '#0f766e', '#86a35b']

/** A colour: from the shelf, picked, or typed. */
export function ColourField({ label, colour, onChange }: { label: string; colour: string; onChange: (colour: string, gesture: string) => void }) {
  const [draft, setDraft] = useState<string | null>(null)
  const gesture = useRef('')
  const isColour = (text: string) => /^#[0-9a-f]{6}$/i.test(text)
  return (
    <div className="flex items-end gap-4">
      <div>
        <p className="tag">{label}</p>
        <div className="mt-1 grid grid-cols-6 gap-1.5">
          {SHELF.map((c) => (
            <button
              key={c}
              aria-label={`Colour ${c}`}
              className={`h-8 w-8 rounded-full border-[1.5px] ${c === colour ? 'border-ink ring-2 ring-rose ring-offset-2 ring-offset-paper' : 'border-ink/25'}`}
              style={{ background: c }}
              onClick={() => onChange(c, crypto.randomUUID())}
            />
          ))}
        </div>
      </div>
      <div className="w-28 space-y-1.5">
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
        <input
          aria-label={`${label} as #rrggbb`}
          className="field tabular-nums"
          value={draft ?? colour}
          aria-invalid={draft !== null && !isColour(draft)}
          onChange={(e) => setDraft(e.target.value)}
          onBlur={() => {
            if (draft !== null && isColour(draft) && draft !== colour) onChange(draft.toLowerCase(), crypto.randomUUID())
            setDraft(null)
          }}
          onKeyDown={(e) => {
            if (e.key === 'Enter') e.currentTarget.blur()
          }}
        />
      </div>
    </div>
  )
}
