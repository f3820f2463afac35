import type { Sheet } from '../../types/Sheet'
import { piecesOf } from '../bundle/bundles'
import { joined, type Bounds } from '../geometry/boxes'
import { bench, viewOf } from '../state/store'

/** What the clipboard holds of pieces: the pieces with the inks, photos and drawings they refer to, as a sheet of their own. */
export interface Clipping {
  format: typeof FORMAT
  version: number
  /** The sheet that they were taken from. */
  of: string
  /** They were cut out of it: they are put in their place again. */
  cut: boolean
  /** The box around them on that sheet: left, top, right, bottom in mm. */
  box: Bounds
  sheet: Sheet
}

const FORMAT = 'inky-window-pieces'
const VERSION = 1

/** As many characters a clipping may have: what is larger is no request any more. */
const MOST = 1_800_000

/** The pieces of the sheet as a clipping; what they do not refer to is left out. */
export function clippingOf(pieces: readonly string[], cut: boolean): Clipping | null {
  const now = bench.get().bench
  if (!now) return null
  const { pieces: all, photos, credits, drawings, ...rest } = now.sheet
  const taken = all.filter((p) => pieces.includes(p.id))
  const box = joined(taken.map((p) => viewOf(bench.get(), p.id)).flatMap((v) => (v ? [v.bounds] : []))) ?? [0, 0, 0, 0]
  // a bundle comes along with all of its pieces, or not at all
  const bundles = rest.bundles?.filter((b) => piecesOf(now.sheet, b.id).every((p) => pieces.includes(p))) ?? []
  // identifiers are long and random, so that one in the text is one that is referred to
  const text = JSON.stringify([taken, bundles])
  const used = <T>(of: Record<string, T> | undefined): Record<string, T> => Object.fromEntries(Object.entries(of ?? {}).filter(([id]) => text.includes(id)))
  const { backdrop: _, border: __, ...header } = rest
  const inks = rest.inks?.filter((i) => text.includes(i.id)) ?? []
  return { format: FORMAT, version: VERSION, of: now.id, cut, box, sheet: { ...header, inks, bundles, photos: used(photos), credits: used(credits), drawings: used(drawings), pieces: taken } }
}

/** As text in a document, which every clipboard carries: other programs see the names. */
export function asHtml(clipping: Clipping, words: string): string {
  const bytes = new TextEncoder().encode(JSON.stringify(clipping))
  let binary = ''
  for (const byte of bytes) binary += String.fromCharCode(byte)
  const p = document.createElement('p')
  p.dataset.inkyWindow = btoa(binary)
  p.textContent = words
  return p.outerHTML
}

/** What was read of a clipboard: a clipping, why it is none, or null where it is something else. */
export function readClipping(html: string): Clipping | string | null {
  // text is looked for in it; it is never made part of a document
  const found = /data-inky-window="([A-Za-z0-9+/=]*)"/.exec(html)?.[1]
  if (found === undefined) return null
  if (found.length > MOST * 1.4) return 'What was copied is too large to be pasted. Copy fewer pieces at once.'
  try {
    const bytes = Uint8Array.from(atob(found), (c) => c.charCodeAt(0))
    const read: unknown = JSON.parse(new TextDecoder().decode(bytes))
    if (typeof read !== 'object' || read === null || !('format' in read) || read.format !== FORMAT || !('version' in read)) return UNREADABLE
    if (typeof read.version !== 'number' || read.version > VERSION) return 'This was copied by a newer version of the program. Reload the page, and copy it again.'
    const box: unknown = 'box' in read ? read.box : null
    const isBox = Array.isArray(box) && box.length === 4 && box.every((v) => Number.isFinite(v))
    return isBox && 'sheet' in read && typeof read.sheet === 'object' && read.sheet !== null && 'pieces' in read.sheet && Array.isArray(read.sheet.pieces) ? (read as Clipping) : UNREADABLE
  } catch {
    return UNREADABLE
  }
}

const UNREADABLE = 'What is in the clipboard cannot be read. Copy it again.'
