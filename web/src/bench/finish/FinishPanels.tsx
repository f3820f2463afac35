import { useState } from 'react'
import type { FadeSide } from '../../types/FadeSide'
import type { Finish } from '../../types/Finish'
import type { LineSide } from '../../types/LineSide'
import type { Rim } from '../../types/Rim'
import { edit } from '../state/edits'
import { amendFinish, finishOf } from '../fill/fills'
import { windowOf } from '../opening/forms'
import { labelOf } from '../state/labels'
import { newMember } from '../state/newMember'
import { bench, useBench } from '../state/store'
import { ChoiceField, LengthField, PlainField, Tick } from '../recipe/fields'
import { Chips } from '../recipe/Chips'
import { PaintField } from '../fill/PaintField'
import { ShadowList } from './ShadowList'

const SIDES: readonly (readonly [LineSide, string])[] = [
  ['inside', 'Inside'],
  ['centre', 'On the edge'],
  ['outside', 'Outside'],
]
const FADES: readonly (readonly [FadeSide, string])[] = [
  ['both', 'Both ways'],
  ['inward', 'Inward'],
  ['outward', 'Outward'],
]
function useFinish() {
  const piece = useBench((s) => s.selected) ?? ''
  const window = useBench((s) => windowOf(s, s.selected))
  const set = (change: Partial<Finish> | ((f: Finish) => Finish), gesture: string) =>
    void amendFinish(piece, typeof change === 'function' ? change : (f) => ({ ...f, ...change }), gesture)
  return { piece, finish: window ? finishOf(window) : null, set }
}

/** The edge of the whole window: how it fades, how opaque it is, which side shows. */
export function EdgePanel() {
  const { piece, finish, set } = useFinish()
  const sheet = useBench((s) => s.bench?.sheet)
  if (!finish || !sheet) return null
  const soft = finish.softness ?? { width: 0, side: 'both' }
  const others = sheet.pieces.filter((p) => p.id !== piece && p.kind.kind === 'window' && !p.locked)
  return (
    <div className="w-[560px]">
      <div data-first-field className="grid grid-cols-[1fr_auto_1fr] gap-5">
        <LengthField label="Softness" value={soft.width} step={0.5} least={0} slider={{ min: 0, max: 40 }} onChange={(width, g) => set({ softness: { ...soft, width } }, g)} />
        <ChoiceField label="It fades" options={FADES} value={soft.side} onChange={(side) => set({ softness: { ...soft, side } }, crypto.randomUUID())} />
        <PlainField label="Strength, %" value={finish.strength ?? 1} factor={100} digits={0} min={0} max={100} slider onChange={(strength, g) => set({ strength }, g)} />
      </div>
      <div className="mt-3 flex items-center justify-between gap-4">
        <Tick checked={finish.negative ?? false} onChange={(negative) => set({ negative }, crypto.randomUUID())}>
          Negative: the outside shows instead
        </Tick>
        {others.length > 0 && (
          <label className="tag flex items-center gap-2">
            Same finish for
            <select
              className="field w-44 text-[15px]"
              value=""
              onChange={(e) => e.target.value && void edit({ edit: 'set_finish', piece: e.target.value, finish })}
            >
              <option value="">another window…</option>
              {others.map((p) => (
                <option key={p.id} value={p.id}>
                  {labelOf(p, sheet)}
                </option>
              ))}
            </select>
          </label>
        )}
      </div>
    </div>
  )
}

