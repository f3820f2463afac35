import { useEffect, useRef } from 'react'
import { isOnControl } from '../../parts/focus'
import { cancel, isOpen, useFollowed, useJob } from '../sheet/jobs'
import { useMode } from '../mode/mode'
import { ModeBar } from '../mode/ModeBar'
import type { SubjectMode } from '../mode/modes'
import { EdgeTools, FindTools, LastBack, OtherWays, PaintTools, ThroughTools } from './SubjectTools'
import { amend, changeSubject, finish, keepSubject, leave, nameSubject, removeSubject, stepBack, stopLooking, useSubjects } from './finding'
import { hintByKey } from './hints'

const PANELS = [
  ['find', 'Find', 'keep'],
  ['paint', 'Paint', 'add'],
  ['edge', 'Edge', null],
  ['through', 'See-through', 'film'],
] as const

/** What to do now, in a sentence. */
function sentenceFor(mode: SubjectMode): string {
  if (mode.asking) return 'Looking at the photo …'
  if (mode.tool === 'refine') return 'Paint along the edge where single hairs are to be found. Arrows and Space paint too.'
  if (mode.tool === 'film') return 'Paint over glass or smoke, and a little beyond it. Arrows and Space paint too.'
  if (mode.tool === 'shadow' && mode.hints.shadow_alone && mode.draft) return 'Keep the shadow, or paint over what is missing of it, and a little beyond.'
  if (mode.tool === 'shadow') return 'Paint over a shadow on the ground, and a little beyond it. Arrows and Space paint too.'
  if (mode.panel === 'through') return 'What the ground is seen through. Choose what it is, and paint over it.'
  if (mode.panel === 'edge') return 'How the edge of the subject is to be. All of it can be changed later.'
  if (mode.panel === 'paint') {
    return mode.tool === 'take'
      ? 'Paint over what is not to be in it. Arrows and Space paint too.'
      : 'Paint over what is to be in it. Arrows and Space paint too.'
  }
  if (mode.tool === 'box') return 'Draw a box around the whole subject.'
  if (mode.draft === null && mode.kept === null) return 'Draw a box around what you want, or strokes over it.'
  if (mode.draft?.doubts[mode.doubt ?? -1]) return 'Does what is washed in the ring belong to it? Say so, or draw over it.'
  return mode.tool === 'drop' ? 'Draw over what does not belong to it: each stroke looks again.' : 'Keep it, or draw over what is missing: each stroke looks again.'
}

export function SubjectBar() {
  const mode = useMode('subject')
  const subjects = useSubjects(mode)
  const followed = useFollowed((f) => f.subject)
  const job = useJob(followed)
  const settled = useRef<string | null>(null)
  const finishing = followed !== null && (job === undefined || isOpen(job))

  useEffect(() => {
    if (!job || isOpen(job) || settled.current === job.id) return
    settled.current = job.id
    if (job.outcome?.outcome === 'subject') void keepSubject(job.outcome.subject)
    else if (job.state === 'failed' && job.outcome?.outcome === 'failed') amend({ problem: job.outcome.sentence })
  }, [job])

  useEffect(() => {
    const key = (e: KeyboardEvent) => {
      if (e.ctrlKey || e.metaKey || isOnControl(e.target) || !hintByKey(e)) return
      e.preventDefault()
      e.stopImmediatePropagation()
    }
    window.addEventListener('keydown', key, true)
    return () => window.removeEventListener('keydown', key, true)
  }, [])

  if (!mode) return null
  return (
    <ModeBar
      title="Subject"
      sentence={finishing ? `${job?.step || 'Waiting for its turn'} …` : (mode.problem ?? sentenceFor(mode))}
      alarm={mode.problem !== null && !finishing}
      aside={!finishing && <Which mode={mode} all={subjects ?? []} />}
      canKeep={mode.draft !== null && !mode.asking && !finishing}
      onKeep={() => void finish()}
      {...(finishing ? {} : { onBack: stepBack, canGoBack: mode.past.length > 0 })}
      onDrop={() => {
        if (finishing && followed) void cancel(followed)
        leave()
      }}
    >
      {finishing ? (
        <>
          <progress aria-label="Bringing the subject to full size" className="h-2 w-56 accent-sea" max={1} value={job?.done ?? 0} />
          <button className="outlined" onClick={() => followed && void cancel(followed)}>
            Not yet
          </button>
        </>
      ) : mode.asking && mode.draft === null && mode.kept === null ? (
        <>
          <progress aria-label="Finding the subject" className="h-2 w-56 accent-sea" />
          <button className="outlined" onClick={stopLooking}>
            Cancel the search
          </button>
        </>
      ) : (
        <div className="flex grow flex-col gap-2">
          <div className="flex flex-wrap items-center gap-2">
            <div className="flex" role="tablist" aria-label="Ways to say what it is">
              {PANELS.map(([panel, text, tool]) => (
                <button
                  key={panel}
                  role="tab"
                  aria-selected={mode.panel === panel}
                  disabled={(panel === 'paint' || panel === 'edge') && mode.draft === null && mode.kept === null}
                  className={`border-b-2 px-2.5 py-0.5 font-serif text-[16px] disabled:opacity-40 ${mode.panel === panel ? 'border-rose font-semibold' : 'border-edge hover:border-ink'}`}
                  onClick={() => amend({ panel, tool: panel === 'through' && mode.hints.shadow_alone ? 'shadow' : tool, cursor: null, stroke: null, paint: null, box: null })}
                >
                  {text}
                </button>
              ))}
            </div>
            {mode.panel === 'find' && <LastBack mode={mode} what="strokes" label="Last stroke back" />}
            {mode.panel === 'find' && <LastBack mode={mode} what="traced" label="Last contour back" />}
            {mode.panel === 'edge' && <LastBack mode={mode} what="refined" label="Last brush back" />}
            {mode.panel === 'through' && <LastBack mode={mode} what="see_through" label="Last brush back" />}
            {mode.panel === 'paint' && <LastBack mode={mode} what="painted" label="Last paint back" />}
            {mode.panel === 'find' && <OtherWays mode={mode} />}
            <span className="grow" />
            {(mode.draft !== null || mode.kept !== null) && <Seen mode={mode} />}
          </div>
          <div className="flex flex-wrap items-end gap-2">
            {mode.panel === 'find' && <FindTools mode={mode} />}
            {mode.panel === 'paint' && <PaintTools mode={mode} />}
            {mode.panel === 'edge' && <EdgeTools mode={mode} />}
            {mode.panel === 'through' && <ThroughTools mode={mode} />}
          </div>
        </div>
      )}
    </ModeBar>
  )
}

