import { useState } from 'react'
import { labelOf } from '../labels'
import { putInFront } from '../pieces'
import { chosen, selectAll, selectAlso } from '../selection'
import { bench, isAboutSheet, putStackAway, select, useBench } from '../store'
import { StackActions } from './StackActions'
import { StackRow } from './StackRow'

/** From so many pieces on, they can be searched by name. */
const MANY = 20

/** The pieces from front to back: to be selected, named, ordered, hidden and locked. */
export function Stack() {
  const sheet = useBench((s) => s.bench?.sheet)
  const away = useBench((s) => s.stackAway)
  const busy = useBench((s) => s.mode !== null || isAboutSheet(s))
  const [search, setSearch] = useState('')
  /** Where what is dragged would go: in front of a piece, or (null) behind all of them. */
  const [gap, setGap] = useState<string | null | undefined>(undefined)
  if (!sheet || sheet.pieces.length === 0 || busy) return null
  if (away) {
    return (
      <button className="pointer-events-auto absolute top-3 right-3 rounded-lg border-[1.5px] border-ink bg-leaf px-3 py-1.5 text-[13.5px] font-semibold shadow-sheet hover:bg-ink hover:text-leaf" onClick={() => putStackAway(false)}>
        Stack
      </button>
    )
  }
  const many = sheet.pieces.length >= MANY
  const wanted = many ? search.trim().toLowerCase() : ''
  const rows = [...sheet.pieces].reverse().filter((p) => wanted === '' || labelOf(p, sheet).toLowerCase().includes(wanted))
  const press = (piece: string, e: { shiftKey: boolean; ctrlKey: boolean; metaKey: boolean }) => {
    const now = chosen(bench.get())
    const from = rows.findIndex((p) => p.id === now.at(-1))
    const to = rows.findIndex((p) => p.id === piece)
    if (e.shiftKey && from >= 0) {
      const between = rows.slice(Math.min(from, to), Math.max(from, to) + 1).map((p) => p.id)
      selectAll([...now.filter((p) => !between.includes(p)), ...between.filter((p) => p !== piece), piece])
    } else if (e.ctrlKey || e.metaKey || e.shiftKey) selectAlso(piece)
    else select(piece)
  }
  const drop = (pieces: readonly string[]) => {
    const to = gap
    setGap(undefined)
    if (to !== undefined && pieces.length > 0) void putInFront(pieces, to)
  }
  return (
    <nav aria-label="Stack, from front to back" className="pointer-events-auto absolute top-3 right-3 flex max-h-[calc(100%-24px)] w-[212px] flex-col rounded-xl border-[1.5px] border-ink bg-leaf shadow-sheet">
      <div className="flex items-center gap-2 py-1 pr-1 pl-3">
        <h2 className="text-[14px] font-semibold">Stack</h2>
        <span className="text-[12.5px] text-ink-soft">{sheet.pieces.length === 1 ? 'one piece' : `${sheet.pieces.length} pieces`}</span>
        <button className="plain ml-auto min-h-6 px-2 py-0 text-[13px]" title="Puts the stack away; it comes back with a press" onClick={() => putStackAway(true)}>
          Put away
        </button>
      </div>
      {many && <input type="search" className="field mx-2 mb-1 w-auto py-0.5 text-[13.5px]" placeholder="Search by name" aria-label="Search the stack by name" value={search} onChange={(e) => setSearch(e.target.value)} onKeyDown={(e) => e.stopPropagation()} />}
      <ul
        className="min-h-0 overflow-y-auto border-y border-edge [scrollbar-width:thin]"
        onDragLeave={(e) => !e.currentTarget.contains(e.relatedTarget as Node | null) && setGap(undefined)}
      >
        {rows.map((p, k) => (
          <StackRow
            key={p.id}
            piece={p}
            label={labelOf(p, sheet)}
            ground={sheet.background}
            marked={gap === p.id ? 'above' : gap === null && k === rows.length - 1 ? 'below' : null}
            onPress={press}
            // in front of it, or of the one beneath
            onOver={(upper) => setGap(upper ? p.id : (rows[k + 1]?.id ?? null))}
            onDropped={drop}
          />
        ))}
        {rows.length === 0 && <li className="px-3 py-2 text-[13px] text-ink-soft">No piece has such a name.</li>}
      </ul>
      <StackActions />
    </nav>
  )
}
