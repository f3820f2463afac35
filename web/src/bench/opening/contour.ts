import type { Contour } from '../../types/Contour'
import type { Node } from '../../types/Node'
import type { Subpath } from '../../types/Subpath'
import { map, turnedBy, type Matrix } from '../geometry/matrix'
import type { Point } from '../geometry/similarity'

/** Nodes and subpaths of a contour, in the contour's own space. Nothing here changes what it is given. */

export type At = readonly [subpath: number, node: number]

export const corner = ([x, y]: Point): Node => ({ x, y })

export const nodeAt = (c: Contour, [s, n]: At): Node | undefined => c.subpaths[s]?.nodes[n]

export function withNode(c: Contour, [s, n]: At, how: (node: Node) => Node): Contour {
  return {
    ...c,
    subpaths: c.subpaths.map((subpath, i) =>
      i === s ? { ...subpath, nodes: subpath.nodes.map((node, k) => (k === n ? how(node) : node)) } : subpath,
    ),
  }
}

const withSubpath = (c: Contour, s: number, how: (subpath: Subpath) => Subpath): Contour => ({
  ...c,
  subpaths: c.subpaths.map((subpath, i) => (i === s ? how(subpath) : subpath)),
})

/** A node as an affine map carries it. */
export function mapped(m: Matrix, { x, y, before, after, smooth }: Node): Node {
  const at = map(m, [x, y])
  return {
    x: at[0],
    y: at[1],
    ...(before ? { before: [...turnedBy(m, before)] as [number, number] } : {}),
    ...(after ? { after: [...turnedBy(m, after)] as [number, number] } : {}),
    ...(smooth ? { smooth } : {}),
  }
}

/** A new subpath of one node at the end of the list. */
export const begun = (c: Contour, node: Node): Contour => ({ ...c, subpaths: [...c.subpaths, { nodes: [node], closed: false }] })

/** A node more at the end of a subpath. */
export const grown = (c: Contour, s: number, node: Node): Contour => withSubpath(c, s, (subpath) => ({ ...subpath, nodes: [...subpath.nodes, node] }))

export const closed = (c: Contour, s: number): Contour => withSubpath(c, s, (subpath) => ({ ...subpath, closed: true }))

/** The subpath the other way round, so that it goes on from what was its beginning. */
export const reversed = (c: Contour, s: number): Contour =>
  withSubpath(c, s, (subpath) => ({
    ...subpath,
    nodes: [...subpath.nodes].reverse().map(({ before, after, ...node }) => ({
      ...node,
      ...(after ? { before: after } : {}),
      ...(before ? { after: before } : {}),
    })),
  }))

/** Without a node; a subpath of one node goes altogether. */
export function without(c: Contour, [s, n]: At): Contour {
  const next = withSubpath(c, s, (subpath) => ({ ...subpath, nodes: subpath.nodes.filter((_, k) => k !== n) }))
  return { ...next, subpaths: next.subpaths.filter((subpath) => subpath.nodes.length > 1) }
}

/** Moves a handle; that of a smooth node takes the other one along, in one line. */
export function pulled(node: Node, which: 'before' | 'after', to: Point, alone: boolean): Node {
  const next: Node = { ...node, [which]: [to[0] - node.x, to[1] - node.y] }
  const other = which === 'before' ? 'after' : 'before'
  const own = node[other]
  if (alone) return { ...next, smooth: false }
  if (node.smooth && own) {
    const [dx, dy] = [to[0] - node.x, to[1] - node.y]
    const length = Math.hypot(dx, dy) || 1
    const keep = Math.hypot(own[0], own[1])
    next[other] = [(-dx / length) * keep, (-dy / length) * keep]
  }
  return next
}

/** A node with handles along the line through its neighbours, a third of the way to each. */
export function smoothed(c: Contour, at: At): Contour {
  const subpath = c.subpaths[at[0]]
  const node = nodeAt(c, at)
  if (!subpath || !node) return c
  const count = subpath.nodes.length
  const neighbour = (step: number): Node | undefined => {
    const i = at[1] + step
    return subpath.closed ? subpath.nodes[(i + count) % count] : subpath.nodes[i]
  }
  const [a, b] = [neighbour(-1) ?? node, neighbour(1) ?? node]
  const [dx, dy] = [b.x - a.x, b.y - a.y]
  const length = Math.hypot(dx, dy) || 1
  const reach = (n: Node) => Math.hypot(n.x - node.x, n.y - node.y) / 3
  const [ra, rb] = [reach(a), reach(b)]
  return withNode(c, at, () => ({
    x: node.x,
    y: node.y,
    smooth: true,
    ...(ra > 0 ? { before: [(-dx / length) * ra, (-dy / length) * ra] } : {}),
    ...(rb > 0 ? { after: [(dx / length) * rb, (dy / length) * rb] } : {}),
  }))
}

