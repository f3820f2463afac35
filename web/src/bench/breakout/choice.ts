import type { BreakoutStroke } from '../../types/BreakoutStroke'
import type { Anchor } from '../../types/Anchor'
import type { CrossingView } from '../../types/CrossingView'
import type { EdgeView } from '../../types/EdgeView'
import type { Edit } from '../../types/Edit'
import type { OverhangView } from '../../types/OverhangView'
import type { ReachLine } from '../../types/ReachLine'
import { say } from '../../parts/notices'
import { attempt, edit, forget } from '../state/edits'
import { cornersOfPiece as cornersOf, middle } from '../geometry/boxes'
import { sheetWayOf } from '../canvas/keyMove'
import { amendMode, backInMode, enterMode, leaveMode, modeOf, stepMode } from '../mode/mode'
import { newMember } from '../state/newMember'
import { follow, followStroke } from '../canvas/pointer'
import { undone, map } from '../geometry/matrix'
import type { Point } from '../geometry/similarity'
import type { BreakoutMode } from '../mode/modes'
import { bench, viewOf } from '../state/store'
import { toSheetOf } from '../subject/finding'

export function enterBreakoutMode(piece: string) {
  const s = bench.get()
  const kind = s.bench?.sheet.pieces.find((p) => p.id === piece)?.kind
  const view = viewOf(s, piece)?.photos[0]
  const { painted = [], reach = null } = kind?.kind === 'window' ? kind.breakout : {}
  const width = view ? Math.max(4, Math.round(Math.max(view.width, view.height) / 40)) : 40
  enterMode({ kind: 'breakout', piece, edits: [], tool: 'parts', part: null, tolerance: 0.3, smooth: 0.5, width, painted, reach, stroke: null, line: null, cursor: null, past: [] }, { selected: piece })
  show(piece, [])
}

export const breakoutMode = () => modeOf('breakout')

export const amend = (change: Partial<BreakoutMode>) => amendMode('breakout', change)

/**
 * Edits that show a window whole, and once: in this mode its parts are where the window lies, wherever its panes and members are. They are only tried.
 */
function whole(piece: string): Edit[] {
  const window = bench.get().bench?.sheet.pieces.find((p) => p.id === piece)?.kind
  const split = window?.split
  const closed: Edit[] = split ? [{ edit: 'set_split', piece, split: { ...split, looks: [], gap: 0, apart: 0 } }] : []
  return [...closed, ...(window?.repeat && !window.repeat.behind ? [{ edit: 'set_repeat' as const, piece, repeat: null }] : [])]
}

/** Shows what these edits would make of the window; `refused` hears why they cannot be made. */
function show(piece: string, edits: Edit[], refused: ((sentence: string) => void) | null = null) {
  const all = [...whole(piece), ...edits]
  if (all.length > 0) attempt(all, null, refused)
  else forget()
}

/** Takes the last choice back. */
export function takeBack() {
  const mode = backInMode('breakout')
  if (mode) show(mode.piece, mode.edits)
}

/** Takes edits to those that are tried; nothing is kept before *keep*. One that says all there is to say takes the place of the one before it. */
export function tryOut(changes: Edit[], part: Partial<BreakoutMode> = {}) {
  const mode = breakoutMode()
  if (!mode || changes.length === 0) return
  const whole = (e: Edit) => e.edit === 'paint_breakout' || e.edit === 'set_reach'
  const edits = [...mode.edits.filter((old) => !whole(old) || !changes.some((c) => c.edit === old.edit)), ...changes]
  const { painted = mode.painted, reach = mode.reach, ...rest } = part
  amend(rest)
  stepMode('breakout', { edits, painted, reach })
  show(mode.piece, edits, (sentence) => {
    // what cannot be made is taken back, and said
    say(sentence)
    const { edits: before, past } = mode
    amend({ edits: before, painted: mode.painted, reach: mode.reach, past, line: null })
    show(mode.piece, before)
  })
}

export const isOut = (o: OverhangView) => o.let_out_by.length > 0

