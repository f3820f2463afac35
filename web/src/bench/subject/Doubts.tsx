import { useEffect } from 'react'
import { isTyping } from '../../parts/focus'
import type { DoubtView } from '../../types/DoubtView'
import { around } from '../geometry/boxes'
import { fitted, NO_STACK } from '../canvas/viewport'
import { map } from '../geometry/matrix'
import type { SubjectMode } from '../mode/modes'
import { bench } from '../state/store'
import { amend, aroundPhoto, photoOf, subjectMode, toSheetOf } from './finding'
import { takeStrokes } from './hints'

/** How much of the photo is seen around a place: so many times as wide as the place, and at least this share of the photo. */
const AROUND = 8
const LEAST = 0.3

/** Goes to the next place where the draft may be wrong. */
function nextDoubt() {
  const mode = subjectMode()
  const doubts = mode?.draft?.doubts ?? []
  if (doubts.length > 0) lookAt(mode === null || mode.doubt === null ? 0 : (mode.doubt + 1) % doubts.length)
}

/** Looks closely at a place. */
function lookAt(at: number) {
  const mode = subjectMode()
  const view = mode && photoOf(mode)
  const doubt = mode?.draft?.doubts[at]
  if (!mode || !view || !doubt) return
  const { at: [x, y], width } = doubt
  const half = Math.max(width * AROUND, Math.max(view.width, view.height) * LEAST) / 2
  const toSheet = toSheetOf(view)
  const sides = [-half, half]
  const corners = sides.flatMap((dx) => sides.map((dy) => map(toSheet, [x + dx, y + dy])))
  bench.set({
    mode: { ...mode, doubt: at, tool: doubt.missing ? 'keep' : 'drop', cursor: null },
    view: fitted(around(corners), bench.get().port, bench.get().view.turn, NO_STACK),
  })
}

/** Says of doubted places whether they belong to the subject: a stroke in each, as wide as the place allows. Then the next one is looked at. */
async function answer(of: DoubtView[], keep: boolean) {
  await takeStrokes(of.map((doubt) => ({ keep, width: Math.max(2, doubt.width * 0.6), points: [doubt.at] })))
  const next = subjectMode()?.doubt ?? null
  // after the last one all of the photo is looked at again
  if (next === null) leaveDoubt()
  else lookAt(next)
}

/** Places where the program is unsure, one after the other. */
export function Doubts({ mode }: { mode: SubjectMode }) {
  const doubts = mode.draft?.doubts ?? []
  useEffect(() => {
    const key = (e: KeyboardEvent) => {
      if (e.key.toLowerCase() !== 'n' || e.ctrlKey || e.metaKey || e.altKey || isTyping(e.target)) return
      e.preventDefault()
      e.stopImmediatePropagation()
      nextDoubt()
    }
    window.addEventListener('keydown', key, true)
    return () => window.removeEventListener('keydown', key, true)
  }, [])
  if (doubts.length === 0) return null
  const asked = mode.doubt === null ? undefined : doubts[mode.doubt]
  // whoever has seen that one of them is wrong can say the same of all that are doubted for the same
  const alike = doubts.filter((d) => d.missing === asked?.missing)
  return (
    <div role="group" aria-label="Where it is unsure" className="flex items-center gap-1">
      <button className="outlined" disabled={mode.asking} title="Looks at a place where the program is unsure (N)" onClick={nextDoubt}>
        {asked ? 'Next doubt' : doubts.length === 1 ? 'One doubt: look' : `${doubts.length} doubts: look`}
      </button>
      {asked && (
        <>
          <span className="px-1 text-[13px] text-ink-soft">
            {mode.doubt! + 1} of {doubts.length}
          </span>
          <button className="outlined" disabled={mode.asking} title="The washed place is part of the subject" onClick={() => asked && void answer([asked], true)}>
            It belongs
          </button>
          <button className="outlined" disabled={mode.asking} title="The washed place is no part of the subject" onClick={() => asked && void answer([asked], false)}>
            It does not
          </button>
          {alike.length > 1 && (
            <button
              className="outlined"
              disabled={mode.asking}
              title={asked.missing ? 'Every washed place that is not in it yet is part of the subject' : 'No washed place that is in it now is part of the subject'}
              onClick={() => void answer(alike, asked.missing)}
            >
              {asked.missing ? `All ${alike.length} belong` : `All ${alike.length} do not`}
            </button>
          )}
          <button className="plain" onClick={() => leaveDoubt()}>
            Whole photo
          </button>
        </>
      )}
    </div>
  )
}

function leaveDoubt() {
  const mode = subjectMode()
  const view = mode && photoOf(mode)
  if (!view) return
  amend({ doubt: null })
  bench.set({ view: aroundPhoto(view) })
}
