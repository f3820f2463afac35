import { useQueryClient } from '@tanstack/react-query'
import { useEffect, useRef } from 'react'
import { FileButton } from '../../parts/FileButton'
import { giveKeysToSheet } from '../../parts/focus'
import type { FontCard } from '../../types/FontCard'
import type { Edit } from '../../types/Edit'
import { uploadFont } from '../fill/drawings'
import { attempt, forget } from '../state/edits'

interface Props {
  fonts: FontCard[]
  chosen: string
  sample: string
  onChoose: (id: string) => void
  /** What the word would become in a font that is pointed at: it is seen on the sheet. */
  tried?: (id: string) => Edit | null
}

/** Every font by its name, set in itself. */
export function FontList({ fonts, chosen, sample, onChoose, tried }: Props) {
  const point = (id: string) => {
    const made = id === chosen ? null : tried?.(id)
    if (made) attempt([made])
  }
  const queries = useQueryClient()
  const choose = (id: string) => {
    giveKeysToSheet()
    // what was only pointed at is kept now
    forget()
    onChoose(id)
  }
  const bring = async (file: File) => {
    const card = await uploadFont(file)
    if (!card) return
    await queries.invalidateQueries({ queryKey: ['fonts'] })
    choose(card.id)
  }
  const word = sample.trim().split(/\s+/)[0]
  const list = useRef<HTMLUListElement>(null)
  const count = fonts.length
  useEffect(() => {
    list.current?.querySelector('[aria-selected=true]')?.scrollIntoView({ block: 'nearest' })
  }, [chosen, count])
  return (
    <div>
      <div className="flex items-baseline justify-between">
        <p className="tag" id="font-list">
          Font
        </p>
        <FileButton
          label="Bring in a font"
          chooser="Font file"
          accept=".ttf,.otf,.woff2"
          className="plain px-1.5 py-0 text-[12.5px]"
          title="TTF, OTF or WOFF2"
          onFile={(file) => void bring(file)}
        />
      </div>
      <ul ref={list} role="listbox" aria-labelledby="font-list" className="mt-0.5 h-[150px] overflow-y-auto rounded-md border-[1.5px] border-edge bg-leaf">
        {fonts.map((f) => (
          <li key={f.id} role="presentation">
            <button
              role="option"
              aria-selected={f.id === chosen}
              className={`flex w-full items-center gap-3 px-3 py-1 text-left ${f.id === chosen ? 'bg-ink text-leaf' : 'hover:bg-ink/8'}`}
              onClick={() => choose(f.id)}
              {...(tried ? { onPointerEnter: () => point(f.id), onPointerLeave: forget } : {})}
            >
              <span className="w-[150px] shrink-0 truncate text-[22px] leading-[1.5]" style={{ fontFamily: `inky-${f.id}` }} aria-hidden>
                {word || f.name}
              </span>
              <span className="min-w-0 text-[12px] leading-tight">
                <span className="block truncate font-semibold">{f.name}</span>
                <span className="block truncate opacity-75">{f.manner}</span>
              </span>
            </button>
          </li>
        ))}
      </ul>
    </div>
  )
}
