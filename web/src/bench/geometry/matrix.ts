import type { Point } from './similarity'

/** An affine map of the plane in SVG's order: `(x, y) -> (a x + c y + e, b x + d y + f)`. */
export type Matrix = [a: number, b: number, c: number, d: number, e: number, f: number]

export const IDENTITY: Matrix = [1, 0, 0, 1, 0, 0]

export const moveBy = (dx: number, dy: number): Matrix => [1, 0, 0, 1, dx, dy]

/** First `m`, then `n`. */
export function followed(m: Matrix, n: Matrix): Matrix {
  return [
    n[0] * m[0] + n[2] * m[1],
    n[1] * m[0] + n[3] * m[1],
    n[0] * m[2] + n[2] * m[3],
    n[1] * m[2] + n[3] * m[3],
    n[0] * m[4] + n[2] * m[5] + n[4],
    n[1] * m[4] + n[3] * m[5] + n[5],
  ]
}

/** The way back; null where everything falls onto a line. */
export function undone([a, b, c, d, e, f]: Matrix): Matrix | null {
  const det = a * d - b * c
  if (Math.abs(det) < 1e-12) return null
  return [d / det, -b / det, -c / det, a / det, (c * f - d * e) / det, (b * e - a * f) / det]
}

export const map = ([a, b, c, d, e, f]: Matrix, [x, y]: Point): Point => [a * x + c * y + e, b * x + d * y + f]

/** A direction, without the shift. */
export const turnedBy = ([a, b, c, d]: Matrix, [x, y]: Point): Point => [a * x + c * y, b * x + d * y]

export const css = (m: Matrix) => `matrix(${m.join(' ')})`

/** Turns by degrees, clockwise, about a point. */
export function turnAbout([x, y]: Point, degrees: number): Matrix {
  const r = (degrees * Math.PI) / 180
  const [cos, sin] = [Math.cos(r), Math.sin(r)]
  return [cos, sin, -sin, cos, x - cos * x + sin * y, y - sin * x - cos * y]
}

/** Does `m` as seen from a frame that lies at `frame` in the sheet: into it, `m`, and out again. */
export function within(frame: Matrix, m: Matrix): Matrix {
  const back = undone(frame)
  return back ? followed(followed(back, m), frame) : m
}
