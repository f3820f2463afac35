import type { Opening } from '../../types/Opening'
import { enterCells } from '../CellsMode'
import { change, windowOf } from '../forms'
import { bench, layerOf, useBench } from '../store'
import { LengthField } from './fields'

/** The joined outline as a whole: grown, rounded, simplified; its cells; baked. */
export function OpeningPanel() {
  const piece = useBench((s) => s.selected) ?? ''
  const opening = useBench((s) => windowOf(s, s.selected)?.opening)
  const nodes = useBench((s) => layerOf(s, s.selected)?.nodes) ?? 0
  const before = useBench((s) => layerOf(s, s.selected)?.nodes_before) ?? 0
  if (!opening) return null
  const now = { grow: opening.grow, rounding: opening.rounding, simplify: opening.simplify }
  const set = (part: Partial<Pick<Opening, 'grow' | 'rounding' | 'simplify'>>, gesture: string) =>
    void change(piece, { change: 'reshape', ...now, ...part }, gesture)
  const bake = async () => {
    const form = crypto.randomUUID()
    if (await change(piece, { change: 'bake_all', form })) bench.set({ forms: [form] })
  }
  return (
    <div className="w-[560px]">
      <div className="grid grid-cols-3 gap-4">
        <LengthField label="Grow or shrink" value={opening.grow} step={0.5} slider={{ min: -20, max: 20 }} onChange={(grow, g) => set({ grow }, g)} />
        <LengthField label="Round corners" value={opening.rounding} step={0.5} least={0} slider={{ min: 0, max: 30 }} onChange={(rounding, g) => set({ rounding }, g)} />
        <LengthField label="Simplify within" value={opening.simplify} step={0.05} least={0} slider={{ min: 0, max: 3 }} onChange={(simplify, g) => set({ simplify }, g)} />
      </div>
      <div className="mt-3 flex flex-wrap items-center gap-2">
        <button className="strong" onClick={() => void enterCells(piece)}>
          Take and leave cells
        </button>
        {(opening.cells?.length ?? 0) > 0 && (
          <button className="plain" onClick={() => void change(piece, { change: 'set_cells', cells: [] })}>
            Back to the joins alone
          </button>
        )}
        <button className="plain" title="One contour of nodes in place of all forms; undo brings them back" onClick={() => void bake()}>
          Bake the opening
        </button>
        <span className="ml-auto text-[13px] text-ink-soft tabular-nums" data-testid="opening-nodes">
          {before > nodes ? `${before.toLocaleString('en')} nodes, simplified to ${nodes.toLocaleString('en')}` : `${nodes.toLocaleString('en')} nodes`}
        </span>
      </div>
    </div>
  )
}
