import type { Fill } from '../../types/Fill'
import type { FillPaint } from '../../types/FillPaint'
import type { Finish } from '../../types/Finish'
import type { Window } from '../../types/Window'
import { edit } from '../state/edits'
import { bench, pieceOf, type BenchState } from '../state/store'

/** Changes a fill as it is when its turn comes: edits before it may have changed it meanwhile. */
export function amendFill(piece: string, fill: string, amend: (fill: Fill) => Fill, gesture: string) {
  return edit(() => {
    const now = pieceOf(bench.get(), piece)?.kind.fills.find((f) => f.id === fill)
    return now ? { edit: 'set_fill', piece, fill: amend(now) } : null
  }, gesture)
}

const PLAIN: Finish = {}

export const finishOf = (window: Window): Finish => window.finish ?? PLAIN

/** Changes a finish as it is when its turn comes. */
export function amendFinish(piece: string, amend: (finish: Finish) => Finish, gesture: string) {
  return edit(() => {
    const window = pieceOf(bench.get(), piece)?.kind
    return window ? { edit: 'set_finish', piece, finish: remembered(finishOf(window), amend(finishOf(window))) } : null
  }, gesture)
}

/** What was set last can be set again at once. */
function remembered(before: Finish, finish: Finish): Finish {
  const rim = finish.rims?.find((r, k) => r !== before.rims?.[k])
  const shadow = finish.shadows?.find((s, k) => s !== before.shadows?.[k])
  bench.set({ ...(rim ? { lastRim: { ...rim, off: false } } : {}), ...(shadow ? { lastShadow: { ...shadow, off: false } } : {}), ...(finish.gloss ? { lastGloss: finish.gloss } : {}) })
  return finish
}

/** A piece of the sheet again and again, from a point on. */
export function tiledPiece(piece: string, [x, y]: readonly [number, number]): FillPaint {
  return { kind: 'tile', window: piece, placement: { x, y, scale: 0.25, turn: 0, mirrored: false }, step: [1.05, 1.05], offset: 0 }
}

/** The fill whose card is open, or the foremost one. */
export function chosenFill(s: BenchState): Fill | undefined {
  const kind = pieceOf(s, s.selected)?.kind
  if (kind?.kind !== 'window') return undefined
  return kind.fills.find((f) => f.id === s.fill) ?? kind.fills.at(-1)
}

export const placedFills = (s: BenchState, piece: string | null) => pieceOf(s, piece)?.kind.fills.filter((f) => !f.off && hasPlace(f.paint)) ?? []

/** The fill that the grip is about: the one whose card was opened last, or the foremost one that has a place. */
export function grippedFill(s: BenchState, piece: string | null): Fill | undefined {
  const own = placedFills(s, piece)
  return own.find((f) => f.id === s.fill) ?? own.at(-1)
}

/** Of several fills that can be moved, the one that is. Null where all move. */
export function movedFill(s: BenchState, piece: string): string | null {
  return placedFills(s, piece).length < 2 ? null : (grippedFill(s, piece)?.id ?? null)
}

/** What a tile repeats, or a fill shows, is a drawing. */
export const drawingOf = (paint: FillPaint) => (paint.kind === 'drawing' || (paint.kind === 'tile' && 'drawing' in paint) ? paint.drawing : undefined)

/** Another piece of the sheet that a fill shows or repeats. */
export const shownPiece = (paint: FillPaint) => (paint.kind === 'window' ? paint.piece : paint.kind === 'tile' && 'window' in paint ? paint.window : undefined)

/** The photo that a fill shows or repeats. */
export const photoOf = (paint: FillPaint) => (paint.kind === 'photo' || (paint.kind === 'tile' && 'photo' in paint) ? paint.photo : undefined)

export type PhotoPaint = Extract<FillPaint, { kind: 'photo' } | { kind: 'tile'; photo: string }>

export const isPhoto = (paint: FillPaint): paint is PhotoPaint => photoOf(paint) !== undefined

/** A fill that can be shown once, or again and again. */
export type RepeatedPaint = Extract<FillPaint, { kind: 'photo' | 'tile' | 'drawing' | 'window' }>

/** A fill with a placement. */
export type PlacedPaint = Extract<FillPaint, { kind: 'photo' | 'tile' | 'drawing' }>

/** A fill that is one colour or gradient all over has no place of its own. */
export const hasPlace = (paint: FillPaint) => paint.kind !== 'colour' && paint.kind !== 'ink' && paint.kind !== 'gradient'

/** Opens the card of a fill, or closes it. */
export function openFill(fill: string) {
  bench.set((s) => ({ fill, open: s.open === 'fill' && s.fill === fill ? null : 'fill' }))
}