/** A node without handles. */
export const sharpened = (c: Contour, at: At): Contour => withNode(c, at, ({ x, y }) => ({ x, y }))

type Cubic = readonly [Point, Point, Point, Point]

/** The sides of a subpath: from which node, and the curve to the next one. */
export function sides(subpath: Subpath): { from: number; curve: Cubic; straight: boolean }[] {
  const count = subpath.nodes.length
  const last = subpath.closed ? count : count - 1
  return Array.from({ length: Math.max(last, 0) }, (_, i) => {
    const [a, b] = [subpath.nodes[i], subpath.nodes[(i + 1) % count]]
    if (!a || !b) return null
    const p: Point = [a.x, a.y]
    const q: Point = [b.x, b.y]
    return {
      from: i,
      curve: [p, a.after ? [a.x + a.after[0], a.y + a.after[1]] : p, b.before ? [b.x + b.before[0], b.y + b.before[1]] : q, q] as Cubic,
      straight: !a.after && !b.before,
    }
  }).filter((side) => side !== null)
}

const mix = (a: Point, b: Point, t: number): Point => [a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t]

function halves([p, a, b, q]: Cubic, t: number) {
  const [pa, ab, bq] = [mix(p, a, t), mix(a, b, t), mix(b, q, t)]
  const [l, r] = [mix(pa, ab, t), mix(ab, bq, t)]
  return { pa, l, at: mix(l, r, t), r, bq }
}

/** The nearest place on a contour: which side, how far along it, and where. */
export function nearestSide(c: Contour, p: Point): { subpath: number; from: number; t: number; distance: number } | null {
  let best: ReturnType<typeof nearestSide> = null
  c.subpaths.forEach((subpath, s) => {
    for (const { from, curve } of sides(subpath)) {
      for (let k = 0; k <= 32; k++) {
        const t = k / 32
        const { at } = halves(curve, t)
        const distance = Math.hypot(at[0] - p[0], at[1] - p[1])
        if (!best || distance < best.distance) best = { subpath: s, from, t, distance }
      }
    }
  })
  return best
}

/** A node more on a side, the curve staying as it is (de Casteljau). */
export function split(c: Contour, s: number, from: number, t: number): Contour {
  const subpath = c.subpaths[s]
  const side = subpath && sides(subpath).find((x) => x.from === from)
  if (!subpath || !side) return c
  const { pa, l, at, r, bq } = halves(side.curve, t)
  const nodes = [...subpath.nodes]
  const to = (from + 1) % nodes.length
  const [a, b] = [nodes[from], nodes[to]]
  if (!a || !b) return c
  const fresh: Node = side.straight
    ? { x: at[0], y: at[1] }
    : { x: at[0], y: at[1], before: [l[0] - at[0], l[1] - at[1]], after: [r[0] - at[0], r[1] - at[1]], smooth: true }
  if (!side.straight) {
    nodes[from] = { ...a, after: [pa[0] - a.x, pa[1] - a.y] }
    nodes[to] = { ...b, before: [bq[0] - b.x, bq[1] - b.y] }
  }
  nodes.splice(from + 1, 0, fresh)
  return withSubpath(c, s, () => ({ ...subpath, nodes }))
}

/** As SVG path data. */
export function pathOf(c: Contour): string {
  return c.subpaths
    .map((subpath) => {
      const [first] = subpath.nodes
      if (!first) return ''
      const run = sides(subpath).map(({ curve: [, a, b, q], straight }) => (straight ? `L${q.join(' ')}` : `C${a.join(' ')} ${b.join(' ')} ${q.join(' ')}`))
      return `M${first.x} ${first.y}${run.join('')}${subpath.closed ? 'Z' : ''}`
    })
    .join('')
}

export const countNodes = (c: Contour) => c.subpaths.reduce((n, s) => n + s.nodes.length, 0)
