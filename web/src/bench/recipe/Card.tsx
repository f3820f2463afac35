import type { ReactNode } from 'react'
import { FileButton } from '../../parts/FileButton'
import { KeySign } from '../../parts/KeySign'

interface Props {
  label: string
  caption: string
  isOpen?: boolean
  onClick: () => void
  /** The key that opens it. */
  sign?: string
  /** One of many small ones. */
  isSmall?: boolean
  /** One more, like the last one: a button at the card's corner. */
  again?: { name: string; onClick: () => void } | undefined
  /** A drag from it to the side sets what it is about: what that is called, and what begins it. */
  pull?: { name: string; onStart: (e: React.PointerEvent) => void } | undefined
  children: ReactNode
}

/** One term of the recipe, with a live picture; it opens its controls. */
export function Card({ label, caption, sign, isOpen, onClick, isSmall, again, pull, children }: Props) {
  const card = (
    <button
      aria-expanded={isOpen}
      aria-label={`${label}: ${caption}`}
      title={`${label}: ${caption}${sign ? ` (key ${sign})` : ''}${pull ? `. Drag to the right: ${pull.name}` : ''}`}
      onClick={onClick}
      onPointerDown={pull?.onStart}
      className={`relative flex h-[86px] ${isSmall ? 'w-[70px]' : 'w-[84px]'} ${pull ? 'cursor-ew-resize touch-none' : ''} shrink-0 flex-col items-center justify-between rounded-lg px-1.5 pt-2 pb-1 transition-colors ${
        isOpen ? 'bg-ink text-leaf' : 'bg-paper hover:bg-edge/60'
      }`}
    >
      <span className="flex h-12 items-center justify-center overflow-hidden">{children}</span>
      <span className="w-full truncate text-center text-[12px] font-medium">{label}</span>
      {sign && (
        <KeySign sign={sign} className="absolute top-1 right-1" />
      )}
    </button>
  )
  if (!again) return card
  return (
    <span className="relative shrink-0">
      {card}
      <button
        className={`absolute top-1 right-1 h-6 w-6 rounded-md font-serif text-[18px] leading-none ${isOpen ? 'text-leaf hover:bg-leaf hover:text-ink' : 'hover:bg-ink hover:text-leaf'}`}
        aria-label={again.name}
        title={again.name}
        onClick={again.onClick}
      >
        +
      </button>
    </span>
  )
}

/** What stands between two terms. */
export function Sign({ children, name }: { children: ReactNode; name: string }) {
  return (
    <span className="w-5 shrink-0 text-center font-serif text-[24px] leading-none text-ink-soft" role="img" aria-label={name}>
      {children}
    </span>
  )
}

/** A button that asks for a photo file. */
export function PhotoButton({ label, ...rest }: { label: string; className: string; onFile: (file: File) => void }) {
  return <FileButton label={label} chooser={`${label}: file`} accept="image/png,image/jpeg,image/webp,image/tiff" {...rest} />
}

/** A place for one more card. */
export function AddCard({ word, isOpen, title, onClick }: { word: string; isOpen: boolean; title: string; onClick: () => void }) {
  return (
    <button
      className={`flex h-[86px] w-[44px] shrink-0 flex-col items-center justify-center rounded-lg border-[1.5px] border-dashed text-[12px] font-medium ${
        isOpen ? 'border-ink bg-ink text-leaf' : 'border-ink/50 hover:border-ink hover:bg-paper'
      }`}
      aria-expanded={isOpen}
      aria-label={`Add a ${word.toLowerCase()}`}
      title={title}
      onClick={onClick}
    >
      <span className="font-serif text-[22px] leading-none" aria-hidden>
        +
      </span>
      {word}
    </button>
  )
}
