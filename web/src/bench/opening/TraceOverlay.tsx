import type { Node } from '../../types/Node'
import { begun, closed, corner, grown, mapped, nearestSide, nodeAt, pathOf, pulled, reversed, split, withNode, type At } from './contour'
import type { Locate } from '../canvas/place'
import { edgeBetween } from './followEdge'
import { groupTransform, toScreen } from '../canvas/viewport'
import { sheetWayOf } from '../canvas/keyMove'
import { css, map, undone } from '../geometry/matrix'
import { follow } from '../canvas/pointer'
import { setContour, smooth } from './TraceMode'
import type { Point } from '../geometry/similarity'
import type { TraceMode } from '../mode/modes'
import { bench, useBench } from '../state/store'

const now = (): TraceMode | null => {
  const mode = bench.get().mode
  return mode?.kind === 'trace' ? mode : null
}

/** A press on the sheet while tracing: the next node, or a node on a side. */
export function startTrace(e: React.PointerEvent, locate: Locate) {
  const mode = now()
  const back = mode && undone(mode.toSheet)
  if (!mode || !back) return
  const p = map(back, locate(e))
  const fresh = mode.contour.subpaths.length === 0
  if (!mode.growing && !fresh) {
    const near = nearestSide(mode.contour, p)
    const size = Math.hypot(mode.toSheet[0], mode.toSheet[1]) || 1
    if (near && near.distance * size * bench.get().view.zoom < 8) {
      setContour(split(mode.contour, near.subpath, near.from, near.t), { at: [near.subpath, near.from + 1] })
    } else if (mode.form === null) {
      // another contour beside the first one
      setContour(begun(mode.contour, corner(p)), { at: [mode.contour.subpaths.length, 0], growing: true })
      shape([mode.contour.subpaths.length, 0], locate)
    } else bench.set({ mode: { ...mode, at: null } })
    return
  }
  const subpath = fresh ? 0 : mode.contour.subpaths.length - 1
  if (fresh) {
    setContour(begun(mode.contour, corner(p)), { at: [0, 0], growing: true })
    shape([0, 0], locate)
    return
  }
  const count = mode.contour.subpaths[subpath]?.nodes.length ?? 0
  const last = nodeAt(mode.contour, [subpath, count - 1])
  if (mode.follows && last) {
    followTo(map(mode.toSheet, p), false)
    return
  }
  setContour(grown(mode.contour, subpath, corner(p)), { at: [subpath, count] })
  shape([subpath, count], locate)
}

/** Whether ways along edges are being looked for. */
let following = false

/** Joins the growing contour to a point of the sheet along the photo's edge, after all clicks before it. */
function followTo(at: Point, closes: boolean) {
  const mode = now()
  if (!mode || mode.pending.some((p) => p.closes)) return
  bench.set({ mode: { ...mode, pending: [...mode.pending, { at, closes }] } })
  if (!following) void followAll()
}

async function followAll() {
  following = true
  for (let mode = now(); mode !== null && mode.pending.length > 0; mode = now()) {
    const subpath = mode.contour.subpaths.length - 1
    const last = mode.contour.subpaths[subpath]?.nodes.at(-1)
    const next = mode.pending[0]
    if (!last || !next) break
    const nodes = await edgeBetween(map(mode.toSheet, [last.x, last.y]), next.at)
    const current = now()
    // taken back, or the mode was left meanwhile
    if (current?.pending[0] !== next) continue
    joinAlong(current, subpath, nodes, next.closes)
  }
  following = false
}

/** Goes on from the last node of a subpath by the nodes of a way (sheet space), and closes it there if that is what was clicked. */
function joinAlong(mode: TraceMode, subpath: number, way: Node[], closes: boolean) {
  const back = undone(mode.toSheet)
  const count = mode.contour.subpaths[subpath]?.nodes.length ?? 0
  const pending = mode.pending.slice(1)
  if (!back || count === 0) {
    bench.set({ mode: { ...mode, pending } })
    return
  }
  const own = way.map((n) => mapped(back, n))
  // the first node of the way is the last one of the subpath, with a handle to go on
  const [first, ...rest] = own
  const after = rest.length > 0 ? first?.after : undefined
  const joined = after ? withNode(mode.contour, [subpath, count - 1], (n) => ({ ...n, after })) : mode.contour
  const more = rest.length > 0 ? rest : own
  if (!closes) {
    const contour = more.reduce((c, node) => grown(c, subpath, node), joined)
    setContour(contour, { at: [subpath, count + more.length - 1], pending })
    return
  }
  // the last node of the way is the first one of the subpath
  const end = more.at(-1)
  const longer = more.slice(0, -1).reduce((c, node) => grown(c, subpath, node), joined)
  const before = end?.before
  const whole = before ? withNode(longer, [subpath, 0], (n) => ({ ...n, before })) : longer
  setContour(closed(whole, subpath), { at: null, growing: false, pending })
}

