import { create } from 'zustand'
import type { Grip } from '../../types/Grip'
import type { CellView } from '../../types/CellView'
import type { Course } from '../../types/Course'
import type { PageView } from '../../types/PageView'
import type { PanePath } from '../../types/PanePath'
import type { GuideLine } from '../../types/GuideLine'
import type { Figure } from '../../types/Figure'
import type { Gloss } from '../../types/Gloss'
import type { OtherTab } from '../../types/OtherTab'
import type { PieceView } from '../../types/PieceView'
import type { PastSheet } from '../../types/PastSheet'
import type { Bench } from '../../types/Bench'
import type { Rim } from '../../types/Rim'
import type { Shadow } from '../../types/Shadow'
import type { Similarity } from '../../types/Similarity'
import type { Mode } from '../mode/modes'
import { commonInside, unitPieces } from '../bundle/bundles'
import { memberOf } from './indexed'
import type { SnapLine } from '../canvas/snapLine'
import type { Point } from '../geometry/similarity'
import type { View } from '../canvas/viewport'

/** What of a window in panes is chosen: a pane or a line, by itself. */
export interface PaneChoice {
  at: PanePath | null
  line: string | null
  /** A drag on the sheet draws a line. */
  drawing: boolean
  /** The line that is being drawn, on the sheet. */
  drawn: readonly Point[] | null
  /** How the next line runs. */
  course: Course
}

/** A drag that goes on: what is moved, and by how much so far. */
export interface Drag {
  pieces: readonly string[]
  what: Grip
  /** The one of several fills that is moved. */
  fill: string | null
  /** The pane that is moved by itself, by its place among the panes of its piece. */
  pane: number | null
  /** The member of a repeated window that is moved by itself. */
  member: number | null
  by: Similarity
}

export type OpenCard =
  | 'form'
  | 'opening'
  | 'add-form'
  | 'add-window'
  | 'new-word'
  | 'fill'
  | 'add-fill'
  | 'edge'
  | 'rims'
  | 'shadows'
  | 'gloss'
  | 'panes'
  | 'repeat'
  | 'size'
  | 'background'
  | 'border'
  | 'guides'
  | 'inks'
  | 'stock'
  | 'arrange'
  | 'as-one'
  | null

/** Cards about the sheet itself. */
const SHEET_CARDS: OpenCard[] = ['size', 'background', 'border', 'inks', 'guides']

/** Whether the sheet itself is what is being changed: all of it is to be seen then, and nothing else. */
export const isAboutSheet = (s: BenchState) => s.selected === null && s.several.length === 0 && SHEET_CARDS.includes(s.open)

/** What the handles of a form do; *join* is for presses on the sheet itself. */
export type Handling = 'scale' | 'slant' | 'pull' | 'join'

