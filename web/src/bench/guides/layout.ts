import { inMm } from '../../parts/units'
import type { GuideWay } from '../../types/GuideWay'
import type { LayoutGuides } from '../../types/LayoutGuides'
import type { Margins } from '../../types/Margins'
import type { Sheet } from '../../types/Sheet'
import { edit } from '../state/edits'
import type { Bounds } from '../geometry/boxes'
import { bench } from '../state/store'

/** What helps to lay pieces out: margins, columns, rows, baselines, guides. Lengths in mm. */

export const NO_MARGINS: Margins = { left: 0, top: 0, right: 0, bottom: 0 }

export const guidesOf = (sheet: Sheet | undefined): LayoutGuides => sheet?.guides ?? NONE

const NONE: LayoutGuides = {}

/** Changes the guides as they are when their turn comes. */
export function amendGuides(amend: (guides: LayoutGuides) => LayoutGuides, gesture: string = crypto.randomUUID()) {
  return edit(() => {
    const sheet = bench.get().bench?.sheet
    return sheet ? { edit: 'set_guides', guides: amend(guidesOf(sheet)) } : null
  }, gesture)
}

/** The box between the margins; null where there are none, or no room is left. */
export function marginBox(sheet: Sheet | undefined): Bounds | null {
  const margins = guidesOf(sheet).margins
  if (!sheet || !margins) return null
  const box: Bounds = [margins.left, margins.top, sheet.width - margins.right, sheet.height - margins.bottom]
  return box[2] > box[0] && box[3] > box[1] ? box : null
}

/** The stripes that a stretch falls into with equal gaps: from where to where. */
function stripes(from: number, to: number, count: number, gutter: number): [number, number][] {
  const width = (to - from - (count - 1) * gutter) / count
  if (count < 2 || width <= 0) return []
  return Array.from({ length: count }, (_, k) => [from + k * (width + gutter), from + k * (width + gutter) + width])
}

/** Columns and rows between the margins. */
export function stripesOf(sheet: Sheet): { columns: [number, number][]; rows: [number, number][] } {
  const { columns = 1, rows = 1, gutter = 0 } = guidesOf(sheet)
  const [l, t, r, b] = marginBox(sheet) ?? [0, 0, sheet.width, sheet.height]
  return { columns: stripes(l, r, columns, gutter), rows: stripes(t, b, rows, gutter) }
}

/** The places of the baselines between the margins. */
export function baselinesOf(sheet: Sheet): number[] {
  const { baselines } = guidesOf(sheet)
  if (!baselines) return []
  const [, top, , bottom] = marginBox(sheet) ?? [0, 0, sheet.width, sheet.height]
  const count = Math.floor((bottom - top - baselines.first) / baselines.step + 1e-9) + 1
  return Array.from({ length: Math.max(0, Math.min(count, 2000)) }, (_, k) => top + baselines.first + k * baselines.step)
}

/** A line that a drag snaps to. */
export interface LayoutLine {
  way: GuideWay
  at: number
  of: string
  /** Only what stands on it snaps to it. */
  isBaseline?: boolean
}

/** All that is snapped to; nothing while the guides are hidden. A guide that is being dragged is left out. */
export function layoutLines(sheet: Sheet, without: string | null): LayoutLine[] {
  const guides = guidesOf(sheet)
  if (guides.hidden) return []
  const lines: LayoutLine[] = (guides.lines ?? []).filter((g) => without === null || g.id !== without).map(({ way, at }) => ({ way, at, of: 'a guide' }))
  const box = marginBox(sheet)
  if (box) {
    const [l, t, r, b] = box
    lines.push({ way: 'upright', at: l, of: 'left margin' }, { way: 'upright', at: (l + r) / 2, of: 'middle between the margins' }, { way: 'upright', at: r, of: 'right margin' })
    lines.push({ way: 'level', at: t, of: 'upper margin' }, { way: 'level', at: (t + b) / 2, of: 'middle between the margins' }, { way: 'level', at: b, of: 'lower margin' })
  }
  const { columns, rows } = stripesOf(sheet)
  lines.push(...columns.flat().map((at): LayoutLine => ({ way: 'upright', at, of: 'a column' })))
  lines.push(...rows.flat().map((at): LayoutLine => ({ way: 'level', at, of: 'a row' })))
  lines.push(...baselinesOf(sheet).map((at): LayoutLine => ({ way: 'level', at, of: 'a baseline', isBaseline: true })))
  return lines
}

/** Ready arrangements, by what they come to on a sheet; guides that were pulled out stay. */
export const PRESETS: readonly (readonly [name: string, make: (sheet: Sheet) => LayoutGuides])[] = [
  ['None', () => ({})],
  ['Even margins', (sheet) => ({ margins: margins(sheet, 1 / 16, 1 / 16) })],
  ['Wider foot', (sheet) => ({ margins: margins(sheet, 1 / 16, 1 / 9) })],
  ['Thirds', () => ({ columns: 3, rows: 3 })],
  ['Four columns', (sheet) => ({ margins: margins(sheet, 1 / 16, 1 / 16), columns: 4, gutter: round(sheet, Math.min(sheet.width, sheet.height) / 60) })],
  ['Six by eight', (sheet) => ({ margins: margins(sheet, 1 / 16, 1 / 16), columns: 6, rows: 8, gutter: round(sheet, Math.min(sheet.width, sheet.height) / 60) })],
]

const round = (sheet: Sheet, mm: number) => {
  const unit = sheet.unit === 'px' || sheet.unit === 'mm' ? inMm(sheet.unit, sheet.ppi) : inMm(sheet.unit, sheet.ppi) / 10
  return Math.round(mm / unit) * unit
}

function margins(sheet: Sheet, all: number, foot: number): Margins {
  const side = Math.min(sheet.width, sheet.height)
  const [even, bottom] = [round(sheet, side * all), round(sheet, side * foot)]
  return { left: even, top: even, right: even, bottom }
}
