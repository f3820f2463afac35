import type { BundleHandles } from '../../types/BundleHandles'
import type { PieceView } from '../../types/PieceView'
import { around, inBounds, inside, joined, type Bounds } from '../geometry/boxes'
import { map, undone, type Matrix } from '../geometry/matrix'
import type { Point } from '../geometry/similarity'
import { seenPath } from '../canvas/outlines'
import { pageOf } from '../state/unit'
import { viewOf, type BenchState } from '../state/store'
import { bundlesAround, bundlesAroundPiece } from './bundles'

/** Bundles in panes and repeated bundles: their pieces are seen elsewhere than where they lie, unless the bundle was stepped into. */

/** Where the bundles around a piece are seen that are in panes or repeated and were not stepped into, the outermost first. */
export function dividedAround(s: BenchState, piece: string): BundleHandles[] {
  const all = pageOf(s)?.bundles ?? []
  if (!all.some((b) => b.divided)) return []
  const stepped = bundlesAround(s.bench?.sheet, s.inside)
  const outside = bundlesAroundPiece(s.bench?.sheet, piece).filter((b) => !stepped.includes(b))
  return outside.reverse().flatMap((id) => all.find((b) => b.bundle === id)?.divided ?? [])
}

interface Part {
  outline: string
  transform: readonly number[]
  hidden?: boolean
}

/** The points within a bundle that are seen at a point of the sheet. */
function seenThere({ panes, members }: BundleHandles, point: Point): Point[] {
  const back = (part: Part, p: Point, limited: boolean): Point[] => {
    const way = part.hidden || (limited && !inside(part.outline, p)) ? null : undone(part.transform as Matrix)
    return way ? [map(way, p)] : []
  }
  // members show what is in panes: their own outlines say nothing of it
  const once = members ? members.flatMap((m) => back(m, point, panes === undefined)) : [point]
  return panes ? once.flatMap((p) => panes.flatMap((pane) => back(pane, p, true))) : once
}

/** The places on a piece itself that are seen at a point of the sheet: one, or one for each pane and member that shows the point. */
const placesOn = (s: BenchState, piece: string, point: Point): Point[] => dividedAround(s, piece).reduce<Point[]>((points, bundle) => points.flatMap((p) => seenThere(bundle, p)), [point])

/** Whether a piece is seen at a point of the sheet. */
export const hits = (s: BenchState, view: PieceView, point: Point) => placesOn(s, view.piece, point).some((p) => inBounds(view, p) && inside(seenPath(view), p))

const nearBy = (s: BenchState, view: PieceView, point: Point) => placesOn(s, view.piece, point).some((p) => inBounds(view, p))

/** The topmost piece at a point: by its shape, else (for the gaps of a word) by its bounds. */
export function topmost(s: BenchState, views: readonly PieceView[], point: Point): PieceView | undefined {
  return views.findLast((v) => hits(s, v, point)) ?? views.findLast((v) => nearBy(s, v, point))
}

/** Every piece at a point, the topmost first: by shapes, else by bounds. */
export function allHits(s: BenchState, views: readonly PieceView[], point: Point): PieceView[] {
  const byShape = views.filter((v) => hits(s, v, point))
  return (byShape.length > 0 ? byShape : views.filter((v) => nearBy(s, v, point))).reverse()
}

/** The box around what is seen of pieces; null where nothing is. */
export const boxAround = (s: BenchState, pieces: readonly string[]): Bounds | null => joined(pieces.flatMap((p) => viewOf(s, p) ?? []).map((v) => seenBounds(s, v)))

/** The box of what is seen of a piece; of one in panes or members of a bundle, of all of these. */
export function seenBounds(s: BenchState, view: PieceView): Bounds {
  const [outermost] = dividedAround(s, view.piece)
  const boxes = (outermost?.members ?? outermost?.panes ?? []).filter((p) => !p.hidden).map((p) => p.bounds)
  return boxes.length === 0 ? view.bounds : around(boxes.flatMap(([l, t, r, b]): Point[] => [[l, t], [r, b]]))
}
