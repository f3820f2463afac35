import { useEffect } from 'react'
import { call } from '../../api/client'
import type { CellView } from '../../types/CellView'
import type { Edit } from '../../types/Edit'
import { choicesOf, cellAt, sameCover } from './CellsMode'
import { attempt, edit, forget } from '../state/edits'
import { isPicture, windowOf } from './forms'
import type { Locate } from '../canvas/place'
import { hits } from '../bundle/divided'
import { follow } from '../canvas/pointer'
import type { Point } from '../geometry/similarity'
import { bench, pieceOf, useBench, viewOf, viewsOf } from '../state/store'

/** The regions into which the forms of the selected window divide the sheet, while *Join* is chosen. */
export function useRegions() {
  const piece = useBench((s) => (s.handling === 'join' && !s.mode ? s.selected : null))
  const several = useBench((s) => (windowOf(s, piece)?.opening.forms.length ?? 0) > 1)
  const revision = useBench((s) => s.bench?.revision)
  const id = useBench((s) => s.bench?.id)
  useEffect(() => {
    if (piece === null || !several || id === undefined) {
      bench.set({ regions: null })
      return
    }
    let gone = false
    void call<CellView[]>('GET', `/sheets/${id}/pieces/${piece}/cells`).then(
      (cells) => !gone && bench.set({ regions: { piece, cells } }),
      () => undefined,
    )
    return () => {
      gone = true
    }
  }, [piece, several, id, revision])
}

/**
 * A press while *Join* is chosen. Swept across, forms and other windows become one with the selected one; with Alt they are cut out of it. A
 * click takes a region in or leaves it out. What will be is shown until the button is let go.
 */
export function startJoin(e: React.PointerEvent, piece: string, locate: Locate) {
  const s = bench.get()
  const cells = s.regions?.piece === piece ? s.regions.cells : []
  const others = viewsOf(s).filter((v) => v.piece !== piece && !isPicture(pieceOf(s, v.piece)) && !pieceOf(s, v.piece)?.locked)
  const out = e.altKey || e.button === 2
  const swept = new Set<CellView>()
  const met = new Map<string, string>()
  let moved = false
  let last = locate(e)
  const meet = (p: Point) => {
    const before = swept.size + met.size
    const cell = cellAt(cells, p)
    if (cell) swept.add(cell)
    const other = others.findLast((v) => hits(s, v, p))
    if (other && !met.has(other.piece)) met.set(other.piece, crypto.randomUUID())
    return swept.size + met.size > before
  }
  const made = (): Edit[] => {
    const joins = [...met].map(([other, form]): Edit => ({ edit: 'take_in', piece, other, form, join: out ? 'cut_away' : 'add' }))
    if (joins.length > 0 || swept.size === 0) return joins
    const [first] = swept
    const taken = moved ? !out : !out && first?.taken !== true
    const next = cells.map((c) => ([...swept].some((x) => sameCover(x, c)) ? { ...c, taken } : c))
    return [{ edit: 'opening', piece, change: 'set_cells', cells: choicesOf(next) }]
  }
  const show = () => attempt(made())
  if (meet(last)) show()
  follow({
    move: (m) => {
      const to = locate(m)
      const steps = Math.ceil((Math.hypot(to[0] - last[0], to[1] - last[1]) * bench.get().view.zoom) / 3) || 1
      let more = false
      for (let i = 1; i <= steps; i++) more = meet([last[0] + ((to[0] - last[0]) * i) / steps, last[1] + ((to[1] - last[1]) * i) / steps]) || more
      last = to
      if (!more) return
      moved = true
      show()
    },
    up: () => {
      const joins = made()
      if (joins.length > 0) void edit(joins).finally(forget)
      else forget()
    },
    drop: forget,
  })
}

/** The regions of the selected window as lines, those that are left out as empty ones. */
export function RegionLines() {
  const regions = useBench((s) => s.regions)
  const shown = useBench((s) => s.trying)
  const there = useBench((s) => viewOf(s, regions?.piece ?? null) !== undefined)
  if (!regions || shown || !there) return null
  return regions.cells.map((c, k) => (
    <path
      key={k}
      data-testid="region"
      data-taken={c.taken}
      d={c.outline}
      vectorEffect="non-scaling-stroke"
      strokeWidth={1.5}
      className={c.taken ? 'fill-ink stroke-leaf [fill-opacity:0.15]' : 'fill-paper stroke-ink [fill-opacity:0.35]'}
      strokeDasharray={c.taken ? undefined : '3 4'}
    />
  ))
}
