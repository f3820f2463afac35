import type { Hints } from '../../types/Hints'
import type { Start } from '../../types/Start'
import type { SubjectEdge } from '../../types/SubjectEdge'
import { PlainField } from '../recipe/fields'
import type { SubjectMode, SubjectTool } from '../mode/modes'
import { smallPictureOf } from '../canvas/pictures'
import { enterSubjectTrace } from '../opening/TraceMode'
import { Doubts } from './Doubts'
import { addShadow, amend, ask, photoOf, toSheetOf } from './finding'

function Tool({ mode, tool, text, title }: { mode: SubjectMode; tool: SubjectTool; text: string; title: string }) {
  const on = mode.tool === tool
  return (
    <button className={`outlined ${on ? 'bg-ink text-leaf' : ''}`} aria-pressed={on} title={title} onClick={() => amend({ tool: on ? null : tool })}>
      {text}
    </button>
  )
}

function Width({ mode, label }: { mode: SubjectMode; label: string }) {
  return (
    <div className="w-24">
      <PlainField label={label} value={mode.width} digits={0} min={2} max={1000} onChange={(width) => amend({ width })} />
    </div>
  )
}

/** Begins anew in another way; what was stroked stays. */
function beginBy(mode: SubjectMode, start: Start | null) {
  const { start: _, within, ...others } = mode.hints
  const hints: Hints = { ...others, ...(start ? { start } : {}), ...(start && within ? { within } : {}) }
  void ask(hints, crypto.randomUUID())
}

/** The last stroke speaks for everything that is like it. */
function widen(mode: SubjectMode) {
  const strokes = mode.hints.strokes ?? []
  const last = strokes.at(-1)
  if (last) void ask({ ...mode.hints, strokes: [...strokes.slice(0, -1), { ...last, everywhere: true }] }, crypto.randomUUID())
}

export function FindTools({ mode }: { mode: SubjectMode }) {
  const trace = () => {
    const view = photoOf(mode)
    if (view) enterSubjectTrace(mode, toSheetOf(view))
  }
  return (
    <>
      <button className="outlined" onClick={() => void ask({}, crypto.randomUUID())}>
        By itself
      </button>
      <div className="flex gap-1" role="group" aria-label="What a drag draws">
        <Tool mode={mode} tool="box" text="In a box" title="A box around the whole subject" />
        <Tool mode={mode} tool="keep" text="Belongs to it" title="Strokes over what is missing" />
        <Tool mode={mode} tool="drop" text="Does not" title="Strokes over what is too much" />
      </div>
      {(mode.tool === 'keep' || mode.tool === 'drop') && <Width mode={mode} label="Stroke, px" />}
      <button className="outlined" title="A contour that is or joins the subject" onClick={trace}>
        Trace …
      </button>
      <Doubts mode={mode} />
    </>
  )
}

const GUESSED: Partial<Record<Start, string>> = {
  salient: 'By what stands out',
  apart: 'By what differs from the ground around the box',
  colours: 'By colours alone',
}

/** What the subject could be, too: its picture, what it is, and what a press on it does. */
interface Other {
  mask: string
  said: string
  take: () => void
}

/** Other things that may be meant, as pictures. */
export function OtherWays({ mode }: { mode: SubjectMode }) {
  const view = photoOf(mode)
  const draft = mode.draft
  const others: Other[] = [
    ...(draft?.singles ?? []).map(({ within, mask }, k) => ({ mask, said: `Only this one, ${k + 1} of ${draft!.singles.length}`, take: () => void ask({ within }, crypto.randomUUID()) })),
    ...(draft?.others ?? []).map(({ start, mask }) => ({ mask, said: GUESSED[start] ?? 'Another guess', take: () => beginBy(mode, start) })),
    ...(draft?.wider ? [{ mask: draft.wider, said: 'Everything like the last stroke', take: () => widen(mode) }] : []),
  ]
  return (
    <>
      {view && others.length > 0 && (
        <div role="group" aria-label="Other guesses" className="flex items-center gap-1.5">
          <span className="text-[13px] text-ink/70">Or this?</span>
          {others.map(({ mask, said, take }, k) => {
            const frame = { width: view.width, height: view.height, preserveAspectRatio: 'none' }
            const photo = smallPictureOf(view)
            return (
              <button key={said} className="rounded border border-ink/30 bg-leaf p-0.5 hover:border-rose focus-visible:border-rose" aria-label={said} title={said} disabled={mode.asking} onClick={take}>
                <svg viewBox={`0 0 ${view.width} ${view.height}`} className="block h-12 w-auto max-w-24">
                  <mask id={`guess-${k}`} maskUnits="userSpaceOnUse" x={0} y={0} width={view.width} height={view.height}>
                    <image href={mask} {...frame} />
                  </mask>
                  <image href={photo} {...frame} opacity={0.18} />
                  <image href={photo} {...frame} mask={`url(#guess-${k})`} />
                </svg>
              </button>
            )
          })}
        </div>
      )}
      {mode.draft?.alpha && mode.hints.start !== 'alpha' && (
        <button className="outlined" title="What the file says of itself" onClick={() => void ask({ start: 'alpha' }, crypto.randomUUID())}>
          By its own transparency
        </button>
      )}
    </>
  )
}

