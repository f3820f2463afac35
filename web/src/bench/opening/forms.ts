import type { Edit } from '../../types/Edit'
import type { Figure } from '../../types/Figure'
import type { Form } from '../../types/Form'
import type { FormShape } from '../../types/FormShape'
import type { FormView } from '../../types/FormView'
import type { Join } from '../../types/Join'
import type { Piece } from '../../types/Piece'
import type { PieceView } from '../../types/PieceView'
import type { OpeningChange } from '../../types/OpeningChange'
import type { Window } from '../../types/Window'
import { attempt, edit, forget } from '../state/edits'
import { grippedFill } from '../fill/fills'
import { allForms } from './formTree'
import { around, inside } from '../geometry/boxes'
import type { Point } from '../geometry/similarity'
import { viewOf, pieceOf, bench, type BenchState } from '../state/store'

export function windowOf(s: BenchState, piece: string | null): Window | undefined {
  const found = pieceOf(s, piece)
  return found?.kind.kind === 'window' ? found.kind : undefined
}

/** A window without a mask: it shows its photo whole. */
export function isPicture(piece: Piece | undefined): boolean {
  return piece?.kind.kind === 'window' && piece.kind.opening.forms.every((f) => f.off)
}

/** A form of a window: of its opening, or one that fills it. */
export function formOf(s: BenchState, piece: string | null, form: string | undefined): Form | undefined {
  const window = windowOf(s, piece)
  if (!window || form === undefined) return undefined
  return [...allForms(window.opening.forms), ...window.fills.flatMap((f) => (f.paint.kind === 'form' ? [f.paint.form] : []))].find((f) => f.id === form)
}

/**
 * The forms that have handles: those that are held, the one that fills the window while the grip or the open card is about it, else the only one of
 * the selected window.
 */
export function handledForms(s: BenchState): string[] {
  if (s.forms.length > 0) return s.forms
  const filling = s.grip === 'fill' || s.open === 'fill' || s.open === 'add-fill' ? grippedFill(s, s.selected)?.paint : undefined
  if (filling?.kind === 'form') return [filling.form.id]
  if (filling && s.grip === 'fill') return []
  const [only, ...others] = windowOf(s, s.selected)?.opening.forms ?? []
  return only && others.length === 0 && !only.off ? [only.id] : []
}

/** The form with its handles. */
export const chosenForm = (s: BenchState): Form | undefined => formOf(s, s.selected, s.forms.at(-1))

export function formView(s: BenchState, piece: string | null, form: string | undefined): FormView | undefined {
  const view = viewOf(s, piece)
  return view?.forms.find((v) => v.form === form) ?? view?.fill_forms?.find((v) => v.form === form)
}

const FIGURES: Record<Figure['figure'], string> = {
  ellipse: 'Ellipse',
  box: 'Box',
  ring: 'Ring',
  sector: 'Sector',
  triangle: 'Triangle',
  polygon: 'Polygon',
  star: 'Star',
  heart: 'Heart',
  arch: 'Arch',
  drop: 'Drop',
  cross: 'Cross',
  arrow: 'Arrow',
  zigzag: 'Zigzag',
  cloud: 'Cloud',
  blot: 'Blot',
  line: 'Line',
}

export const figureLabel = (figure: Figure['figure']) => FIGURES[figure]

/** What kind of form it is. */
export function kindOf(shape: FormShape): string {
  switch (shape.kind) {
    case 'lettering':
      return 'Lettering'
    case 'basic':
      return figureLabel(shape.figure.figure)
    case 'contour':
      return 'Contour'
    case 'drawing':
      return 'Drawing'
    case 'brush':
      return 'Brushed area'
    case 'list':
      return 'List'
  }
}

/** What a form is called. */
export function formLabel(form: Form): string {
  if (form.shape.kind !== 'lettering') return kindOf(form.shape)
  return form.shape.text.split(/\s+/).join(' ').trim() || 'Lettering'
}

export const JOINS: { join: Join; sign: string; label: string; sentence: string }[] = [
  { join: 'add', sign: '+', label: 'Add', sentence: 'Both together.' },
  { join: 'cut_away', sign: '−', label: 'Cut away', sentence: 'What lies before it, without this form.' },
  { join: 'keep_shared', sign: '∩', label: 'Keep shared', sentence: 'Only where both lie.' },
  { join: 'drop_shared', sign: '△', label: 'Drop shared', sentence: 'Both, but not where they overlap.' },
]

