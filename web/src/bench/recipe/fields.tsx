import type { ReactNode } from 'react'
import { NumberField } from '../../parts/NumberField'
import { Radios, WORDS } from '../../parts/Radios'
import { readLength, showLength } from '../../parts/units'
import { useBench } from '../state/store'

interface LengthProps {
  label: string
  value: number
  onChange: (value: number, gesture: string) => void
  slider?: { min: number; max: number }
  /** What one press of an arrow key adds, in mm. */
  step?: number
  least?: number
}

/** A length in the sheet's unit. */
export function LengthField({ label, value, onChange, slider, step = 1, least }: LengthProps) {
  const sheet = useBench((s) => s.bench?.sheet)
  if (!sheet) return null
  return (
    <NumberField
      label={`${label}, ${sheet.unit}`}
      value={value}
      step={step}
      show={(v) => showLength(v, sheet.unit, sheet.ppi)}
      read={(t) => readLength(t, sheet.unit, sheet.ppi)}
      onChange={(v, g) => onChange(least === undefined ? v : Math.max(least, v), g)}
      {...(slider ? { slider } : {})}
    />
  )
}

interface PlainProps {
  label: string
  value: number
  onChange: (value: number, gesture: string) => void
  /** Shown value = value × factor, so that shares read as percent. */
  factor?: number
  digits?: number
  /** Of the shown value. */
  step?: number
  min?: number
  max?: number
  slider?: boolean
}

/** A plain number, a share in percent, or degrees. */
export function PlainField({ label, value, onChange, factor = 1, digits = 1, step = 1, min, max, slider }: PlainProps) {
  const within = (v: number) => Math.min(max ?? Infinity, Math.max(min ?? -Infinity, v))
  return (
    <NumberField
      label={label}
      value={value * factor}
      step={step}
      show={(v) => String(Number(v.toFixed(digits)))}
      read={readNumber}
      onChange={(v, g) => onChange(within(v) / factor, g)}
      {...(slider && min !== undefined && max !== undefined ? { slider: { min, max } } : {})}
    />
  )
}

export const readNumber = (text: string) => {
  const value = Number(text.trim().replace(',', '.').replace(/[%°]$/, '') || NaN)
  return Number.isFinite(value) ? value : null
}

interface ChoiceProps<T extends string> {
  label: string
  options: readonly (readonly [value: T, text: string])[]
  value: T | null
  onChange: (value: T) => void
}

/** One of a few words. */
export function ChoiceField<T extends string>({ label, options, value, onChange }: ChoiceProps<T>) {
  return (
    <div>
      <p className="tag">{label}</p>
      <Radios label={label} className="mt-0.5 flex flex-wrap gap-1" optionClass={WORDS} options={options.map(([v, text]) => ({ value: v, face: text }))} value={value} onChange={onChange} />
    </div>
  )
}

/** A yes or no. */
export function Tick({ checked, onChange, children }: { checked: boolean; onChange: (on: boolean) => void; children: ReactNode }) {
  return (
    <label className="flex items-center gap-2 text-[14px]">
      <input type="checkbox" className="h-4 w-4 accent-ink" checked={checked} onChange={(e) => onChange(e.target.checked)} />
      {children}
    </label>
  )
}
