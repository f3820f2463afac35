import { useState } from 'react'
import type { Piece } from '../../types/Piece'
import { edit } from '../edits'
import { hidePieces, lockPieces } from '../pieces'
import { chosen, isChosen } from '../selection'
import { bench, calmViewOf, useBench } from '../store'
import { Thumb } from '../Thumb'

interface Props {
  piece: Piece
  label: string
  /** The colour it lies on. */
  ground: string
  /** So many bundles are around it. */
  depth: number
  /** Where what is dragged would come to lie. */
  marked: 'above' | 'below' | null
  onPress: (piece: string, e: React.MouseEvent) => void
  /** Something is dragged over its upper or lower half. */
  onOver: (upper: boolean) => void
  onDropped: (pieces: readonly string[]) => void
}

/** What a drag of pieces out of the stack carries: their identifiers. */
export const PIECES = 'text/inky-piece'

/** One piece of the stack. */
export function StackRow({ piece, label, ground, depth, marked, onPress, onOver, onDropped }: Props) {
  const isOn = useBench((s) => isChosen(s, piece.id))
  const isKey = useBench((s) => s.selected === null && s.several.at(-1) === piece.id)
  const elsewhere = useBench((s) => s.others.some((o) => o.selected === piece.id))
  const [naming, setNaming] = useState(false)
  return (
    <li
      draggable={!naming}
      className={`relative flex items-center [contain-intrinsic-size:auto_46px] [content-visibility:auto] ${isOn ? 'bg-rose/12' : 'hover:bg-ink/5'} ${marked === 'above' ? 'shadow-[inset_0_3px_0_var(--color-sea)]' : marked === 'below' ? 'shadow-[inset_0_-3px_0_var(--color-sea)]' : ''}`}
      style={{ paddingLeft: depth * 12 }}
      onDragStart={(e) => {
        const now = chosen(bench.get())
        e.dataTransfer.setData(PIECES, (now.includes(piece.id) ? now : [piece.id]).join(' '))
      }}
      onDragOver={(e) => {
        if (!e.dataTransfer.types.includes(PIECES)) return
        e.preventDefault()
        const box = e.currentTarget.getBoundingClientRect()
        onOver(e.clientY < box.top + box.height / 2)
      }}
      onDrop={(e) => {
        const pieces = e.dataTransfer.getData(PIECES)
        if (!pieces) return
        e.preventDefault()
        e.stopPropagation()
        onDropped(pieces.split(' '))
      }}
    >
      <span className={`absolute inset-y-0 left-0 w-[3px] ${isOn ? 'bg-rose' : ''}`} aria-hidden />
      <button
        className={`flex min-w-0 grow items-center gap-2 py-1 pr-1 pl-2.5 text-left ${piece.hidden ? 'opacity-55' : ''}`}
        aria-pressed={isOn}
        aria-label={`Select “${label}”`}
        title={`${label}. Shift takes all up to it, Ctrl this one too; a double press names it`}
        onClick={(e) => onPress(piece.id, e)}
        onDoubleClick={() => setNaming(true)}
      >
        <Picture piece={piece.id} ground={ground} />
        {!naming && (
          <span className="line-clamp-2 min-w-0 grow text-[13px] leading-[1.15] font-medium break-words">
            {elsewhere && <span className="mr-1 inline-block h-2 w-2 rounded-full bg-sea" role="img" aria-label="Selected in another tab" title="Selected in another tab" />}
            {label}
            {isKey && <span className="ml-1 text-[11px] font-normal whitespace-nowrap text-rose" title="Others can be lined up with it">last</span>}
          </span>
        )}
      </button>
      {naming && (
        <input
          className="field mr-1 min-w-0 px-1 py-0.5 text-[13px]"
          aria-label="Name of the piece"
          autoFocus
          defaultValue={label}
          onFocus={(e) => e.target.select()}
          onKeyDown={(e) => {
            if (e.key === 'Enter') e.currentTarget.blur()
            if (e.key === 'Escape') setNaming(false)
            e.stopPropagation()
          }}
          onBlur={(e) => {
            setNaming(false)
            if (e.target.value !== label) void edit({ edit: 'name_piece', piece: piece.id, name: e.target.value })
          }}
        />
      )}
      {!naming && (piece.hidden || piece.locked) && (
        <span className="mr-1.5 flex shrink-0 flex-col gap-0.5">
          {piece.hidden && <State label={`Show “${label}”`} word="hidden" onClick={() => void hidePieces([piece.id])} />}
          {piece.locked && <State label={`Unlock “${label}”`} word="locked" onClick={() => void lockPieces([piece.id])} />}
        </span>
      )}
    </li>
  )
}

/** What a piece is that it should not stay for ever: a press ends it. */
function State({ label, word, onClick }: { label: string; word: string; onClick: () => void }) {
  return (
    <button className="min-h-6 rounded-full border border-ink/50 px-1.5 text-[11.5px] leading-none hover:bg-ink hover:text-leaf" aria-label={label} title={label} onClick={onClick}>
      {word}
    </button>
  )
}

function Picture({ piece, ground }: { piece: string; ground: string }) {
  const pieceView = useBench((s) => calmViewOf(s, piece))
  const box = 'flex h-[36px] w-[46px] shrink-0 items-center justify-center rounded-[4px]'
  if (!pieceView) return <span className={`${box} bg-ink/5 text-[11px] text-ink-soft italic`}>hidden</span>
  if (pieceView.problem) return <span className={`${box} text-center text-[11px] leading-none text-rose italic`}>not drawn</span>
  return (
    <span className={`${box} p-0.5`} style={{ background: ground }}>
      <Thumb pieceView={pieceView} className="h-full w-full" />
    </span>
  )
}
