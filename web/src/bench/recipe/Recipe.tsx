import { useEffect, useRef, type ReactNode } from 'react'
import { ArrangePanel } from '../arrange/ArrangePanel'
import { SeveralLine } from '../arrange/SeveralLine'
import { BundlePanel } from '../bundle/BundlePanel'
import { unitNow } from '../state/unit'
import { bench, closeCard, open, pieceOf, useBench, type OpenCard } from '../state/store'
import { cssPaint, useInks } from '../fill/inks'
import { BackgroundPanel, BorderPanel, SizePanel } from '../sheet/SheetPanels'
import { AddFillPanel } from '../fill/AddFillPanel'
import { AddPanel } from '../opening/AddPanel'
import { Card } from './Card'
import { FillPanel } from '../fill/FillPanel'
import { EdgePanel, RimsPanel, ShadowsPanel } from '../finish/FinishPanels'
import { wayOf } from '../canvas/keyMove'
import { follow, leaving } from '../canvas/pointer'
import { GuidesPanel } from '../guides/GuidesPanel'
import { guidesOf } from '../guides/layout'
import { FormPanel } from '../opening/FormPanel'
import { GlossPanel } from '../finish/GlossPanel'
import { InksPanel } from '../fill/InksPanel'
import { PanesPanel } from '../panes/PanesPanel'
import { MembersPanel } from '../repeat/MembersPanel'
import { NewWordPanel } from '../lettering/NewWordPanel'
import { OpeningPanel } from '../opening/OpeningPanel'
import { StockPanel } from '../fill/StockPanel'
import { useFonts } from '../lettering/fonts'
import { useRoom } from './room'
import { WindowLine } from './WindowLine'

/** What the selected window is made of, as a line of a sum; with nothing selected, the sheet's own cards. */
export function Recipe() {
  const piece = useBench((s) => pieceOf(s, s.selected))
  const card = useBench((s) => s.open)
  useFonts()
  const several = useBench((s) => s.selected === null && s.several.length > 1)
  const isUnit = useBench((s) => unitNow(s) !== null)
  const panel = panelOf(card, { isWindow: piece !== undefined, isUnit, isAny: piece !== undefined || several })
  return (
    <section aria-label="Recipe" className="relative shrink-0 border-t-2 border-ink bg-leaf">
      {panel && <OpenPanel key={card}>{panel}</OpenPanel>}
      <div className="flex h-[104px] items-center gap-1.5 overflow-x-auto px-4 [scrollbar-width:thin]">
        {piece ? <WindowLine window={piece.kind} piece={piece.id} locked={piece.locked} /> : several ? <SeveralLine /> : <SheetLine />}
      </div>
    </section>
  )
}

/** `isUnit`: a window or a bundle is selected; `isAny`: anything is. */
function panelOf(card: OpenCard, { isWindow, isUnit, isAny }: { isWindow: boolean; isUnit: boolean; isAny: boolean }): ReactNode {
  switch (card) {
    case 'arrange':
      return isAny ? <ArrangePanel /> : null
    case 'as-one':
      return isAny ? <BundlePanel /> : null
    case 'form':
      return isWindow ? <FormPanel /> : null
    case 'opening':
      return isWindow ? <OpeningPanel /> : null
    case 'add-form':
      return isWindow ? <AddPanel fresh={false} /> : null
    case 'add-window':
      return <AddPanel fresh />
    case 'fill':
      return isWindow ? <FillPanel /> : null
    case 'add-fill':
      return isWindow ? <AddFillPanel /> : null
    case 'edge':
      return isWindow ? <EdgePanel /> : null
    case 'rims':
      return isWindow ? <RimsPanel /> : null
    case 'shadows':
      return isWindow ? <ShadowsPanel /> : null
    case 'gloss':
      return isWindow ? <GlossPanel /> : null
    case 'repeat':
      return isUnit ? <MembersPanel /> : null
    case 'panes':
      return isUnit ? <PanesPanel /> : null
    case 'new-word':
      return <NewWordPanel />
    case 'size':
      return <SizePanel />
    case 'background':
      return <BackgroundPanel />
    case 'border':
      return <BorderPanel />
    case 'guides':
      return <GuidesPanel />
    case 'stock':
      return <StockPanel />
    case 'inks':
      return <InksPanel />
    case null:
      return null
  }
}

/** Puts a card so far from where it was, within the window. */
function placeCard(card: HTMLElement, dx: number, dy: number, from: DOMRect) {
  const within = (v: number, most: number) => Math.round(Math.min(Math.max(v, 4), Math.max(most - 4, 4)))
  bench.set({ cardAt: { x: within(from.left + dx, window.innerWidth - card.offsetWidth), y: within(from.top + dy, window.innerHeight - card.offsetHeight) } })
}

function startCardMove(e: React.PointerEvent, card: HTMLElement) {
  if (e.button !== 0) return
  const from = card.getBoundingClientRect()
  const left = leaving(e)
  follow({
    move: (m) => left(m) && placeCard(card, m.clientX - e.clientX, m.clientY - e.clientY, from),
    up: () => undefined,
    drop: () => placeCard(card, 0, 0, from),
  })
}

