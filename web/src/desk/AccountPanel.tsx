import { Popover, PopoverButton, PopoverPanel } from '@headlessui/react'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState, type FormEvent } from 'react'
import { call, Refused, sentenceOf } from '../api/client'
import { say } from '../parts/notices'
import type { AccountView } from '../types/AccountView'
import type { PasswordChange } from '../types/PasswordChange'
import type { SessionView } from '../types/SessionView'

/** One's own account, where there are any: the browsers that are signed in, the password, the way out. */
export function AccountPanel() {
  const account = useQuery({
    queryKey: ['account'],
    queryFn: async () => {
      try {
        return await call<AccountView>('GET', '/account')
      } catch (error) {
        // a server without accounts
        if (error instanceof Refused && error.status === 404) return null
        throw error
      }
    },
  })
  if (!account.data) return null
  return (
    <Popover className="relative">
      <PopoverButton className="plain">
        <span className="max-w-[150px] truncate">{account.data.name}</span>
        <span aria-hidden>▾</span>
      </PopoverButton>
      <PopoverPanel className="absolute top-[calc(100%+10px)] right-0 z-30 w-[380px] rounded-xl border-[1.5px] border-ink bg-paper p-5 shadow-sheet focus:outline-none">
        <div className="flex items-center gap-3">
          <h2 className="min-w-0 grow truncate font-serif text-xl font-semibold">{account.data.name}</h2>
          <button className="outlined" onClick={() => void signOut()}>
            Sign out
          </button>
        </div>
        <p className="tag mt-5 mb-1">Signed in</p>
        <ul className="space-y-2">
          {account.data.sessions.map((s) => (
            <Session key={s.id} session={s} />
          ))}
        </ul>
        <NewPassword />
      </PopoverPanel>
    </Popover>
  )
}

async function signOut() {
  try {
    await call('POST', '/entry/sign-out')
    // nothing of what was seen stays in the page
    window.location.assign('/')
  } catch (error) {
    say(sentenceOf(error))
  }
}

/** A browser by the name it gives itself, as short as it can be said. */
function shortName(browser: string): string {
  const system = /Windows|Mac OS|Android|iPhone|iPad|Linux/.exec(browser)?.[0]
  const kind = /Firefox|Edg|Chrome|Safari/.exec(browser)?.[0]?.replace('Edg', 'Edge')
  return [kind ?? 'A browser', system && `on ${system}`].filter(Boolean).join(' ')
}

function Session({ session: s }: { session: SessionView }) {
  const queries = useQueryClient()
  const end = async () => {
    try {
      await call('DELETE', `/account/sessions/${s.id}`)
    } catch (error) {
      say(sentenceOf(error))
    }
    await queries.invalidateQueries({ queryKey: ['account'] })
  }
  return (
    <li className="flex items-center gap-3 text-[14px]">
      <span className="min-w-0 grow">
        <span className="block truncate font-medium">{s.this ? 'This browser' : shortName(s.browser)}</span>
        <span className="block text-[13px] text-ink-soft tabular-nums">
          {s.address}, {new Date(s.seen * 1000).toLocaleString()}
        </span>
      </span>
      {!s.this && (
        <button className="plain text-[13px]" onClick={() => void end()}>
          Sign it out
        </button>
      )}
    </li>
  )
}

function NewPassword() {
  const queries = useQueryClient()
  const [changes, setChanges] = useState(false)
  const [old, setOld] = useState('')
  const [next, setNext] = useState('')
  const [wrong, setWrong] = useState<string | null>(null)
  const submit = async (e: FormEvent) => {
    e.preventDefault()
    try {
      await call('POST', '/account/password', { old, new: next } satisfies PasswordChange)
      say('The new password holds. All other browsers were signed out.')
      setChanges(false)
      setOld('')
      setNext('')
      setWrong(null)
      await queries.invalidateQueries({ queryKey: ['account'] })
    } catch (error) {
      setWrong(sentenceOf(error))
    }
  }
  if (!changes) {
    return (
      <button className="plain mt-4 -ml-2.5 text-[14px]" onClick={() => setChanges(true)}>
        Change the password
      </button>
    )
  }
  return (
    <form className="mt-4 space-y-2 border-t-[1.5px] border-edge pt-4" onSubmit={(e) => void submit(e)}>
      <label className="tag block">
        Password so far
        <input className="field" type="password" autoComplete="current-password" autoFocus value={old} onChange={(e) => setOld(e.target.value)} />
      </label>
      <label className="tag block">
        New password
        <input className="field" type="password" autoComplete="new-password" value={next} onChange={(e) => setNext(e.target.value)} />
      </label>
      {wrong && (
        <p role="alert" className="text-[14px] font-medium text-rose">
          {wrong}
        </p>
      )}
      <div className="flex justify-end gap-2 pt-1">
        <button type="button" className="plain" onClick={() => setChanges(false)}>
          Leave it
        </button>
        <button type="submit" className="strong" disabled={old === '' || next === ''}>
          Change it
        </button>
      </div>
    </form>
  )
}
