import type { Opening } from '../../types/Opening'
import type { OpenSide } from '../../types/OpenSide'
import type { Side } from '../../types/Side'
import { WORDS } from '../../parts/Radios'
import { enterCells } from './CellsMode'
import { edit } from '../state/edits'
import { change, windowOf } from './forms'
import { closedBounds, openSidesOf, room, setSides, SIDES } from './openSides'
import { bench, viewOf, useBench } from '../state/store'
import { LengthField, PlainField } from '../recipe/fields'

/** The joined outline as a whole: grown, rounded, simplified; its cells; baked. */
export function OpeningPanel() {
  const piece = useBench((s) => s.selected) ?? ''
  const opening = useBench((s) => windowOf(s, s.selected)?.opening)
  const nodes = useBench((s) => viewOf(s, s.selected)?.nodes) ?? 0
  const before = useBench((s) => viewOf(s, s.selected)?.nodes_before) ?? 0
  if (!opening) return null
  const set = (part: Partial<Pick<Opening, 'grow' | 'rounding' | 'simplify'>>, gesture: string) =>
    void edit(() => {
      const { grow, rounding, simplify } = windowOf(bench.get(), piece)?.opening ?? opening
      return { edit: 'opening', piece, change: 'reshape', grow, rounding, simplify, ...part }
    }, gesture)
  return (
    <div className="w-[560px]">
      <div className="grid grid-cols-3 gap-4">
        <LengthField label="Grow or shrink" value={opening.grow} step={0.5} slider={{ min: -20, max: 20 }} onChange={(grow, g) => set({ grow }, g)} />
        <LengthField label="Round corners" value={opening.rounding} step={0.5} least={0} slider={{ min: 0, max: 30 }} onChange={(rounding, g) => set({ rounding }, g)} />
        <LengthField label="Simplify within" value={opening.simplify} step={0.05} least={0} slider={{ min: 0, max: 3 }} onChange={(simplify, g) => set({ simplify }, g)} />
      </div>
      <OpenSides piece={piece} />
      <div className="mt-3 flex flex-wrap items-center gap-2">
        <button className="strong" onClick={() => void enterCells(piece)}>
          Take and leave cells
        </button>
        {(opening.cells?.length ?? 0) > 0 && (
          <button className="plain" onClick={() => void change(piece, { change: 'set_cells', cells: [] })}>
            Back to the joins alone
          </button>
        )}
        <span className="ml-auto text-[13px] text-ink-soft tabular-nums" data-testid="opening-nodes">
          {before > nodes ? `${before.toLocaleString('en')} nodes, simplified to ${nodes.toLocaleString('en')}` : `${nodes.toLocaleString('en')} nodes`}
        </span>
      </div>
    </div>
  )
}

/** Stretches of the edge at which nothing is cut: the opening goes on there, in line with its outermost points. */
function OpenSides({ piece }: { piece: string }) {
  const bounds = useBench((s) => closedBounds(s, piece))
  const open = useBench((s) => openSidesOf(s, piece))
  if (!bounds) return null
  const set = (sides: OpenSide[], gesture: string = crypto.randomUUID()) => void edit(setSides(piece, sides), gesture)
  const amend = (k: number, part: Partial<OpenSide>, gesture: string) => set(open.map((s, i) => (i === k ? { ...s, ...part } : s)), gesture)
  const whole = (side: Side): OpenSide => ({ side, from: 0, to: 1, far: room(bench.get(), bounds, side) })
  return (
    <div className="mt-3">
      <div className="flex items-center gap-1" role="group" aria-label="Nothing is cut at">
        <span className="tag mr-1">Open at the</span>
        {SIDES.map(([side, text]) => {
          const on = open.some((s) => s.side === side)
          return (
            <button
              key={side}
              className={WORDS}
              data-checked={on ? '' : undefined}
              aria-pressed={on}
              title={on ? 'Cut here again' : 'Nothing is cut here'}
              onClick={() => set(on ? open.filter((s) => s.side !== side) : [...open, whole(side)])}
            >
              {text}
            </button>
          )
        })}
        <span className="ml-2 text-[13px] text-ink-soft">or drag along a rail beside the opening</span>
      </div>
      {open.map((s, k) => (
        <div key={k} className="mt-2 grid grid-cols-[64px_1fr_1fr_1fr_auto] items-end gap-3">
          <span className="pb-1.5 text-[14px]">{SIDES.find(([side]) => side === s.side)?.[1]}</span>
          <PlainField label="From, %" value={s.from} factor={100} digits={0} min={0} max={s.to * 100 - 1} onChange={(from, g) => amend(k, { from }, g)} />
          <PlainField label="To, %" value={s.to} factor={100} digits={0} min={s.from * 100 + 1} max={100} onChange={(to, g) => amend(k, { to }, g)} />
          <LengthField label="Goes on for" value={s.far} step={5} least={0} onChange={(reach, g) => amend(k, { far: reach }, g)} />
          <button className="plain mb-0.5 text-[13.5px]" onClick={() => set(open.filter((_, i) => i !== k))}>
            Cut here
          </button>
        </div>
      ))}
    </div>
  )
}
