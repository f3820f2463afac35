import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { call } from '../../api/client'
import type { InkProposal } from '../../types/InkProposal'
import { edit } from '../state/edits'
import { useInks } from './inks'
import { useBench } from '../state/store'

/** The main colours of a photo. */
export function useInkProposals(photo: string | undefined) {
  return useQuery({
    queryKey: ['inks', photo],
    enabled: photo !== undefined,
    staleTime: Infinity,
    queryFn: () => call<InkProposal[]>('GET', `/photos/${photo ?? ''}/inks`),
  })
}

/** The main colours of a photo of the sheet, to be taken as inks. */
export function PhotoInks() {
  const photos = useBench((s) => s.bench?.sheet.photos)
  const inks = useInks()
  const all = Object.entries(photos ?? {})
  const [chosen, setChosen] = useState<string | null>(null)
  const photo = all.find(([id]) => id === chosen)?.[0] ?? all[0]?.[0]
  const found = useInkProposals(photo)
  if (photo === undefined) return null
  const take = (p: InkProposal) => void edit({ edit: 'set_ink', ink: { id: crypto.randomUUID(), name: p.name, mix: { mix: 'colour', colour: p.colour } } })
  const known = (p: InkProposal) => inks.some((i) => i.mix.mix === 'colour' && i.mix.colour === p.colour)
  return (
    <div className="mt-3 border-t-[1.5px] border-edge pt-2.5">
      <div className="flex items-baseline gap-3">
        <p className="tag">From a photo</p>
        {all.length > 1 && (
          <select className="field w-52 py-0 text-[13.5px]" aria-label="Photo to take inks from" value={photo} onChange={(e) => setChosen(e.target.value)}>
            {all.map(([id, p]) => (
              <option key={id} value={id}>
                {p.name}
              </option>
            ))}
          </select>
        )}
        {found.error && <p className="text-[13px] text-rose">{found.error.message}</p>}
      </div>
      <div className="mt-1.5 flex flex-wrap gap-1.5">
        {found.data?.map((p) => (
          <button
            key={p.name}
            disabled={known(p)}
            title={`Take as an ink: ${Math.round(p.share * 100)} % of the photo`}
            className="flex items-center gap-1.5 rounded-full border-[1.5px] border-edge bg-leaf py-0.5 pr-3 pl-1 text-[13.5px] hover:border-ink disabled:opacity-45"
            onClick={() => take(p)}
          >
            <span aria-hidden className="inline-block h-5 w-5 rounded-full border border-ink/25" style={{ background: p.colour }} />
            {p.name}
          </button>
        ))}
      </div>
    </div>
  )
}