export interface BenchState {
  bench: Bench | null
  /** Pieces as edits that are only tried would make them, and the move they were tried with. */
  tried: Record<string, { pieceView: PieceView; by: Similarity | null }>
  /** The pieces from back to front, if what is tried would change that. */
  triedOrder: string[] | null
  /** What belongs to the sheet itself and to its bundles, if what is tried would change that. */
  triedPage: { page: PageView; by: Similarity | null } | null
  /** The piece that is selected alone. */
  selected: string | null
  /** Two or more pieces that are selected together, the one selected last at the end; none where one is selected alone. */
  several: readonly string[]
  /** The bundle that was stepped into: what is in it is handled by itself. */
  inside: string | null
  /** The box that is swept over the sheet to select what lies within: left, top, right, bottom in mm. */
  sweep: readonly [number, number, number, number] | null
  /** The forms of the selected window that are taken hold of, the last one with its handles. */
  forms: string[]
  handling: Handling
  /** What is chosen while the card of panes is open, and what the next line is like. */
  panes: PaneChoice
  /** The member that is chosen while the card of members is open. */
  member: number | null
  /** The window of a repeated bundle that its members were last given something in. */
  memberPiece: string | null
  /** Where a finding of the proof is that is pointed at; in sheet space. */
  pointed: readonly [number, number, number, number] | null
  /** A drag on the sheet draws the line along which members lie, and what is drawn of it: places with the pressure there. */
  along: { drawing: boolean; drawn: readonly (readonly [number, number, number])[] | null }
  /** The fill whose card was opened last. */
  fill: string | null
  grip: Grip
  mode: Mode | null
  drag: Drag | null
  /** Edits are being tried, and what they give is to be shown. */
  trying: boolean
  /** The regions of the selected window, while they are joined by hand. */
  regions: { piece: string; cells: CellView[] } | null
  /** Lines that what is dragged has snapped to, with what they stand for. */
  snapLines: SnapLine[]
  /** The guide that is pulled, as it would be. */
  guide: (GuideLine & { id: string }) | null
  /** Nothing but edges is seen. */
  bare: boolean
  /** Rulers are seen. */
  rulers: boolean
  /** What else a hand can do to what it carries. */
  carryHint: string | null
  view: View
  /** Pixels of the screen for one millimetre for which pictures are sharp: that of the view, once it stands still. */
  sharp: number
  /** Size of the viewport in CSS pixels. */
  port: { width: number; height: number }
  open: OpenCard
  /** The card of a form takes the keys when it opens, so that its word can be typed over. */
  typesInto: boolean
  pinned: boolean
  /** The stack is put away. */
  stackAway: boolean
  /** Where cards open, in pixels of the window, once one was taken elsewhere. */
  cardAt: { x: number; y: number } | null
  /** The newest revision that was heard of, and the other tabs that have the sheet open. */
  newest: number
  others: OtherTab[]
  /** The sheet may be looked at, and not changed. */
  looking: boolean
  /** The sheet as it was after the step that is looked at; and whether it was only to be looked at before that. */
  past: PastSheet | null
  lookedBefore: boolean
  /** A key is held to compare, and what the sheet is compared with where nothing earlier is looked at. */
  comparing: boolean
  before: PastSheet | null
  /** Edits that are not acknowledged yet. */
  waiting: number
  /** A colour that is tried as the background. */
  ground: string | null
  /** A colour is being picked from the sheet. */
  sampling: { take: (colour: string) => void } | null
  /** What of the port an open card leaves to the selected piece: left, top, right, bottom in CSS pixels. */
  free: readonly [number, number, number, number] | null
  /** The piece that the next word masks, once one was taken there from the shelf. */
  wordOn: string | null
  /** A sentence for the word that is being typed. */
  wordProblem: string | null
  /** New contours follow the edges of photos, as the last one did. */
  followsEdges: boolean
  /** The rim, the shadow and the gloss that were set last: they can be set again at once. */
  lastRim: Rim
  lastGloss: Gloss
  lastShadow: Shadow
  /** The shape that was drawn last: it can be drawn again at once. */
  figure: Figure
  /** Photos on their way into a window, as the browser itself reads them: seen until the server's own picture is there. */
  arriving: { piece: string; url: string; width: number; height: number }[]
  /** Photos on their way, with the share that is sent. */
  uploads: { id: number; name: string; share: number; cancel: () => void }[]
}

/** Whether the stack is put away is remembered by the browser. */
const STACK_AWAY = 'inky-stack-away'
/** Whether rulers are seen, too. */
const RULERS = 'inky-rulers'

const empty: BenchState = {
  bench: null,
  tried: {},
  triedOrder: null,
  triedPage: null,
  selected: null,
  several: [],
  inside: null,
  sweep: null,
  forms: [],
  handling: 'scale',
  member: null,
  memberPiece: null,
  pointed: null,
  along: { drawing: false, drawn: null },
  panes: { at: null, line: null, drawing: false, drawn: null, course: { kind: 'straight' } },
  fill: null,
  grip: 'both',
  mode: null,
  drag: null,
  trying: false,
  regions: null,
  snapLines: [],
  guide: null,
  bare: false,
  rulers: localStorage.getItem(RULERS) !== null,
  carryHint: null,
  view: { zoom: 1, x: 0, y: 0, turn: 0 },
  sharp: 4,
  port: { width: 0, height: 0 },
  open: null,
  typesInto: false,
  pinned: false,
  stackAway: localStorage.getItem(STACK_AWAY) !== null,
  cardAt: null,
  newest: 0,
  others: [],
  looking: false,
  past: null,
  lookedBefore: false,
  comparing: false,
  before: null,
  waiting: 0,
  ground: null,
  sampling: null,
  free: null,
  wordOn: null,
  wordProblem: null,
  followsEdges: false,
  lastRim: { width: 2, side: 'outside', paint: { kind: 'colour', colour: '#141b34' }, round: false, over: false },
  lastShadow: { place: 'behind', tint: { colour: '#141b34' }, blend: 'multiply', strength: 0.55, angle: 60, distance: 5, spread: 0, size: 6 },
  lastGloss: { strength: 0.7, reach: 6, shine: 0.6, light: -120, rise: 45 },
  figure: { figure: 'ellipse' },
  arriving: [],
  uploads: [],
}

/** Whether a rim, a shadow or a gloss is as the bench has it to begin with: nobody has set one yet. */
export const isStart = (last: object) => last === empty.lastRim || last === empty.lastShadow || last === empty.lastGloss

