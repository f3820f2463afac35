import type { MatteStroke } from '../../types/MatteStroke'
import type { SubjectStroke } from '../../types/SubjectStroke'
import { sheetWayOf } from '../canvas/keyMove'
import { map, undone } from '../geometry/matrix'
import { follow, followStroke } from '../canvas/pointer'
import type { Point } from '../geometry/similarity'
import type { SubjectMode, SubjectTool } from '../mode/modes'
import { amend, ask, photoOf, subjectMode, toSheetOf } from './finding'

type Place = (e: { clientX: number; clientY: number }) => Point

/** Draws a box, a stroke or paint over the photo, in its own pixels. */
export function startHint(e: React.PointerEvent, locate: Place) {
  const mode = subjectMode()
  const view = mode && photoOf(mode)
  const back = view && undone(toSheetOf(view))
  if (!mode || mode.tool === null || !back) return
  amend({ cursor: null })
  const at: Place = (m) => map(back, locate(m))
  if (mode.tool === 'box') startBox(at(e), at)
  else if (isPaint(mode.tool)) startPaint(mode, e, at)
  else startStroke(mode, at(e), at)
}

function isPaint(tool: SubjectTool) {
  return tool === 'add' || tool === 'take'
}

export function boxOf(a: Point, b: Point) {
  return { x: Math.min(a[0], b[0]), y: Math.min(a[1], b[1]), width: Math.abs(a[0] - b[0]), height: Math.abs(a[1] - b[1]) }
}

/** Looks in a box; what was found by something else than a search is given up for it. */
export function lookIn(mode: SubjectMode, a: Point, b: Point) {
  const within = boxOf(a, b)
  const { start: _, ...others } = mode.hints
  if (within.width > 2 && within.height > 2) void ask({ ...others, within }, crypto.randomUUID())
  else amend({ box: null })
}

function startBox(start: Point, at: Place) {
  follow({
    move: (m) => amend({ box: boxOf(start, at(m)) }),
    up: (m) => {
      const mode = subjectMode()
      if (mode) lookIn(mode, start, at(m))
    },
    drop: () => amend({ box: null }),
  })
}

function startStroke(mode: SubjectMode, start: Point, at: Place) {
  const stroke: SubjectStroke = { keep: mode.tool !== 'drop', width: mode.width, points: [[...start]] }
  followStroke(stroke, at, (stroke) => amend({ stroke }), (stroke) => takeDrawn(mode, stroke))
}

/** What was drawn is a stroke over the subject or beside it, one along its edge, or one over what is seen through. */
function takeDrawn({ tool }: SubjectMode, stroke: SubjectStroke) {
  const mode = subjectMode()
  const { width, points } = stroke
  if (!mode) return
  if (tool === 'refine') void ask({ ...mode.hints, refined: [...(mode.hints.refined ?? []), { width, points }] }, crypto.randomUUID())
  else if (tool === 'film' || tool === 'shadow') {
    // where nothing was found yet, this is all of it
    const nothing = mode.draft === null && mode.kept === null && !mode.hints.shadow_alone
    const through = { ...(tool === 'shadow' ? { shadow: true } : {}), width, points }
    void ask({ ...mode.hints, ...(nothing ? { start: 'nothing' as const } : {}), see_through: [...(mode.hints.see_through ?? []), through] }, crypto.randomUUID())
  } else void takeStrokes([stroke])
}

export async function takeStrokes(more: SubjectStroke[]) {
  const mode = subjectMode()
  if (mode) await ask({ ...mode.hints, strokes: [...(mode.hints.strokes ?? []), ...more] }, crypto.randomUUID())
}

export function newPaint(mode: SubjectMode): MatteStroke {
  return { add: mode.tool === 'add', inside: mode.inside, width: mode.width, hardness: mode.hardness, points: [] }
}

function startPaint(mode: SubjectMode, e: React.PointerEvent, at: Place) {
  // only pens tell how hard they press
  const pressed = (m: { pointerType: string; pressure: number }) => (m.pointerType === 'pen' ? Math.max(m.pressure, 0.05) : 1)
  const place = (m: { clientX: number; clientY: number; pointerType: string; pressure: number }): [number, number, number] => {
    const [x, y] = at(m)
    return [x, y, pressed(m)]
  }
  let paint: MatteStroke = { ...newPaint(mode), points: [place(e)] }
  amend({ paint })
  follow({
    move: (m) => {
      const more = m.getCoalescedEvents().map(place)
      paint = { ...paint, points: [...paint.points, ...(more.length > 0 ? more : [place(m)])] }
      amend({ paint })
    },
    up: () => takePaint(paint),
    drop: () => amend({ paint: null }),
  })
}

export function takePaint(paint: MatteStroke) {
  const mode = subjectMode()
  if (mode) void ask({ ...mode.hints, painted: [...(mode.hints.painted ?? []), paint] }, crypto.randomUUID())
}

/** Arrows move a cursor over the photo (with Shift farther), Space begins and ends a box, a stroke or paint. */
export function hintByKey(e: KeyboardEvent): boolean {
  const mode = subjectMode()
  const view = mode && photoOf(mode)
  const way = sheetWayOf(e.key)
  if (!mode || !view || mode.tool === null || (way === undefined && e.key !== ' ')) return false
  const at = mode.cursor ?? ([view.width / 2, view.height / 2] as const)
  if (way) {
    const step = mode.width * (e.shiftKey ? 4 : 0.5)
    const within = (v: number, most: number) => Math.min(Math.max(v, 0), most)
    const cursor = [within(at[0] + way[0] * step, view.width), within(at[1] + way[1] * step, view.height)] as const
    const corner = mode.box && opposite(mode, at)
    amend({
      cursor,
      ...(corner ? { box: boxOf(corner, cursor) } : {}),
      ...(mode.stroke ? { stroke: { ...mode.stroke, points: [...mode.stroke.points, [...cursor]] } } : {}),
      ...(mode.paint ? { paint: { ...mode.paint, points: [...mode.paint.points, [...cursor, 1]] } } : {}),
    })
  } else if (mode.stroke) takeDrawn(mode, mode.stroke)
  else if (mode.paint) takePaint(mode.paint)
  else if (mode.box) lookIn(mode, opposite(mode, at), at)
  else if (mode.tool === 'box') amend({ cursor: at, box: boxOf(at, at) })
  else if (isPaint(mode.tool)) amend({ cursor: at, paint: { ...newPaint(mode), points: [[...at, 1]] } })
  else amend({ cursor: at, stroke: { keep: mode.tool !== 'drop', width: mode.width, points: [[...at]] } })
  return true
}

/** The corner of the box across from where the cursor is. */
function opposite(mode: SubjectMode, at: Point): Point {
  const { x, y, width, height } = mode.box ?? { x: at[0], y: at[1], width: 0, height: 0 }
  const far = (low: number, size: number, v: number) => (Math.abs(v - low) < Math.abs(v - low - size) ? low + size : low)
  return [far(x, width, at[0]), far(y, height, at[1])]
}
