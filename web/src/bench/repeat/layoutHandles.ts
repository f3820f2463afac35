import type { Layout } from '../../types/Layout'
import type { Repeat } from '../../types/Repeat'
import { middle, boxCorners, type Bounds } from '../geometry/boxes'
import { withPoint, withPointBetween } from './lineLayout'
import type { Point } from '../geometry/similarity'
import type { BenchState } from '../state/store'
import { unitView } from '../state/unit'
import { ownBounds, repeatOf } from './repeats'

/** As many members a drag makes at most. */
const MOST = 200

/** What is taken hold of to change a layout: where it is on the sheet, and the layout once it is somewhere else. */
export interface LayoutHandle {
  name: string
  title: string
  at: Point
  moved: (to: Point) => Layout
  /** It makes something that is not there yet. */
  adds?: boolean
}

const along = ([ux, uy]: readonly [number, number], [x, y]: Point) => {
  const far = Math.hypot(ux, uy) || 1
  return (x * ux + y * uy) / far
}

const unit = ([x, y]: readonly [number, number]): Point => {
  const far = Math.hypot(x, y) || 1
  return [x / far, y / far]
}

const minus = (a: Point, b: Point): Point => [a[0] - b[0], a[1] - b[1]]

const plus = ([x, y]: Point, [ux, uy]: Point, far: number): Point => [x + ux * far, y + uy * far]

const counted = (far: number, pitch: number) => Math.min(MOST, Math.max(1, 1 + Math.round(far / Math.max(0.1, pitch))))

/** How far it is from one member to the next along a direction, where neither was moved by itself: else as wide as the window, and the gap. */
function pitchOf(s: BenchState, piece: string, repeat: Repeat, next: number, way: readonly [number, number], gap: number, own: Bounds): number {
  const members = unitView(s, piece).members
  const [a, b] = [members?.[0], members?.[next]]
  const isFree = repeat.looks?.some((l) => (l.member === 0 || l.member === next) && l.by) ?? false
  const far = a && b && !isFree ? along(way, minus(middle(boxCorners(b.bounds)), middle(boxCorners(a.bounds)))) : 0
  if (far > 0.1) return far
  const [ux, uy] = unit(way)
  return Math.abs((own[2] - own[0]) * ux) + Math.abs((own[3] - own[1]) * uy) + gap
}

/** Of a line with more points than this, only some have handles: it was painted, and is painted anew. */
const POINTS = 24

/** The handles of what is repeated: how many there are, how far apart they lie, where the middle of a ring lies, and the points of a line. */
export function layoutHandles(s: BenchState, piece: string): LayoutHandle[] {
  const repeat = repeatOf(s, piece)
  if (!repeat) return []
  const own = ownBounds(s, piece)
  const first = middle(boxCorners(own))
  const layout = repeat.layout
  switch (layout.kind) {
    case 'row': {
      const way = unit(layout.along)
      const pitch = pitchOf(s, piece, repeat, 1, way, layout.gap, own)
      return [
        {
          name: 'How many',
          title: 'Drag along the row: more members, or fewer',
          at: plus(first, way, pitch * layout.count),
          moved: (to) => ({ ...layout, count: counted(along(way, minus(to, first)) - pitch, pitch) }),
        },
        ...(layout.count > 1
          ? [{ name: 'The gap', title: 'Drag along the row: a wider gap, or a smaller one', at: plus(first, way, pitch / 2), moved: (to: Point) => ({ ...layout, gap: layout.gap + 2 * (along(way, minus(to, first)) - pitch / 2) }) }]
          : []),
      ]
    }
    case 'grid': {
      const [across, down] = [unit(layout.along), unit(layout.down)]
      const px = pitchOf(s, piece, repeat, 1, across, layout.gaps[0], own)
      const py = pitchOf(s, piece, repeat, layout.columns, down, layout.gaps[1], own)
      return [
        {
          name: 'How many',
          title: 'Drag: more columns and rows, or fewer',
          at: plus(plus(first, across, px * (layout.columns - 0.5)), down, py * (layout.rows - 0.5)),
          moved: (to) => {
            const [x, y] = [along(across, minus(to, first)) - px / 2, along(down, minus(to, first)) - py / 2]
            const columns = counted(x, px)
            return { ...layout, columns, rows: Math.min(counted(y, py), Math.max(1, Math.floor(MOST / columns))) }
          },
        },
      ]
    }
    case 'line': {
      const { points } = layout
      const [from, to] = [middle(boxCorners(unitView(s, piece).members?.[0]?.bounds ?? own)), middle(boxCorners(unitView(s, piece).members?.[1]?.bounds ?? own))]
      const way = unit(minus(to, from))
      const places = points.length > POINTS ? [] : points.map(([x, y]): Point => [x, y])
      return [
        ...places.slice(1).map((p, k): LayoutHandle => {
          const before = places[k] ?? p
          return { name: `Between ${k + 1} and ${k + 2}`, title: 'Drag: one more point of the line', at: [(p[0] + before[0]) / 2, (p[1] + before[1]) / 2], adds: true, moved: (at) => ({ ...withPointBetween(layout, k, at), kind: 'line' }) }
        }),
        ...places.map((p, k): LayoutHandle => ({ name: `Point ${k + 1} of the line`, title: 'Drag: how the line runs', at: p, moved: (at) => ({ ...withPoint(layout, k, at), kind: 'line' }) })),
        ...(layout.count > 1 && layout.distance > 0
          ? [{ name: 'The distance', title: 'Drag along the line: members further apart, or nearer', at: plus(from, way, layout.distance / 2), moved: (at: Point) => ({ ...layout, distance: Math.max(0.1, 2 * along(way, minus(at, from))) }) }]
          : []),
      ]
    }
    case 'ring':
      return [{ name: 'The middle of the ring', title: 'Drag: where the middle of the ring lies', at: [...layout.centre], moved: ([x, y]) => ({ ...layout, centre: [x, y] }) }]
  }
}
