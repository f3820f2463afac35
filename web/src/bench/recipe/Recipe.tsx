import { useEffect, useRef, type ReactNode } from 'react'
import type { Window } from '../../types/Window'
import { enterBreakoutMode } from '../BreakoutMode'
import { enterSubjectMode } from '../SubjectMode'
import { bringIn } from '../photos'
import { cutoutOf } from '../pictures'
import { bench, layerOf, open, pieceOf, useBench, type OpenCard } from '../store'
import { OpeningThumb } from '../Thumb'
import { labelOf } from '../Stack'
import { BackgroundPanel, SizePanel } from './SheetPanels'
import { Card, PhotoButton, Sign } from './Card'
import { FillPanel } from './FillPanel'
import { LetteringPanel, NewWordPanel } from './LetteringPanel'
import { useFonts } from './fonts'

/** What the selected window is made of, as a line of a sum; with nothing selected, the sheet's own cards. */
export function Recipe() {
  const s = useBench()
  const piece = pieceOf(s, s.selected)
  useFonts()
  const panel = panelOf(s.open, piece?.kind.kind === 'window')
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
    case 'lettering':
      return isWindow ? <LetteringPanel /> : null
    case 'fill':
      return isWindow ? <FillPanel /> : null
    case 'new-word':
      return <NewWordPanel />
    case 'size':
      return <SizePanel />
    case 'background':
      return <BackgroundPanel />
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
  return (
    <div ref={box} className="absolute bottom-full left-5 z-20 mb-2 rounded-xl border-[1.5px] border-ink bg-paper p-4 pr-12 shadow-sheet">
      {children}
      <div className="absolute top-2 right-2 flex flex-col">
        <button className="plain px-2" aria-label="Close the card" title="Close the card" onClick={() => open(null)}>
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
  const s = useBench()
  const sheet = s.bench?.sheet
  if (!sheet) return null
  const side = Math.max(sheet.width, sheet.height)
  return (
    <>
      <Card label="Size" caption={`${sheet.ppi} ppi`} isOpen={s.open === 'size'} onClick={() => open('size')}>
        <span className="block border-[1.5px] border-ink bg-white" style={{ width: (sheet.width / side) * 46, height: (sheet.height / side) * 46 }} />
      </Card>
      <Card label="Background" caption={sheet.background} isOpen={s.open === 'background'} onClick={() => open('background')}>
        <span className="block h-11 w-11 rounded-full border-[1.5px] border-ink" style={{ background: sheet.background }} />
      </Card>
      <span className="mx-2 h-14 w-px bg-edge" />
      <button className="strong h-11 px-5 text-[16px]" onClick={() => open('new-word')}>
        Add lettering
      </button>
      <PhotoButton className="outlined h-11 px-4" label="Bring in a photo" onFile={(file) => void bringIn(file, null)} />
      <p className="ml-3 max-w-[330px] text-[13px] leading-snug text-ink-soft">
        {sheet.pieces.length === 0
          ? 'A word is an opening from its first letter on: drop a photo on it, and the photo shows through.'
          : 'Click a piece to see what it is made of. Drop a photo on a word to fill it.'}
      </p>
    </>
  )
}

function WindowLine({ window, piece, locked }: { window: Window; piece: string; locked: boolean }) {
  const s = useBench()
  const layer = layerOf(s, piece)
  const sheet = s.bench?.sheet
  const form = window.opening.forms[0]
  const colour = window.fills.find((f) => f.paint.kind === 'colour')
  const photo = window.fills.find((f) => f.paint.kind === 'photo')
  const photoId = photo?.paint.kind === 'photo' ? photo.paint.photo : null
  const facts = photoId && sheet ? sheet.photos[photoId] : undefined
  const view = layer?.photos.at(-1)
  const out = layer?.overhangs.filter((o) => o.let_out_by.length > 0).length ?? 0
  return (
    <>
      {form && (
        <Card
          label="Lettering"
          caption={form.shape.text.split(/\s+/).join(' ')}
          isOpen={s.open === 'lettering'}
          onClick={() => open('lettering')}
        >
          <span className="text-[34px] leading-none" style={{ fontFamily: `inky-${form.shape.font}` }}>
            {[...form.shape.text.trim()].slice(0, 2).join('')}
          </span>
        </Card>
      )}
      <Sign name="gives the opening">=</Sign>
      <div className="flex w-[112px] shrink-0 flex-col items-center text-ink" title="The opening: one compound outline">
        {layer && <OpeningThumb layer={layer} className="h-12 w-full" />}
        <span className="mt-1.5 text-[12px] font-medium text-ink-soft">Opening</span>
      </div>
      <Sign name="filled with">←</Sign>
      {colour?.paint.kind === 'colour' && !photo && (
        <Card label="Ink" caption={colour.paint.colour} isOpen={s.open === 'fill'} onClick={() => open('fill')}>
          <span className="block h-11 w-11 rounded-full" style={{ background: colour.paint.colour }} />
        </Card>
      )}
      {photo && view ? (
        <Card label="Photo" caption={facts?.name ?? ''} isOpen={s.open === 'fill'} onClick={() => open('fill')}>
          <img src={view.href} alt="" className="max-h-12 max-w-[84px] rounded-[3px]" draggable={false} />
        </Card>
      ) : (
        !locked && <PhotoButton className="outlined h-11" label="Photo into it" onFile={(file) => void bringIn(file, piece)} />
      )}
      {photo && view && photoId && (
        <>
          <Sign name="and lets out">↗</Sign>
          {facts?.subject ? (
            <>
              <Card label="Subject" caption="found" onClick={() => enterSubjectMode(piece)}>
                <img
                  src={cutoutOf(view.href, facts.subject)}
                  alt=""
                  className="max-h-12 max-w-[84px]"
                  draggable={false}
                />
              </Card>
              <Card
                label="Breakout"
                caption={layer && layer.overhangs.length > 0 ? `${out} of ${layer.overhangs.length} out` : 'nothing reaches over'}
                onClick={() => enterBreakoutMode(piece)}
              >
                <svg viewBox="0 0 48 48" className="h-12 w-12" aria-hidden>
                  <path d="M6 46V24a18 18 0 0 1 36 0v22Z" fill="var(--color-ink)" />
                  <path d="M25 2c8 6 9 13 5 20s-1 11 4 15c-9 1-17-2-17-12 0-8 6-11 8-23Z" fill={out > 0 ? 'var(--color-rose)' : 'none'} stroke="var(--color-rose)" strokeWidth="2" />
                </svg>
              </Card>
            </>
          ) : (
            <button className="strong h-11 px-4" disabled={locked} onClick={() => enterSubjectMode(piece)}>
              Find the subject
            </button>
          )}
        </>
      )}
      <span className="grow" />
      {sheet && locked && <p className="text-[13px] text-ink-soft">Locked. Unlock it in the stack to change it.</p>}
    </>
  )
}

function PictureLine({ piece }: { piece: string }) {
  const s = useBench()
  const view = layerOf(s, piece)?.photos[0]
  const found = pieceOf(s, piece)
  return (
    <>
      <div className="flex shrink-0 flex-col items-center">
        {view && <img src={view.href} alt="" className="max-h-14 max-w-[100px] rounded-[3px]" draggable={false} />}
        <span className="mt-1 max-w-[120px] truncate text-[12px] font-medium">{found && s.bench ? labelOf(found, s.bench.sheet) : ''}</span>
      </div>
      <p className="max-w-md text-[14px] text-ink-soft">
        A whole photo on the sheet{view ? `, ${Math.round(view.ppi)} ppi at this size` : ''}. Drop the same photo on a word to show it through
        the letters.
      </p>
    </>
  )
}
