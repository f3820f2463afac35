import type { Course } from '../../types/Course'
import type { PaneEdges } from '../../types/PaneEdges'
import type { PaneView } from '../../types/PaneView'
import type { Split } from '../../types/Split'
import { NameField } from '../../parts/NameField'
import { FileButton } from '../../parts/FileButton'
import { ChoiceField, LengthField, PlainField, Tick } from '../recipe/fields'
import { bench, pieceOf, useBench } from '../state/store'
import { bundleOf, isUnitLocked, unitBounds, unitNow, unitView } from '../state/unit'
import { IDENTITY } from '../geometry/matrix'
import { OwnColour } from '../fill/OwnColour'
import { bringIntoPane } from './photo'
import { amendSplit, chooseLine, choosePane, chosenPane, courseOf, lookOf, paneName, samePane, splitInTheMiddle, splitOf, withLineChanged, withLook, withoutLine, type Line } from './split'

const COURSES: readonly (readonly [Course['kind'], string])[] = [
  ['straight', 'Straight'],
  ['smooth', 'Curved'],
  ['zigzag', 'Zigzag'],
  ['torn', 'Torn'],
]

const EDGES: readonly (readonly [PaneEdges, string])[] = [
  ['old', 'Along the old edge'],
  ['own', 'Around each pane'],
]

const WAYS: readonly (readonly ['across' | 'down' | 'slanted', string])[] = [
  ['across', 'Across'],
  ['down', 'Down'],
  ['slanted', 'Slanted'],
]

/** A window or a bundle falls into panes along lines. */
export function PanesPanel() {
  const unit = useBench(unitNow) ?? ''
  const split = useBench((s) => splitOf(s, unit))
  const views = useBench((s) => unitView(s, unit).panes)
  const isBundle = useBench((s) => bundleOf(s, unit) !== undefined)
  const drawing = useBench((s) => s.panes.drawing)
  const lineId = useBench((s) => s.panes.line)
  const at = useBench((s) => s.panes.at)
  const locked = useBench((s) => isUnitLocked(s, unit))
  const lines = split.lines ?? []
  const line = lines.find((l) => l.id === lineId) ?? (lines.length === 1 && at === null ? lines[0] : undefined)
  const set = (change: (split: Split) => Split, gesture: string = crypto.randomUUID()) => void amendSplit(unit, change, gesture)
  const panes = views ?? []
  const pane = chosenPane(bench.get())
  if (locked) return <p className="w-[420px] text-[14px]">{isBundle ? 'What is in this bundle is locked.' : 'This window is locked.'} Unlock it in the stack to split it.</p>
  return (
    <div className={`grid ${lines.length > 0 ? 'grid-cols-[416px_420px]' : ''} gap-5`}>
      <div>
        <div className="flex items-center gap-1.5">
          <button
            data-first
            className={`${drawing || lines.length === 0 ? 'strong' : 'plain border-[1.5px] border-ink'} px-2.5 text-[14px] whitespace-nowrap`}
            aria-pressed={drawing || lines.length === 0}
            onClick={() => bench.set((s) => ({ panes: { ...s.panes, drawing: lines.length > 0 && !drawing } }))}
          >
            {lines.length === 0 ? 'Draw a line across it' : pane ? 'Draw across this pane' : 'Draw one more line'}
          </button>
          <span className="text-[13px] text-ink-soft">or</span>
          {WAYS.map(([way, word]) => (
            <button key={way} className="plain border-[1.5px] border-edge px-2" onClick={() => void splitInTheMiddle(unit, way)}>
              {word}
            </button>
          ))}
        </div>
        <div className="mt-3 flex flex-wrap items-end gap-2">
          <CourseFields unit={unit} line={line} />
        </div>
        {line?.id !== undefined && (
          <button className="plain mt-3 border-[1.5px] border-edge" title="The panes on both sides of the line become one again (key Delete)" onClick={() => set((now) => withoutLine(now, line.id ?? ''))}>
            Take the line away
          </button>
        )}
      </div>
      {lines.length > 0 && (
        <div className="border-l border-edge pl-5">
          <div className="grid grid-cols-[88px_88px_1fr] gap-3">
            <LengthField label="Gap" value={split.gap ?? 0} least={0} step={0.5} slider={{ min: 0, max: 30 }} onChange={(gap, g) => set((now) => ({ ...now, gap }), g)} />
            <LengthField label="Apart" value={split.apart ?? 0} slider={{ min: 0, max: 60 }} onChange={(apart, g) => set((now) => ({ ...now, apart }), g)} />
            {!isBundle && <ChoiceField label="Rims and shadows run" options={EDGES} value={split.edges} onChange={(edges) => set((now) => ({ ...now, edges }))} />}
          </div>
          <div className="mt-3 flex max-h-[64px] flex-wrap gap-1 overflow-y-auto" role="group" aria-label="Panes and lines">
            {panes.map((p, k) => (
              <button
                key={k}
                aria-pressed={pane?.index === k}
                className={`rounded-md border-[1.5px] px-2 py-0.5 text-[13.5px] ${pane?.index === k ? 'border-rose bg-rose text-leaf' : 'border-edge bg-leaf hover:border-ink'} ${p.hidden ? 'line-through opacity-60' : ''}`}
                onClick={() => choosePane(pane?.index === k ? null : p.at)}
              >
                {paneName(split, p.at, k)}
              </button>
            ))}
            {lines.length > 1 &&
              lines.map((l, k) => (
                <button key={l.id} aria-pressed={line === l} className={`rounded-full border-[1.5px] px-2.5 py-0.5 text-[13.5px] ${line === l ? 'border-sea bg-sea text-leaf' : 'border-edge bg-leaf hover:border-ink'}`} onClick={() => chooseLine(l.id ?? null)}>
                  Line {k + 1}
                </button>
              ))}
            <button className="plain ml-auto px-2 text-[13px]" title="No line splits it any more" onClick={() => set((now) => ({ ...now, lines: [], looks: [], gap: 0, apart: 0, edges: 'old' }))}>
              Join all panes
            </button>
          </div>
          {/* as high with a pane as without one: the sheet stays where it is when a pane is pressed */}
          <div className="min-h-[104px]">
            {pane ? (
              <PaneFields unit={unit} isBundle={isBundle} view={pane.view} split={split} name={paneName(split, pane.view.at, pane.index)} />
            ) : (
              <p className="mt-3 text-[13px] text-ink-soft">Press a pane, here or on the sheet: drag it away, turn it by its knob, nudge it with the arrow keys, or give it a name{isBundle ? '' : ', a photo or a colour of its own'}.</p>
            )}
          </div>
        </div>
      )}
    </div>
  )
}

