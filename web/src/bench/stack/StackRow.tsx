import { useState } from 'react'
import type { Piece } from '../../types/Piece'
import { edit } from '../state/edits'
import { hidePieces, lockPieces } from '../state/pieces'
import { chosen, isChosen } from '../state/selection'
import { bench, calmViewOf, useBench } from '../state/store'
import { Thumb } from '../canvas/Thumb'
import { markOf, PIECES, takesPieces, type DropProps } from './dropping'
import { NameInput } from './NameInput'

interface Props extends DropProps {
  piece: Piece
  label: string
  /** The colour it lies on. */
  ground: string
  /** So many bundles are around it. */
  depth: number
  onPress: (piece: string, e: React.MouseEvent) => void
}

/** One piece of the stack. */
export function StackRow({ piece, label, ground, depth, onPress, ...drop }: Props) {
  const isOn = useBench((s) => isChosen(s, piece.id))
  const isKey = useBench((s) => s.selected === null && s.several.at(-1) === piece.id)
  const elsewhere = useBench((s) => s.others.some((o) => o.selected === piece.id))
  const [naming, setNaming] = useState(false)
  return (
    <li
      draggable={!naming}
      className={`relative flex items-center [contain-intrinsic-size:auto_46px] [content-visibility:auto] ${isOn ? 'bg-rose/12' : 'hover:bg-ink/5'} ${markOf(drop.marked)}`}
      style={{ paddingLeft: depth * 12 }}
      onDragStart={(e) => {
        const now = chosen(bench.get())
        e.dataTransfer.setData(PIECES, (now.includes(piece.id) ? now : [piece.id]).join(' '))
      }}
      {...takesPieces(drop)}
    >
      <span className={`absolute inset-y-0 left-0 w-[3px] ${isOn ? 'bg-rose' : ''}`} aria-hidden />
      <button
        className={`flex min-w-0 grow items-center gap-2 py-1 pr-1 pl-2.5 text-left ${piece.hidden ? 'opacity-75' : ''}`}
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
          </span>
        )}
      </button>
      {!naming && isKey && (
        <span className="mr-2 self-center text-[11.5px] font-medium whitespace-nowrap" title="Taken last: others can be lined up with it">
          last
        </span>
      )}
      {naming && (
        <NameInput label="Name of the piece" name={label} onTake={(name) => void edit({ edit: 'name_piece', piece: piece.id, name })} onEnd={() => setNaming(false)} />
      )}
      {!naming && (piece.hidden || piece.locked) && (
        <span className="mr-1.5 flex shrink-0 flex-col gap-0.5">
          {piece.hidden && <State label={`hidden: show “${label}”`} word="hidden" onClick={() => void hidePieces([piece.id])} />}
          {piece.locked && <State label={`locked: unlock “${label}”`} word="locked" onClick={() => void lockPieces([piece.id])} />}
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
  if (!pieceView) return <span className={`${box} border border-dashed border-ink/50`} title="Hidden" />
  if (pieceView.problem) {
    return (
      <span className={`${box} border border-rose`} title="It cannot be drawn">
        <svg viewBox="0 0 46 36" aria-hidden>
          <path d="M2 2 44 34M44 2 2 34" stroke="var(--color-rose)" strokeWidth="1.5" />
        </svg>
      </span>
    )
  }
  return (
    <span className={`${box} p-0.5`} style={{ background: ground }}>
      <Thumb pieceView={pieceView} className="h-full w-full" />
    </span>
  )
}
