import type { Edit } from '../../types/Edit'
import type { Layout } from '../../types/Layout'
import type { MemberLook } from '../../types/MemberLook'
import type { RepeatMemberView } from '../../types/RepeatMemberView'
import type { Repeat } from '../../types/Repeat'
import { edit } from '../state/edits'
import { windowOf } from '../opening/forms'
import { bundleOf, unitBounds, unitNow, unitView } from '../state/unit'
import { inside } from '../geometry/boxes'
import { followed, IDENTITY, undone, type Matrix } from '../geometry/matrix'
import { distanceFor, lineBeside } from './lineLayout'
import { newMember } from '../state/newMember'
import type { Point } from '../geometry/similarity'
import { bench, viewOf, type BenchState } from '../state/store'

/** How a window or a bundle is repeated. */
export const repeatOf = (s: BenchState, unit: string | null): Repeat | null => windowOf(s, unit)?.repeat ?? bundleOf(s, unit)?.repeat ?? null

/** The edit that repeats a window or a bundle so. */
export const setRepeat = (s: BenchState, unit: string, repeat: Repeat | null): Edit => (bundleOf(s, unit) ? { edit: 'set_bundle_repeat', bundle: unit, repeat } : { edit: 'set_repeat', piece: unit, repeat })

/** The member that is chosen while the card of members is open. */
export function chosenMember(s: BenchState): { view: RepeatMemberView; index: number } | null {
  if (s.open !== 'repeat' || s.member === null) return null
  const view = unitView(s, unitNow(s)).members?.[s.member]
  return view ? { view, index: s.member } : null
}

/** Changes how a window or a bundle is repeated, as it is when its turn comes; null shows it once. */
export function amendRepeat(unit: string, amend: (repeat: Repeat | null) => Repeat | null, gesture: string) {
  return edit(() => setRepeat(bench.get(), unit, amend(repeatOf(bench.get(), unit))), gesture)
}

export const lookOf = (repeat: Repeat, member: number): MemberLook | undefined => repeat.looks?.find((l) => l.member === member)

/** A member moved, hidden or given a word; one that has nothing of its own is not kept. */
export function withLook(repeat: Repeat, member: number, change: Partial<MemberLook>): Repeat {
  const old = lookOf(repeat, member)
  const look = { ...(old ?? newMember({ member })), ...change }
  const others = (repeat.looks ?? []).filter((l) => l !== old)
  const plain = !look.hidden && (look.word === undefined || look.word === null) && (look.by ?? IDENTITY).every((v, k) => v === IDENTITY[k])
  return { ...repeat, looks: plain ? others : [...others, look] }
}

/** What a member is moved by so that on the sheet it is moved by `by` from where it lies. */
export function movedMember(repeat: Repeat, member: number, by: Matrix): Repeat {
  return withLook(repeat, member, { by: followed(lookOf(repeat, member)?.by ?? IDENTITY, by) })
}

/** The member of a window or a bundle at a point of the sheet, the uppermost one. */
export function memberAt(s: BenchState, unit: string | null, point: Point): number | null {
  const at = unitView(s, unit).members?.findLastIndex((m) => !m.hidden && inside(m.outline, point)) ?? -1
  return at < 0 ? null : at
}

/** A layout of this kind that is seen at once, for a window with these bounds. */
export function layoutOf(kind: Layout['kind'], [l, t, r, b]: readonly [number, number, number, number], before: Layout | null): Layout {
  const gap = before?.kind === 'row' ? before.gap : before?.kind === 'grid' ? before.gaps[0] : Math.round((r - l) / 20)
  const count = before ? countOf(before) : 3
  switch (kind) {
    case 'row':
      return { kind, count, gap, along: [1, 0] }
    case 'grid':
      return { kind, columns: Math.min(count, 3), rows: Math.ceil(count / 3), gaps: [gap, gap], along: [1, 0], down: [0, 1] }
    case 'line':
      return lineBeside([l, t, r, b], Math.max(count, 3), distanceFor([l, t, r, b]))
    case 'ring':
      return { kind, count: Math.max(count, 6), centre: [(l + r) / 2, t + (b - t) * 2], sweep: 360, upright: false }
  }
}

export const countOf = (layout: Layout) => (layout.kind === 'grid' ? layout.columns * layout.rows : layout.count)

/** Which way a direction points, in degrees, clockwise from the right. */
export const angleOf = ([x, y]: readonly [number, number]) => (Math.atan2(y, x) * 180) / Math.PI

export const directionOf = (degrees: number): [number, number] => [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)]

/** The bounds of the window or the bundle itself, whatever its members add. */
export function ownBounds(s: BenchState, piece: string): readonly [number, number, number, number] {
  if (bundleOf(s, piece)) return unitBounds(s, piece)
  const view = viewOf(s, piece)
  const first = view?.members?.[0]
  const back = first && undone(first.transform)
  if (!view || !first || !back || first.transform.some((v, k) => v !== IDENTITY[k])) return first?.bounds ?? view?.bounds ?? [0, 0, 50, 50]
  return first.bounds
}

/** What Delete does while a member is chosen: hides it. False where none is. */
export function hideMember(unit: string): boolean {
  const member = chosenMember(bench.get())
  if (!member) return false
  void amendRepeat(unit, (repeat) => repeat && withLook(repeat, member.index, { hidden: true }), crypto.randomUUID())
  return true
}
