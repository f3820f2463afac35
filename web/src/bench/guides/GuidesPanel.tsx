import type { GuideLine } from '../../types/GuideLine'
import type { GuideWay } from '../../types/GuideWay'
import type { Margins } from '../../types/Margins'
import { LengthField, PlainField, Tick } from '../recipe/fields'
import { showRulers, useBench } from '../state/store'
import { amendGuides, guidesOf, NO_MARGINS, PRESETS } from './layout'

const SIDES: readonly (readonly [keyof Margins, string])[] = [
  ['left', 'Left'],
  ['top', 'Top'],
  ['right', 'Right'],
  ['bottom', 'Bottom'],
]

/** Margins, columns, rows, baselines and guides of the sheet, in numbers. */
export function GuidesPanel() {
  const sheet = useBench((s) => s.bench?.sheet)
  const rulers = useBench((s) => s.rulers)
  if (!sheet) return null
  const guides = guidesOf(sheet)
  const margins = guides.margins ?? NO_MARGINS
  return (
    <div className="w-[640px]">
      <div className="flex flex-wrap items-center gap-1.5" role="group" aria-label="Ready arrangements">
        {PRESETS.map(([name, make]) => (
          <button key={name} className="outlined py-0.5 text-[13.5px]" onClick={() => void amendGuides((g) => ({ ...make(sheet), ...(g.lines ? { lines: g.lines } : {}) }))}>
            {name}
          </button>
        ))}
      </div>
      <div className="mt-3 grid grid-cols-[1fr_1fr] gap-x-8">
        <fieldset>
          <legend className="text-[13.5px] font-medium">Margins</legend>
          <div className="mt-1 grid grid-cols-2 gap-x-3 gap-y-1.5">
            {SIDES.map(([side, name]) => (
              <LengthField key={side} label={name} value={margins[side]} least={0} onChange={(v, g) => void amendGuides((all) => ({ ...all, margins: { ...(all.margins ?? NO_MARGINS), [side]: v } }), g)} />
            ))}
          </div>
        </fieldset>
        <fieldset>
          <legend className="text-[13.5px] font-medium">Between the margins</legend>
          <div className="mt-1 grid grid-cols-3 gap-x-3 gap-y-1.5">
            <PlainField label="Columns" value={guides.columns ?? 1} digits={0} min={1} max={50} onChange={(columns, g) => void amendGuides((all) => ({ ...all, columns: Math.round(columns) }), g)} />
            <PlainField label="Rows" value={guides.rows ?? 1} digits={0} min={1} max={50} onChange={(rows, g) => void amendGuides((all) => ({ ...all, rows: Math.round(rows) }), g)} />
            <LengthField label="Gaps" value={guides.gutter ?? 0} least={0} onChange={(gutter, g) => void amendGuides((all) => ({ ...all, gutter }), g)} />
            <Baselines />
          </div>
        </fieldset>
      </div>
      <p className="mt-3 text-[13.5px] font-medium">Guides</p>
      <div className="mt-1 grid max-h-[104px] grid-cols-4 gap-x-3 gap-y-1.5 overflow-y-auto">
        {(guides.lines ?? []).map((line) => (
          <OneGuide key={line.id} line={line} />
        ))}
        <div className="col-span-2 flex items-end gap-1.5 whitespace-nowrap">
          <button className="outlined py-1 text-[13.5px]" onClick={() => add('upright', sheet.width / 2)}>
            Add upright
          </button>
          <button className="outlined py-1 text-[13.5px]" onClick={() => add('level', sheet.height / 2)}>
            Add level
          </button>
        </div>
      </div>
      <div className="mt-3 flex items-center gap-6">
        <Tick checked={rulers} onChange={showRulers}>
          Rulers: pull guides out of them (X)
        </Tick>
        <Tick checked={guides.hidden ?? false} onChange={(hidden) => void amendGuides((all) => ({ ...all, hidden }))}>
          Hide all of it, and snap to none
        </Tick>
      </div>
    </div>
  )
}

const add = (way: GuideWay, at: number) => void amendGuides((all) => ({ ...all, hidden: false, lines: [...(all.lines ?? []), { id: crypto.randomUUID(), way, at }] }))

function OneGuide({ line }: { line: GuideLine & { id?: string } }) {
  const change = (to: number | null, gesture?: string) =>
    void amendGuides((all) => ({ ...all, lines: (all.lines ?? []).flatMap((g) => (g.id !== line.id ? [g] : to === null ? [] : [{ ...g, at: to }])) }), gesture)
  const name = line.way === 'upright' ? 'Upright' : 'Level'
  return (
    <div className="flex items-end gap-1">
      <LengthField label={name} value={line.at} onChange={change} />
      <button className="plain px-1.5" aria-label={`Take the ${name.toLowerCase()} guide away`} title="Take it away" onClick={() => change(null)}>
        ✕
      </button>
    </div>
  )
}

/** Lines for type to stand on. */
function Baselines() {
  const baselines = useBench((s) => guidesOf(s.bench?.sheet).baselines)
  const set = (change: Partial<{ first: number; step: number }>, gesture?: string) =>
    void amendGuides((all) => ({ ...all, baselines: { first: 0, step: 5, ...all.baselines, ...change } }), gesture)
  const clear = () =>
    void amendGuides(({ baselines: _, ...rest }) => rest)
  return (
    <>
      <div className="flex items-end pb-1.5">
        <Tick checked={baselines !== undefined} onChange={(on) => (on ? set({}) : clear())}>
          Baselines
        </Tick>
      </div>
      {baselines && <LengthField label="First" value={baselines.first} least={0} onChange={(first, g) => set({ first }, g)} />}
      {baselines && <LengthField label="Step" value={baselines.step} least={0.5} onChange={(step, g) => set({ step }, g)} />}
    </>
  )
}
