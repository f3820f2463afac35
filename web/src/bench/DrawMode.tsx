import type { Figure } from '../types/Figure'
import type { Join } from '../types/Join'
import { forget } from './edits'
import { figureLabel, keepForm, newForm } from './forms'
import type { Locate } from './formDrag'
import { ModeBar } from './ModeBar'
import { follow } from './pointer'
import type { Point } from './similarity'
import { bench, useBench, type DrawMode } from './store'

export function enterDraw(piece: string | null, figure: Figure, join: Join) {
  bench.set({ mode: { kind: 'draw', piece, figure, join, box: null }, open: null, forms: [] })
}

const leave = () => {
  bench.set({ mode: null })
  forget()
}

type Box = readonly [number, number, number, number]

/** The box of a drag: equal sides with Shift, about its first point with Alt. A plain line keeps a thickness of its own. */
function boxOf(start: Point, now: Point, e: { shiftKey: boolean; altKey: boolean }): Box {
  let [dx, dy] = [now[0] - start[0], now[1] - start[1]]
  if (e.shiftKey) {
    const side = Math.max(Math.abs(dx), Math.abs(dy))
    dx = side * (Math.sign(dx) || 1)
    dy = side * (Math.sign(dy) || 1)
  }
  const from: Point = e.altKey ? [start[0] - dx, start[1] - dy] : start
  const to: Point = [start[0] + dx, start[1] + dy]
  return [Math.min(from[0], to[0]), Math.min(from[1], to[1]), Math.max(from[0], to[0]), Math.max(from[1], to[1])]
}

/** Draws the box of a new shape. */
export function startDraw(e: React.PointerEvent, locate: Locate) {
  const start = locate(e)
  const set = (box: Box | null) =>
    bench.set((s) => (s.mode?.kind === 'draw' ? { mode: { ...s.mode, box } } : {}))
  follow({
    move: (m) => set(boxOf(start, locate(m), m)),
    up: () => {
      const mode = bench.get().mode
      if (mode?.kind !== 'draw') return
      const box = mode.box
      const least = 3 / bench.get().view.zoom
      // a click without a drag makes a shape of a third of the sheet
      if (box && (box[2] - box[0] > least || box[3] - box[1] > least)) void add(mode, box)
      else void add(mode, around(start))
    },
    drop: () => set(null),
  })
}

function around([x, y]: Point): Box {
  const sheet = bench.get().bench?.sheet
  const half = sheet ? Math.min(sheet.width, sheet.height) / 6 : 20
  return [x - half, y - half, x + half, y + half]
}

async function add(mode: DrawMode, [l, t, r, b]: Box) {
  const isLine = mode.figure.figure === 'line'
  const width = Math.max(r - l, 0.5)
  const height = isLine ? Math.max(width / 40, 0.5) : Math.max(b - t, 0.5)
  const form = newForm({ kind: 'basic', width, height, figure: mode.figure }, (l + r) / 2, (t + b) / 2, mode.join)
  if (!(await keepForm(mode.piece, form, true))) leave()
}

/** The shape's box while it is drawn. */
export function DrawOverlay({ mode }: { mode: DrawMode }) {
  if (!mode.box) return null
  const [l, t, r, b] = mode.box
  const line = { fill: 'none', stroke: 'var(--color-sea)', strokeWidth: 1.5, vectorEffect: 'non-scaling-stroke' } as const
  return (
    <g>
      <rect x={l} y={t} width={r - l} height={b - t} {...line} strokeDasharray="2 4" />
      {mode.figure.figure !== 'box' && <ellipse cx={(l + r) / 2} cy={(t + b) / 2} rx={(r - l) / 2} ry={(b - t) / 2} {...line} fill="var(--color-sea)" fillOpacity={0.25} />}
      {mode.figure.figure === 'box' && <rect x={l} y={t} width={r - l} height={b - t} {...line} fill="var(--color-sea)" fillOpacity={0.25} />}
    </g>
  )
}

export function DrawBar() {
  const mode = useBench((s) => (s.mode?.kind === 'draw' ? s.mode : null))
  const sheet = useBench((s) => s.bench?.sheet)
  if (!mode || !sheet) return null
  const name = figureLabel(mode.figure.figure).toLowerCase()
  const middle: Point = [sheet.width / 2, sheet.height / 2]
  return (
    <ModeBar
      title={`Draw: ${name}`}
      sentence="Drag over the sheet. Shift makes equal sides, Alt draws from the middle; a click makes one of a common size."
      canKeep={false}
      onKeep={leave}
      onDrop={leave}
    >
      <button className="outlined" onClick={() => void add(mode, around(middle))}>
        Put one in the middle
      </button>
    </ModeBar>
  )
}
