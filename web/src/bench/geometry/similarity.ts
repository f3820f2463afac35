import type { Similarity } from '../../types/Similarity'

/** Moves, turns and even scalings of the sheet: `(x, y) -> (a x - b y + dx, b x + a y + dy)`, in mm. */

export const STILL: Similarity = { a: 1, b: 0, dx: 0, dy: 0 }

export const shift = (dx: number, dy: number): Similarity => ({ a: 1, b: 0, dx, dy })

/** First `s`, then `t`. */
export function then(s: Similarity, t: Similarity): Similarity {
  return {
    a: t.a * s.a - t.b * s.b,
    b: t.b * s.a + t.a * s.b,
    dx: t.a * s.dx - t.b * s.dy + t.dx,
    dy: t.b * s.dx + t.a * s.dy + t.dy,
  }
}

export function inverse(s: Similarity): Similarity {
  const n = s.a * s.a + s.b * s.b
  const [a, b] = [s.a / n, -s.b / n]
  return { a, b, dx: -(a * s.dx - b * s.dy), dy: -(b * s.dx + a * s.dy) }
}

/** Scales by `factor` and turns by `degrees` (clockwise) about a point. */
export function about(x: number, y: number, factor: number, degrees: number): Similarity {
  const r = (degrees * Math.PI) / 180
  const [a, b] = [factor * Math.cos(r), factor * Math.sin(r)]
  return { a, b, dx: x - (a * x - b * y), dy: y - (b * x + a * y) }
}

export const at = (s: Similarity, [x, y]: Point): Point => [s.a * x - s.b * y + s.dx, s.b * x + s.a * y + s.dy]

export type Point = readonly [number, number]

export const matrix = (s: Similarity) => `matrix(${s.a} ${s.b} ${-s.b} ${s.a} ${s.dx} ${s.dy})`

export const isStill = (s: Similarity) => s.a === 1 && s.b === 0 && s.dx === 0 && s.dy === 0
