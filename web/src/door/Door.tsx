import { useQuery } from '@tanstack/react-query'
import { useEffect, type ReactNode } from 'react'
import { call } from '../api/client'
import { Mark } from '../parts/Mark'
import type { EntryView } from '../types/EntryView'
import { openDoor, useDoor } from './door'
import { StartTokenForm } from './StartTokenForm'

/** Stands before everything while the server does not know who is here. What is open behind it stays as it is. */
export function Door() {
  const shut = useDoor((s) => s.shut)
  return shut ? <AskedFor /> : null
}

function AskedFor() {
  // another tab may have been let in meanwhile
  const entry = useQuery({ queryKey: ['entry'], queryFn: () => call<EntryView>('GET', '/entry'), refetchInterval: 3000, gcTime: 0, staleTime: 0 })
  const known = entry.data?.known === true
  useEffect(() => {
    if (known) openDoor()
  }, [known])
  return <DoorFrame>{entry.data && !known && <StartTokenForm />}</DoorFrame>
}

function DoorFrame({ children }: { children: ReactNode }) {
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
