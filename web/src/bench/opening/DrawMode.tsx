import type { Figure } from '../../types/Figure'
import type { Join } from '../../types/Join'
import type { Form } from '../../types/Form'
import type { PieceView } from '../../types/PieceView'
import { forget } from '../state/edits'
import { figureLabel, isPicture, keepForm, newForm, newIds, tryForm, type Ids } from './forms'
import type { Locate } from '../canvas/place'
import { hits } from '../bundle/divided'
import { enterMode, leaveMode, modeOf, useMode } from '../mode/mode'
import { ModeBar } from '../mode/ModeBar'
import { follow, leaving } from '../canvas/pointer'
import type { Point } from '../geometry/similarity'
import { labelOf } from '../state/labels'
import type { DrawMode } from '../mode/modes'
import { bench, pieceOf, useBench } from '../state/store'

/** Starts drawing a shape into the opening of `piece`, or as a window of its own. */
export function enterDraw(piece: string | null, figure: Figure, join: Join) {
  enterMode({ kind: 'draw', piece, figure, join, free: false, box: null }, { figure })
}

/** Starts drawing a shape that goes where it is drawn: into what is selected, onto a picture, or as a window of its own. */
export function enterFreeDraw(figure: Figure) {
  enterMode({ kind: 'draw', piece: null, figure, join: 'add', free: true, box: null }, { figure })
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

/** The piece whose opening a shape joins that is begun at a point: what is selected, or a picture, if it lies there. */
function homeAt(point: Point): string | null {
  const s = bench.get()
  // as pieces are kept: what is tried may be cut away just here
  const views = s.bench?.scene.pieces ?? []
  const open = (view: PieceView | undefined) => view !== undefined && !pieceOf(s, view.piece)?.locked && hits(s, view, point)
  if (open(views.find((v) => v.piece === s.selected))) return s.selected
  const seen = views.findLast((v) => hits(s, v, point))
  return seen && open(seen) && isPicture(pieceOf(s, seen.piece)) ? seen.piece : null
}

/** Shapes that are drawn on one window after the other are steps of their own. */
interface Drawn {
  mode: DrawMode
  ids: Ids
}

/** What a mode that is decided by its first point becomes. */
function settled(mode: DrawMode, start: Point): DrawMode {
  return mode.free ? { ...mode, piece: homeAt(start) } : mode
}

/** Alt cuts a shape out of what it is drawn on, Ctrl keeps what both share; what has nothing yet that could be cut is masked. */
function joined(mode: DrawMode, { altKey, ctrlKey, metaKey }: { altKey: boolean; ctrlKey: boolean; metaKey: boolean }): DrawMode {
  if (!mode.free || mode.piece === null) return mode
  const masks = isPicture(pieceOf(bench.get(), mode.piece))
  return { ...mode, join: masks ? 'add' : altKey ? 'cut_away' : ctrlKey || metaKey ? 'keep_shared' : 'add' }
}

/** Draws a new shape, which is shown as it will be. */
export function startDraw(e: React.PointerEvent, locate: Locate) {
  const start = locate(e)
  const begun = modeOf('draw')
  if (!begun) return
  const fixed = settled(begun, start)
  const drawn: Drawn = { mode: fixed, ids: newIds() }
  const middle = fixed.free && fixed.piece !== null
  const show = (m: PointerEvent) => {
    const mode = { ...joined(fixed, m), box: boxOf(start, locate(m), middle ? { shiftKey: m.shiftKey, altKey: false } : m) }
    drawn.mode = mode
    bench.set({ mode })
    tryForm(mode.piece, formIn(mode, drawn.ids.form, mode.box), true, drawn.ids)
  }
  follow({
    move: show,
    up: (m) => {
      const { box } = drawn.mode
      const least = 3 / bench.get().view.zoom
      // a click without a drag makes a shape of a third of the sheet
      if (box && (box[2] - box[0] > least || box[3] - box[1] > least)) void add(drawn, box)
      else void add({ ...drawn, mode: joined(fixed, m) }, around(start))
    },
    drop: () => {
      bench.set({ mode: begun })
      forget()
    },
  })
}

/** Takes a shape from the shelf to where it is let go of on the sheet. */
export function startCarry(e: React.PointerEvent, figure: Figure, locate: Locate) {
  const left = leaving(e)
  const ids = newIds()
  const free: DrawMode = { kind: 'draw', piece: null, figure, join: 'add', free: true, box: null }
  const at = (m: PointerEvent): DrawMode | null => {
    const port = document.querySelector('[data-testid=port]')
    if (!left(m) || !(document.elementFromPoint(m.clientX, m.clientY)?.closest('[data-testid=port]') === port && port)) return null
    const point = locate(m)
    return { ...joined(settled(free, point), m), box: around(point) }
  }
  follow({
    move: (m) => {
      const mode = at(m)
      if (!mode?.box) return
      enterMode(mode, { figure })
      tryForm(mode.piece, formIn(mode, ids.form, mode.box), true, ids)
    },
    up: (m) => {
      const mode = at(m)
      if (mode?.box) void add({ mode, ids }, mode.box)
      else leaveMode()
    },
    drop: () => leaveMode(),
  })
}

function around([x, y]: Point): Box {
  const sheet = bench.get().bench?.sheet
  const half = sheet ? Math.min(sheet.width, sheet.height) / 6 : 20
  return [x - half, y - half, x + half, y + half]
}

function formIn(mode: DrawMode, id: string, [l, t, r, b]: Box): Form {
  const isLine = mode.figure.figure === 'line'
  const width = Math.max(r - l, 0.5)
  const height = isLine ? Math.max(width / 40, 0.5) : Math.max(b - t, 0.5)
  return { ...newForm({ kind: 'basic', width, height, figure: mode.figure }, (l + r) / 2, (t + b) / 2, mode.join), id }
}

async function add({ mode, ids }: Drawn, box: Box) {
  if (!(await keepForm(mode.piece, formIn(mode, ids.form, box), true, null, ids))) leaveMode()
}

const FATES: Record<Join, string> = { add: 'joins', cut_away: 'cut out of', keep_shared: 'keeps what it shares with', drop_shared: 'joins, without what it shares with' }

/** The shape's box while it is drawn, with what will become of it. */
export function DrawOverlay({ mode }: { mode: DrawMode }) {
  const sheet = useBench((s) => s.bench?.sheet)
  const zoom = useBench((s) => s.view.zoom)
  if (!mode.box || !sheet) return null
  const [l, t, r, b] = mode.box
  const home = sheet.pieces.find((p) => p.id === mode.piece)
  const name = home ? `“${labelOf(home, sheet)}”` : ''
  const fate = !home ? 'a window of its own' : isPicture(home) ? `${name} shows through it` : `${FATES[mode.join]} ${name}${mode.free && mode.join === 'add' ? ' (Alt: cut out of it, Ctrl: what both share)' : ''}`
  return (
    <g>
      <rect x={l} y={t} width={r - l} height={b - t} fill="none" stroke="var(--color-sea)" strokeWidth={1.5} vectorEffect="non-scaling-stroke" strokeDasharray="2 4" />
      <text x={l} y={b + 16 / zoom} fontSize={13 / zoom} fontWeight={600} fill="var(--color-sea)" stroke="var(--color-leaf)" strokeWidth={4 / zoom} paintOrder="stroke">
        {fate}
      </text>
    </g>
  )
}

export function DrawBar() {
  const mode = useMode('draw')
  const sheet = useBench((s) => s.bench?.sheet)
  if (!mode || !sheet) return null
  const name = figureLabel(mode.figure.figure).toLowerCase()
  const middle: Point = [sheet.width / 2, sheet.height / 2]
  return (
    <ModeBar
      title={`Draw: ${name}`}
      sentence={
        mode.free
          ? 'Drag, or click. On what is selected it joins it (Alt: cut out of it, Ctrl: what both share); on a picture, the picture shows through it. Shift: equal sides.'
          : 'Drag over the sheet. Shift makes equal sides, Alt draws from the middle; a click makes one of a common size.'
      }
      canKeep={false}
      onKeep={() => leaveMode()}
      onDrop={() => leaveMode()}
    >
      <button className="outlined" onClick={() => void add({ mode, ids: newIds() }, around(middle))}>
        Put one in the middle
      </button>
    </ModeBar>
  )
}
