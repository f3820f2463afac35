import { boxAround } from '../bundle/divided'
import { around, fitted } from '../geometry/boxes'
import { heldNow } from '../state/held'
import { chosen } from '../state/selection'
import { bench } from '../state/store'

/** The view in which all of the sheet is seen. */
export function showSheet() {
  const { bench: present, port } = bench.get()
  if (present) bench.set({ view: fitted([0, 0, present.sheet.width, present.sheet.height], port) })
}

/** Shows what is selected as large as the port allows: a pane or a member alone, where one is chosen. Once more shows the whole sheet again. */
export function showChosen() {
  const s = bench.get()
  const held = heldNow()
  const one = held && (held.pane || held.member !== undefined) ? around(held.corners) : null
  const bounds = one ?? boxAround(s, chosen(s))
  if (!bounds) return
  const view = fitted(bounds, s.port)
  if (Math.abs(view.zoom - s.view.zoom) < 1e-9 && view.x === s.view.x && view.y === s.view.y) showSheet()
  else bench.set({ view })
}