/** While the press lasts, a drag pulls both handles of the new node. */
function shape(at: At, locate: Locate) {
  follow({
    move: (m) => {
      const mode = now()
      const back = mode && undone(mode.toSheet)
      const node = mode && nodeAt(mode.contour, at)
      if (!mode || !back || !node) return
      const [x, y] = map(back, locate(m))
      const [dx, dy] = [x - node.x, y - node.y]
      if (Math.hypot(dx, dy) * bench.get().view.zoom < 4) return
      setContour(
        withNode(mode.contour, at, (n) => ({ x: n.x, y: n.y, before: [-dx, -dy], after: [dx, dy], smooth: true })),
        {},
        false,
      )
    },
    up: () => undefined,
    drop: () => undefined,
  })
}

/** A press on a node: it is chosen and dragged; the first node of a growing contour closes it, an end goes on. */
function startNode(e: React.PointerEvent, at: At, locate: Locate) {
  e.stopPropagation()
  const mode = now()
  const subpath = mode?.contour.subpaths[at[0]]
  if (!mode || !subpath || e.button !== 0) return
  const last = subpath.nodes.length - 1
  if (mode.growing && at[0] === mode.contour.subpaths.length - 1) {
    if (at[1] === 0 && (last > 1 || mode.pending.length > 0)) {
      const [first, end] = [subpath.nodes[0], subpath.nodes[last]]
      if (first && end && (mode.pending.length > 0 || mode.follows)) followTo(map(mode.toSheet, [first.x, first.y]), true)
      else setContour(closed(mode.contour, at[0]), { at: null, growing: false })
      return
    }
    if (at[1] === last) {
      bench.set({ mode: { ...mode, growing: false, at } })
      return
    }
  }
  let first = true
  let moved = false
  follow({
    move: (m) => {
      const current = now()
      const back = current && undone(current.toSheet)
      if (!current || !back) return
      const [x, y] = map(back, locate(m))
      moved = true
      setContour(
        withNode(current.contour, at, (n) => ({ ...n, x, y })),
        { at },
        first,
      )
      first = false
    },
    up: () => {
      const current = now()
      if (!current || moved) return
      const isEnd = !subpath.closed && (at[1] === 0 || at[1] === last) && current.at?.[0] === at[0] && current.at[1] === at[1]
      if (isEnd && !current.growing && at[0] === current.contour.subpaths.length - 1) {
        // a second click on an end goes on from there
        const contour = at[1] === 0 && last > 0 ? reversed(current.contour, at[0]) : current.contour
        bench.set({ mode: { ...current, contour, at: [at[0], last], growing: true } })
      } else bench.set({ mode: { ...current, at } })
    },
    drop: () => undefined,
  })
}

function startHandle(e: React.PointerEvent, at: At, which: 'before' | 'after', locate: Locate) {
  e.stopPropagation()
  let first = true
  follow({
    move: (m) => {
      const mode = now()
      const back = mode && undone(mode.toSheet)
      if (!mode || !back) return
      const to = map(back, locate(m))
      setContour(
        withNode(mode.contour, at, (n) => pulled(n, which, to, m.altKey)),
        { at },
        first,
      )
      first = false
    },
    up: () => undefined,
    drop: () => undefined,
  })
}

/** Nodes beyond this many on the screen are drawn without being taken hold of one by one by the keyboard. */
const FOCUSABLE = 80

