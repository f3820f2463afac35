import type { Edit } from '../../types/Edit'
import type { Course } from '../../types/Course'
import type { PaneLook } from '../../types/PaneLook'
import type { PanePath } from '../../types/PanePath'
import type { PaneView } from '../../types/PaneView'
import type { Split } from '../../types/Split'
import type { SplitLine } from '../../types/SplitLine'
import { attempt, edit, forget } from '../state/edits'
import { windowOf } from '../opening/forms'
import { bundleOf, unitBounds, unitNow, unitView } from '../state/unit'
import { inside } from '../geometry/boxes'
import { followed, IDENTITY, moveBy, type Matrix } from '../geometry/matrix'
import { newMember } from '../state/newMember'
import type { Point } from '../geometry/similarity'
import { bench, type BenchState } from '../state/store'

/** A line that splits, with its identifier. */
export type Line = SplitLine & { id?: string }

const NONE: Split = { edges: 'old' }

/** How a window or a bundle is split. */
export const splitOf = (s: BenchState, unit: string | null): Split => windowOf(s, unit)?.split ?? bundleOf(s, unit)?.split ?? NONE

/** The edit that splits a window or a bundle so. */
export const setSplit = (s: BenchState, unit: string, split: Split): Edit => (bundleOf(s, unit) ? { edit: 'set_bundle_split', bundle: unit, split } : { edit: 'set_split', piece: unit, split })

export const samePane = (a: PanePath, b: PanePath) => a.length === b.length && a.every((step, k) => step.line === b[k]?.line && step.far === b[k]?.far)

/** The pane that is chosen while the card of panes is open, and its place among the panes. */
export function chosenPane(s: BenchState): { view: PaneView; index: number } | null {
  const { at } = s.panes
  if (s.open !== 'panes' || at === null) return null
  const all = unitView(s, unitNow(s)).panes ?? []
  const index = all.findIndex((p) => samePane(p.at, at))
  const view = all[index]
  return view ? { view, index } : null
}

export function choosePane(at: PanePath | null) {
  bench.set((s) => ({ panes: { ...s.panes, at, line: null } }))
}

export function chooseLine(line: string | null) {
  bench.set((s) => ({ panes: { ...s.panes, line, at: null } }))
}

/** Changes how a window or a bundle is split, as it is when its turn comes. */
export function amendSplit(unit: string, amend: (split: Split) => Split, gesture: string) {
  return edit(() => setSplit(bench.get(), unit, amend(splitOf(bench.get(), unit))), gesture)
}

/** Shows what a split would give. */
export function trySplit(unit: string, split: Split) {
  attempt([setSplit(bench.get(), unit, split)])
}

/** Keeps what was tried, made of the split as it is then. */
export async function keepSplit(unit: string, amend: (split: Split) => Split, gesture: string = crypto.randomUUID()): Promise<boolean> {
  const kept = await amendSplit(unit, amend, gesture)
  forget()
  return kept
}

export const withLine = (split: Split, line: Line): Split => ({ ...split, lines: [...(split.lines ?? []), line] })

export const withLineChanged = (split: Split, id: string, change: (line: Line) => Line): Split => ({ ...split, lines: (split.lines ?? []).map((l) => (l.id === id ? change(l) : l)) })

export const withoutLine = (split: Split, id: string): Split => ({ ...split, lines: (split.lines ?? []).filter((l) => l.id !== id) })

export const lookOf = (split: Split, at: PanePath): PaneLook | undefined => split.looks?.find((l) => samePane(l.pane, at))

/** A pane moved, named or hidden; one that is none of it any more is not kept. */
export function withLook(split: Split, at: PanePath, change: Partial<PaneLook>): Split {
  const old = lookOf(split, at)
  const look = { ...(old ?? newMember({ pane: at })), ...change }
  const others = (split.looks ?? []).filter((l) => l !== old)
  const plain = !look.name && !look.hidden && (look.by ?? IDENTITY).every((v, k) => v === IDENTITY[k])
  return { ...split, looks: plain ? others : [...others, look] }
}

