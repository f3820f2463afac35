import type { LineLayout } from '../../types/LineLayout'
import type { Bounds } from '../geometry/boxes'
import type { Point } from '../geometry/similarity'

/** A place of a line along which members lie: where on the sheet, and with which pressure. */
export type Place = [x: number, y: number, pressure: number]

/** So many members there are at most. */
const MEMBERS = 500

/** A gentle line to the right of a box, from its middle on. The first member stands as it is. */
export function lineBeside([l, t, r, b]: Bounds, count: number, distance: number): LineLayout & { kind: 'line' } {
  const [x, y] = [(l + r) / 2, (t + b) / 2]
  const far = distance * Math.max(1, count - 1)
  const points: Place[] = [[x, y, 1], [x + far / 2, y - far / 8, 1], [x + far, y, 1]]
  return { kind: 'line', count, distance, points, smooth: true, upright: false, level: (Math.atan2(-far / 8, far / 2) * 180) / Math.PI, thinning: 0 }
}

/** How long a line is from point to point. */
export const longOf = (points: readonly Place[]) => points.slice(1).reduce((sum, [x, y], k) => sum + Math.hypot(x - (points[k]?.[0] ?? x), y - (points[k]?.[1] ?? y)), 0)

/** How many members fit on a line. */
export const fitting = (points: readonly Place[], distance: number) => Math.min(MEMBERS, Math.max(2, Math.floor(longOf(points) / Math.max(distance, 0.1)) + 1))

/** How far apart members of this size stand, to begin with. */
export const distanceFor = ([l, , r]: Bounds) => Math.max(1, Math.round((r - l) * 1.1))

/** A point of a line somewhere else. */
export const withPoint = (line: LineLayout, at: number, [x, y]: Point): LineLayout => ({ ...line, points: line.points.map((p, k) => (k === at ? [x, y, p[2]] : p)) })

/** One more point between two. */
export function withPointBetween(line: LineLayout, after: number, [x, y]: Point): LineLayout {
  const pressure = ((line.points[after]?.[2] ?? 1) + (line.points[after + 1]?.[2] ?? 1)) / 2
  return { ...line, points: [...line.points.slice(0, after + 1), [x, y, pressure], ...line.points.slice(after + 1)] }
}