/** What lets an overhang out or takes it back in; nothing where it is so already. */
export function moved(piece: string, o: OverhangView, out: boolean): Edit[] {
  if (isOut(o) === out) return []
  if (o.part !== undefined) return [{ edit: 'let_pieces_out', piece, fill: o.anchor.fill, parts: [o.part], out }]
  return [out ? { edit: 'let_out', piece, anchor: o.anchor } : { edit: 'keep_in', piece, anchors: o.let_out_by }]
}

/** Lets overhangs out or takes them back in. */
export function put(overhangs: OverhangView[], out: boolean) {
  const mode = breakoutMode()
  const alone = overhangs.length === 1 ? overhangs[0] : undefined
  if (mode) tryOut(overhangs.flatMap((o) => moved(mode.piece, o, out)), alone && alone.part === undefined ? { part: alone.anchor } : {})
}

/** Gives up choices for which there is no part any more. */
export function forgetUnmatched() {
  const mode = breakoutMode()
  const anchors = viewOf(bench.get(), mode?.piece ?? null)?.unmatched ?? []
  if (mode && anchors.length > 0) tryOut([{ edit: 'keep_in', piece: mode.piece, anchors }])
}

/** Lets out what lies against an edge: nothing else, or that too. */
export function putAlong({ key }: EdgeView, too: boolean) {
  const mode = breakoutMode()
  if (!mode) return
  const overhangs = viewOf(bench.get(), mode.piece)?.overhangs ?? []
  tryOut(overhangs.flatMap((o) => moved(mode.piece, o, o.touches.includes(key) || (too && isOut(o)))))
}

/** Lets a part run under the edge where it crosses it, or over it again. */
export function turn({ anchor, under_by }: CrossingView) {
  const mode = breakoutMode()
  if (mode) tryOut([{ edit: 'cross', piece: mode.piece, anchor, under: under_by.length === 0, was: under_by }])
}

/** Turns a part into a contour of the opening. */
export function merge({ anchor }: OverhangView) {
  const mode = breakoutMode()
  if (!mode) return
  const { piece, tolerance, smooth } = mode
  tryOut([{ edit: 'merge_part', piece, anchor, form: crypto.randomUUID(), tolerance, smooth }])
}

export function setReach(reach: ReachLine | null) {
  const mode = breakoutMode()
  if (mode) tryOut([{ edit: 'set_reach', piece: mode.piece, reach }], { reach, line: null, ...(reach ? { tool: 'parts' } : {}) })
}

/** Takes the last correction by hand away. */
export function strokeBack() {
  const mode = breakoutMode()
  if (!mode) return
  const painted = mode.painted.slice(0, -1)
  tryOut([{ edit: 'paint_breakout', piece: mode.piece, strokes: painted }], { painted })
}

export async function keep() {
  const mode = breakoutMode()
  if (!mode) return
  if (await edit(mode.edits)) leaveMode()
}

/**
 * Arrows move a cursor over the sheet (with Shift farther); Space begins and ends a stroke or a line, which `draw` is given. False where the
 * key means nothing to the tool.
 */
export function drawByKey(e: KeyboardEvent, draw: (line: ReachLine) => void): boolean {
  const mode = breakoutMode()
  const sheet = bench.get().bench?.sheet
  if (!mode || !sheet || mode.tool === 'parts' || mode.tool === 'edge' || mode.tool === 'merge') return false
  const way = sheetWayOf(e.key)
  const at = mode.cursor ?? middle(cornersOf(viewOf(bench.get(), mode.piece), sheet))
  if (way) {
    const step = e.shiftKey ? 10 : 2
    const cursor: Point = [at[0] + way[0] * step, at[1] + way[1] * step]
    const back = mode.stroke && backOf(mode, mode.stroke.fill)
    amend({
      cursor,
      ...(mode.line ? { line: { ...mode.line, to: [...cursor] } } : {}),
      ...(mode.stroke && back ? { stroke: { ...mode.stroke, points: [...mode.stroke.points, [...map(back, cursor)]] } } : {}),
    })
    return true
  }
  if (e.key !== ' ') return false
  if (mode.line) draw(mode.line)
  else if (mode.stroke) paint(mode.piece, mode.stroke)
  else if (mode.tool === 'reach' || mode.tool === 'cut') amend({ cursor: at, line: { from: [...at], to: [...at] } })
  else {
    const stroke = newStroke(mode, at)
    if (stroke) amend({ cursor: at, stroke })
  }
  return true
}

