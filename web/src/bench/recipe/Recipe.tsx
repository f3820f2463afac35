import { useEffect, useRef, type ReactNode } from 'react'
import { bringIn } from '../photos'
import { smallPictureOf } from '../pictures'
import { bench, closeCard, viewOf, open, pieceOf, useBench, type OpenCard } from '../store'
import { labelOf } from '../Stack'
import { cssPaint, useInks } from '../inks'
import { BackgroundPanel, BorderPanel, SizePanel } from './SheetPanels'
import { AddFillPanel } from './AddFillPanel'
import { AddPanel } from './AddPanel'
import { Card, PhotoButton } from './Card'
import { FillPanel } from './FillPanel'
import { EdgePanel, RimsPanel, ShadowsPanel } from './FinishPanels'
import { FormPanel } from './FormPanel'
import { GlossPanel } from './GlossPanel'
import { InksPanel } from './InksPanel'
import { NewWordPanel } from './LetteringPanel'
import { OpeningPanel } from './OpeningPanel'
import { StockPanel } from './StockPanel'
import { useFonts } from './fonts'
import { useRoom } from './room'
import { WindowLine } from './WindowLine'

/** What the selected window is made of, as a line of a sum; with nothing selected, the sheet's own cards. */
export function Recipe() {
  const piece = useBench((s) => pieceOf(s, s.selected))
  const card = useBench((s) => s.open)
  useFonts()
  const panel = panelOf(card, piece?.kind.kind === 'window')
  return (
    <section aria-label="Recipe" className="relative shrink-0 border-t-2 border-ink bg-leaf">
      {panel && <OpenPanel>{panel}</OpenPanel>}
      <div className="flex h-[104px] items-center gap-3 overflow-x-auto px-5">
        {piece?.kind.kind === 'window' ? (
          <WindowLine window={piece.kind} piece={piece.id} locked={piece.locked} />
        ) : piece ? (
          <PictureLine piece={piece.id} />
        ) : (
          <SheetLine />
        )}
      </div>
    </section>
  )
}

function panelOf(card: OpenCard, isWindow: boolean): ReactNode {
  switch (card) {
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
    case 'new-word':
      return <NewWordPanel />
    case 'size':
      return <SizePanel />
    case 'background':
      return <BackgroundPanel />
    case 'border':
      return <BorderPanel />
    case 'stock':
      return <StockPanel />
    case 'inks':
      return <InksPanel />
    case null:
      return null
  }
}

/** The controls of an open card, right above it; pinned, they stay for the next piece. */
function OpenPanel({ children }: { children: ReactNode }) {
  const pinned = useBench((s) => s.pinned)
  const box = useRef<HTMLDivElement>(null)
  useEffect(() => {
    box.current?.querySelector<HTMLElement>('[data-first]')?.focus()
  }, [])
  useRoom(box)
  return (
    <div ref={box} className="absolute bottom-full left-5 z-20 mb-2 rounded-xl border-[1.5px] border-ink bg-paper p-4 pr-12 shadow-sheet">
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
        <span className="block border-[1.5px] border-ink bg-white" style={{ width: (sheet.width / side) * 46, height: (sheet.height / side) * 46 }} />
      </Card>
      <Card label="Background" caption={sheet.background} isOpen={card === 'background'} onClick={() => open('background')}>
        <span className="block h-11 w-11 rounded-full border-[1.5px] border-ink" style={{ background: sheet.backdrop ? cssPaint(sheet.backdrop, inks) : sheet.background }} />
      </Card>
      <Card label="Border" caption={sheet.border ? 'a line' : 'none'} isOpen={card === 'border'} onClick={() => open('border')}>
        <span className="relative block h-11 w-9 border-[1.5px] border-ink bg-white">
          {sheet.border && <span className="absolute inset-1 border-2" style={{ borderColor: cssPaint(sheet.border.paint, inks) }} />}
        </span>
      </Card>
      <Card label="Inks" caption={inks.length === 0 ? 'none yet' : inks.map((i) => i.name).join(', ')} isOpen={card === 'inks'} onClick={() => open('inks')}>
        <span className="flex">
          {inks.length === 0 && <span className="block h-9 w-9 rounded-full border-2 border-dashed border-ink/30" />}
          {inks.slice(0, 4).map((i, k) => (
            <span key={i.id} className={`block h-9 w-9 rounded-full border border-ink/20 ${k > 0 ? '-ml-4' : ''}`} style={{ background: cssPaint({ kind: 'ink', ink: i.id }, inks) }} />
          ))}
        </span>
      </Card>
      <span className="mx-2 h-14 w-px bg-edge" />
      <button className="strong h-11 shrink-0 px-5 text-[16px]" onClick={() => open('new-word')}>
        Add lettering
      </button>
      <button className="outlined h-11 shrink-0 px-4" aria-expanded={card === 'add-window'} onClick={() => open('add-window')}>
        Add a shape
      </button>
      <PhotoButton className="outlined h-11 shrink-0 px-4" label="Bring in a photo" onFile={(file) => void bringIn(file, null)} />
      <button className="outlined h-11 shrink-0 px-4" aria-expanded={card === 'stock'} onClick={() => open('stock')}>
        Stock drawer
      </button>
      {sheet.pieces.length === 0 && (
        <p className="ml-3 max-w-[330px] text-[13px] leading-snug text-ink-soft">
          A word or shape is an opening from the start: drop a photo on it, and the photo shows through.
        </p>
      )}
    </>
  )
}

function PictureLine({ piece }: { piece: string }) {
  const view = useBench((s) => viewOf(s, piece)?.photos[0])
  const found = useBench((s) => pieceOf(s, piece))
  const sheet = useBench((s) => s.bench?.sheet)
  return (
    <>
      <div className="flex shrink-0 flex-col items-center">
        {view && <img src={smallPictureOf(view)} alt="" className="max-h-14 max-w-[100px] rounded-[3px]" draggable={false} />}
        <span className="mt-1 max-w-[120px] truncate text-[12px] font-medium">{found && sheet ? labelOf(found, sheet) : ''}</span>
      </div>
      <p className="max-w-md text-[14px] text-ink-soft">
        A whole photo on the sheet{view ? `, ${Math.round(view.ppi)} ppi at this size` : ''}. Drop the same photo on a word to show it through
        the letters.
      </p>
    </>
  )
}
