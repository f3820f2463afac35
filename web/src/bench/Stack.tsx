import { useState } from 'react'
import { copyPiece } from './drag'
import { edit } from './edits'
import { labelOf } from './labels'
import { calmViewOf, select, useBench } from './store'
import { Thumb } from './Thumb'

/** The pieces from front to back. */
export function Stack() {
  const selected = useBench((s) => s.selected)
  const busy = useBench((s) => s.mode !== null)
  const sheet = useBench((s) => s.bench?.sheet)
  const others = useBench((s) => s.others)
  const [naming, setNaming] = useState<string | null>(null)
  if (!sheet || sheet.pieces.length === 0 || busy) return null
  const order = sheet.pieces.map((p, at) => ({ p, at })).reverse()
  return (
    <nav aria-label="Stack, from front to back" className="pointer-events-auto min-h-0 overflow-y-auto [scrollbar-width:thin]">
      <ul className="space-y-1.5">
        {order.map(({ p, at }) => {
          const label = labelOf(p, sheet)
          const chosen = selected === p.id
          return (
            <li
              key={p.id}
              draggable={naming !== p.id}
              className={`rounded-lg border-[1.5px] bg-leaf [contain-intrinsic-size:auto_70px] [content-visibility:auto] ${chosen ? 'border-rose' : 'border-edge'}`}
              onDragStart={(e) => e.dataTransfer.setData('text/inky-piece', p.id)}
              onDragOver={(e) => {
                if (e.dataTransfer.types.includes('text/inky-piece')) e.preventDefault()
              }}
              onDrop={(e) => {
                const piece = e.dataTransfer.getData('text/inky-piece')
                if (!piece || piece === p.id) return
                e.preventDefault()
                e.stopPropagation()
                void edit({ edit: 'order_piece', piece, to: at })
              }}
            >
              <button
                className="block w-full rounded-md p-1.5"
                aria-pressed={chosen}
                aria-label={`Select “${label}”`}
                onClick={() => select(p.id)}
                onDoubleClick={() => setNaming(p.id)}
              >
                <Picture piece={p.id} ground={sheet.background} />
                {naming !== p.id && (
                  <span className="mt-0.5 block truncate text-[12px] leading-tight font-medium">
                    {others.some((o) => o.selected === p.id) && <span className="mr-1 inline-block h-2 w-2 rounded-full bg-sea" role="img" aria-label="Selected in another tab" title="Selected in another tab" />}
                    {label}
                  </span>
                )}
              </button>
              {naming === p.id && (
                <input
                  className="field mb-1 px-1 py-0 text-[12px]"
                  aria-label="Name of the piece"
                  autoFocus
                  defaultValue={label}
                  onFocus={(e) => e.target.select()}
                  onKeyDown={(e) => {
                    if (e.key === 'Enter') e.currentTarget.blur()
                    if (e.key === 'Escape') setNaming(null)
                    e.stopPropagation()
                  }}
                  onBlur={(e) => {
                    setNaming(null)
                    if (e.target.value !== label) void edit({ edit: 'name_piece', piece: p.id, name: e.target.value })
                  }}
                />
              )}
              {chosen && (
                <div className="grid grid-cols-4 border-t border-edge text-[13px]">
                  <StackButton label="To the front" sign="↑" onClick={() => edit({ edit: 'order_piece', piece: p.id, to: at + 1 })} off={at === sheet.pieces.length - 1} />
                  <StackButton label="To the back" sign="↓" onClick={() => edit({ edit: 'order_piece', piece: p.id, to: at - 1 })} off={at === 0} />
                  <StackButton label={p.hidden ? 'Show' : 'Hide'} sign={p.hidden ? '◌' : '●'} onClick={() => edit({ edit: 'hide_piece', piece: p.id, hidden: !p.hidden })} />
                  <StackButton label={p.locked ? 'Unlock' : 'Lock'} sign={p.locked ? '⊠' : '□'} onClick={() => edit({ edit: 'lock_piece', piece: p.id, locked: !p.locked })} />
                  <button className="col-span-2 border-t border-edge py-0.5 text-[12px] hover:bg-ink/10" title="A copy in the same place (Alt with a drag takes one away)" onClick={() => void copyPiece(p.id)}>
                    Copy
                  </button>
                  <button className="col-span-2 border-t border-l border-edge py-0.5 text-[12px] hover:bg-ink/10" onClick={() => void edit({ edit: 'remove_piece', piece: p.id })}>
                    Bin
                  </button>
                </div>
              )}
            </li>
          )
        })}
      </ul>
    </nav>
  )
}

function Picture({ piece, ground }: { piece: string; ground: string }) {
  const pieceView = useBench((s) => calmViewOf(s, piece))
  if (!pieceView) return <span className="flex h-11 items-center justify-center text-[12px] text-ink-soft italic">hidden</span>
  if (pieceView.problem) return <span className="flex h-11 items-center justify-center text-[12px] text-rose italic">not drawn</span>
  return (
    <span className="block rounded-[4px] p-0.5" style={{ background: ground }}>
      <Thumb pieceView={pieceView} className="mx-auto h-11 w-full" />
    </span>
  )
}

function StackButton({ label, sign, onClick, off }: { label: string; sign: string; onClick: () => void; off?: boolean }) {
  return (
    <button
      className="py-0.5 not-first:border-l not-first:border-edge hover:bg-ink/10 disabled:text-ink/30"
      aria-label={label}
      title={label}
      disabled={off}
      onClick={onClick}
    >
      {sign}
    </button>
  )
}
