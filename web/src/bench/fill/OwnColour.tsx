import { useRef } from 'react'
import type { Edit } from '../../types/Edit'
import type { Fill } from '../../types/Fill'
import type { PanePath } from '../../types/PanePath'
import { edit } from '../state/edits'
import { bench, pieceOf, useBench, type BenchState } from '../state/store'
import { useInks } from './inks'

/** A pane or a member of a window, or a member of the repeated bundle around it. */
export type PartOfWindow = { pane: PanePath } | { member: number } | { bundle_member: number }

const isOf = (part: PartOfWindow) => (f: Fill) =>
  'pane' in part ? f.pane !== undefined && JSON.stringify(f.pane) === JSON.stringify(part.pane) : 'member' in part ? f.member === part.member : f.bundle_member === part.bundle_member

/** What a pane or a member shows in place of what the others show. */
const ownFills = (s: BenchState, piece: string, part: PartOfWindow) => pieceOf(s, piece)?.kind.fills.filter(isOf(part)) ?? []

const isPlain = ({ paint: { kind } }: Fill) => kind === 'colour' || kind === 'ink' || kind === 'gradient'

/** The edits that give a part this colour, and nothing else of its own. */
function coloured(s: BenchState, piece: string, part: PartOfWindow, colour: string): Edit[] {
  const own = ownFills(s, piece, part)
  const [first, ...others] = own
  if (first && isPlain(first) && others.length === 0) return [{ edit: 'set_fill', piece, fill: { ...first, paint: { kind: 'colour', colour } } }]
  const fill: Fill = { id: crypto.randomUUID(), paint: { kind: 'colour', colour }, follows_opening: true, ...part }
  return [...own.map((f): Edit => ({ edit: 'remove_fill', piece, fill: f.id })), { edit: 'add_fill', piece, fill }]
}

/** A colour for one pane or member, and a way back to what the others show. */
export function OwnColour({ piece, part }: { piece: string; part: PartOfWindow }) {
  const gesture = useRef('')
  const inks = useInks()
  const plain = useBench((s) => ownFills(s, piece, part).find(isPlain)?.paint)
  const hasOwn = useBench((s) => ownFills(s, piece, part).length > 0)
  const ink = plain?.kind === 'ink' ? inks.find((i) => i.id === plain.ink)?.mix : undefined
  const colour = plain?.kind === 'colour' ? plain.colour : ink?.mix === 'colour' ? ink.colour : '#e9722f'
  return (
    <>
      <label className="flex items-center gap-1.5 rounded-md border-[1.5px] border-edge py-1 pr-1 pl-2.5 text-[14px] font-medium" title="One colour in place of what the others show">
        Colour
        <input
          type="color"
          aria-label="A colour of its own"
          className="h-6 w-9 cursor-pointer rounded-sm bg-leaf"
          value={colour}
          onPointerDown={() => {
            gesture.current = crypto.randomUUID()
          }}
          onChange={(e) => {
            const to = e.target.value
            void edit(() => coloured(bench.get(), piece, part, to), gesture.current || crypto.randomUUID())
          }}
        />
      </label>
      {hasOwn && (
        <button className="plain border-[1.5px] border-edge" title="It shows what the others show" onClick={() => void edit(() => ownFills(bench.get(), piece, part).map((f): Edit => ({ edit: 'remove_fill', piece, fill: f.id })))}>
          As the others
        </button>
      )}
    </>
  )
}
