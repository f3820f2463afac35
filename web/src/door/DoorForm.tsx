import { Field, Input, Label } from '@headlessui/react'
import { useRef, useState, type FormEvent, type ReactNode } from 'react'
import { sentenceOf } from '../api/client'

export interface DoorField {
  name: string
  label: string
  type: 'text' | 'password'
  autoComplete: string
  /** What is in it at first. */
  value?: string
  hidden?: boolean
}

/** A form at the door: some fields, and one button. What was wrong is said, and the last field selected to be typed anew. */
export function DoorForm({ title, said, fields, button, send }: { title: string; said: ReactNode; fields: DoorField[]; button: string; send: (values: Record<string, string>) => Promise<void> }) {
  const [values, setValues] = useState<Record<string, string>>(() => Object.fromEntries(fields.map((f) => [f.name, f.value ?? ''])))
  const [wrong, setWrong] = useState<string | null>(null)
  const [busy, setBusy] = useState(false)
  const last = useRef<HTMLInputElement>(null)
  const submit = async (e: FormEvent) => {
    e.preventDefault()
    setBusy(true)
    try {
      await send(values)
    } catch (error) {
      setWrong(sentenceOf(error))
      last.current?.select()
    }
    setBusy(false)
  }
  const first = fields.find((f) => !f.hidden && !f.value)?.name
  return (
    <form onSubmit={(e) => void submit(e)}>
      <h1 className="text-[19px] font-semibold">{title}</h1>
      <p className="mt-1 mb-5 text-ink-soft">{said}</p>
      <div className="space-y-3">
        {fields.map((f, k) => (
          // a hidden name tells the browser whose password it is
          <Field key={f.name} className={f.hidden ? 'hidden' : ''}>
            <Label className="tag block">{f.label}</Label>
            <Input
              ref={k === fields.length - 1 ? last : undefined}
              className="field"
              name={f.name}
              type={f.type}
              autoComplete={f.autoComplete}
              spellCheck={false}
              autoCapitalize="none"
              readOnly={f.hidden === true}
              autoFocus={f.name === first}
              value={values[f.name] ?? ''}
              onChange={(e) => setValues((v) => ({ ...v, [f.name]: e.target.value }))}
            />
          </Field>
        ))}
      </div>
      {wrong && (
        <p role="alert" className="mt-3 font-medium text-rose">
          {wrong}
        </p>
      )}
      <button type="submit" className="strong mt-4" disabled={busy || fields.some((f) => values[f.name]?.trim() === '')}>
        {button}
      </button>
    </form>
  )
}