/** The controls of an open card, right above it; pinned, they stay for the next piece. */
function OpenPanel({ children }: { children: ReactNode }) {
  const pinned = useBench((s) => s.pinned)
  const at = useBench((s) => s.cardAt)
  const box = useRef<HTMLDivElement>(null)
  useEffect(() => {
    // a form that is held by the mouse leaves the keys with the sheet: Delete removes it, and eats no letters
    const s = bench.get()
    if (s.open !== 'form' || s.typesInto) box.current?.querySelector<HTMLElement>('[data-first], [data-first-field] input')?.focus()
  }, [])
  useRoom(box)
  return (
    <div
      ref={box}
      data-testid="card"
      className={`${at ? 'fixed' : 'absolute bottom-full left-5 mb-2'} z-20 rounded-xl border-[1.5px] border-ink bg-paper p-4 pr-12 shadow-sheet`}
      style={at ? { left: at.x, top: at.y } : undefined}
    >
      {children}
      <div className="absolute top-2 right-2 flex flex-col">
        <button className="plain px-2" aria-label="Close the card" title="Close the card" onClick={closeCard}>
          ✕
        </button>
        <button
          className={`plain px-2 ${pinned ? 'text-rose' : ''}`}
          aria-pressed={pinned}
          aria-label="Keep the card open"
          title="Keep the card open for whatever is selected next"
          onClick={() => bench.set({ pinned: !pinned })}
        >
          {pinned ? '◆' : '◇'}
        </button>
        <button
          className="plain cursor-move touch-none px-2"
          aria-label="Take the card elsewhere: arrow keys move it"
          title="Drag the card elsewhere; cards open there from then on. A double click brings them back."
          onPointerDown={(e) => box.current && startCardMove(e, box.current)}
          onDoubleClick={() => bench.set({ cardAt: null })}
          onKeyDown={(e) => {
            const way = wayOf(e.key)
            if (!way || !box.current) return
            e.preventDefault()
            e.stopPropagation()
            placeCard(box.current, way[0] * 40, way[1] * 40, box.current.getBoundingClientRect())
          }}
        >
          ✥
        </button>
      </div>
    </div>
  )
}

function SheetLine() {
  const sheet = useBench((s) => s.bench?.sheet)
  const card = useBench((s) => s.open)
  const inks = useInks()
  if (!sheet) return null
  const side = Math.max(sheet.width, sheet.height)
  return (
    <>
      <Card label="Size" caption={`${sheet.ppi} ppi`} isOpen={card === 'size'} onClick={() => open('size')}>
        <span className="block border-[1.5px] border-current bg-white" style={{ width: (sheet.width / side) * 46, height: (sheet.height / side) * 46 }} />
      </Card>
      <Card label="Background" sign="G" caption={sheet.background} isOpen={card === 'background'} onClick={() => open('background')}>
        <span className="block h-11 w-11 rounded-full border-[1.5px] border-current" style={{ background: sheet.backdrop ? cssPaint(sheet.backdrop, inks) : sheet.background }} />
      </Card>
      <Card label="Border" caption={sheet.border ? 'a line' : 'none'} isOpen={card === 'border'} onClick={() => open('border')}>
        <span className="relative block h-11 w-9 border-[1.5px] border-ink bg-white">
          {sheet.border && <span className="absolute inset-1 border-2" style={{ borderColor: cssPaint(sheet.border.paint, inks) }} />}
        </span>
      </Card>
      <GuidesCard />
      <Card label="Inks" caption={inks.length === 0 ? 'none yet' : inks.map((i) => i.name).join(', ')} isOpen={card === 'inks'} onClick={() => open('inks')}>
        <span className="flex">
          {inks.length === 0 && <span className="block h-9 w-9 rounded-full border-2 border-dashed border-current opacity-50" />}
          {inks.slice(0, 4).map((i, k) => (
            <span key={i.id} className={`block h-8 w-8 rounded-full border-[1.5px] border-current ${k > 0 ? '-ml-5' : ''}`} style={{ background: cssPaint({ kind: 'ink', ink: i.id }, inks) }} />
          ))}
        </span>
      </Card>
      {sheet.pieces.length === 0 && (
        <p className="ml-3 max-w-[420px] text-[13.5px] leading-snug text-ink-soft">
          A word or a shape from the shelf at the left is an opening from the start: drop a photo on it, and the photo shows through. Or begin with the photo, and draw the shape on it.
        </p>
      )}
    </>
  )
}

function GuidesCard() {
  const guides = useBench((s) => guidesOf(s.bench?.sheet))
  const isOpen = useBench((s) => s.open === 'guides')
  const { columns = 1, rows = 1, lines = [] } = guides
  const says = [...(guides.margins ? ['margins'] : []), ...(columns > 1 ? [`${columns} columns`] : []), ...(rows > 1 ? [`${rows} rows`] : []), ...(lines.length > 0 ? [lines.length === 1 ? 'one guide' : `${lines.length} guides`] : [])]
  return (
    <Card label="Guides" caption={guides.hidden ? 'hidden' : says.length > 0 ? says.join(', ') : 'none'} isOpen={isOpen} onClick={() => open('guides')}>
      <svg viewBox="0 0 44 44" className={`h-11 w-11 ${says.length > 0 ? '' : 'opacity-50'}`} aria-hidden>
        <path d="M8 4h28v36H8Z" fill="none" stroke="currentColor" strokeWidth="1.6" />
        <path d="M14 2v40M30 2v40M4 12h36" stroke="var(--color-sea)" strokeWidth="1.6" strokeDasharray="4 2" />
      </svg>
    </Card>
  )
}
