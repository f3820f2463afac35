import { useId, useState, type KeyboardEvent, type ReactNode } from 'react'
import { giveKeysToSheet } from './focus'

interface Props {
  label: ReactNode
  value: number
  /** What one press of an arrow key adds; Shift takes ten. */
  step: number
  /** Text for a value, and back; null where the text is no value. */
  show: (value: number) => string
  read: (text: string) => number | null
  onChange: (value: number, gesture: string) => void
  slider?: { min: number; max: number }
  className?: string
}

/** A number that can be typed with a unit, nudged with the arrow keys, and slid where it has a slider. */
export function NumberField({ label, value, step, show, read, onChange, slider, className }: Props) {
  const id = useId()
  const [draft, setDraft] = useState<string | null>(null)
  const [gesture, setGesture] = useState(() => crypto.randomUUID())
  const [wrong, setWrong] = useState(false)

  const commit = () => {
    if (draft === null) return
    const next = read(draft)
    setWrong(next === null)
    if (next === null) return
    setDraft(null)
    if (next !== value) onChange(next, crypto.randomUUID())
  }
  const onKey = (e: KeyboardEvent) => {
    if (e.key === 'Enter') {
      // leaving the field takes the value; what is no number stays to be mended
      if (draft === null || read(draft) !== null) giveKeysToSheet()
      else setWrong(true)
    } else if (e.key === 'Escape') {
      // first what was typed is dropped; then the key is the sheet's
      if (draft === null) {
        giveKeysToSheet()
        return
      }
      setDraft(null)
      setWrong(false)
    } else if (e.key === 'ArrowUp' || e.key === 'ArrowDown') {
      e.preventDefault()
      const by = (e.key === 'ArrowUp' ? step : -step) * (e.shiftKey ? 10 : 1)
      setDraft(null)
      onChange(value + by, gesture)
    } else return
    e.stopPropagation()
  }
  return (
    <div className={className}>
      <label htmlFor={id} className="tag block">
        {label}
      </label>
      <input
        id={id}
        className="field tabular-nums"
        inputMode="decimal"
        aria-invalid={wrong}
        value={draft ?? show(value)}
        onFocus={(e) => {
          e.target.select()
          setGesture(crypto.randomUUID())
        }}
        onChange={(e) => setDraft(e.target.value)}
        onBlur={commit}
        onKeyDown={onKey}
      />
      {slider && (
        <input
          type="range"
          aria-hidden
          tabIndex={-1}
          className="mt-1 block h-3 w-full accent-ink"
          min={slider.min}
          max={slider.max}
          step={step}
          value={value}
          onPointerDown={() => setGesture(crypto.randomUUID())}
          onChange={(e) => onChange(Number(e.target.value), gesture)}
        />
      )}
      {wrong && <p className="text-[12px] font-medium text-rose">This is no number. Type one like 120 or 12 cm.</p>}
    </div>
  )
}
