import { boxAround } from '../bundle/divided'
import { around } from '../geometry/boxes'
import { fitted, turnedTo } from './viewport'
import { heldNow } from '../state/held'
import { chosen } from '../state/selection'
import { bench } from '../state/store'

/** The view in which all of the sheet is seen. */
export function showSheet() {
  const { bench: present, port } = bench.get()
  if (present) bench.set({ view: fitted([0, 0, present.sheet.width, present.sheet.height], port, bench.get().view.turn) })
}

/** Shows what is selected as large as the port allows: a pane or a member alone, where one is chosen. Once more shows the whole sheet again. */
export function showChosen() {
  const s = bench.get()
  const held = heldNow()
  const one = held && (held.pane || held.member !== undefined) ? around(held.corners) : null
  const bounds = one ?? boxAround(s, chosen(s))
  if (!bounds) return
  const view = fitted(bounds, s.port, s.view.turn)
  if (Math.abs(view.zoom - s.view.zoom) < 1e-9 && view.x === s.view.x && view.y === s.view.y) showSheet()
  else bench.set({ view })
}

/** Turns the view so far about the middle of the port; degrees, clockwise. */
export function turnView(degrees: number) {
  const { view, port } = bench.get()
  const turn = ((((degrees + 180) % 360) + 360) % 360) - 180
  bench.set({ view: turnedTo(view, turn, port.width / 2, port.height / 2) })
}