/** How a line runs: the chosen one, or the next one to be drawn. */
function CourseFields({ unit, line }: { unit: string; line: Line | undefined }) {
  const next = useBench((s) => s.panes.course)
  const course = line?.course ?? next
  const size = () => {
    const [l, t, r, b] = unitBounds(bench.get(), unit)
    return Math.min(r - l, b - t)
  }
  const set = (change: Course, gesture: string = crypto.randomUUID()) => {
    bench.set((s) => ({ panes: { ...s.panes, course: change } }))
    if (line?.id !== undefined) void amendSplit(unit, (split) => withLineChanged(split, line.id ?? '', (l) => ({ ...l, course: change })), gesture)
  }
  return (
    <>
      <ChoiceField label={line ? 'The line runs' : 'The next line runs'} options={COURSES} value={course.kind} onChange={(kind) => set(courseOf(kind, size()))} />
      {course.kind === 'zigzag' && (
        <div className="w-[60px]">
          <PlainField label="Teeth" value={course.count} digits={0} min={1} max={100} onChange={(count, g) => set({ ...course, count: Math.round(count) }, g)} />
        </div>
      )}
      {(course.kind === 'zigzag' || course.kind === 'torn') && (
        <div className="w-[74px]">
          <LengthField label="Depth" value={course.depth} onChange={(depth, g) => set({ ...course, depth }, g)} />
        </div>
      )}
      {course.kind === 'torn' && (
        <button className="plain border-[1.5px] border-edge" onClick={() => set({ ...course, seed: Math.floor(Math.random() * 1e6) })}>
          Tear it anew
        </button>
      )}
    </>
  )
}

function PaneFields({ unit, isBundle, view, split, name }: { unit: string; isBundle: boolean; view: PaneView; split: Split; name: string }) {
  const look = lookOf(split, view.at)
  const own = useBench((s) => pieceOf(s, unit)?.kind.fills.some((f) => f.paint.kind === 'photo' && f.pane && samePane(f.pane, view.at)) ?? false)
  const set = (change: Parameters<typeof withLook>[2]) => void amendSplit(unit, (now) => withLook(now, view.at, change), crypto.randomUUID())
  return (
    <div className="mt-2 flex flex-wrap items-end gap-x-3 gap-y-2">
      <NameField key={view.at.map((s) => s.line + String(s.far)).join()} label="Name of the pane" className="w-[130px]" free name={look?.name ?? name} onChange={(to) => set({ name: to })} />
      <span className="pb-1.5">
        <Tick checked={look?.hidden ?? false} onChange={(hidden) => set({ hidden })}>
          Hidden
        </Tick>
      </span>
      <button className="plain border-[1.5px] border-edge disabled:opacity-40" disabled={!look?.by} onClick={() => set({ by: IDENTITY })}>
        Back in its place
      </button>
      {!isBundle && <FileButton label={own ? 'Another photo…' : 'Own photo…'} chooser="A photo for this pane: file" accept="image/png,image/jpeg,image/webp,image/tiff" className="plain border-[1.5px] border-edge" onFile={(file) => void bringIntoPane(file, unit, view.at)} />}
      {!isBundle && <OwnColour piece={unit} part={{ pane: view.at }} />}
    </div>
  )
}