/** Lines along the edge of the opening. */
export function RimsPanel() {
  const { finish, set } = useFinish()
  const [chosen, setChosen] = useState(0)
  if (!finish) return null
  const rims = finish.rims ?? []
  const at = Math.min(chosen, rims.length - 1)
  const rim = rims[at]
  const amend = (change: Partial<Rim>, gesture: string) =>
    set((f) => ({ ...f, rims: (f.rims ?? []).map((r, k) => (k === at ? { ...r, ...change } : r)) }), gesture)
  const add = () => {
    set((f) => ({ ...f, rims: [...(f.rims ?? []), newMember(bench.get().lastRim)] }), crypto.randomUUID())
    setChosen(rims.length)
  }
  return (
    <div className="w-[640px]">
      <Chips names={rims.map((r, k) => ({ name: `Rim ${k + 1}`, off: r.off ?? false }))} at={at} onChoose={setChosen}>
        <button className="outlined py-0.5 text-[13.5px]" data-first={rim ? undefined : true} onClick={add}>
          Add a rim
        </button>
      </Chips>
      {rim && (
        <div className="grid grid-cols-[210px_1fr] gap-6">
          <div className="space-y-2.5">
            <div data-first-field>
              <LengthField label="Width" value={rim.width} step={0.25} least={0} slider={{ min: 0, max: 20 }} onChange={(width, g) => amend({ width }, g)} />
            </div>
            <ChoiceField label="Side" options={SIDES} value={rim.side} onChange={(side) => amend({ side }, crypto.randomUUID())} />
            <Dashes dashes={rim.dashes ?? []} width={rim.width} onChange={(dashes, g) => amend({ dashes }, g)} />
            <Tick checked={rim.round} onChange={(round) => amend({ round }, crypto.randomUUID())}>
              Round ends and corners
            </Tick>
            <Tick checked={rim.over} onChange={(over) => amend({ over }, crypto.randomUUID())}>
              Over what breaks out
            </Tick>
            <div className="flex gap-1">
              <button className="plain" onClick={() => amend({ off: !rim.off }, crypto.randomUUID())}>
                {rim.off ? 'Switch on' : 'Switch off'}
              </button>
              <button className="plain" onClick={() => set((f) => ({ ...f, rims: (f.rims ?? []).filter((_, k) => k !== at) }), crypto.randomUUID())}>
                Remove
              </button>
            </div>
          </div>
          <PaintField label="Painted with" paint={rim.paint} onChange={(paint, g) => amend({ paint }, g)} />
        </div>
      )}
      {!rim && <p className="max-w-md text-[13.5px] text-ink-soft">An opening has no line of its own: a rim draws one along its edge, inside, outside or on it.</p>}
    </div>
  )
}

/** A line with or without gaps; lengths as shares of what looks right for its width. */
function Dashes({ dashes, width, onChange }: { dashes: number[]; width: number; onChange: (dashes: number[], gesture: string) => void }) {
  const kind = dashes.length === 0 ? 'line' : 'dashes'
  return (
    <div>
      <ChoiceField
        label="Line"
        options={[
          ['line', 'Whole'],
          ['dashes', 'Dashed'],
        ]}
        value={kind}
        onChange={(next) => onChange(next === 'line' ? [] : [Math.max(width * 3, 0.5), Math.max(width * 2, 0.5)], crypto.randomUUID())}
      />
      {dashes.length > 0 && (
        <div className="mt-1.5 grid grid-cols-2 gap-2">
          <LengthField label="Dash" value={dashes[0] ?? 1} step={0.25} least={0} onChange={(v, g) => onChange([v, dashes[1] ?? 1], g)} />
          <LengthField label="Gap" value={dashes[1] ?? 1} step={0.25} least={0} onChange={(v, g) => onChange([dashes[0] ?? 1, v], g)} />
        </div>
      )}
    </div>
  )
}

/** Shadows and glows of a window. */
export function ShadowsPanel() {
  const { finish, set } = useFinish()
  if (!finish) return null
  return (
    <ShadowList
      shadows={finish.shadows ?? []}
      onChange={(change, gesture) => set((f) => ({ ...f, shadows: change(f.shadows ?? []) }), gesture)}
      kinds={['shadow', 'inside', 'contact', 'glow']}
      none="A shadow follows the opening and whatever breaks out of it."
    />
  )
}