export const useBench = create<BenchState>(() => empty)

export const bench = {
  get: useBench.getState,
  set: useBench.setState,
  reset: () => useBench.setState((s) => ({ ...empty, uploads: [], arriving: [], cardAt: s.cardAt, stackAway: s.stackAway, rulers: s.rulers, figure: s.figure, followsEdges: s.followsEdges, lastRim: s.lastRim, lastGloss: s.lastGloss, lastShadow: s.lastShadow }), true),
}

/** Screen pixels for a millimetre: what pictures have to be sharp for. */
export function density(): number {
  return bench.get().view.zoom * window.devicePixelRatio
}

/** Shows rulers, or puts them away. */
export function showRulers(rulers: boolean) {
  if (rulers) localStorage.setItem(RULERS, '')
  else localStorage.removeItem(RULERS)
  bench.set({ rulers })
}

/** Puts the stack away, or brings it back. */
export function putStackAway(stackAway: boolean) {
  if (stackAway) localStorage.setItem(STACK_AWAY, '')
  else localStorage.removeItem(STACK_AWAY)
  bench.set({ stackAway })
}

export function viewOf(s: BenchState, piece: string | null): PieceView | undefined {
  if (piece === null) return undefined
  return s.tried[piece]?.pieceView ?? memberOf(s.bench?.scene.pieces, piece, (v) => v.piece)
}

/** All pieces that are seen, those that are tried as they would be, from back to front. */
export function viewsOf(s: BenchState): PieceView[] {
  const there = s.bench?.scene.pieces ?? []
  // what is tried may bring a piece in
  const fresh = Object.values(s.tried).flatMap(({ pieceView }) => (there.some((l) => l.piece === pieceView.piece) ? [] : [pieceView]))
  const views = [...there.map((l) => viewOf(s, l.piece) ?? l), ...fresh]
  const order = s.triedOrder
  return order ? views.sort((a, b) => order.indexOf(a.piece) - order.indexOf(b.piece)) : views
}

/** From this many nodes on, a line along every edge would hide what it is drawn around, and drawing it takes time. */
export const BUSY = 1500

/** The view for small pictures: those of busy outlines wait until a drag is over. */
export function calmViewOf(s: BenchState, piece: string | null): PieceView | undefined {
  const pieceView = viewOf(s, piece)
  return pieceView && pieceView.nodes >= BUSY ? s.bench?.scene.pieces.find((l) => l.piece === piece) : pieceView
}

export function pieceOf(s: BenchState, piece: string | null) {
  return piece === null ? undefined : memberOf(s.bench?.sheet.pieces, piece, (p) => p.id)
}

/** Cards that make sense for whatever piece comes next. */
const PINNABLE: OpenCard[] = ['fill', 'opening', 'edge', 'rims', 'shadows', 'gloss', 'panes', 'repeat', 'arrange', 'as-one']

/** No pane and no line is chosen; the next line is as it was. */
export const noneOf = (panes: PaneChoice): PaneChoice => ({ ...panes, at: null, line: null, drawing: false, drawn: null })

/** Selects a piece; one in a bundle that was not stepped into with all of that bundle. */
export function select(piece: string | null) {
  const s = bench.get()
  if (s.mode) return
  const sheet = s.bench?.sheet
  const inside = piece === null ? s.inside : commonInside(sheet, piece, s.inside)
  const taken = piece === null ? [] : unitPieces(sheet, piece, inside)
  const [only, ...others] = taken
  const selected = only !== undefined && others.length === 0 ? only : null
  const open = s.pinned && piece !== null && PINNABLE.includes(s.open) ? s.open : null
  const handling = selected !== s.selected && s.handling === 'join' ? 'scale' : s.handling
  bench.set({ selected, several: selected === null ? taken : [], inside, handling, forms: [], fill: null, open, panes: noneOf(s.panes), member: null, along: empty.along, wordOn: null, wordProblem: null })
}

/** Closes the open card. The only form of a window is its whole opening: it is let go of, for the grip to take hold again. */
export function closeCard() {
  bench.set((s) => {
    const kind = pieceOf(s, s.selected)?.kind
    const alone = kind?.kind === 'window' && kind.opening.forms.length === 1
    return { open: null, ground: null, wordOn: null, wordProblem: null, ...(alone ? { forms: [] } : {}) }
  })
}

/** Opens the card of the background: it is the sheet's own, whatever is selected. */
export function openGround() {
  select(null)
  bench.set({ open: 'background' })
}

export function open(card: OpenCard) {
  bench.set((s) => ({ open: s.open === card ? null : card, wordOn: null, wordProblem: null }))
}
