import { useState, type ReactNode } from 'react'
import { FileButton } from '../parts/FileButton'
import { KeySign } from '../parts/KeySign'
import { giveKeysToSheet } from '../parts/focus'
import type { Figure } from '../types/Figure'
import { enterBrush, startBrushCarry } from './opening/BrushMode'
import { startWordCarry } from './lettering/carryWord'
import { enterFreeDraw, startCarry } from './opening/DrawMode'
import { figureLabel, isPicture } from './opening/forms'
import { bringIn, photosOf, pieceThrough } from './fill/photos'
import { placeOf } from './canvas/place'
import { FIGURES } from './opening/figures'
import { PIECES } from './stack/dropping'
import { enterTrace } from './opening/TraceMode'
import { bench, open, pieceOf, useBench, type OpenCard } from './state/store'

/** Shapes that are at hand; the others are one press further. */
const AT_HAND = ['ellipse', 'box', 'triangle', 'ring', 'star', 'heart']

/** The window that a photo from the shelf goes into: the selected one, unless it shows a photo already. */
export function windowForPhoto(): string | null {
  const piece = pieceOf(bench.get(), bench.get().selected)
  if (piece?.kind.kind !== 'window' || piece.locked || isPicture(piece)) return null
  return piece.kind.fills.some((f) => f.paint.kind === 'photo') ? null : piece.id
}

/** Asks for a photo file, as the key does. */
export function choosePhoto() {
  document.querySelector<HTMLInputElement>('[data-shelf] input[type=file]')?.click()
}

/** What can be laid on the sheet, at one place whatever is selected, each with a key. */
export function AddShelf() {
  const busy = useBench((s) => s.mode !== null && !['draw', 'brush', 'trace'].includes(s.mode.kind))
  const mode = useBench((s) => s.mode?.kind)
  const card = useBench((s) => s.open)
  const drawn = useBench((s) => (s.mode?.kind === 'draw' ? s.mode.figure.figure : null))
  const last = useBench((s) => s.figure)
  if (busy) return null
  const known = FIGURES.filter(({ figure }) => AT_HAND.includes(figure.figure))
  return (
    <section aria-label="Add to the sheet" data-shelf className="pointer-events-auto shrink-0 rounded-lg border-[1.5px] border-ink bg-leaf p-1 shadow-sheet">
      <Entry
        card="new-word"
        shown={card}
        name="Add lettering"
        sign="W"
        hint=". Drag it onto a photo, or onto a window with one: it shows through the word that you type. So does a photo that is dropped here"
        onCarry={(e) => startWordCarry(e, placeOf)}
        onFile={(file) => void bringIn(file, null).then(() => bench.set({ open: 'new-word' }))}
      >
        Word
      </Entry>
      <div role="group" aria-label="Shapes at hand" className="my-1 grid grid-cols-3 gap-0.5 border-y border-edge py-1">
        {known.map(({ figure, sign }) => (
          <ShapeButton key={figure.figure} figure={figure} sign={sign} isDrawn={drawn === figure.figure} isLast={last.figure === figure.figure} />
        ))}
        <ModeButton name="Paint" sign="A" isOn={mode === 'brush'} onClick={() => enterBrush(null, 'add')} onCarry={() => startBrushCarry(placeOf)} icon={<path d="M31 4l5 5-15 16-6-5Zm-18 18l6 5c-1 6-6 8-14 8 4-3 3-8 8-13Z" fill="currentColor" />} />
        <ModeButton name="Trace" sign="T" isOn={mode === 'trace'} onClick={() => enterTrace(null, 'add')} icon={<path d="M7 31C7 14 14 9 33 9M3 27h8v8H3Zm26-22h8v8h-8Z" fill="none" stroke="currentColor" strokeWidth="3.5" />} />
      </div>
      <Entry card="add-window" shown={card} name="Add a shape" sign="M">
        More
      </Entry>
      <FileButton
        label={<Face sign="I">Photo</Face>}
        name="Bring in a photo: Photo"
        chooser="Bring in a photo: file"
        accept="image/png,image/jpeg,image/webp,image/tiff,image/svg+xml,.svg"
        className="block w-full rounded-md hover:bg-ink/8"
        title="A photo: into the selected window if it shows none yet, else onto the sheet (key I)"
        onFile={(file) => void bringIn(file, windowForPhoto())}
      />
      <Entry card="stock" shown={card} name="Stock drawer" sign="K">
        Stock
      </Entry>
    </section>
  )
}

