import { useState } from 'react'
import { bundlesAround, piecesOf } from '../bundle/bundles'
import { pick, pickBundle } from '../bundle/bundling'
import { labelOf } from '../state/labels'
import { putInFront } from '../state/pieces'
import { chosen, selectAll, selectAlso } from '../state/selection'
import { bench, isAboutSheet, putStackAway, useBench } from '../state/store'
import { BundleRow } from './BundleRow'
import { rowsOf } from './rows'
import { StackActions } from './StackActions'
import { StackRow } from './StackRow'

/** From so many pieces on, they can be searched by name. */
const MANY = 20

/** Where what is dragged would go: in front of a piece or (null) behind all, into a bundle or none; and the line that shows it. */
interface Gap {
  over: string | null
  into: string | null
  at: string
  side: 'above' | 'below'
}

/** The pieces from front to back: to be selected, named, ordered, hidden and locked. */
export function Stack() {
  const sheet = useBench((s) => s.bench?.sheet)
  const away = useBench((s) => s.stackAway)
  const busy = useBench((s) => s.mode !== null || isAboutSheet(s))
  const [search, setSearch] = useState('')
  const [unfolded, setUnfolded] = useState<ReadonlySet<string>>(new Set())
  const inside = useBench((s) => s.inside)
  const [gap, setGap] = useState<Gap | null>(null)
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
  const around = bundlesAround(sheet, inside)
  const isFolded = (bundle: string) => wanted === '' && !unfolded.has(bundle) && !around.includes(bundle)
  const all = rowsOf(sheet, isFolded)
  const rows = wanted === '' ? all : all.filter((r) => r.piece !== null && labelOf(r.piece, sheet).toLowerCase().includes(wanted))
  const press = (piece: string, e: { shiftKey: boolean; ctrlKey: boolean; metaKey: boolean }) => {
    const now = chosen(bench.get())
    const shown = rows.flatMap((r) => (r.piece ? [r.piece.id] : []))
    const [from, to] = [shown.indexOf(now.at(-1) ?? ''), shown.indexOf(piece)]
    if (e.shiftKey && from >= 0) {
      const between = shown.slice(Math.min(from, to), Math.max(from, to) + 1)
      selectAll([...now.filter((p) => !between.includes(p)), ...between.filter((p) => p !== piece), piece])
    } else if (e.ctrlKey || e.metaKey || e.shiftKey) selectAlso(piece)
    else pick(piece)
  }
  const drop = (pieces: readonly string[]) => {
    setGap(null)
    if (gap && pieces.length > 0) void putInFront(pieces, gap.over, gap.into)
  }
  const order = sheet.pieces.map((p) => p.id)
  const below = (piece: string) => order[order.indexOf(piece) - 1] ?? null
  const fold = (bundle: string) => {
    // what was stepped into is open; to fold it is to step out of it
    if (around.includes(bundle)) pickBundle(bundle)
    setUnfolded(new Set(unfolded.has(bundle) || around.includes(bundle) ? [...unfolded].filter((b) => b !== bundle) : [...unfolded, bundle]))
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
        onDragLeave={(e) => !e.currentTarget.contains(e.relatedTarget as Node | null) && setGap(null)}
      >
        {rows.map((r) => {
          const id = r.piece?.id ?? r.bundle ?? ''
          const marked = gap?.at === id ? gap.side : null
          return r.piece ? (
            <StackRow
              key={id}
              piece={r.piece}
              label={labelOf(r.piece, sheet)}
              ground={sheet.background}
              depth={wanted === '' ? r.depth : 0}
              marked={marked}
              onPress={press}
              // in front of it, or of the one beneath; in the bundle that it is in
              onOver={(upper) => setGap({ over: upper ? id : below(id), into: r.piece.bundle ?? null, at: id, side: upper ? 'above' : 'below' })}
              onDropped={drop}
            />
          ) : (
            <BundleRow
              key={id}
              bundle={r.bundle}
              depth={r.depth}
              isFolded={r.isFolded}
              onFold={() => fold(r.bundle)}
              marked={marked}
              // in front of the bundle, or into it
              onOver={(upper) => setGap({ over: piecesOf(sheet, r.bundle).at(-1) ?? null, into: upper ? (sheet.bundles?.find((b) => b.id === r.bundle)?.within ?? null) : r.bundle, at: id, side: upper ? 'above' : 'below' })}
              onDropped={drop}
            />
          )
        })}
        {rows.length === 0 && <li className="px-3 py-2 text-[13px] text-ink-soft">No piece has such a name.</li>}
      </ul>
      <StackActions />
    </nav>
  )
}