/** Takes the last of what was drawn away, also of what was kept long ago. */
export function LastBack({ mode, what, label }: { mode: SubjectMode; what: 'strokes' | 'traced' | 'painted' | 'refined' | 'see_through'; label: string }) {
  const all = mode.hints[what]
  if (!all || all.length === 0) return null
  return (
    <button className="plain" onClick={() => void ask({ ...mode.hints, [what]: all.slice(0, -1) }, crypto.randomUUID())}>
      {label}
    </button>
  )
}

export function PaintTools({ mode }: { mode: SubjectMode }) {
  return (
    <>
      <div className="flex gap-1" role="group" aria-label="What the brush does">
        <Tool mode={mode} tool="add" text="Add" title="Paint adds to the subject" />
        <Tool mode={mode} tool="take" text="Take away" title="Paint takes away from the subject" />
      </div>
      <Width mode={mode} label="Brush, px" />
      <div className="w-24">
        <PlainField label="Hardness, %" value={mode.hardness} factor={100} digits={0} min={0} max={100} step={5} onChange={(hardness) => amend({ hardness })} />
      </div>
      <label className="mb-1.5 flex items-center gap-2 text-[14px]" title="Paint stays on the side of the edge on which the middle of the stroke lies">
        <input type="checkbox" className="h-4 w-4 accent-ink" checked={mode.inside} onChange={(e) => amend({ inside: e.target.checked })} />
        Inside the subject only
      </label>
    </>
  )
}

export function ThroughTools({ mode }: { mode: SubjectMode }) {
  const alone = mode.hints.shadow_alone ?? false
  return (
    <>
      <div className="flex gap-1" role="group" aria-label="What the ground is seen through">
        {!alone && <Tool mode={mode} tool="film" text="Glass, smoke" title="Paint over it and a little beyond: how much of the ground it covers is told from the ground around it" />}
        <Tool mode={mode} tool="shadow" text="Shadow" title="Paint over a shadow on the ground and a little beyond: what is darker than the ground around it becomes black that is seen through" />
      </div>
      {(mode.tool === 'film' || mode.tool === 'shadow') && <Width mode={mode} label="Brush, px" />}
      <div className="w-26" title={alone ? 'How strong the shadow is, beside what it is in the photo' : 'How much the densest places of glass and smoke cover, and how strong shadows are'}>
        <PlainField
          label={alone ? 'Strength, %' : 'Density, %'}
          value={mode.hints.density ?? 1}
          factor={100}
          digits={0}
          step={5}
          min={0}
          max={100}
          onChange={(density, gesture) => void ask({ ...mode.hints, density }, gesture)}
        />
      </div>
      {!alone && mode.kept && (
        <button
          className="outlined"
          disabled={mode.past.length > 0}
          title={mode.past.length > 0 ? 'Keep this one or step back first' : 'The shadow that it casts, as one more subject of the photo: it comes along where you let it out'}
          onClick={addShadow}
        >
          Its shadow, apart
        </button>
      )}
    </>
  )
}

const USUAL: SubjectEdge = { hair: true, shift: 0, smooth: 0 }

export function EdgeTools({ mode }: { mode: SubjectMode }) {
  const edge = mode.hints.edge ?? USUAL
  const view = photoOf(mode)
  const long = view ? Math.max(view.width, view.height) : 0
  // the same as the computation takes by itself
  const usual = ((edge.hair ? 12 : 1) * long) / Math.min(700, long || 1)
  const set = (part: Partial<SubjectEdge>, gesture: string) => void ask({ ...mode.hints, edge: { ...edge, ...part } }, gesture)
  return (
    <>
      <label className="mb-1.5 flex items-center gap-2 text-[14px]" title="Looks for single hairs in the soft band">
        <input
          type="checkbox"
          className="h-4 w-4 accent-ink"
          checked={edge.hair}
          onChange={(e) => {
            // the band that is usual with hair is none that is usual without
            const { band: _, ...rest } = edge
            void ask({ ...mode.hints, edge: { ...rest, hair: e.target.checked } }, crypto.randomUUID())
          }}
        />
        Hair and fluff
      </label>
      <Tool mode={mode} tool="refine" text="Along a brush" title="Paint along the edge where hair and fluff are looked for, whether or not they are elsewhere" />
      {mode.tool === 'refine' && <Width mode={mode} label="Brush, px" />}
      <div className="w-26">
        <PlainField label="Soft band, px" value={edge.band ?? usual} digits={1} min={0} max={400} onChange={(band, g) => set({ band }, g)} />
      </div>
      <div className="w-26">
        <PlainField label="Shift, px" value={edge.shift} digits={1} min={-200} max={200} onChange={(shift, g) => set({ shift }, g)} />
      </div>
      <div className="w-26">
        <PlainField label="Smoothness, px" value={edge.smooth} digits={1} min={0} max={200} onChange={(smooth, g) => set({ smooth }, g)} />
      </div>
      <div className="w-26" title="How much of the ground's colour is taken out where the edge is soft; seen once the subject is kept">
        <PlainField label="Spill out, %" value={edge.spill ?? 1} factor={100} digits={0} step={5} min={0} max={100} onChange={(spill, g) => set({ spill }, g)} />
      </div>
      {mode.hints.edge && (
        <button
          className="plain"
          onClick={() => {
            const { edge: _, ...rest } = mode.hints
            void ask(rest, crypto.randomUUID())
          }}
        >
          As usual
        </button>
      )}
    </>
  )
}
