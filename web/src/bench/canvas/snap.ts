import type { PieceView } from '../../types/PieceView'
import { equalGaps, type EqualGaps } from './gaps'
import { around, type Bounds } from '../geometry/boxes'
import { seenBounds } from '../bundle/divided'
import { layoutLines } from '../guides/layout'
import type { Point } from '../geometry/similarity'
import { bench, viewOf } from '../state/store'
import type { SnapLine } from './snapLine'

interface Line {
  at: number
  from: number
  to: number
  of: string
  /** Only what stands on it snaps to it. */
  isBaseline?: boolean
}

/** What is being moved, and therefore nothing to snap to. */
interface Moving {
  pieces: readonly string[]
  /** Forms of the piece; none where whole pieces move. */
  forms: string[]
  /** The guide that is pulled. */
  guide?: string
}

/** How near is near enough, in CSS pixels. */
const REACH = 6

const NODE = 'a node'

function lines(bounds: Bounds, name: string): { x: Line[]; y: Line[] } {
  const [l, t, r, b] = bounds
  const upright = (at: number, of: string): Line => ({ at, from: t, to: b, of: `${of} of ${name}` })
  const level = (at: number, of: string): Line => ({ at, from: l, to: r, of: `${of} of ${name}` })
  return {
    x: [upright(l, 'left edge'), upright((l + r) / 2, 'middle'), upright(r, 'right edge')],
    y: [level(t, 'top edge'), level((t + b) / 2, 'middle'), level(b, 'bottom edge')],
  }
}

/** Everything on the sheet that a drag may snap to. */
function targets(moving: Moving) {
  const s = bench.get()
  const sheet = s.bench?.sheet
  const x: Line[] = []
  const y: Line[] = []
  const boxes: Bounds[] = []
  const add = (bounds: Bounds, name: string) => {
    const found = lines(bounds, name)
    x.push(...found.x)
    y.push(...found.y)
  }
  if (!sheet) return { x, y, boxes }
  add([0, 0, sheet.width, sheet.height], 'the sheet')
  for (const { way, at, of, isBaseline = false } of layoutLines(sheet, moving.guide ?? null)) {
    if (way === 'upright') x.push({ at, from: 0, to: sheet.height, of })
    else y.push({ at, from: 0, to: sheet.width, of, isBaseline })
  }
  const addNodes = (ends: readonly Point[]) => {
    for (const [px, py] of ends) {
      x.push({ at: px, from: py, to: py, of: NODE })
      y.push({ at: py, from: px, to: px, of: NODE })
    }
  }
  for (const own of s.bench?.scene.pieces ?? []) {
    const pieceView: PieceView = viewOf(s, own.piece) ?? own
    if (!moving.pieces.includes(pieceView.piece)) {
      const seen = seenBounds(s, pieceView)
      add(seen, 'a piece')
      boxes.push(seen)
      if ('ends' in pieceView.outline) addNodes(pieceView.outline.ends)
    } else if (moving.forms.length > 0) {
      for (const view of pieceView.forms) {
        if (moving.forms.includes(view.form) || view.list !== null) continue
        add(around(view.corners), 'a form')
        boxes.push(around(view.corners))
        addNodes(view.ends)
      }
    }
  }
  return { x, y, boxes }
}

/**
 * A function that moves a shift so that edges and middles of `bounds` come to lie on those of others, or gaps beside it are alike, and shows the
 * lines.
 * Ctrl (or the command key) leaves the shift as it is.
 */
export function snapper(bounds: Bounds | null, moving: Moving) {
  const found = targets(moving)
  return (dx: number, dy: number, e: { ctrlKey: boolean; metaKey: boolean }): [number, number] => {
    if (!bounds || e.ctrlKey || e.metaKey) {
      bench.set({ snapLines: [] })
      return [dx, dy]
    }
    const near = REACH / bench.get().view.zoom
    const [l, t, r, b] = bounds
    const x = nearest([l + dx, (l + r) / 2 + dx, r + dx], found.x, near)
    const y = nearest([t + dy, (t + b) / 2 + dy, b + dy], found.y, near)
    const own: Bounds = [l + dx, t + dy, r + dx, b + dy]
    const [gapX, gapY] = [closer(equalGaps(own, found.boxes, 'x', near), x), closer(equalGaps(own, found.boxes, 'y', near), y)]
    const [sx, sy] = [dx + ((gapX ?? x)?.by ?? 0), dy + ((gapY ?? y)?.by ?? 0)]
    const snapLines: SnapLine[] = []
    const guide = (axis: 'x' | 'y', line: Line, low: number, high: number) =>
      // a guide has no extent along its own way
      snapLines.push(
        Number.isFinite(low) && Number.isFinite(high)
          ? { axis, at: line.at, from: Math.min(line.from, low), to: Math.max(line.to, high), gap: Math.max(0, line.from - high, low - line.to), of: line.of }
          : { axis, at: line.at, from: line.from, to: line.to, gap: 0, of: line.of },
      )
    // gaps are shown as what they measure, through the middle of what is dragged
    const gaps = (axis: 'x' | 'y', { size, gaps }: EqualGaps, at: number) => snapLines.push(...gaps.map(([from, to]): SnapLine => ({ axis, at, from, to, gap: size, of: 'gap' })))
    if (gapX) gaps('y', gapX, (t + b) / 2 + sy)
    else if (x) guide('x', x.line, t + sy, b + sy)
    if (gapY) gaps('x', gapY, (l + r) / 2 + sx)
    else if (y) guide('y', y.line, l + sx, r + sx)
    bench.set({ snapLines })
    return [sx, sy]
  }
}

/** Equal gaps, where no line is as near. */
const closer = (gaps: EqualGaps | null, line: { by: number } | null) => (gaps && (!line || Math.abs(gaps.by) < Math.abs(line.by) - 1e-9) ? gaps : null)

/** Edges and middles go before nodes, of which there are many. */
function nearest(own: number[], lines: Line[], near: number) {
  const isNode = (line: Line) => line.of === NODE
  return closest(own, lines.filter((l) => !isNode(l)), near) ?? closest(own, lines.filter(isNode), near)
}

function closest(own: number[], lines: Line[], near: number): { by: number; line: Line } | null {
  let best: { by: number; line: Line } | null = null
  for (const line of lines) {
    for (const at of line.isBaseline ? own.slice(-1) : own) {
      const by = line.at - at
      if (Math.abs(by) <= near && (best === null || Math.abs(by) < Math.abs(best.by) - 1e-9)) best = { by, line }
    }
  }
  return best
}
