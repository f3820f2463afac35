import type { Bounds } from '../geometry/boxes'

/** A place in which gaps beside a box are alike: how far it is moved to it, along one axis, and the gaps from where to where; mm. */
export interface EqualGaps {
  by: number
  size: number
  gaps: readonly (readonly [from: number, to: number])[]
}

/** Gaps that are hardly any are none. */
const LEAST = 0.2

/**
 * The nearest place of a box in which it goes on a row of others: with a gap like that between two of them, or in the middle of it. Along `x`
 * those count that lie beside it, along `y` those above and below it. Null where none is within `near`.
 */
export function equalGaps(own: Bounds, others: readonly Bounds[], axis: 'x' | 'y', near: number): EqualGaps | null {
  const [low, high, crossLow, crossHigh] = axis === 'x' ? ([0, 2, 1, 3] as const) : ([1, 3, 0, 2] as const)
  const row = others.filter((o) => o[crossLow] < own[crossHigh] && o[crossHigh] > own[crossLow]).sort((a, b) => a[low] - b[low])
  const size = own[high] - own[low]
  const found: EqualGaps[] = []
  for (const [k, b] of row.entries()) {
    const a = row[k - 1]
    const gap = a ? b[low] - a[high] : 0
    if (!a || gap < LEAST) continue
    const [before, after] = [a[low] - gap - size, b[high] + gap]
    found.push({ by: before - own[low], size: gap, gaps: [[before + size, a[low]], [a[high], b[low]]] })
    found.push({ by: after - own[low], size: gap, gaps: [[a[high], b[low]], [b[high], after]] })
    const half = (gap - size) / 2
    if (half >= LEAST) found.push({ by: a[high] + half - own[low], size: half, gaps: [[a[high], a[high] + half], [b[low] - half, b[low]]] })
  }
  const nearest = found.sort((a, b) => Math.abs(a.by) - Math.abs(b.by))[0]
  return nearest && Math.abs(nearest.by) <= near ? nearest : null
}
