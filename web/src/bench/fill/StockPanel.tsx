import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { call } from '../../api/client'
import type { StockEntry } from '../../types/StockEntry'
import { isPicture } from '../opening/forms'
import { LICENCES, takeFromStock } from './stock'
import { pieceOf, useBench } from '../state/store'
import { CreditsPanel } from '../sheet/CreditsPanel'
import { Tabs } from '../recipe/Tabs'

/** Photos and drawings by others, and whose work is on the sheet. */
export function StockPanel() {
  return (
    <div className="w-[720px]">
      <Tabs
        tabs={[
          ['Stock drawer', <Drawer />],
          ['Credits', <CreditsPanel />],
        ]}
      />
    </div>
  )
}

function Drawer() {
  const [words, setWords] = useState('')
  const [taking, setTaking] = useState<string | null>(null)
  const into = useBench((s) => s.selected !== null && !isPicture(pieceOf(s, s.selected)))
  const found = useQuery({
    queryKey: ['stock', words.trim()],
    placeholderData: (before: StockEntry[] | undefined) => before,
    queryFn: () => call<StockEntry[]>('GET', `/stock?words=${encodeURIComponent(words.trim())}`),
  })
  const take = async (entry: StockEntry) => {
    setTaking(entry.id)
    await takeFromStock(entry)
    setTaking(null)
  }
  return (
    <div>
      <div className="flex items-end gap-4">
        <label className="tag block grow">
          Search words
          <input data-first className="field text-[15px]" placeholder="sky, lantern, animal …" value={words} onChange={(e) => setWords(e.target.value)} onKeyDown={(e) => e.stopPropagation()} />
        </label>
        <p className="pb-1.5 text-[13px] text-ink-soft">{into ? 'What you take goes into the selected window.' : 'What you take lies down on the sheet.'}</p>
      </div>
      {found.error && <p className="mt-2 text-[13.5px] font-medium text-rose">{found.error.message}</p>}
      <ul aria-label="In the stock drawer" className="mt-3 grid max-h-[270px] grid-cols-6 gap-2 overflow-y-auto pr-1">
        {found.data?.map((e) => (
          <li key={e.id}>
            <button
              className="block w-full rounded-md border-[1.5px] border-edge bg-leaf p-1.5 text-left hover:border-ink disabled:opacity-50"
              disabled={taking !== null}
              title={`Take “${e.title}” by ${e.maker}, ${LICENCES[e.licence]}`}
              onClick={() => void take(e)}
            >
              <span className="grid h-[68px] place-items-center overflow-hidden rounded-[3px]">
                <img src={`/api/stock/${encodeURIComponent(e.id)}/preview`} alt="" loading="lazy" className={e.kind === 'photo' ? 'h-full w-full object-cover' : 'max-h-[60px] max-w-[90px]'} draggable={false} />
              </span>
              <span className="mt-1 block truncate text-[12.5px] leading-tight font-semibold">{taking === e.id ? 'Taking it …' : e.title}</span>
              <span className="block truncate text-[11.5px] leading-tight text-ink-soft">
                {e.width && e.height ? `${e.width} × ${e.height}` : 'SVG'}, {e.maker}
              </span>
              <span className={`mt-0.5 inline-block rounded-full px-1.5 text-[11px] leading-[1.3] font-medium ${e.licence === 'free' ? 'bg-leaf text-sea' : e.licence === 'credit' ? 'bg-ink/10' : 'bg-leaf text-rose'}`}>
                {LICENCES[e.licence]}
              </span>
            </button>
          </li>
        ))}
      </ul>
      {found.data?.length === 0 && <p className="mt-2 text-[13.5px] text-ink-soft">Nothing fits these words. Try fewer, or other ones.</p>}
    </div>
  )
}
