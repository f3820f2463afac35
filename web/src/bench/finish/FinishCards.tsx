import type { Finish } from '../../types/Finish'
import { cssPaint, colourOf, useInks } from '../fill/inks'
import { amendFinish } from '../fill/fills'
import { newMember } from '../state/newMember'
import { bench, isStart, open, useBench } from '../state/store'
import { Card } from '../recipe/Card'
import { RIM_WIDTH, SHADOW_DISTANCE, SOFTNESS, startMeasure, type Measure } from './measure'

/** The finish of a window: its edge, its rims, its shadows. */
export function FinishCards({ piece, finish, locked }: { piece: string; finish: Finish; locked: boolean }) {
  const card = useBench((s) => s.open)
  const inks = useInks()
  const softness = finish.softness?.width ?? 0
  const strength = Math.round((finish.strength ?? 1) * 100)
  const gloss = finish.gloss !== undefined && !finish.gloss.off
  const rims = (finish.rims ?? []).filter((r) => !r.off)
  const shadows = (finish.shadows ?? []).filter((s) => !s.off)
  const edge = [softness > 0 ? 'soft' : 'clear', ...(strength < 100 ? [`${strength} %`] : []), ...(finish.negative ? ['negative'] : [])]
  /** Adds what was set last; what nobody has set yet is looked at. */
  const again = (what: 'rims' | 'shadows' | 'gloss', last: object, add: (f: Finish) => Finish) => {
    const unseen = isStart(last)
    void amendFinish(piece, add, crypto.randomUUID()).then((made) => made && unseen && bench.set({ open: what }))
  }
  const { lastRim, lastShadow, lastGloss } = bench.get()
  const rim = () => again('rims', lastRim, (f) => ({ ...f, rims: [...(f.rims ?? []), newMember(bench.get().lastRim)] }))
  const shadow = () => again('shadows', lastShadow, (f) => ({ ...f, shadows: [...(f.shadows ?? []), newMember(bench.get().lastShadow)] }))
  const shine = () => again('gloss', lastGloss, (f) => ({ ...f, gloss: { ...(f.gloss ?? bench.get().lastGloss), off: false } }))
  const pull = (measure: Measure, name: string) => (locked ? undefined : { name, onStart: (e: React.PointerEvent) => startMeasure(e, piece, measure) })
  const counted = (n: number, one: string, many: string) => (n === 0 ? 'none' : n === 1 ? one : `${n} ${many}`)
  return (
    <>
      <Card isSmall label="Edge" caption={edge.join(', ')} isOpen={card === 'edge'} onClick={() => open('edge')} pull={pull(SOFTNESS, 'softer')}>
        <span className="block h-11 w-16 rounded-[3px] border border-ink/15" style={{ background: `linear-gradient(to right, var(--color-ink) ${softness > 0 ? 15 : 49}%, var(--color-leaf) ${softness > 0 ? 85 : 51}%)`, opacity: Math.max(0.25, strength / 100), transform: finish.negative ? 'scaleX(-1)' : undefined }} />
      </Card>
      <Card isSmall label="Rims" caption={counted(rims.length, 'one rim', 'rims')} isOpen={card === 'rims'} onClick={() => open('rims')} pull={pull(RIM_WIDTH, 'wider')} again={locked ? undefined : { name: 'One more rim, like the last', onClick: rim }}>
        <span className="relative block h-11 w-11">
          <span className={`absolute inset-0 rounded-full border-ink/30 ${rims.length === 0 ? 'border-2 border-dashed' : ''}`} />
          {rims.slice(0, 3).map((r, k) => (
            <span key={k} className="absolute rounded-full ring-1 ring-leaf/70" style={{ inset: `${k * 6}px`, padding: '4px', background: cssPaint(r.paint, inks) }}>
              <span className="block h-full w-full rounded-full bg-paper" />
            </span>
          ))}
        </span>
      </Card>
      <Card isSmall label="Shadows" caption={counted(shadows.length, 'one shadow', 'shadows')} isOpen={card === 'shadows'} onClick={() => open('shadows')} pull={pull(SHADOW_DISTANCE, 'further away')} again={locked ? undefined : { name: 'One more shadow, like the last', onClick: shadow }}>
        <span className="relative block h-11 w-14">
          {shadows.slice(0, 3).map((s, k) => (
            <span
              key={k}
              className="absolute top-1.5 left-2 h-8 w-8 rounded-[5px]"
              style={s.place === 'inside' ? {} : { background: colourOf(s.tint, inks), filter: 'blur(3px)', transform: `translate(${s.distance > 0 ? 7 : 0}px, ${s.distance > 0 ? 6 : 0}px)`, opacity: s.strength }}
            />
          ))}
          <span className="absolute top-1.5 left-2 h-8 w-8 rounded-[5px] border-[1.5px] border-ink bg-leaf" style={shadows.some((s) => s.place === 'inside') ? { boxShadow: 'inset 3px 3px 5px rgb(22 29 58 / 0.55)' } : {}} />
        </span>
      </Card>
      <Card isSmall label="Gloss" caption={gloss ? 'light on it' : 'none'} isOpen={card === 'gloss'} onClick={() => open('gloss')} again={locked || gloss ? undefined : { name: 'Light on it, like the last', onClick: shine }}>
        <span className="block h-11 w-11 rounded-full border border-ink/15" style={{ background: gloss ? 'radial-gradient(circle at 35% 30%, #fff 0 8%, #5a648f 22%, var(--color-ink) 62%)' : 'var(--color-ink)', opacity: gloss ? 1 : 0.35 }} />
      </Card>
    </>
  )
}
