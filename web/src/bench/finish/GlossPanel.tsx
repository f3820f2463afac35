import type { Gloss } from '../../types/Gloss'
import { amendFinish, finishOf } from '../fill/fills'
import { windowOf } from '../opening/forms'
import { bench, useBench } from '../state/store'
import { LengthField, PlainField, Tick } from '../recipe/fields'

/** Light on the opening as if it were raised, wet ink. */
export function GlossPanel() {
  const piece = useBench((s) => s.selected) ?? ''
  const window = useBench((s) => windowOf(s, s.selected))
  if (!window) return null
  const gloss = finishOf(window).gloss
  const set = (change: Partial<Gloss>, gesture: string) =>
    void amendFinish(piece, (f) => ({ ...f, gloss: { ...(f.gloss ?? bench.get().lastGloss), ...change } }), gesture)
  const on = gloss !== undefined && !gloss.off
  return (
    <div className="w-[640px]">
      <Tick checked={on} onChange={(next) => set({ off: !next }, crypto.randomUUID())}>
        Light on it, as on wet ink
      </Tick>
      {gloss && on && (
        <div className="mt-3 grid grid-cols-5 gap-3">
          <PlainField label="Strength, %" value={gloss.strength} factor={100} digits={0} min={0} max={100} slider onChange={(strength, g) => set({ strength }, g)} />
          <LengthField label="Rises over" value={gloss.reach} step={0.5} least={0.1} slider={{ min: 0.5, max: 30 }} onChange={(reach, g) => set({ reach }, g)} />
          <PlainField label="Shine, %" value={gloss.shine} factor={100} digits={0} min={0} max={100} slider onChange={(shine, g) => set({ shine }, g)} />
          <PlainField label="Light from, °" value={gloss.light} digits={0} min={-180} max={180} slider onChange={(light, g) => set({ light }, g)} />
          <PlainField label="Light stands, °" value={gloss.rise} digits={0} min={5} max={90} slider onChange={(rise, g) => set({ rise }, g)} />
        </div>
      )}
    </div>
  )
}
