import { create } from 'zustand'
import type { Grip } from '../types/Grip'
import type { Layer } from '../types/Layer'
import type { PhotoBox } from '../types/PhotoBox'
import type { PhotoId } from '../types/PhotoId'
import type { Bench } from '../types/Bench'
import type { Edit } from '../types/Edit'
import type { Similarity } from '../types/Similarity'
import type { SubjectId } from '../types/SubjectId'

/** What the screen shows of a sheet: a zoom, and where the sheet's corner lies. */
export interface View {
  /** CSS pixels for one millimetre. */
  zoom: number
  /** The sheet's top left corner, in CSS pixels of the viewport. */
  x: number
  y: number
}

export type Mode =
  | { kind: 'subject'; piece: string; photo: PhotoId; box: PhotoBox | null; drawing: boolean; found: SubjectId | null }
  | { kind: 'breakout'; piece: string; edits: Edit[] }

/** A drag that goes on: what is moved, and by how much so far. */
export interface Drag {
  piece: string
  what: Grip
  by: Similarity
}

export type OpenCard = 'lettering' | 'new-word' | 'fill' | 'size' | 'background' | null

export interface BenchState {
  bench: Bench | null
  /** Layers as edits that are only tried would make them, and the move they were tried with. */
  tried: Record<string, { layer: Layer; by: Similarity | null }>
  selected: string | null
  grip: Grip
  mode: Mode | null
  drag: Drag | null
  view: View
  /** Size of the viewport in CSS pixels. */
  port: { width: number; height: number }
  open: OpenCard
  pinned: boolean
  /** Edits that are not acknowledged yet. */
  waiting: number
  /** A sentence for the word that is being typed. */
  wordProblem: string | null
  /** Photos on their way, with the share that is sent. */
  uploads: { id: number; name: string; share: number; cancel: () => void }[]
}

const empty: BenchState = {
  bench: null,
  tried: {},
  selected: null,
  grip: 'both',
  mode: null,
  drag: null,
  view: { zoom: 1, x: 0, y: 0 },
  port: { width: 0, height: 0 },
  open: null,
  pinned: false,
  waiting: 0,
  wordProblem: null,
  uploads: [],
}

export const useBench = create<BenchState>(() => empty)

export const bench = {
  get: useBench.getState,
  set: useBench.setState,
  reset: () => useBench.setState({ ...empty, uploads: [] }, true),
}

/** Screen pixels for a millimetre: what pictures have to be sharp for. */
export function density(): number {
  return bench.get().view.zoom * window.devicePixelRatio
}

export function layerOf(s: BenchState, piece: string | null): Layer | undefined {
  if (piece === null) return undefined
  return s.tried[piece]?.layer ?? s.bench?.scene.layers.find((l) => l.piece === piece)
}

export function pieceOf(s: BenchState, piece: string | null) {
  return piece === null ? undefined : s.bench?.sheet.pieces.find((p) => p.id === piece)
}

export function select(piece: string | null) {
  const s = bench.get()
  if (s.mode) return
  bench.set({ selected: piece, open: s.pinned && piece !== null && s.open !== 'new-word' ? s.open : null, wordProblem: null })
}

export function open(card: OpenCard) {
  bench.set((s) => ({ open: s.open === card ? null : card, wordProblem: null }))
}
