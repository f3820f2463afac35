import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { Away, call, make, sentenceOf } from '../api/client'
import { say, useNotices } from '../parts/notices'
import { go } from '../route'
import type { Made } from '../types/Made'
import type { SheetCard } from '../types/SheetCard'
import { FileButton } from '../parts/FileButton'
import { Mark } from '../parts/Mark'
import { AccountPanel } from './AccountPanel'
import { NewSheetDialog } from './NewSheetDialog'
import { SheetTile } from './SheetTile'

/** All sheets as pictures of themselves. */
export function Desk() {
  const queries = useQueryClient()
  const [making, setMaking] = useState(false)
  const sheets = useQuery({
    queryKey: ['sheets'],
    queryFn: async () => {
      try {
        const list = await call<SheetCard[]>('GET', '/sheets')
        useNotices.getState().setAway(null)
        return list
      } catch (error) {
        if (error instanceof Away) useNotices.getState().setAway(error.message)
        throw error
      }
    },
  })
  useEffect(() => {
    document.title = 'Desk · Inky Window'
  }, [])

  const again = () => void queries.invalidateQueries({ queryKey: ['sheets'] })
  const act = useMutation({
    mutationFn: (work: () => Promise<unknown>) => work(),
    onSettled: again,
    onError: (error) => say(sentenceOf(error)),
  })
  const remove = (card: SheetCard) =>
    act.mutate(async () => {
      await call('DELETE', `/sheets/${card.id}`)
      say(`“${card.name}” was taken off the desk.`, {
        label: 'Put it back',
        run: () => act.mutate(() => call('POST', `/sheets/${card.id}/restore`)),
      })
    })
  const answer = (card: SheetCard, takes: boolean) => act.mutate(() => call(takes ? 'POST' : 'DELETE', `/sheets/${card.id}/invitation`))
  const bringIn = (file: File) =>
    act.mutate(async () => {
      const content = await sheetFile(file)
      const made = await make<Made>('/sheets/import', content, useNotices.getState().setAway)
      go(`/sheet/${made.id}`)
    })

  return (
    <div className="h-full overflow-y-auto">
      <header className="mx-auto flex max-w-[1180px] items-end gap-4 px-8 pt-10 pb-10">
        <h1 className="flex items-center gap-3 font-serif text-[34px] leading-none font-semibold tracking-tight">
          <Mark className="h-9 w-9" />
          Inky Window
        </h1>
        <p className="pb-0.5 font-serif text-[17px] text-ink-soft italic">photographs through letters, and out of them</p>
        <span className="grow" />
        <FileButton label="Bring in a sheet file" chooser="Sheet file" accept=".json,application/json,.pdf,application/pdf" className="plain" onFile={bringIn} />
        <button className="strong" onClick={() => setMaking(true)}>
          New sheet
        </button>
        <AccountPanel />
      </header>
      <main className="mx-auto max-w-[1180px] px-8 pb-16">
        {sheets.isPending && <p className="py-16 text-ink-soft">Fetching the sheets …</p>}
        {sheets.data?.length === 0 && (
          <div className="py-20 text-center">
            <p className="font-serif text-2xl">The desk is empty.</p>
            <p className="mt-2 mb-6 text-ink-soft">Start with a sheet of the size you will print.</p>
            <button className="strong" onClick={() => setMaking(true)}>
              New sheet
            </button>
          </div>
        )}
        <ul className="flex flex-wrap items-end gap-x-9 gap-y-10">
          {sheets.data?.map((card) => (
            <SheetTile
              key={card.id}
              card={card}
              onCopy={() => act.mutate(() => make(`/sheets/${card.id}/copy`, undefined, useNotices.getState().setAway))}
              onRemove={() => (card.role === 'own' ? remove(card) : answer(card, false))}
              onAnswer={(takes) => answer(card, takes)}
            />
          ))}
        </ul>
      </main>
      <NewSheetDialog open={making} onClose={() => setMaking(false)} />
    </div>
  )
}

/** A sheet file, or a PDF with its sheet inside, as it is sent. */
async function sheetFile(file: File): Promise<unknown> {
  if ((await file.slice(0, 5).text()) === '%PDF-') return file
  try {
    return JSON.parse(await file.text())
  } catch {
    throw new Error(`“${file.name}” is no sheet file.`)
  }
}
