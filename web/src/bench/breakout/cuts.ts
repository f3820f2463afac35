import type { Anchor } from '../../types/Anchor'
import type { CutView } from '../../types/CutView'
import type { OverhangView } from '../../types/OverhangView'
import type { PartChange } from '../../types/PartChange'
import { map, undone, type Matrix } from '../geometry/matrix'
import { follow, leaving } from '../canvas/pointer'
import type { Point } from '../geometry/similarity'
import { bench, viewOf } from '../state/store'
import { amend, breakoutMode, isOut, put, tryOut } from './choice'

export type CutLine = [[number, number], [number, number]]

/** What of a cut is taken hold of: an end, or the line as a whole. */
export type CutGrip = 'first' | 'last' | 'whole'

const overhangsOf = () => viewOf(bench.get(), breakoutMode()?.piece ?? null)?.overhangs ?? []

/** The part that was pressed last, as it is now; its place shifts a little when it is cut. */
export function heldPart(overhangs: OverhangView[], held: Anchor | null): OverhangView | null {
  if (!held) return null
  const far = (o: OverhangView) => Math.hypot(o.anchor.x - held.x, o.anchor.y - held.y)
  const own = overhangs.filter((o) => o.part === undefined && o.anchor.fill === held.fill && o.anchor.subject === held.subject)
  return own.sort((a, b) => far(a) - far(b))[0] ?? null
}

/** Cuts, softens or names the part that an anchor lies in. */
export function changePart(anchor: Anchor, change: PartChange) {
  const mode = breakoutMode()
  if (mode) tryOut([{ edit: 'change_part', piece: mode.piece, anchor, change }], { part: anchor, line: null })
}

const MATRIX = /-?[\d.]+(?:e-?\d+)?/g

/** The part that lies at a point of the sheet. */
function partAt(at: Point): OverhangView | undefined {
  const paper = document.createElement('canvas').getContext('2d')
  return overhangsOf().find((o) => {
    const m = o.transform.match(MATRIX)?.map(Number) ?? []
    const back = m.length === 6 ? undone(m as Matrix) : null
    return o.part === undefined && back !== null && paper?.isPointInPath(new Path2D(o.outline), ...map(back, at), 'evenodd')
  })
}

/** The part that most of a line runs through. */
function partAlong([a, b]: CutLine): OverhangView | undefined {
  const at = (t: number): Point => [a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t]
  const met = Array.from({ length: 21 }, (_, k) => partAt(at(k / 20)))
  const often = (o: OverhangView | undefined) => met.filter((other) => other === o).length
  return met.filter((o) => o !== undefined).sort((x, y) => often(y) - often(x))[0]
}

/** Cuts the part that a line runs through in two. */
export function cutAlong(line: CutLine) {
  const part = partAlong(line)
  if (part) changePart(part.anchor, { what: 'cut', along: line })
  else amend({ line: null })
}

/** A press on the sheet: a click lets a part out or keeps it in, a drag draws a cut. */
export function startCut(e: React.PointerEvent, locate: (e: { clientX: number; clientY: number }) => Point) {
  const from = locate(e)
  const left = leaving(e)
  const line = (m: PointerEvent) => ({ from: [...from] as [number, number], to: [...locate(m)] as [number, number] })
  follow({
    move: (m) => left(m) && amend({ line: line(m) }),
    up: (m) => {
      const { to } = line(m)
      const part = partAt(from)
      if (left(m)) cutAlong([[...from], to])
      else if (part) put([part], !isOut(part))
    },
    drop: () => amend({ line: null }),
  })
}

/** A cut with what is held of it moved. */
export function shifted([a, b]: CutLine, grip: CutGrip, [dx, dy]: Point): CutLine {
  const by = ([x, y]: [number, number], moves: boolean): [number, number] => (moves ? [x + dx, y + dy] : [x, y])
  return [by(a, grip !== 'last'), by(b, grip !== 'first')]
}

/** Moves a cut, or one of its ends, with the pointer. */
export function dragCut(cut: CutView, grip: CutGrip, e: React.PointerEvent, locate: (e: { clientX: number; clientY: number }) => Point) {
  e.stopPropagation()
  if (e.button !== 0) return
  const from = locate(e)
  const to = (m: PointerEvent) => {
    const at = locate(m)
    return shifted(cut.line, grip, [at[0] - from[0], at[1] - from[1]])
  }
  amend({ part: cut.of })
  const left = leaving(e)
  follow({
    move: (m) => left(m) && amend({ line: { from: to(m)[0], to: to(m)[1] } }),
    up: (m) => (left(m) ? moveCut(cut, to(m)) : amend({ line: null })),
    drop: () => amend({ line: null }),
  })
}

export const moveCut = (cut: CutView, to: CutLine) => changePart(cut.of, { what: 'move_cut', from: cut.line, to })
