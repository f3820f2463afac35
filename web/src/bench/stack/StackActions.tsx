import { useMemo } from 'react'
import { useShallow } from 'zustand/react/shallow'
import { copyPieces } from '../canvas/drag'
import { hidePieces, lockPieces, raisedNow, raisePieces, removePieces, type Raise } from '../state/pieces'
import { chosen } from '../state/selection'
import { pieceOf, useBench } from '../state/store'

const RAISES: readonly (readonly [Raise, string])[] = [
  ['forward', 'Forward'],
  ['front', 'To the front'],
  ['backward', 'Backward'],
  ['back', 'To the back'],
]

const PRESS = 'min-h-[26px] rounded-md text-[12px] font-medium hover:bg-ink/10 disabled:text-ink/30 disabled:hover:bg-transparent'

/** What is done to the selected pieces as such. */
export function StackActions() {
  const pieces = useBench(useShallow(chosen))
  const bench = useBench((s) => s.bench)
  const inside = useBench((s) => s.inside)
  const stuck = useMemo(() => RAISES.map(([how]) => raisedNow({ bench, inside }, pieces, how).every((p, k) => p === bench?.sheet.pieces[k]?.id)), [bench, inside, pieces])
  const hidden = useBench((s) => pieces.every((p) => pieceOf(s, p)?.hidden))
  const locked = useBench((s) => pieces.every((p) => pieceOf(s, p)?.locked))
  if (pieces.length === 0) return <p className="px-3 py-1.5 text-[12.5px] text-ink-soft">Ctrl A selects all of them.</p>
  return (
    <div role="group" aria-label="Selected pieces" className="grid grid-cols-4 px-1.5 py-1">
      {RAISES.map(([how, label], k) => (
        <button key={how} className={`${PRESS} col-span-2`} disabled={stuck[k] === true} onClick={() => void raisePieces(pieces, how)}>
          {label}
        </button>
      ))}
      <button className={PRESS} title="A copy in the same place (Alt with a drag takes one away, N makes another as far away again)" onClick={() => void copyPieces(pieces)}>
        Copy
      </button>
      <button className={PRESS} title={`${hidden ? 'Show' : 'Hide'} (key H)`} onClick={() => void hidePieces(pieces)}>
        {hidden ? 'Show' : 'Hide'}
      </button>
      <button className={PRESS} onClick={() => void lockPieces(pieces)}>
        {locked ? 'Unlock' : 'Lock'}
      </button>
      <button className={PRESS} title="Remove (Delete)" onClick={() => void removePieces(pieces)}>
        Remove
      </button>
    </div>
  )
}
