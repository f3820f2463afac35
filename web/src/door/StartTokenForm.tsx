import { Field, Input, Label } from '@headlessui/react'
import { useRef, useState, type FormEvent } from 'react'
import { call, sentenceOf } from '../api/client'
import { openDoor } from './door'

/** For other accounts of the machine: the token that the server was started with. */
export function StartTokenForm() {
  const [token, setToken] = useState('')
  const [wrong, setWrong] = useState<string | null>(null)
  const field = useRef<HTMLInputElement>(null)
  const submit = async (e: FormEvent) => {
    e.preventDefault()
    try {
      await call('POST', '/entry/token', { token })
      openDoor()
    } catch (error) {
      setWrong(sentenceOf(error))
      // to be typed anew
      field.current?.select()
    }
  }
  return (
    <form onSubmit={(e) => void submit(e)}>
      <h1 className="text-[19px] font-semibold">Started by another account</h1>
      <p className="mt-1 mb-5 text-ink-soft">
        Inky Window runs here for another account of this machine. Whoever started it finds the start token in the file <span className="font-medium whitespace-nowrap text-ink">start-token</span> of the data folder.
      </p>
      <Field>
        <Label className="tag block">Start token</Label>
        <Input ref={field} className="field" type="password" autoComplete="off" autoFocus value={token} onChange={(e) => setToken(e.target.value)} />
      </Field>
      {wrong && (
        <p role="alert" className="mt-3 font-medium text-rose">
          {wrong}
        </p>
      )}
      <button type="submit" className="strong mt-4" disabled={token.trim() === ''}>
        Let me in
      </button>
    </form>
  )
}
