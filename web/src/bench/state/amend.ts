import { compare } from 'fast-json-patch'
import type { Amended } from '../../types/Amended'
import type { Edit } from '../../types/Edit'
import type { MemberChange } from '../../types/MemberChange'
import type { Sheet } from '../../types/Sheet'
import { allForms } from '../opening/formTree'

/** Beyond this many changes a value goes out as a whole; the server takes a few more. */
const MOST = 1000

/** What an edit gives as a whole: what it is of, how that is now, and how it is to be. */
type Whole = { of: Amended; before: unknown; after: unknown }

function wholeOf(edit: Edit, sheet: Sheet): Whole | null {
  const window = 'piece' in edit ? sheet.pieces.find((p) => p.id === edit.piece)?.kind : undefined
  const fill = (id: string) => window?.fills.find((f) => f.id === id)
  const form = (id: string) => {
    const filling = window?.fills.flatMap((f) => (f.paint.kind === 'form' ? [f.paint.form] : [])) ?? []
    return allForms([...(window?.opening.forms ?? []), ...filling]).find((f) => f.id === id)
  }
  switch (edit.edit) {
    case 'set_fill':
      return { of: { of: 'fill', piece: edit.piece, fill: edit.fill.id }, before: fill(edit.fill.id), after: edit.fill }
    case 'set_finish':
      return { of: { of: 'finish', piece: edit.piece }, before: window && (window.finish ?? {}), after: edit.finish }
    case 'set_bundle_finish': {
      const bundle = sheet.bundles?.find((b) => b.id === edit.bundle)
      return { of: { of: 'bundle_finish', bundle: edit.bundle }, before: bundle && (bundle.finish ?? {}), after: edit.finish }
    }
    case 'set_bundle_split': {
      const bundle = sheet.bundles?.find((b) => b.id === edit.bundle)
      return { of: { of: 'bundle_split', bundle: edit.bundle }, before: bundle && (bundle.split ?? { edges: 'old' }), after: edit.split }
    }
    case 'set_bundle_repeat': {
      const bundle = sheet.bundles?.find((b) => b.id === edit.bundle)
      return { of: { of: 'bundle_repeat', bundle: edit.bundle }, before: bundle && (bundle.repeat ?? null), after: edit.repeat ?? null }
    }
    case 'set_split':
      return { of: { of: 'split', piece: edit.piece }, before: window && (window.split ?? { edges: 'old' }), after: edit.split }
    case 'set_repeat':
      return { of: { of: 'repeat', piece: edit.piece }, before: window && (window.repeat ?? null), after: edit.repeat ?? null }
    case 'set_placement': {
      const paint = fill(edit.fill)?.paint
      return { of: { of: 'placement', piece: edit.piece, fill: edit.fill }, before: paint && 'placement' in paint ? paint.placement : undefined, after: edit.placement }
    }
    case 'set_lettering': {
      const shape = form(edit.form)?.shape
      const { piece, fit } = edit
      return { of: { of: 'lettering', piece, form: edit.form, fit }, before: shape?.kind === 'lettering' ? withoutKind(shape) : undefined, after: withoutKind(edit.lettering) }
    }
    case 'paint_breakout':
      return { of: { of: 'strokes', piece: edit.piece }, before: window && (window.breakout?.painted ?? []), after: edit.strokes }
    case 'set_ink':
      return { of: { of: 'ink', ink: edit.ink.id }, before: sheet.inks?.find((i) => i.id === edit.ink.id), after: edit.ink }
    case 'set_guides':
      return { of: { of: 'guides' }, before: sheet.guides ?? {}, after: edit.guides }
    case 'set_backdrop':
      return { of: { of: 'backdrop' }, before: sheet.backdrop ?? null, after: edit.paint ?? null }
    case 'set_border':
      return { of: { of: 'border' }, before: sheet.border ?? null, after: edit.border ?? null }
    case 'set_subject':
      return { of: { of: 'subject', photo: edit.photo, key: edit.subject.key }, before: sheet.photos[edit.photo]?.subjects?.find((s) => s.key === edit.subject.key), after: edit.subject }
    case 'opening':
      if (edit.change === 'set_form') return { of: { of: 'form', piece: edit.piece, form: edit.form.id }, before: form(edit.form.id), after: edit.form }
      if (edit.change === 'set_cells') return { of: { of: 'cells', piece: edit.piece }, before: window && (window.opening.cells ?? []), after: edit.cells }
      return null
    default:
      return null
  }
}

/** A shape is told from others by its kind; lettering alone has none. */
function withoutKind(shape: object) {
  return Object.fromEntries(Object.entries(shape).filter(([name]) => name !== 'kind'))
}

/** The changes from one value to another; null where they say no less than the value. */
function changesOf({ before, after }: Whole): MemberChange[] | null {
  if (before === undefined) return null
  // between nothing and something, the whole is what changes
  const changes = compare({ it: before }, { it: after }).map((c) => ({ ...c, path: c.path.slice('/it'.length) })) as MemberChange[]
  return changes.length <= MOST && JSON.stringify(changes).length < JSON.stringify(after).length ? changes : null
}

/**
 * Edits as they go out: one that gives a value as a whole names those of its members that change. What edits before it in the list may have changed goes out whole.
 */
export function amending(edits: Edit[], sheet: Sheet): Edit[] {
  const pieceIn = (edit: Edit) => ('piece' in edit ? edit.piece : 'bundle' in edit ? edit.bundle : null)
  return edits.map((edit, at) => {
    const whole = edits.slice(0, at).some((e) => pieceIn(e) === pieceIn(edit)) ? null : wholeOf(edit, sheet)
    const changes = whole && changesOf(whole)
    return changes ? { edit: 'amend', ...whole.of, changes } : edit
  })
}
