import type { Grip } from '../../types/Grip'
import type { PieceView } from '../../types/PieceView'
import { at, type Point } from './similarity'
import type { Similarity } from '../../types/Similarity'
import type { View } from '../canvas/viewport'

export const toSheet = (view: View, x: number, y: number): Point => [(x - view.x) / view.zoom, (y - view.y) / view.zoom]

export const toScreen = (view: View, [x, y]: Point): Point => [x * view.zoom + view.x, y * view.zoom + view.y]

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

/** What the shelf takes of the port at the left, and the stack at the right; CSS pixels. */
export const SHELF = 108
export const STACK = 236
/** The same in a mode, where there is no stack. */
export const NO_STACK = 48

/** The view in which a rectangle of the sheet (left, top, right, bottom in mm) fills the viewport, but for what stands at its `right`. */
export function fitted(rect: readonly [number, number, number, number], port: { width: number; height: number }, right = STACK): View {
  const [l, t, r, b] = rect
  // the shelf, the stack and the grip need room at the sides
  const room = { left: SHELF + 4, right, top: 28, bottom: 52 }
  const most = Math.min((port.width - room.left - room.right) / (r - l), (port.height - room.top - room.bottom) / (b - t))
  // whole pixels, so that the sheet's own edges are crisp
  const zoom = Math.max(16, Math.floor((r - l) * most)) / (r - l)
  return {
    zoom,
    x: Math.round(room.left + (port.width - room.left - room.right - (r - l) * zoom) / 2 - l * zoom),
    y: Math.round(room.top + (port.height - room.top - room.bottom - (b - t) * zoom) / 2 - t * zoom),
  }
}

/** Zooms so that the point under (x, y) stays where it is. */
export function zoomed(view: View, factor: number, x: number, y: number): View {
  const zoom = Math.min(200, Math.max(0.02, view.zoom * factor))
  const k = zoom / view.zoom
  return { zoom, x: x - (x - view.x) * k, y: y - (y - view.y) * k }
}
