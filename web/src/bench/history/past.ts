import { call, sentenceOf } from '../../api/client'
import { say } from '../../parts/notices'
import type { PastSheet } from '../../types/PastSheet'
import type { StepView } from '../../types/StepView'
import { goBackTo } from '../state/edits'
import { bench, type BenchState } from '../state/store'

/** The steps of the sheet, the last one first; at the end what was there before them. */
export const stepsOf = (sheet: string) => call<StepView[]>('GET', `/sheets/${sheet}/steps`)

/** What is to be seen in place of the sheet as it is: what is looked at, or what it is compared with. */
export const shownPast = (s: BenchState): PastSheet | null => (s.past ? (s.comparing ? null : s.past) : s.comparing ? s.before : null)

async function fetched(seq: number): Promise<PastSheet | null> {
  const id = bench.get().bench?.id
  if (id === undefined) return null
  try {
    const past = await call<PastSheet>('GET', `/sheets/${id}/steps/${seq}`)
    return bench.get().bench?.id === id ? past : null
  } catch (error) {
    say(sentenceOf(error))
    return null
  }
}

/** Shows the sheet as it was after a step. Nothing is changed. */
export async function lookAt(seq: number) {
  const past = await fetched(seq)
  if (past) bench.set((s) => ({ past, lookedBefore: s.past ? s.lookedBefore : s.looking, looking: true, selected: null, several: [], forms: [], inside: null, open: null, mode: null }))
}

/** Shows the sheet as it is. */
export function backToNow() {
  bench.set((s) => (s.past ? { past: null, looking: s.lookedBefore } : {}))
}

/** Looks at the step before the one that is looked at, or after it. */
export async function lookFurther(way: 'earlier' | 'later') {
  const { past, bench: now } = bench.get()
  if (!past || !now) return
  const steps = await stepsOf(now.id).catch(() => [])
  const at = steps.findIndex((s) => s.seq === past.seq)
  const next = steps[at + (way === 'earlier' ? 1 : -1)]
  if (next) await lookAt(next.seq)
  else if (way === 'later') backToNow()
}

/** Makes the sheet what is looked at. What came later stays among the steps. */
export async function goOnFromHere() {
  const { past } = bench.get()
  if (!past) return
  backToNow()
  await goBackTo(past.seq)
}

/** While a key is held: the sheet as it was before the last step or, where an earlier one is looked at, as it is now. */
export async function compare(held: boolean) {
  bench.set({ comparing: held, before: null })
  const s = bench.get()
  if (!held || s.past || !s.bench) return
  const steps = await stepsOf(s.bench.id).catch(() => [])
  const there = steps.filter((step) => !step.undone)[1]
  const before = there ? await fetched(there.seq) : null
  if (bench.get().comparing) bench.set({ before })
}
