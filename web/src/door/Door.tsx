import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, type ReactNode } from 'react'
import { call } from '../api/client'
import { Mark } from '../parts/Mark'
import type { AccountView } from '../types/AccountView'
import type { EntryView } from '../types/EntryView'
import type { PasswordChoice } from '../types/PasswordChoice'
import type { SignInRequest } from '../types/SignInRequest'
import type { TokenSaid } from '../types/TokenSaid'
import { DoorForm } from './DoorForm'
import { openDoor, passwordLink, useDoor } from './door'

/** Stands before everything while the server does not know who is here. What is open behind it stays as it is. */
export function Door() {
  const queries = useQueryClient()
  const shut = useDoor((s) => s.shut)
  // it may be somebody else who comes in
  useEffect(() => {
    if (!shut) void queries.invalidateQueries()
  }, [queries, shut])
  const link = useDoor((s) => s.link)
  if (link !== null) return <ChoosePassword link={link} />
  return shut ? <AskedFor /> : null
}

function AskedFor() {
  // another tab may have been let in meanwhile
  const entry = useQuery({ queryKey: ['entry'], queryFn: () => call<EntryView>('GET', '/entry'), refetchInterval: 3000, gcTime: 0, staleTime: 0 })
  const known = entry.data?.known === true
  useEffect(() => {
    if (known) openDoor()
  }, [known])
  if (!entry.data || known) return <DoorFrame />
  return <DoorFrame>{entry.data.by === 'accounts' ? <SignIn /> : <StartToken />}</DoorFrame>
}

function SignIn() {
  return (
    <DoorForm
      title="Sign in"
      said="The sheets on your desk are yours, and those that others share with you."
      fields={[
        { name: 'name', label: 'Name', type: 'text', autoComplete: 'username' },
        { name: 'password', label: 'Password', type: 'password', autoComplete: 'current-password' },
      ]}
      button="Sign in"
      send={async ({ name = '', password = '' }) => {
        await call('POST', '/entry/sign-in', { name, password } satisfies SignInRequest)
        openDoor()
      }}
    />
  )
}

/** For other accounts of the machine: the token that the server was started with. */
function StartToken() {
  return (
    <DoorForm
      title="Started by another account"
      said={
        <>
          Inky Window runs here for another account of this machine. Whoever started it finds the start token in the file{' '}
          <span className="font-medium whitespace-nowrap text-ink">start-token</span> of the data folder.
        </>
      }
      fields={[{ name: 'token', label: 'Start token', type: 'password', autoComplete: 'off' }]}
      button="Let me in"
      send={async ({ token = '' }) => {
        await call('POST', '/entry/token', { token } satisfies TokenSaid)
        openDoor()
      }}
    />
  )
}

/** For whoever was sent a link. */
function ChoosePassword({ link }: { link: string }) {
  const whose = useQuery({ queryKey: ['link', link], queryFn: () => call<AccountView>('POST', '/entry/link', { link }), retry: false, staleTime: Infinity })
  const leave = () => {
    window.history.replaceState(null, '', window.location.pathname)
    useDoor.setState({ link: null })
  }
  if (whose.error) {
    return (
      <DoorFrame>
        <p className="font-medium">{whose.error.message}</p>
        <button className="outlined mt-4 self-start" onClick={leave}>
          To the desk
        </button>
      </DoorFrame>
    )
  }
  if (!whose.data) return <DoorFrame />
  return (
    <DoorFrame>
      <DoorForm
        title="Choose a password"
        said={
          <>
            For <span className="font-medium text-ink">{whose.data.name}</span>. Ten characters or more: some words that do not belong together do well.
          </>
        }
        fields={[
          { name: 'name', label: 'Name', type: 'text', autoComplete: 'username', value: whose.data.name, hidden: true },
          { name: 'password', label: 'New password', type: 'password', autoComplete: 'new-password' },
        ]}
        button="Take it and come in"
        send={async ({ password = '' }) => {
          await call('POST', '/entry/password', { link, password } satisfies PasswordChoice)
          openDoor()
          leave()
        }}
      />
    </DoorFrame>
  )
}

function DoorFrame({ children }: { children?: ReactNode }) {
  return (
    <div className="fixed inset-0 z-60 overflow-y-auto bg-paper" role="dialog" aria-modal aria-label="Coming in">
      <div className="mx-auto flex min-h-full max-w-[420px] flex-col justify-center px-6 pt-10 pb-[18vh]">
        <p className="mb-8 flex items-center gap-3 font-serif text-[30px] leading-none font-semibold tracking-tight">
          <Mark className="h-8 w-8" />
          Inky Window
        </p>
        {children}
      </div>
    </div>
  )
}

// an address with such a link may be pasted into a tab that is open already
window.addEventListener('hashchange', () => useDoor.setState({ link: passwordLink() }))
