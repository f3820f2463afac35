import { keepBrush } from '../opening/BrushMode'
import { keepTrace } from '../opening/TraceMode'
import type { Mode } from '../mode/modes'
import { bench } from '../state/store'

/** Modes that something new on the sheet does not wait for. */
const SETTLES: Mode['kind'][] = ['draw', 'brush', 'trace']

/** Whether something can be laid on the sheet now: in no mode, or in one whose work is kept for it. */
export function canSettle(): boolean {
  const { mode, looking } = bench.get()
  if (looking) return false
  return mode === null || (SETTLES.includes(mode.kind) && !(mode.kind === 'trace' && mode.subject !== null))
}

/** Keeps what a mode has drawn so far, so that something can be laid on the sheet; false where it has to be decided first. */
export async function settle(): Promise<boolean> {
  const mode = bench.get().mode
  if (mode === null) return true
  if (mode.kind === 'brush') return keepBrush()
  if (mode.kind === 'trace') return keepTrace()
  if (mode.kind !== 'draw') return false
  bench.set({ mode: null })
  return true
}
