import { go } from '../route'
import { showLength } from '../parts/units'
import type { SheetCard } from '../types/SheetCard'

/** Sheets hang at one scale to another, so that a ticket looks smaller than a poster, within reason. */
function shown(card: SheetCard): { width: number; height: number } {
  const long = Math.max(card.width, card.height)
  const size = 200 + 150 * Math.min(1, Math.max(0, Math.log2(long / 60) / 3))
  return { width: (card.width / long) * size, height: (card.height / long) * size }
}

interface Doing {
  card: SheetCard
  onCopy: () => void
  onRemove: () => void
  /** Takes or refuses the invitation to the sheet. */
  onAnswer: (takes: boolean) => void
}

export function SheetTile({ card, onCopy, onRemove, onAnswer }: Doing) {
  if (card.invited_by !== null) return <Invitation card={card} onAnswer={onAnswer} />
  return <OwnTile card={card} onCopy={onCopy} onRemove={onRemove} />
}

/** A sheet that is not seen yet: somebody wants to share it. */
function Invitation({ card, onAnswer }: Pick<Doing, 'card' | 'onAnswer'>) {
  const size = shown(card)
  return (
    <li data-testid="invitation">
      <div className="flex flex-col justify-center gap-3 rounded-[3px] border-[1.5px] border-dashed border-ink/50 p-5" style={{ width: Math.max(220, size.width), height: Math.max(180, size.height) }}>
        <p>
          <span className="font-medium">{card.invited_by}</span> lets you {card.role === 'look' ? 'look at' : card.role} <span className="font-medium">“{card.name}”</span>.
        </p>
        <div className="flex gap-1">
          <button className="outlined" onClick={() => onAnswer(true)}>
            Take it
          </button>
          <button className="plain" onClick={() => onAnswer(false)}>
            No, thanks
          </button>
        </div>
      </div>
      <div className="mt-3 h-[66px]" aria-hidden />
    </li>
  )
}

function OwnTile({ card, onCopy, onRemove }: Omit<Doing, 'onAnswer'>) {
  const size = shown(card)
  const length = (mm: number) => showLength(mm, card.unit, card.ppi)
  return (
    <li className="group" data-testid="sheet-tile">
      <a
        href={`/sheet/${card.id}`}
        onClick={(e) => {
          if (e.metaKey || e.ctrlKey || e.shiftKey) return
          e.preventDefault()
          go(`/sheet/${card.id}`)
        }}
        className="block rounded-[3px] shadow-sheet transition-transform duration-150 group-hover:-translate-y-1"
      >
        {card.damaged ? (
          <span className="flex items-center justify-center rounded-[2px] bg-white p-4 text-center font-serif text-ink-soft italic" style={{ width: Math.max(200, size.width || 0), height: 140 }}>
            This sheet cannot be read any more.
          </span>
        ) : (
        <img
          src={`/api/sheets/${card.id}/picture?revision=${card.revision}`}
          width={Math.round(size.width)}
          height={Math.round(size.height)}
          alt={`Picture of the sheet “${card.name}”`}
          className="block rounded-[2px] bg-white"
          loading="lazy"
          decoding="async"
          fetchPriority="low"
          draggable={false}
        />
        )}
      </a>
      <div className="mt-3" style={{ width: Math.max(200, size.width) }}>
        <h2 className="truncate leading-tight font-semibold">{card.name}</h2>
        <p className="text-[13px] text-ink-soft">
          {length(card.width)} × {length(card.height)} {card.unit}, {card.ppi} ppi
          {card.role !== 'own' && `, to ${card.role === 'edit' ? 'edit' : 'look at'}`}
        </p>
        <div className="mt-1 -ml-2.5 flex opacity-0 transition-opacity group-focus-within:opacity-100 group-hover:opacity-100">
          <button className="plain py-0.5 text-[13px]" aria-label={`Copy “${card.name}”`} onClick={onCopy}>
            Copy
          </button>
          <button className="plain py-0.5 text-[13px]" aria-label={`${card.role === 'own' ? 'Remove' : 'Leave'} “${card.name}”`} onClick={onRemove}>
            {card.role === 'own' ? 'Remove' : 'Leave'}
          </button>
        </div>
      </div>
    </li>
  )
}
