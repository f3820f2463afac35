import type { GuideWay } from '../../types/GuideWay'
import { placeOf } from '../canvas/place'
import { follow } from '../canvas/pointer'
import { snapper } from '../canvas/snap'
import { bench } from '../state/store'
import { amendGuides } from './layout'

/** Pulls a guide, or a new one (null), until it is let go; beside the sheet it is taken away. */
export function startGuide(e: React.PointerEvent, way: GuideWay, id: string | null) {
  if (e.button !== 0) return
  e.preventDefault()
  e.stopPropagation()
  const sheet = bench.get().bench?.sheet
  if (!sheet) return
  const key = id ?? crypto.randomUUID()
  const snap = snapper([0, 0, 0, 0], { pieces: [], forms: [], guide: key })
  const size = way === 'upright' ? sheet.width : sheet.height
  const at = (m: PointerEvent) => {
    const [x, y] = placeOf(m)
    // only along the way in which it moves
    const [sx, sy] = way === 'upright' ? snap(x, NaN, m) : snap(NaN, y, m)
    return way === 'upright' ? sx : sy
  }
  const within = (v: number) => v >= 0 && v <= size
  const over = () => bench.set({ guide: null, snapLines: [] })
  let last: number | null = null
  follow({
    move: (m) => {
      last = at(m)
      bench.set({ guide: { id: key, way, at: last } })
    },
    up: () => {
      const place = last
      if (place === null) return
      void amendGuides((guides) => {
        const others = (guides.lines ?? []).filter((g) => g.id !== key)
        return { ...guides, hidden: false, lines: within(place) ? [...others, { id: key, way, at: place }] : others }
      }).finally(over)
    },
    drop: over,
  })
}