function Face({ sign, children }: { sign: string; children: ReactNode }) {
  return (
    <span className="flex w-full items-center justify-between min-h-[25px] px-1.5 py-0.5 text-[13.5px] font-semibold">
      {children}
      <KeySign sign={sign} />
    </span>
  )
}

interface EntryProps {
  card: OpenCard
  shown: OpenCard
  name: string
  sign: string
  /** What is read on it. */
  children: string
  /** What a file does that is dropped on it. */
  onFile?: (file: File) => void
  /** A drag from it to the sheet begins. */
  onCarry?: (e: React.PointerEvent) => void
  hint?: string
}

function Entry({ card, shown, name, sign, children, onFile, onCarry, hint = '' }: EntryProps) {
  const isOpen = card === shown
  const { over, ...drop } = useDrop(onFile)
  return (
    <button {...drop} onPointerDown={(e) => e.button === 0 && onCarry?.(e)} className={`block w-full touch-none rounded-md ${over ? 'bg-sea text-leaf' : isOpen ? 'bg-ink text-leaf' : 'hover:bg-ink/8'}`} aria-expanded={isOpen} aria-label={`${name}: ${children}`} title={`${name} (key ${sign})${hint}`} onClick={() => open(card)}>
      <Face sign={sign}>{children}</Face>
    </button>
  )
}

/** Takes a photo, or a piece of the stack, that is dropped here; `over` while one is held over it. */
function useDrop(onFile: ((file: File) => void) | undefined, onPiece?: (piece: string) => void) {
  const [over, setOver] = useState(false)
  if (!onFile) return { over: false }
  return {
    over,
    onDragOver: (e: React.DragEvent) => {
      e.preventDefault()
      setOver(true)
    },
    onDragLeave: () => setOver(false),
    onDrop: (e: React.DragEvent) => {
      e.preventDefault()
      setOver(false)
      const [piece, ...more] = e.dataTransfer.getData(PIECES).split(' ')
      if (piece && more.length === 0) onPiece?.(piece)
      for (const file of photosOf(e.dataTransfer)) onFile(file)
    },
  }
}

interface ShapeProps {
  figure: Figure
  sign: ReactNode
  isDrawn: boolean
  /** It was drawn last. */
  isLast: boolean
}

interface ModeProps {
  name: string
  sign: string
  isOn: boolean
  onClick: () => void
  onCarry?: () => void
  icon: ReactNode
}

/** A press begins a way of drawing; a drag from a brush to the sheet paints at once. */
function ModeButton({ name, sign, isOn, onClick, onCarry, icon }: ModeProps) {
  return (
    <button
      aria-label={name}
      aria-pressed={isOn}
      title={`${name} (key ${sign})`}
      className={`touch-none rounded-[5px] ${isOn ? 'bg-ink text-leaf' : 'hover:bg-ink/10'}`}
      onClick={() => {
        giveKeysToSheet()
        onClick()
      }}
      onPointerDown={(e) => e.button === 0 && onCarry?.()}
    >
      <svg viewBox="0 0 40 40" className="mx-auto h-6 w-6" aria-hidden>
        {icon}
      </svg>
    </button>
  )
}

/** A press draws the shape next; a drag takes one to the sheet. A photo or a piece that is dropped on it shows through such a shape. */
function ShapeButton({ figure, sign, isDrawn, isLast }: ShapeProps) {
  const name = figureLabel(figure.figure)
  const { over, ...drop } = useDrop((file) => void bringIn(file, null, figure), (piece) => void pieceThrough(piece, figure))
  return (
    <button
      aria-label={`Draw ${name.toLowerCase()}`}
      aria-pressed={isDrawn}
      title={`${name}: press and draw, or drag it onto the sheet. A photo or a piece of the stack that is dropped here shows through one${isLast ? ' (key D)' : ''}`}
      className={`touch-none rounded-[5px] ${over ? 'bg-sea text-leaf' : isDrawn ? 'bg-ink text-leaf' : isLast ? 'bg-ink/10 hover:bg-ink/20' : 'hover:bg-ink/10'}`}
      onClick={() => {
        giveKeysToSheet()
        enterFreeDraw(figure)
      }}
      onPointerDown={(e) => e.button === 0 && startCarry(e, figure, placeOf)}
      {...drop}
    >
      <svg viewBox="0 0 40 40" className="mx-auto h-6 w-6" aria-hidden>
        {sign}
      </svg>
    </button>
  )
}
