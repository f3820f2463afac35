import { FileButton } from '../../parts/FileButton'
import { NameField } from '../../parts/NameField'
import { Radios, WORDS } from '../../parts/Radios'
import type { Layout } from '../../types/Layout'
import type { Repeat } from '../../types/Repeat'
import { OwnColour } from '../fill/OwnColour'
import { freeBundleMember } from '../bundle/freeMember'
import { edit } from '../state/edits'
import { windowOf } from '../opening/forms'
import { slantOpening, slantOf } from './slant'
import { IDENTITY } from '../geometry/matrix'
import { LengthField, PlainField, Tick } from '../recipe/fields'
import { bench, select, useBench } from '../state/store'
import { bundleOf, isUnitLocked, unitNow } from '../state/unit'
import { dealPhotos } from './photos'
import { fitting } from './lineLayout'
import { amendRepeat, angleOf, countOf, directionOf, layoutOf, lookOf, ownBounds, repeatOf, withLook } from './repeats'

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
      {!repeat && <p className="mt-2 text-[13px] leading-snug text-ink-soft">Shown several times, each member can have {isBundle ? 'a place' : 'a photo, a word and a place'} of its own.</p>}
      {repeat && <MemberFields piece={piece} isBundle={isBundle} repeat={repeat} onBehind={(behind) => set((now) => ({ ...now, behind }))} />}
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

/** The next drag on the sheet draws the line. */
function DrawButton() {
  const drawing = useBench((s) => s.along.drawing)
  return (
    <button className={`${drawing ? 'strong' : 'plain border-[1.5px] border-ink'} px-2.5 text-[14px] whitespace-nowrap`} aria-pressed={drawing} title="Drag over the sheet, by mouse or pen" onClick={() => bench.set({ along: { drawing: !drawing, drawn: null } })}>
      Draw the line
    </button>
  )
}

function MemberFields({ piece, isBundle, repeat, onBehind }: { piece: string; isBundle: boolean; repeat: Repeat; onBehind: (behind: boolean) => void }) {
  const at = useBench((s) => s.member)
  const word = useBench((s) => windowOf(s, piece)?.opening.forms.flatMap((f) => (f.shape.kind === 'lettering' ? [f.shape.text] : []))[0])
  const own = useBench((s) => windowOf(s, piece)?.fills.some((f) => f.paint.kind === 'photo' && f.member === at) ?? false)
  const count = countOf(repeat.layout)
  const chosen = at !== null && at < count ? at : null
  const look = chosen === null ? undefined : lookOf(repeat, chosen)
  const set = (change: Parameters<typeof withLook>[2]) => chosen !== null && void amendRepeat(piece, (now) => now && withLook(now, chosen, change), crypto.randomUUID())
  const setFree = async () => {
    const copy = crypto.randomUUID()
    if (chosen !== null && isBundle) await freeBundleMember(piece, chosen)
    else if (chosen !== null && (await edit({ edit: 'set_free', piece, member: chosen, copy }))) select(copy)
  }
  return (
    <div className="mt-3 border-t border-edge pt-2">
      <div className="flex items-center gap-4">
      {repeat.layout.kind === 'line' && <DrawButton />}
      <div className="flex max-h-[60px] grow flex-wrap gap-1 overflow-y-auto" role="group" aria-label="Members">
        {Array.from({ length: count }, (_, k) => (
          <button
            key={k}
            aria-pressed={chosen === k}
            aria-label={`Member ${k + 1}`}
            className={`min-w-8 rounded-md border-[1.5px] px-2 py-0.5 text-[13.5px] ${chosen === k ? 'border-rose bg-rose text-leaf' : 'border-edge bg-leaf hover:border-ink'} ${lookOf(repeat, k)?.hidden ? 'line-through opacity-60' : ''}`}
            onClick={() => bench.set({ member: chosen === k ? null : k })}
          >
            {k + 1}
          </button>
        ))}
      </div>
      {!isBundle && (
        <Tick checked={repeat.behind ?? false} onChange={onBehind}>
          One photo behind all
        </Tick>
      )}
      {!isBundle && !repeat.behind && (
        <FileButton label="Deal photos out…" chooser="Photos for the members: files" accept="image/png,image/jpeg,image/webp,image/tiff" className="plain border-[1.5px] border-edge" title="One photo for each member, in their order; or drop them on the window" onFile={() => undefined} onFiles={(files) => void dealPhotos(files, piece, chosen ?? 0)} />
      )}
      </div>
      {/* as high with a member as without one: the sheet stays where it is when a member is pressed */}
      <div className="min-h-[60px]">
      {chosen === null && <p className="mt-3 text-[13px] text-ink-soft">Press a member, here or on the sheet, {isBundle ? 'to drag it away, to hide it or to set it free.' : 'to drag it away or to give it a word, a photo or a colour of its own. Photos dropped on the window are dealt out.'}</p>}
      {chosen !== null && (
        <div className="mt-2 flex items-end gap-3">
          {word !== undefined && <NameField key={chosen} label="Its word" className="w-[150px]" free name={look?.word ?? word} onChange={(to) => set({ word: to === '' || to === word ? undefined : to })} />}
          <span className="pb-1.5">
            <Tick checked={look?.hidden ?? false} onChange={(hidden) => set({ hidden })}>
              Hidden
            </Tick>
          </span>
          {!isBundle && !repeat.behind && <FileButton label={own ? 'Another photo…' : 'A photo of its own…'} chooser="A photo for this member: file" accept="image/png,image/jpeg,image/webp,image/tiff" className="plain border-[1.5px] border-edge" onFile={(file) => void dealPhotos([file], piece, chosen)} />}
          {!isBundle && !repeat.behind && <OwnColour piece={piece} part={{ member: chosen }} />}
          <button className="plain border-[1.5px] border-edge disabled:opacity-40" disabled={!look?.by} onClick={() => set({ by: IDENTITY })}>
            Back in its place
          </button>
          <button className="plain border-[1.5px] border-edge" title="It stands for itself from now on; its place stays empty" onClick={() => void setFree()}>
            Set it free
          </button>
        </div>
      )}
      </div>
    </div>
  )
}