/** Which of the photo's subjects it is, and its name. */
function Which({ mode, all }: { mode: SubjectMode; all: { key: number; name: string }[] }) {
  if (mode.kept === null && all.length === 0) return null
  const unkept = mode.past.length > 0
  const fresh = !all.some((s) => s.key === mode.key)
  return (
    <div className="mt-1.5 flex items-center gap-1">
      {all.length + (fresh ? 1 : 0) > 1 && (
        <select
          aria-label="Which subject of the photo"
          className="field w-20 text-[14px]"
          value={mode.key}
          disabled={unkept}
          title={unkept ? 'Keep this one or step back first' : undefined}
          onChange={(e) => changeSubject(Number(e.target.value))}
        >
          {all.map((s) => (
            <option key={s.key} value={s.key}>
              {s.name}
            </option>
          ))}
          {fresh && <option value={mode.key}>{mode.name}</option>}
        </select>
      )}
      <input
        aria-label="Name of the subject"
        className="field w-20 text-[14px]"
        key={mode.key}
        defaultValue={mode.name}
        maxLength={120}
        onBlur={(e) => void nameSubject(e.target.value)}
        onKeyDown={(e) => {
          e.stopPropagation()
          if (e.key === 'Enter') e.currentTarget.blur()
        }}
      />
      {!fresh && (
        <>
          <button className="plain px-1.5 whitespace-nowrap" disabled={unkept} title="Another subject of the same photo" onClick={() => changeSubject(null)}>
            + Another
          </button>
          <button className="plain px-1.5" disabled={unkept} onClick={() => void removeSubject()}>
            Remove
          </button>
        </>
      )}
    </div>
  )
}

const SEEN = [
  ['photo', 'in the photo'],
  ['sheet', 'on the sheet’s colour'],
  ['black', 'on black'],
  ['white', 'on white'],
  ['matte', 'as its matte'],
  ['rest', 'without it: what is left'],
] as const

function Seen({ mode }: { mode: SubjectMode }) {
  return (
    <label className="tag flex items-center gap-2">
      Seen
      <select
        className="field w-36 text-[14px]"
        value={mode.seen}
        onChange={(e) => amend({ seen: SEEN.find(([value]) => value === e.target.value)?.[0] ?? 'photo' })}
        onKeyDown={(e) => e.stopPropagation()}
      >
        {SEEN.map(([value, text]) => (
          <option key={value} value={value}>
            {text}
          </option>
        ))}
      </select>
    </label>
  )
}
