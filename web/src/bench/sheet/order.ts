import type { FileKind } from '../../types/FileKind'
import type { Task } from '../../types/Task'

type FileOrder = Omit<Extract<Task, { task: 'deliver' }>, 'task'>

/** How a file is wanted, whatever its kind. */
export interface Terms {
  bleed: boolean
  marks: boolean
  /** Empty: none. */
  press: string
  sheetInside: boolean
  clear: boolean
  trimmed: boolean
  selectedOnly: boolean
}

export const TERMS: Terms = { bleed: false, marks: false, press: '', sheetInside: true, clear: false, trimmed: true, selectedOnly: false }

export const hasOpacity = (kind: FileKind) => kind === 'png' || kind === 'tiff' || kind === 'webp'
export const isPicture = (kind: FileKind) => hasOpacity(kind) || kind === 'jpeg'

/** What is asked of the server: of the terms, those that mean something to this kind of file. */
export function orderOf(kind: FileKind, ppi: number, terms: Terms, selected: readonly string[]): FileOrder {
  const { bleed, marks, press, sheetInside, clear, trimmed, selectedOnly } = terms
  const pressed = press && (kind === 'pdf' || (kind === 'tiff' && !clear)) ? { press } : {}
  if (kind === 'pdf') return { kind, ppi, bleed, marks, sheet_inside: sheetInside, ...pressed }
  if (hasOpacity(kind)) return { kind, ppi, bleed, clear, trimmed: clear && trimmed, pieces: selectedOnly ? [...selected] : [], ...pressed }
  return { kind, ppi, bleed }
}
