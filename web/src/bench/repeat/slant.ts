import { edit } from '../state/edits'
import { windowOf } from '../opening/forms'
import { bench, type BenchState } from '../state/store'
import { ownBounds } from './repeats'

/** How far the only form of a window leans to the right, in degrees; null where there are several. */
export function slantOf(s: BenchState, piece: string): number | null {
  const forms = windowOf(s, piece)?.opening.forms.filter((f) => !f.off) ?? []
  const [only, ...others] = forms
  return only && others.length === 0 && Math.abs(only.pose.turn ?? 0) < 1e-6 ? (only.pose.slant ?? 0) : null
}

/** Lets the opening lean so far, about its middle; what fills it stays as it is. */
export function slantOpening(piece: string, degrees: number, gesture: string) {
  return edit(() => {
    const before = slantOf(bench.get(), piece)
    if (before === null) return null
    const tan = (v: number) => Math.tan((v * Math.PI) / 180)
    const lean = tan(before) - tan(degrees)
    const [, t, , b] = ownBounds(bench.get(), piece)
    return { edit: 'transform', pieces: [piece], what: 'opening', by: [1, 0, lean, 1, -lean * ((t + b) / 2), 0] }
  }, gesture)
}
