import type { Course } from '../../types/Course'
import type { Split } from '../../types/Split'
import { forget } from '../state/edits'
import { startDrag } from '../canvas/drag'
import { heldNow } from '../state/held'
import type { Locate } from '../canvas/place'
import { follow, leaving } from '../canvas/pointer'
import type { Point } from '../geometry/similarity'
import { thinned } from '../geometry/thinned'
import { bench } from '../state/store'
import { choosePane, keepSplit, longOf, newLine, paneAt, splitOf, trySplit, withLine, withLineChanged, type Line } from './split'

/** So many points a line has at most. */
const POINTS = 100

/** The nearest of the directions 15 degrees apart. */
function straightened([x0, y0]: Point, [x, y]: Point): Point {
  const step = Math.PI / 12
  const angle = Math.round(Math.atan2(y - y0, x - x0) / step) * step
  const far = Math.hypot(x - x0, y - y0)
  return [x0 + far * Math.cos(angle), y0 + far * Math.sin(angle)]
}

/** A press while the card of panes is open: draws a line, or takes hold of a pane. False where neither is there to be done. */
export function startOnPanes(e: React.PointerEvent, unit: string, locate: Locate): boolean {
  const s = bench.get()
  const split = splitOf(s, unit)
  const drawing = s.panes.drawing || (split.lines ?? []).length === 0
  if (e.button !== 0) return false
  if (drawing) {
    startLine(e, unit, locate)
    return true
  }
  const pane = paneAt(s, unit, locate(e))
  if (!pane) return false
  choosePane(pane.at)
  startDrag(e, heldNow(), locate)
  return true
}

function startLine(e: React.PointerEvent, unit: string, locate: Locate) {
  const start = locate(e)
  const left = leaving(e)
  let line: (Line & { id: string }) | null = null
  // a curve is drawn by a free hand, other lines from end to end
  const free = bench.get().panes.course.kind === 'smooth'
  const hand: Point[] = [start]
  const end = () => bench.set((s) => ({ panes: { ...s.panes, drawn: null } }))
  follow({
    move: (m) => {
      if (!left(m)) return
      const now = m.shiftKey ? straightened(start, locate(m)) : locate(m)
      hand.push(now)
      const points = free && !m.shiftKey ? thinned(hand, bench.get().view.zoom, POINTS) : [start, now]
      line = { ...newLine(bench.get(), points.map(([x, y]) => [x, y])), ...(line ? { id: line.id } : {}) }
      bench.set((s) => ({ panes: { ...s.panes, drawn: free ? [...hand] : points } }))
      trySplit(unit, withLine(splitOf(bench.get(), unit), line))
    },
    up: () => {
      end()
      const made = line
      if (!made) {
        // a press that draws nothing takes the pane beneath it
        choosePane(paneAt(bench.get(), unit, start)?.at ?? null)
        return
      }
      void keepSplit(unit, (now) => withLine(now, made)).then((kept) => kept && bench.set((s) => ({ panes: { ...s.panes, drawing: false, line: made.id, at: null } })))
    },
    drop: () => {
      end()
      forget()
    },
  })
}

/** How a line changes with a handle that is moved by so many mm. */
export type LineChange = (line: Line, by: Point, m: { shiftKey: boolean }) => Line

/** Changes a line by keys. */
export function nudgeLine(unit: string, id: string, change: LineChange, by: Point, gesture: string) {
  bench.set((s) => ({ panes: { ...s.panes, line: id, at: null } }))
  void keepSplit(unit, (now) => withLineChanged(now, id, (line) => change(line, by, { shiftKey: false })), gesture)
}

/** Changes a line by a drag, seen at once. */
export function startLineDrag(e: React.PointerEvent, unit: string, id: string, change: LineChange, locate: Locate) {
  e.stopPropagation()
  if (e.button !== 0) return
  const left = leaving(e)
  const from = locate(e)
  let made: ((split: Split) => Split) | null = null
  bench.set((s) => ({ panes: { ...s.panes, line: id, at: null } }))
  follow({
    move: (m) => {
      if (!left(m)) return
      const [x, y] = locate(m)
      made = (now) => withLineChanged(now, id, (line) => change(line, [x - from[0], y - from[1]], m))
      trySplit(unit, made(splitOf(bench.get(), unit)))
    },
    up: () => (made === null ? forget() : void keepSplit(unit, made)),
    drop: forget,
  })
}

/** Moves a point of a line; a point that lies on the line is added first. */
export const pointMoved = (at: number) => (line: Line, [dx, dy]: Point, m: { shiftKey: boolean }): Line => {
  const other = line.points[at === 0 ? 1 : at - 1]
  const points = line.points.map((p, k): [number, number] => {
    if (k !== at) return p
    const to: Point = [p[0] + dx, p[1] + dy]
    return m.shiftKey && other ? [...straightened(other, to)] : [...to]
  })
  return { ...line, points }
}

export const pointAdded = (after: number) => (line: Line, by: Point, m: { shiftKey: boolean }): Line => {
  const [a, b] = [line.points[after], line.points[after + 1]]
  if (!a || !b) return line
  const middle: [number, number] = [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2]
  return pointMoved(after + 1)({ ...line, points: [...line.points.slice(0, after + 1), middle, ...line.points.slice(after + 1)] }, by, m)
}

export const lineMoved = (line: Line, [dx, dy]: Point): Line => ({ ...line, points: line.points.map(([x, y]) => [x + dx, y + dy]) })

/** Where the first tooth of a zigzag, or the depth of a torn line, is taken hold of. */
export function toothOf(line: Line): Point | null {
  const [a, b] = line.points
  if (!a || !b || (line.course.kind !== 'zigzag' && line.course.kind !== 'torn')) return null
  const far = Math.hypot(b[0] - a[0], b[1] - a[1]) || 1
  const along: Point = [(b[0] - a[0]) / far, (b[1] - a[1]) / far]
  const at = line.course.kind === 'zigzag' ? longOf(line.points) / (2 * line.course.count) : far / 4
  const off = line.course.depth / 2
  return [a[0] + along[0] * at - along[1] * off, a[1] + along[1] * at + along[0] * off]
}

/** The tooth pulled along the line makes teeth wider, and away from it deeper. */
export function toothMoved(line: Line, [dx, dy]: Point): Line {
  const [a, b] = line.points
  const tooth = toothOf(line)
  if (!a || !b || !tooth) return line
  const far = Math.hypot(b[0] - a[0], b[1] - a[1]) || 1
  const [ux, uy] = [(b[0] - a[0]) / far, (b[1] - a[1]) / far]
  const [x, y] = [tooth[0] + dx - a[0], tooth[1] + dy - a[1]]
  const depth = 2 * (y * ux - x * uy)
  const course: Course =
    line.course.kind === 'zigzag'
      ? { kind: 'zigzag', depth, count: Math.min(100, Math.max(1, Math.round(longOf(line.points) / (2 * Math.max(0.01, x * ux + y * uy))))) }
      : line.course.kind === 'torn'
        ? { ...line.course, depth }
        : line.course
  return { ...line, course }
}
