import { useShallow } from 'zustand/react/shallow'
import { bench, useBench, type BenchState } from './store'

/** What the sheet in the middle and the handles on it are drawn by. */
const SHOWN = [
  'bench', 'tried', 'triedOrder', 'triedPage', 'selected', 'several', 'inside', 'sweep', 'forms', 'handling', 'panes', 'member', 'along', 'fill', 'grip',
  'mode', 'drag', 'trying', 'regions', 'bare', 'view', 'sharp', 'open', 'looking', 'past', 'comparing', 'before', 'ground', 'stackAway',
] as const satisfies readonly (keyof BenchState)[]

/** The state as the sheet shows it: what uses it is drawn anew by that, and not by what goes on around the sheet (requests, other tabs, cards, uploads). */
export function useSheetState(): BenchState {
  useBench(useShallow((s) => SHOWN.map((name) => s[name])))
  return bench.get()
}