/** What a pane is moved by so that on the sheet it is moved by `by` from where it lies. */
export function movedPane(split: Split, view: PaneView, by: Matrix): Split {
  const [dx, dy] = view.apart
  const apart = followed(lookOf(split, view.at)?.by ?? IDENTITY, moveBy(dx, dy))
  return withLook(split, view.at, { by: followed(followed(apart, by), moveBy(-dx, -dy)) })
}

/** What panes are called: by their own names, or by their numbers. */
export const paneName = (split: Split, at: PanePath, index: number) => lookOf(split, at)?.name || `Pane ${index + 1}`

/** The pane of a window or a bundle at a point of the sheet, the uppermost one. */
export function paneAt(s: BenchState, unit: string | null, point: Point): PaneView | undefined {
  return unitView(s, unit).panes?.findLast((p) => !p.hidden && inside(p.outline, point))
}

/** A course of this kind that suits a window of this size, in mm. */
export function courseOf(kind: Course['kind'], size: number): Course {
  const depth = Math.max(1, Math.round(size / 10))
  switch (kind) {
    case 'zigzag':
      return { kind, count: 6, depth }
    case 'torn':
      return { kind, depth, seed: Math.floor(Math.random() * 1e6) }
    default:
      return { kind }
  }
}

/** The length of a line from point to point. */
export const longOf = (points: readonly Point[]) => points.slice(1).reduce((sum, p, k) => sum + Math.hypot(p[0] - (points[k]?.[0] ?? 0), p[1] - (points[k]?.[1] ?? 0)), 0)

/** A line through the middle of a box, from edge to edge and a little beyond. */
export function lineThrough([l, t, r, b]: readonly [number, number, number, number], way: 'across' | 'down' | 'slanted'): Point[] {
  const [w, h] = [(r - l) * 0.06, (b - t) * 0.06]
  const [x, y] = [(l + r) / 2, (t + b) / 2]
  if (way === 'across') return [[l - w, y], [r + w, y]]
  if (way === 'down') return [[x, t - h], [x, b + h]]
  const lean = Math.min(b - t, r - l) * 0.2
  return [[l - w, y + lean], [r + w, y - lean]]
}

/** Splits the chosen pane, or the whole window or bundle, in the middle. */
export async function splitInTheMiddle(unit: string, way: 'across' | 'down' | 'slanted') {
  const s = bench.get()
  const pane = chosenPane(s)
  const line = newLine(s, lineThrough(pane ? pane.view.bounds : unitBounds(s, unit), way).map((p) => [...p]))
  if (await amendSplit(unit, (split) => withLine(split, line), crypto.randomUUID())) bench.set((b) => ({ panes: { ...b.panes, line: line.id, at: null, drawing: false } }))
}

/** A new line through points as they are seen: in the chosen pane, or through all that it crosses. */
export function newLine(s: BenchState, points: [number, number][]): Line & { id: string } {
  const pane = chosenPane(s)
  const own = pane ? points.map((p) => backInto(pane.view.transform, p)) : points
  return newMember({ points: own, course: s.panes.course, ...(pane ? { within: pane.view.at } : {}) })
}

function backInto([a, b, c, d, e, f]: Matrix, [x, y]: [number, number]): [number, number] {
  const det = a * d - b * c || 1
  const [u, v] = [x - e, y - f]
  return [(d * u - c * v) / det, (a * v - b * u) / det]
}

/** What Delete does while the card of panes is open: takes the chosen line away, or hides the chosen pane. False where neither is chosen. */
export function deleteOnPanes(unit: string): boolean {
  const s = bench.get()
  if (s.open !== 'panes') return false
  const { line } = s.panes
  const pane = chosenPane(s)
  if (line !== null) void amendSplit(unit, (split) => withoutLine(split, line), crypto.randomUUID())
  else if (pane) void amendSplit(unit, (split) => withLook(split, pane.view.at, { hidden: true }), crypto.randomUUID())
  // with the card open, Delete never takes the whole
  return true
}
