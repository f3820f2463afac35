import { forget } from '../state/edits'
import { bench, useBench, type BenchState } from '../state/store'
import type { Mode } from './modes'

/**
 * Modes have one shape: one is entered, amended as long as it lasts, taken step by step that can be taken back, and kept or dropped in the end.
 * What it would make is only tried until it is kept.
 */

type Kind = Mode['kind']
type Of<K extends Kind> = Extract<Mode, { kind: K }>

/** Modes whose steps are remembered here. */
type Stepping = Exclude<Mode, { kind: 'draw' | 'subject' }>
type Step<K extends Stepping['kind']> = Extract<Stepping, { kind: K }>

const stepping = <K extends Stepping['kind']>(kind: K): Step<K> | null => modeOf(kind) as Step<K> | null

/** So many steps can be taken back. */
const STEPS = 200

/** The present mode, if it is of this kind. */
export function modeOf<K extends Kind>(kind: K, s: Pick<BenchState, 'mode'> = bench.get()): Of<K> | null {
  return s.mode?.kind === kind ? (s.mode as Of<K>) : null
}

export const useMode = <K extends Kind>(kind: K): Of<K> | null => useBench((s) => modeOf(kind, s))

/** Begins a mode: cards close, and no form is held. */
export function enterMode(mode: Mode, also: Partial<BenchState> = {}) {
  bench.set({ mode, open: null, forms: [], ...also })
}

/** Changes what a mode is like; no step of its own. */
export function amendMode<K extends Kind>(kind: K, change: Partial<Of<K>>) {
  const mode = modeOf(kind)
  if (mode) bench.set({ mode: { ...mode, ...change } })
}

/** Takes a mode one step further; what it was like so far in these respects can be had back. */
export function stepMode<K extends Stepping['kind']>(kind: K, change: Partial<Step<K>>) {
  const mode = stepping(kind)
  if (!mode) return
  const before = Object.fromEntries(Object.entries(mode).filter(([name]) => name in change))
  bench.set({ mode: { ...mode, ...change, past: [...mode.past, before].slice(-STEPS) } })
}

/** Takes the last step of a mode back; what it is like then, or null where there is no step. */
export function backInMode<K extends Stepping['kind']>(kind: K): Step<K> | null {
  const mode = stepping(kind)
  const before = mode?.past.at(-1)
  if (!mode || !before) return null
  const next: Step<K> = { ...mode, ...before, past: mode.past.slice(0, -1) }
  bench.set({ mode: next })
  return next
}

/** Ends a mode, whatever becomes of it; what was tried is forgotten. */
export function leaveMode(also: Partial<BenchState> = {}) {
  bench.set({ mode: null, ...also })
  forget()
}
