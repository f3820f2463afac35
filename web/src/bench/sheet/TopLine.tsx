import { useState } from 'react'
import { Mark } from '../../parts/Mark'
import { go } from '../../route'
import { keepCopy } from './copies'
import { Deliver } from './Deliver'
import { edit, step } from '../state/edits'
import { zoomed } from '../canvas/viewport'
import { StepsMenu } from '../history/StepsMenu'
import { ProofMenu } from '../proof/ProofMenu'
import { Share } from './Share'
import { TurnDial } from './TurnDial'
import { bench, useBench } from '../state/store'
import { showChosen, showSheet } from '../canvas/zoom'

/** The thin line on top: name, undo and redo with what they undo, zoom, deliver. */
export function TopLine() {
  const s = useBench((x) => x.bench)
  const zoom = useBench((x) => x.view.zoom)
  const waiting = useBench((x) => x.waiting)
  const taking = useBench((x) => x.uploads.length > 0)
  const inMode = useBench((x) => x.mode !== null)
  const bare = useBench((x) => x.bare)
  const looking = useBench((x) => x.looking)
  const isPast = useBench((x) => x.past !== null)
  const isAnyChosen = useBench((x) => x.selected !== null || x.several.length > 0)
  const [draft, setDraft] = useState<string | null>(null)
  if (!s) return null
  const port = () => bench.get().port
  const zoomBy = (factor: number) => bench.set({ view: zoomed(bench.get().view, factor, port().width / 2, port().height / 2) })
  // a CSS pixel is 1/96 inch
  const real = (zoom * 25.4) / 96
  const rename = () => {
    if (draft !== null && draft.trim() !== s.sheet.name) void edit({ edit: 'rename_sheet', name: draft })
    setDraft(null)
  }
  return (
    <header className="flex h-12 shrink-0 items-center gap-1 border-b-[1.5px] border-ink bg-leaf pr-3 pl-2">
      <a
        href="/"
        className="plain"
        aria-label="Back to the desk"
        title="Back to the desk"
        onClick={(e) => {
          e.preventDefault()
          go('/')
        }}
      >
        <Mark className="h-6 w-6" />
        Desk
      </a>
      <span className="mx-1 h-5 w-px bg-edge" />
      <input
        aria-label="Name of the sheet"
        className="w-[200px] min-w-[90px] truncate rounded-md bg-transparent px-2 py-1 font-serif text-[17px] font-semibold hover:bg-ink/5 focus:bg-white focus:outline-none"
        readOnly={looking}
        value={draft ?? s.sheet.name}
        onChange={(e) => setDraft(e.target.value)}
        onBlur={rename}
        onKeyDown={(e) => {
          if (e.key === 'Enter') e.currentTarget.blur()
          if (e.key === 'Escape') setDraft(null)
        }}
      />
      <button className="plain px-2 text-[13.5px] whitespace-nowrap" title="A copy of the sheet as it is now, on the desk under another name; this one stays open" onClick={() => void keepCopy(s.id, s.sheet.name)}>
        Keep a copy
      </button>
      <button className="plain min-w-0" disabled={s.undo === null || inMode || looking} onClick={() => void step('undo')} aria-label={s.undo === null ? 'Nothing to undo' : `Undo: ${s.undo}`}>
        <span aria-hidden>↶</span>
        {s.undo !== null && <span className="max-w-[170px] truncate">Undo: {s.undo}</span>}
      </button>
      <button className="plain min-w-0" disabled={s.redo === null || inMode || looking} onClick={() => void step('redo')} aria-label={s.redo === null ? 'Redo' : `Redo: ${s.redo}`}>
        <span aria-hidden>↷</span>
        {s.redo !== null && <span className="max-w-[150px] truncate">Redo: {s.redo}</span>}
      </button>
      <StepsMenu />
      <span className="grow" />
      <Others />
      <span role="status" data-testid="kept" className="shrink-0 px-2 text-[13px] whitespace-nowrap text-ink-soft">
        {looking && !isPast ? 'To look at' : waiting > 0 ? 'Keeping …' : taking ? 'Taking in …' : 'All kept'}
      </span>
      <div className="flex shrink-0 items-center whitespace-nowrap" role="group" aria-label="View">
        <button className="plain w-7 justify-center px-0" aria-label="Zoom out" onClick={() => zoomBy(1 / 1.25)}>
          −
        </button>
        <button className="plain w-14 justify-center px-0 tabular-nums" title="Show at real size" onClick={() => zoomBy(1 / real)}>
          {Math.round(real * 100)}%
        </button>
        <button className="plain w-7 justify-center px-0" aria-label="Zoom in" onClick={() => zoomBy(1.25)}>
          +
        </button>
        <TurnDial />
        <button className="plain" onClick={showSheet}>
          Whole sheet
        </button>
        <button className="plain disabled:opacity-40" disabled={!isAnyChosen || inMode} title="Shows what is selected as large as can be; once more, the whole sheet (key Z)" onClick={showChosen}>
          Selection
        </button>
        <button className={`plain ${bare ? 'bg-ink/10' : ''}`} aria-pressed={bare} disabled={inMode} title="Nothing but the edges of all pieces (key V)" onClick={() => bench.set((x) => ({ bare: !x.bare }))}>
          Edges
        </button>
      </div>
      <ProofMenu />
      <Share />
      <Deliver />
    </header>
  )
}

/** Who else has the sheet open. */
function Others() {
  const others = useBench((s) => s.others)
  if (others.length === 0) return null
  const names = [...new Set(others.flatMap((o) => o.name ?? []))]
  const tabs = others.length === 1 ? 'One more tab' : `${others.length} more tabs`
  return (
    <span role="status" className="flex items-center gap-1.5 rounded-full border-[1.5px] border-sea px-2.5 py-0.5 text-[13px] font-medium whitespace-nowrap text-sea" title="The sheet is open elsewhere as well. What is changed there is seen here at once; undo takes back what was done here">
      <span className="h-2 w-2 rounded-full bg-sea" aria-hidden />
      <span className="max-w-[180px] truncate">{names.length > 0 ? names.join(', ') : tabs}</span>
    </span>
  )
}
