import type { Edit } from '../../types/Edit'
import type { OpenSide } from '../../types/OpenSide'
import type { Side } from '../../types/Side'
import { windowOf } from './forms'
import type { Point } from '../geometry/similarity'
import { viewOf, type BenchState } from '../state/store'

export type Bounds = readonly [number, number, number, number]

export const SIDES: readonly (readonly [Side, string])[] = [
  ['top', 'Top'],
  ['right', 'Right'],
  ['bottom', 'Bottom'],
  ['left', 'Left'],
]

/** The shortest stretch that is kept, as a share of its side. */
export const SHORTEST = 0.01

const NONE: OpenSide[] = []

/** The stretches of a window's edge at which nothing is cut. */
export const openSidesOf = (s: BenchState, piece: string | null): OpenSide[] => windowOf(s, piece)?.opening.open ?? NONE

/** What an opening covers without its open sides. */
export function closedBounds(s: BenchState, piece: string | null): Bounds | undefined {
  const pieceView = viewOf(s, piece)
  return pieceView && (pieceView.closed ?? pieceView.bounds)
}

export const setSides = (piece: string, sides: OpenSide[]): Edit => ({ edit: 'opening', piece, change: 'open_sides', sides })

/** As far from a side as to the end of the sheet, and a little beyond, in millimetres. */
export function room(s: BenchState, [l, t, r, b]: Bounds, side: Side): number {
  const sheet = s.bench?.sheet
  if (!sheet) return 1
  const free = { top: t, right: sheet.width - r, bottom: sheet.height - b, left: l }[side]
  return Math.max(1, Math.round(free + (sheet.bleed ?? 0) + 3))
}

/** A place on the sheet: so far along a side, from the left or from the top, and so far outwards, in millimetres. */
export function placeOn([l, t, r, b]: Bounds, side: Side, share: number, out: number): Point {
  const [x, y] = [l + share * (r - l), t + share * (b - t)]
  const places: Record<Side, Point> = { top: [x, t - out], right: [r + out, y], bottom: [x, b + out], left: [l - out, y] }
  return places[side]
}

/** How far along a side a place of the sheet lies, and how far outwards: the other way round. */
export function along([l, t, r, b]: Bounds, side: Side, [x, y]: Point): { share: number; out: number } {
  const level = side === 'top' || side === 'bottom'
  const share = level ? (x - l) / (r - l) : (y - t) / (b - t)
  const out = { top: t - y, right: x - r, bottom: y - b, left: l - x }[side]
  return { share: Math.min(1, Math.max(0, share)), out }
}
