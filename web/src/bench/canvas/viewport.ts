import { around, boxCorners, type Bounds } from '../geometry/boxes'
import type { Point } from '../geometry/similarity'

/** What the screen shows of a sheet: a zoom, where the sheet's corner lies, and how far the sheet is turned about it. */
export interface View {
  /** CSS pixels for one millimetre. */
  zoom: number
  /** The sheet's top left corner, in CSS pixels of the viewport. */
  x: number
  y: number
  /** Degrees, clockwise. */
  turn: number
}

/** What the shelf takes of the port at the left, and the stack at the right; CSS pixels. */
export const SHELF = 108
export const STACK = 236
/** The same in a mode, where there is no stack. */
export const NO_STACK = 48

function turned([x, y]: Point, degrees: number): Point {
  if (degrees === 0) return [x, y]
  const r = (degrees * Math.PI) / 180
  const [cos, sin] = [Math.cos(r), Math.sin(r)]
  return [x * cos - y * sin, x * sin + y * cos]
}

/** A direction of the screen as one of the sheet. */
export const alongSheet = (view: View, direction: Point): Point => turned(direction, -view.turn)

export function toSheet(view: View, x: number, y: number): Point {
  const [u, v] = turned([x - view.x, y - view.y], -view.turn)
  return [u / view.zoom, v / view.zoom]
}

export function toScreen(view: View, [x, y]: Point): Point {
  const [u, v] = turned([x * view.zoom, y * view.zoom], view.turn)
  return [u + view.x, v + view.y]
}

/** The transform of a group that is drawn in the space of the sheet. */
export const groupTransform = ({ x, y, zoom, turn }: View) => `translate(${x} ${y})${turn === 0 ? '' : ` rotate(${turn})`} scale(${zoom})`

/** The place of an element that covers a sheet of this size (mm). */
export const coverOf = ({ x, y, zoom, turn }: View, { width, height }: { width: number; height: number }) => ({
  left: x,
  top: y,
  width: width * zoom,
  height: height * zoom,
  ...(turn === 0 ? {} : { transform: `rotate(${turn}deg)`, transformOrigin: '0 0' }),
})

/** The upright box on the screen around a box of the sheet. */
export const boxOnScreen = (view: View, box: Bounds): Bounds => around(boxCorners(box).map((c) => toScreen(view, c)))

/** The view in which a rectangle of the sheet (left, top, right, bottom in mm) fills the viewport, but for what stands at its `right`. */
export function fitted(rect: Bounds, port: { width: number; height: number }, turn: number, right = STACK): View {
  const [l, t, r, b] = boxOnScreen({ zoom: 1, x: 0, y: 0, turn }, rect)
  // the shelf, the stack and the grip need room at the sides
  const room = { left: SHELF + 4, right, top: 28, bottom: 52 }
  const most = Math.min((port.width - room.left - room.right) / (r - l), (port.height - room.top - room.bottom) / (b - t))
  // whole pixels, so that the sheet's own edges are crisp
  const zoom = Math.max(16, Math.floor((r - l) * most)) / (r - l)
  return {
    zoom,
    x: Math.round(room.left + (port.width - room.left - room.right - (r - l) * zoom) / 2 - l * zoom),
    y: Math.round(room.top + (port.height - room.top - room.bottom - (b - t) * zoom) / 2 - t * zoom),
    turn,
  }
}

/** Zooms so that the point under (x, y) stays where it is. */
export function zoomed(view: View, factor: number, x: number, y: number): View {
  const zoom = Math.min(200, Math.max(0.02, view.zoom * factor))
  const k = zoom / view.zoom
  return { ...view, zoom, x: x - (x - view.x) * k, y: y - (y - view.y) * k }
}

/** Turns to so many degrees about the point under (x, y). */
export function turnedTo(view: View, turn: number, x: number, y: number): View {
  const [u, v] = turned([view.x - x, view.y - y], turn - view.turn)
  return { ...view, turn, x: x + u, y: y + v }
}
