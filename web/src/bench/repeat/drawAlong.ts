import type { Edit } from '../../types/Edit'
import type { Repeat } from '../../types/Repeat'
import { piecesOf } from '../bundle/bundles'
import type { Locate } from '../canvas/place'
import { follow, leaving } from '../canvas/pointer'
import { thinned } from '../geometry/thinned'
import { boxCorners, middle } from '../geometry/boxes'
import { moveBy } from '../geometry/matrix'
import { edit } from '../state/edits'
import { bench, type BenchState } from '../state/store'
import { bundleOf } from '../state/unit'
import { distanceFor, fitting, lineBeside, longOf, type Place } from './lineLayout'
import { ownBounds, repeatOf, setRepeat } from './repeats'

/** So many points a line has at most. */
const POINTS = 200
/** How much smaller members become where a pen is not pressed, to begin with. */
const THINNING = 0.7

/** Draws the line along which members lie; a pen says how large they are by its pressure. */
export function startAlong(e: React.PointerEvent, unit: string, locate: Locate) {
  const left = leaving(e)
  const isPen = e.pointerType === 'pen'
  const place = (m: { clientX: number; clientY: number; pressure: number }): Place => [...locate(m), isPen ? Math.min(1, Math.max(0, m.pressure)) : 1]
  const drawn: Place[] = [place(e)]
  const show = (now: Place[] | null) => bench.set((s) => ({ along: { ...s.along, drawn: now } }))
  follow({
    move: (m) => {
      if (!left(m)) return
      drawn.push(place(m))
      show([...drawn])
    },
    up: () => {
      show(null)
      const points = thinned(drawn, bench.get().view.zoom, POINTS)
      if (points.length < 2 || longOf(points) < 1) return
      void edit(() => layAlong(bench.get(), unit, points, isPen)).then((kept) => kept && bench.set({ along: { drawing: false, drawn: null } }))
    },
    drop: () => show(null),
  })
}

/** The edits that lay members along a line; what is repeated goes where the line begins. */
function layAlong(s: BenchState, unit: string, points: Place[], isPen: boolean): Edit[] {
  const before = repeatOf(s, unit)
  const [first] = points
  if (!before || !first) return []
  const [cx, cy] = middle(boxCorners(ownBounds(s, unit)))
  const old = before.layout.kind === 'line' ? before.layout : lineBeside(ownBounds(s, unit), 2, distanceFor(ownBounds(s, unit)))
  const layout = { ...old, points, smooth: true, level: 0, count: fitting(points, old.distance), ...(isPen && old.thinning === 0 ? { thinning: THINNING } : {}) }
  const repeat: Repeat = { ...before, layout, looks: before.looks?.filter((l) => l.member < layout.count) }
  const pieces = bundleOf(s, unit) ? piecesOf(s.bench?.sheet, unit) : [unit]
  return [{ edit: 'transform', pieces, what: 'both', by: moveBy(first[0] - cx, first[1] - cy) }, setRepeat(s, unit, repeat)]
}
