import type { Grip } from '../../types/Grip'
import { gripFor } from '../state/held'
import { grippedFill } from '../fill/fills'
import { handledForms } from '../opening/forms'
import { bench, type BenchState, type Handling } from '../state/store'

/** What the handles of what is selected can be set to: those of forms, or of a photo or drawing while the grip is about the fill; several pieces are scaled or slanted as one. */
export function handlingsOf(s: BenchState): Handling[] {
  if (s.selected === null) return s.several.length > 1 ? ['scale', 'slant'] : []
  const forms = handledForms(s).length
  const pull: Handling[] = forms > 1 ? [] : ['pull']
  if (s.forms.length === 0 && gripFor(s.selected) === 'fill') {
    const kind = grippedFill(s, s.selected)?.paint.kind
    return kind === 'form' ? ['scale', 'slant', 'pull'] : kind === 'photo' || kind === 'drawing' ? ['scale', 'pull'] : []
  }
  return forms > 0 ? ['scale', 'slant', 'join', ...pull] : ['join']
}

/** Sets what a drag moves. Joining is about forms, so it ends when the grip is about the fill. */
export function takeGrip(grip: Grip) {
  bench.set((s) => ({ grip, forms: [], handling: grip === 'fill' && s.handling === 'join' ? 'scale' : s.handling }))
}

/** Sets what the handles do, if they can. */
export function takeHandling(handling: Handling): boolean {
  const s = bench.get()
  if (!((handling === 'join' && s.selected !== null) || handlingsOf(s).includes(handling))) return false
  if (handling === 'join') bench.set({ handling, forms: [], grip: s.grip === 'fill' ? 'both' : s.grip })
  else bench.set({ handling })
  return true
}

/** The photo or drawing whose corners are pulled now. */
export function pulledFill(s: BenchState) {
  if (s.mode || s.handling !== 'pull' || s.forms.length > 0 || s.selected === null || gripFor(s.selected) !== 'fill') return undefined
  const fill = grippedFill(s, s.selected)
  return fill?.paint.kind === 'photo' || fill?.paint.kind === 'drawing' ? { fill, paint: fill.paint } : undefined
}
