import simplify from 'simplify-js'

/** How far a drawn line may stray from the hand, in CSS pixels. */
const STRAYS = 4

/** As few of the points that a hand drew as follow it, and no more than so many; what else points say stays with them. */
export function thinned<P extends readonly [number, number, ...number[]]>(drawn: readonly P[], zoom: number, most: number): P[] {
  const places = drawn.map(([x, y]) => ({ x, y }))
  for (let strays = STRAYS / zoom; ; strays *= 2) {
    const kept = new Set<object>(simplify(places, strays, true))
    const points = drawn.filter((_, k) => kept.has(places[k] ?? {}))
    if (points.length <= most) return points
  }
}
