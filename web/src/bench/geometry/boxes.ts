import type { Grip } from '../../types/Grip'
import type { PieceView } from '../../types/PieceView'
import { at, type Point } from './similarity'
import type { Similarity } from '../../types/Similarity'

/** The four corners that a grip moves: of the photo, drawing or form for the fill (of several, for the one that is moved), else of the opening; clockwise from the top left. */
export function cornersOf(pieceView: PieceView, what: Grip, fill: string | null = null): Point[] {
  const placed = [...pieceView.photos, ...(pieceView.drawings ?? []), ...(pieceView.fill_forms ?? [])]
  const own = fill === null ? placed.at(-1) : placed.find((p) => p.fill === fill)
  if (what === 'fill' && own) return own.corners
  return boxCorners(pieceView.bounds)
}

/** The corners of the opening, or of the sheet where there is none. */
export function cornersOfPiece(pieceView: PieceView | undefined, sheet: { width: number; height: number }): Point[] {
  return pieceView ? cornersOf(pieceView, 'opening') : [[0, 0], [sheet.width, 0], [sheet.width, sheet.height], [0, sheet.height]]
}

export const moved = (corners: Point[], by: Similarity): Point[] => corners.map((c) => at(by, c))

export function middle(corners: Point[]): Point {
  const n = corners.length || 1
  return [corners.reduce((s, c) => s + c[0], 0) / n, corners.reduce((s, c) => s + c[1], 0) / n]
}

/** Where the knob that turns a box stands: off the middle of its upper side, which comes with it. */
export function knobOf(corners: Point[], off: number): { top: Point; knob: Point } {
  const [cx, cy] = middle(corners)
  const top = middle(corners.slice(0, 2))
  const away = Math.hypot(top[0] - cx, top[1] - cy) || 1
  return { top, knob: [top[0] + ((top[0] - cx) / away) * off, top[1] + ((top[1] - cy) / away) * off] }
}

let canvas: CanvasRenderingContext2D | null = null

/** Paths that were read: a print takes longer to read than a move of the pointer may take. */
const read = new Map<string, Path2D>()

function readPath(data: string): Path2D {
  let path = read.get(data)
  if (!path) {
    if (read.size > 200) read.clear()
    path = new Path2D(data)
    read.set(data, path)
  }
  return path
}

/** Whether a point lies inside of path data, by the nonzero rule. */
export function inside(path: string, [x, y]: Point): boolean {
  canvas ??= document.createElement('canvas').getContext('2d')
  return canvas?.isPointInPath(readPath(path), x, y, 'nonzero') ?? false
}

export const inBounds = ({ bounds: [l, t, r, b] }: PieceView, [x, y]: Point) => x >= l && x <= r && y >= t && y <= b

export type Bounds = readonly [left: number, top: number, right: number, bottom: number]

export const boundsOf = (pieceView: PieceView | undefined): Bounds | null => pieceView?.bounds ?? null

/** The upright box around points. */
export function around(points: readonly Point[]): Bounds {
  const [xs, ys] = [points.map((p) => p[0]), points.map((p) => p[1])]
  return [Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys)]
}

/** The box around boxes; null around none. */
export const joined = (all: readonly Bounds[]): Bounds | null =>
  all.length === 0 ? null : around(all.flatMap(([l, t, r, b]) => [[l, t] as const, [r, b] as const]))

/** Clockwise from the top left. */
export const boxCorners = ([l, t, r, b]: Bounds): Point[] => [[l, t], [r, t], [r, b], [l, b]]
