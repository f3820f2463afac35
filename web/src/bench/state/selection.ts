import type { PieceView } from '../../types/PieceView'
import { bundlesAroundPiece, chosenBundle, unitPieces } from '../bundle/bundles'
import { allHits, seenBounds } from '../bundle/divided'
import { around, type Bounds } from '../geometry/boxes'
import { leaving, follow } from '../canvas/pointer'
import { memberOf } from './indexed'
import type { Locate } from '../canvas/place'
import type { Point } from '../geometry/similarity'
import { bench, noneOf, pieceOf, select, viewsOf, type BenchState } from './store'

/** The selected pieces; of several, the one that was selected last at the end. */
export const chosen = (s: BenchState): readonly string[] => (s.selected === null ? s.several : [s.selected])

export const isChosen = (s: BenchState, piece: string) => s.selected === piece || (s.selected === null && memberOf(s.several, piece, (p) => p) !== undefined)

/** Selects pieces, the last one as the one that others are lined up with. */
export function selectAll(pieces: readonly string[]) {
  const s = bench.get()
  if (s.mode) return
  const [only, ...others] = pieces
  const selected = only !== undefined && others.length === 0 ? only : null
  const several = selected === null ? pieces : []
  // cards that are about a bundle stay open for it
  const stays = s.open === 'arrange' ? pieces.length > 0 : (s.open === 'as-one' || s.open === 'panes' || s.open === 'repeat') && chosenBundle({ ...s, selected, several }) !== null
  bench.set({ selected, several, forms: [], fill: null, open: stays ? s.open : null, panes: noneOf(s.panes), member: null, wordOn: null, wordProblem: null })
}

/** Takes a piece, with the bundle that it is in, to those that are selected, or away from them. */
export function selectAlso(piece: string) {
  const s = bench.get()
  const [now, unit] = [chosen(s), unitPieces(s.bench?.sheet, piece, s.inside)]
  const others = now.filter((p) => !unit.includes(p))
  selectAll(now.includes(piece) ? others : [...others, ...unit])
}

/** What can be taken hold of: what is seen, not locked, and in the bundle that was stepped into. */
export const takeable = (s: BenchState): PieceView[] =>
  viewsOf(s).filter((v) => !pieceOf(s, v.piece)?.locked && (s.inside === null || bundlesAroundPiece(s.bench?.sheet, v.piece).includes(s.inside)))

/** Pieces without those whose bundle is not wholly among them. */
function wholeUnits(s: BenchState, pieces: readonly string[]): string[] {
  const free = takeable(s).map((v) => v.piece)
  const whole = (piece: string) => unitPieces(s.bench?.sheet, piece, s.inside).every((p) => pieces.includes(p) || !free.includes(p))
  return pieces.filter(whole)
}

/** Selects all that can be taken hold of. */
export const selectEverything = () => selectAll(takeable(bench.get()).map((v) => v.piece))

/** What a piece is, among others of its kind. */
export function kindOf(s: BenchState, piece: string): 'picture' | 'word' | 'shape' {
  const forms = pieceOf(s, piece)?.kind.opening.forms ?? []
  if (!forms.some((f) => !f.off)) return 'picture'
  return forms.some((f) => f.shape.kind === 'lettering') ? 'word' : 'shape'
}

/** Selects all pieces that are of the same kinds as those that are selected. */
export function selectKind() {
  const s = bench.get()
  const kinds = chosen(s).map((p) => kindOf(s, p))
  selectAll(wholeUnits(s, takeable(s).map((v) => v.piece).filter((p) => kinds.includes(kindOf(s, p)))))
}

/** Where the last press selected something: a press there again takes the next piece below. */
let pressed: { at: Point; piece: string } | null = null

/** How far apart presses at one place may lie, in CSS pixels. */
const SAME = 8

/** What a press takes that moves nothing: the topmost piece there, or where the last press took a piece, the next one below. */
export function pressOn(point: Point) {
  const s = bench.get()
  const there = allHits(s, takeable(s), point).map((v) => v.piece)
  const same = pressed && Math.hypot(point[0] - pressed.at[0], point[1] - pressed.at[1]) * s.view.zoom <= SAME
  const before = same && pressed && s.selected === pressed.piece ? there.indexOf(pressed.piece) : -1
  const piece = there[(before + 1) % Math.max(there.length, 1)] ?? null
  if (piece !== s.selected) select(piece)
  remember(piece, point)
}

/** A press selected a piece at a point. */
export function remember(piece: string | null, point: Point) {
  pressed = piece === null ? null : { at: point, piece }
}

/** What of that which can be taken hold of lies wholly within a box. */
export function within(s: BenchState, [l, t, r, b]: Bounds): string[] {
  const lies = (view: PieceView) => {
    const bounds = seenBounds(s, view)
    return bounds[0] >= l && bounds[1] >= t && bounds[2] <= r && bounds[3] <= b
  }
  return takeable(s).filter(lies).map((v) => v.piece)
}

/** Sweeps a box over the sheet: what lies wholly within is selected; with Shift beside what is. A press that sweeps nothing selects nothing. */
export function startSelectSweep(e: React.PointerEvent, locate: Locate) {
  const start = locate(e)
  const left = leaving(e)
  const before = e.shiftKey ? chosen(bench.get()) : []
  follow({
    move: (m) => {
      if (!left(m)) return
      const sweep = around([start, locate(m)])
      bench.set({ sweep })
    },
    up: () => {
      const { sweep } = bench.get()
      bench.set({ sweep: null })
      if (!sweep) {
        if (before.length === 0) select(null)
        return
      }
      const found = wholeUnits(bench.get(), within(bench.get(), sweep))
      selectAll([...before.filter((p) => !found.includes(p)), ...found])
    },
    drop: () => bench.set({ sweep: null }),
  })
}