/** The way that is still looked for: straight from click to click. */
function Pending({ mode }: { mode: TraceMode }) {
  const view = useBench((s) => s.view)
  const last = mode.contour.subpaths.at(-1)?.nodes.at(-1)
  if (!last) return null
  const points = [map(mode.toSheet, [last.x, last.y]), ...mode.pending.map((p) => p.at)].map((p) => toScreen(view, p))
  return (
    <g data-testid="pending" fill="none">
      <polyline points={points.map((p) => p.join(',')).join(' ')} stroke="var(--color-leaf)" strokeWidth={4} />
      <polyline points={points.map((p) => p.join(',')).join(' ')} stroke="var(--color-sea)" strokeWidth={2} strokeDasharray="3 5" strokeLinecap="round" />
      {points.slice(1).map(([x, y], k) => (
        <circle key={k} cx={x} cy={y} r={4} fill="var(--color-sea)" />
      ))}
    </g>
  )
}

/** The contour with its nodes, in screen space. */
export function TraceOverlay({ mode, locate }: { mode: TraceMode; locate: Locate }) {
  const view = useBench((s) => s.view)
  const screen = (p: Point) => toScreen(view, map(mode.toSheet, p))
  const all = groupTransform(view)
  return (
    <svg className="pointer-events-none absolute inset-0 h-full w-full overflow-hidden">
      <path
        d={pathOf(mode.contour)}
        transform={`${all} ${css(mode.toSheet)}`}
        fill="var(--color-sea)"
        fillOpacity={mode.form === null && mode.piece === null ? 0.15 : 0}
        fillRule={mode.contour.even_odd ? 'evenodd' : 'nonzero'}
        stroke="var(--color-sea)"
        strokeWidth={2}
        vectorEffect="non-scaling-stroke"
      />
      {mode.pending.length > 0 && <Pending mode={mode} />}
      {mode.contour.subpaths.map((subpath, s) =>
        subpath.nodes.map((n, k) => {
          const at: At = [s, k]
          const chosen = mode.at?.[0] === s && mode.at[1] === k
          const [x, y] = screen([n.x, n.y])
          const handles = (['before', 'after'] as const).flatMap((which) => {
            const h = n[which]
            return h && chosen ? [{ which, at: screen([n.x + h[0], n.y + h[1]]) }] : []
          })
          return (
            <g key={`${s}.${k}`}>
              {handles.map((h) => (
                <g key={h.which}>
                  <line x1={x} y1={y} x2={h.at[0]} y2={h.at[1]} stroke="var(--color-rose)" strokeWidth={1} />
                  <circle
                    data-testid={`handle-${h.which}`}
                    cx={h.at[0]}
                    cy={h.at[1]}
                    r={4.5}
                    fill="var(--color-rose)"
                    className="pointer-events-auto cursor-move"
                    onPointerDown={(e) => startHandle(e, at, h.which, locate)}
                  />
                </g>
              ))}
              <path
                data-testid="node"
                role="button"
                tabIndex={s * 1000 + k < FOCUSABLE ? 0 : -1}
                aria-label={`Node ${k + 1} of subpath ${s + 1}, ${n.smooth ? 'smooth' : 'corner'}`}
                // smooth nodes are round, corners are drops that lean on their tip
                d={n.smooth ? 'M-4 0a4 4 0 0 1 8 0a4 4 0 0 1-8 0Z' : 'M0 -5.500L5 3.500H-5Z'}
                transform={`translate(${x} ${y})`}
                fill={chosen ? 'var(--color-rose)' : 'var(--color-leaf)'}
                stroke={chosen ? 'var(--color-leaf)' : 'var(--color-sea)'}
                strokeWidth={1.75}
                className="pointer-events-auto cursor-move outline-none focus-visible:stroke-rose focus-visible:[stroke-width:3]"
                onPointerDown={(e) => startNode(e, at, locate)}
                onDoubleClick={(e) => {
                  e.stopPropagation()
                  const current = now()
                  if (current) smooth({ ...current, at })
                }}
                onFocus={() => {
                  const current = now()
                  if (current && !current.growing) bench.set({ mode: { ...current, at } })
                }}
                onKeyDown={(e) => {
                  const by = sheetWayOf(e.key)
                  const current = now()
                  if (!by || !current) return
                  e.preventDefault()
                  e.stopPropagation()
                  const far = e.shiftKey ? 10 : 1
                  setContour(
                    withNode(current.contour, at, (m) => ({ ...m, x: m.x + by[0] * far, y: m.y + by[1] * far })),
                    { at },
                  )
                }}
              />
            </g>
          )
        }),
      )}
    </svg>
  )
}