type Place = (e: { clientX: number; clientY: number }) => Point

/** A press on the sheet: a correction by brush, or the reach line. */
export function startCorrection(e: React.PointerEvent, locate: Place) {
  const mode = breakoutMode()
  if (!mode || mode.tool === 'parts' || mode.tool === 'edge' || mode.tool === 'merge' || mode.tool === 'cut') return
  if (mode.tool === 'reach') startLine(locate(e), locate)
  else startStroke(mode, e, locate)
}

function startLine(from: Point, locate: Place) {
  const line = (m: PointerEvent): ReachLine => {
    let to = locate(m)
    // with Shift it lies level, upright or at half a right angle
    if (m.shiftKey) {
      const step = Math.PI / 4
      const angle = Math.round(Math.atan2(to[1] - from[1], to[0] - from[0]) / step) * step
      const far = Math.hypot(to[0] - from[0], to[1] - from[1])
      to = [from[0] + far * Math.cos(angle), from[1] + far * Math.sin(angle)]
    }
    return { from: [...from], to: [...to] }
  }
  follow({
    move: (m) => amend({ line: line(m) }),
    up: (m) => {
      const { to } = line(m)
      if (Math.hypot(to[0] - from[0], to[1] - from[1]) > 1) setReach(line(m))
      else amend({ line: null })
    },
    drop: () => amend({ line: null }),
  })
}

/** The fill and the subject that a correction is for: those of the nearest part. */
function nearest(mode: BreakoutMode, at: Point): Pick<Anchor, 'fill' | 'subject'> | null {
  const s = bench.get()
  const pieceView = viewOf(s, mode.piece)
  const far = (o: OverhangView) => {
    const view = pieceView?.photos.find((p) => p.fill === o.anchor.fill)
    if (!view) return Infinity
    const [x, y] = map(toSheetOf(view), [o.anchor.x, o.anchor.y])
    return Math.hypot(x - at[0], y - at[1])
  }
  const parts = (pieceView?.overhangs ?? []).filter((o) => o.part === undefined)
  const best = parts.sort((a, b) => far(a) - far(b))[0]
  if (best) return best.anchor
  const kind = s.bench?.sheet.pieces.find((p) => p.id === mode.piece)?.kind
  const fill = kind?.kind === 'window' ? kind.fills.findLast((f) => f.paint.kind === 'photo') : undefined
  return fill ? { fill: fill.id } : null
}

/** From the sheet to the pixels of a fill's photo. */
function backOf(mode: BreakoutMode, fill: string) {
  const view = viewOf(bench.get(), mode.piece)?.photos.find((p) => p.fill === fill)
  return view && undone(toSheetOf(view))
}

/** A stroke that begins at a point of the sheet; `turned` paints in with the brush that paints out, and the other way round. */
function newStroke(mode: BreakoutMode, from: Point, turned = false): BreakoutStroke | null {
  const of = nearest(mode, from)
  const back = of && backOf(mode, of.fill)
  if (!of || !back) return null
  const { fill, subject } = of
  return newMember({ fill, ...(subject === undefined ? {} : { subject }), keep: (mode.tool === 'out') !== turned, width: mode.width, points: [[...map(back, from)] as [number, number]] })
}

function paint(piece: string, stroke: BreakoutStroke) {
  const painted = [...(breakoutMode()?.painted ?? []), stroke]
  tryOut([{ edit: 'paint_breakout', piece, strokes: painted }], { painted, stroke: null })
}

function startStroke(mode: BreakoutMode, e: React.PointerEvent, locate: Place) {
  const stroke = newStroke(mode, locate(e), e.altKey)
  const back = stroke && backOf(mode, stroke.fill)
  if (!stroke || !back) return
  amend({ cursor: null })
  followStroke(stroke, (m) => [...map(back, locate(m))], (next) => amend({ stroke: next }), (done) => paint(mode.piece, done))
}