export const joinSign = (join: Join) => JOINS.find((j) => j.join === join) ?? JOINS[0]

/** Makes a change to an opening for good. */
export function change(piece: string, made: OpeningChange, gesture: string | null = null, refused?: (sentence: string) => void) {
  return edit({ edit: 'opening', piece, ...made }, gesture, refused)
}

/** What a new form, its window and that window's fill are called, so that what is tried is what is kept. */
export interface Ids {
  form: string
  piece: string
  fill: string
}

export const newIds = (): Ids => ({ form: crypto.randomUUID(), piece: crypto.randomUUID(), fill: crypto.randomUUID() })

/** The edit that puts a form where it belongs: a window of its own where there is no `piece`, else a new form of its opening, or one changed. */
function put(piece: string | null, form: Form, isNew: boolean, ids: Ids = newIds()): Edit {
  if (piece === null) return { edit: 'add_window', piece: ids.piece, form, fill: ids.fill }
  return { edit: 'opening', piece, ...(isNew ? { change: 'add_form', form } : { change: 'set_form', form }) }
}

/** Shows what an opening would become with what a mode has made so far. */
export function tryForm(piece: string | null, form: Form, isNew: boolean, ids?: Ids) {
  attempt([put(piece, form, isNew, ids)])
}

/** Keeps what a mode has made, ends the mode and holds the form; false, and the mode goes on, if it is not taken. */
export async function keepForm(piece: string | null, form: Form, isNew: boolean, gesture: string | null = null, ids?: Ids): Promise<boolean> {
  const made = put(piece, form, isNew, ids)
  if (!(await edit(made, gesture))) return false
  const selected = 'piece' in made ? made.piece : piece
  const own = windowOf(bench.get(), selected)?.opening.forms.length ?? 1
  // the only form of a window has its handles beside the grip
  bench.set({ mode: null, selected, forms: own > 1 ? [form.id] : [] })
  forget()
  return true
}

/** Forms with changes that are not acknowledged yet. */
const latest = new Map<string, Form>()

/** Changes a form as it will be once everything before is acknowledged, so that no step is lost. */
export async function amendForm(piece: string, id: string, how: (form: Form) => Form, gesture: string, refused?: (sentence: string) => void) {
  const own = latest.get(id) ?? formOf(bench.get(), piece, id)
  if (!own) return
  const next = how(own)
  latest.set(id, next)
  await change(piece, { change: 'set_form', form: next }, gesture, refused)
  if (latest.get(id) === next) latest.delete(id)
}

/** A form at a place of the sheet, added to what is there. */
export function newForm(shape: FormShape, x: number, y: number, join: Join): Form {
  return { id: crypto.randomUUID(), join, off: false, pose: { x, y, turn: 0, slant: 0, wide: 1, tall: 1 }, shape }
}

/** Takes hold of a form: its handles are shown, and its card opens. */
export function holdForm(form: string, more = false) {
  bench.set((s) => {
    if (!more) return { forms: [form] }
    return { forms: s.forms.includes(form) ? s.forms.filter((f) => f !== form) : [...s.forms, form] }
  })
}

/** Holds a window's first lettering, or its first form, if none is held yet; false where there is none. */
export function openForm(piece: string): boolean {
  const s = bench.get()
  const forms = windowOf(s, piece)?.opening.forms ?? []
  const first = forms.find((f) => f.shape.kind === 'lettering') ?? forms[0]
  if (!first) return false
  if (s.selected !== piece || s.forms.length === 0) bench.set({ selected: piece, forms: [first.id] })
  return true
}

/** The form at a point of the sheet: one of those held, else the last one of the list. */
export function formUnder(pieceView: PieceView, held: string[], point: Point): string | undefined {
  const hit = pieceView.forms.filter((v) => v.list === null && (v.outline ? inside(v.outline, point) : inQuad(v.corners, point)))
  const own = hit.find((v) => held.includes(v.form))
  return (own ?? hit.at(-1))?.form
}

const inQuad = (corners: readonly Point[], [x, y]: Point) => {
  const [l, t, r, b] = around(corners)
  return x >= l && x <= r && y >= t && y <= b
}
