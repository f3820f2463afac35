import { Radios, WORDS } from '../../parts/Radios'
import type { Layout } from '../../types/Layout'
import type { Repeat } from '../../types/Repeat'
import { slantOpening, slantOf } from './slant'
import { LengthField, PlainField, Tick } from '../recipe/fields'
import { bench, useBench } from '../state/store'
import { bundleOf, isUnitLocked, unitNow } from '../state/unit'
import { fitting } from './lineLayout'
import { MemberFields } from './MemberFields'
import { amendRepeat, angleOf, directionOf, layoutOf, ownBounds, repeatOf } from './repeats'

type Kind = 'once' | Layout['kind']

const KINDS: { value: Kind; face: string; title: string }[] = [
  { value: 'once', face: 'Once', title: 'It is shown once' },
  { value: 'row', face: 'Row', title: 'One after the other, with equal gaps' },
  { value: 'grid', face: 'Grid', title: 'In columns and rows' },
  { value: 'ring', face: 'Ring', title: 'Around a centre' },
  { value: 'line', face: 'Line', title: 'Along a line that is drawn' },
]

/** A window or a bundle is shown several times by rule. */
export function MembersPanel() {
  const piece = useBench(unitNow) ?? ''
  const isBundle = useBench((s) => bundleOf(s, piece) !== undefined)
  const repeat = useBench((s) => repeatOf(s, piece))
  const locked = useBench((s) => isUnitLocked(s, piece))
  const slant = useBench((s) => slantOf(s, piece))
  if (locked) return <p className="w-[420px] text-[14px]">{isBundle ? 'What is in this bundle is locked.' : 'This window is locked.'} Unlock it in the stack to repeat it.</p>
  const set = (change: (now: Repeat) => Repeat, gesture: string = crypto.randomUUID()) => void amendRepeat(piece, (now) => now && change(now), gesture)
  const setLayout = (layout: Layout, gesture?: string) => set((now) => ({ ...now, layout }), gesture)
  const take = (kind: Kind) => {
    bench.set({ member: null, along: { drawing: false, drawn: null } })
    void amendRepeat(piece, (now) => (kind === 'once' ? null : { ...(now ?? {}), scale: now?.scale ?? 1, layout: layoutOf(kind, ownBounds(bench.get(), piece), now?.layout ?? null) }), crypto.randomUUID())
  }
  return (
    <div className={repeat ? 'w-[930px]' : 'min-h-[84px] w-[340px]'}>
      <div className="flex items-end gap-2.5">
        <div className="mr-2">
          <p className="tag">Shown</p>
          <Radios<Kind> label="Shown" className="mt-0.5 flex gap-1" optionClass={WORDS} options={KINDS} value={repeat?.layout.kind ?? 'once'} onChange={take} />
        </div>
        {repeat && (
          <>
            <LayoutFields layout={repeat.layout} onChange={setLayout} />
            <span className="mx-1 h-12 border-l border-edge" />
            {slant !== null && (
              <div className="w-[72px]">
                <PlainField label="Slant, °" value={slant} digits={1} min={-70} max={70} onChange={(to, g) => slantOpening(piece, to, g)} />
              </div>
            )}
            <div className="w-[100px]">
              <PlainField label="Each turned, °" value={repeat.turn ?? 0} digits={1} min={-360} max={360} onChange={(turn, g) => set((now) => ({ ...now, turn }), g)} />
            </div>
            <div className="w-[102px]">
              <PlainField label="Each scaled, %" value={repeat.scale ?? 1} factor={100} digits={0} min={50} max={200} onChange={(scale, g) => set((now) => ({ ...now, scale }), g)} />
            </div>
          </>
        )}
      </div>
      {!repeat && <p className="mt-2 text-[13px] leading-snug text-ink-soft">Shown several times, each member can have a photo, a word and a place of its own.</p>}
      {repeat && <MemberFields unit={piece} isBundle={isBundle} repeat={repeat} onBehind={(behind) => set((now) => ({ ...now, behind }))} />}
    </div>
  )
}

function LayoutFields({ layout, onChange }: { layout: Layout; onChange: (layout: Layout, gesture: string) => void }) {
  const count = (label: string, value: number, take: (to: number) => Layout) => (
    <div className="w-[76px]">
      <PlainField label={label} value={value} digits={0} min={1} onChange={(to, g) => onChange(take(Math.round(to)), g)} />
    </div>
  )
  const gap = (label: string, value: number, take: (to: number) => Layout) => (
    <div className="w-[92px]">
      <LengthField label={label} value={value} onChange={(to, g) => onChange(take(to), g)} />
    </div>
  )
  const degrees = (label: string, value: number, take: (to: number) => Layout) => (
    <div className="w-[76px]">
      <PlainField label={label} value={value} digits={1} min={-360} max={360} onChange={(to, g) => onChange(take(to), g)} />
    </div>
  )
  switch (layout.kind) {
    case 'line':
      return (
        <>
          {count('Members', layout.count, (to) => ({ ...layout, count: to }))}
          {gap('Distance', layout.distance, (to) => ({ ...layout, distance: Math.max(0.01, to), count: fitting(layout.points, to) }))}
          <div className="w-[84px]">
            <PlainField label="Pen thins, %" value={layout.thinning} factor={100} digits={0} min={0} max={100} onChange={(thinning, g) => onChange({ ...layout, thinning }, g)} />
          </div>
          <span className="grid gap-2">
            <Tick checked={layout.smooth} onChange={(smooth) => onChange({ ...layout, smooth }, crypto.randomUUID())}>
              Curved
            </Tick>
            <Tick checked={layout.upright} onChange={(upright) => onChange({ ...layout, upright }, crypto.randomUUID())}>
              Upright
            </Tick>
          </span>
        </>
      )
    case 'row':
      return (
        <>
          {count('Members', layout.count, (to) => ({ ...layout, count: to }))}
          {gap('Gap', layout.gap, (to) => ({ ...layout, gap: to }))}
          {degrees('Runs at, °', angleOf(layout.along), (to) => ({ ...layout, along: directionOf(to) }))}
        </>
      )
    case 'grid':
      return (
        <>
          {count('Columns', layout.columns, (columns) => ({ ...layout, columns }))}
          {count('Rows', layout.rows, (rows) => ({ ...layout, rows }))}
          {gap('Gap across', layout.gaps[0], (to) => ({ ...layout, gaps: [to, layout.gaps[1]] }))}
          {gap('Gap down', layout.gaps[1], (to) => ({ ...layout, gaps: [layout.gaps[0], to] }))}
        </>
      )
    case 'ring':
      return (
        <>
          {count('Members', layout.count, (to) => ({ ...layout, count: to }))}
          {gap('Centre, left', layout.centre[0], (to) => ({ ...layout, centre: [to, layout.centre[1]] }))}
          {gap('Centre, top', layout.centre[1], (to) => ({ ...layout, centre: [layout.centre[0], to] }))}
          {degrees('All over, °', layout.sweep, (sweep) => ({ ...layout, sweep }))}
          <span className="pb-1.5">
            <Tick checked={layout.upright} onChange={(upright) => onChange({ ...layout, upright }, crypto.randomUUID())}>
              Upright
            </Tick>
          </span>
        </>
      )
  }
}
