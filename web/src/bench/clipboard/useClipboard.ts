import { useEffect } from 'react'
import { sentenceOf } from '../../api/client'
import { isTyping } from '../../parts/focus'
import { say } from '../../parts/notices'
import { edit } from '../state/edits'
import type { Bounds } from '../geometry/boxes'
import { labelOf } from '../state/labels'
import { bringIn, photosOf } from '../fill/photos'
import { removePieces } from '../state/pieces'
import { chosen, selectAll } from '../state/selection'
import { canSettle } from '../fill/settle'
import type { Point } from '../geometry/similarity'
import { bench } from '../state/store'
import { asHtml, clippingOf, readClipping, type Clipping } from './clipping'
import { pictureOfPieces } from './picture'

/** How far copies lie from what they were copied from, on the same sheet: so that they are seen. */
const ASIDE = 8

/** How often the same pieces were pasted: each copy lies a little further. */
let pasted: { of: string; times: number } | null = null

const isOurs = (e: ClipboardEvent) => !isTyping(e.target) && !isTyping(document.activeElement) && !document.querySelector('[role="dialog"]') && (window.getSelection()?.isCollapsed ?? true)

/** Pieces go to the clipboard of the system, and come from there; so do pictures and drawings. */
export function useClipboard() {
  useEffect(() => {
    const take = (e: ClipboardEvent) => {
      const s = bench.get()
      const pieces = chosen(s)
      const cut = e.type === 'cut'
      const clipping = pieces.length > 0 && isOurs(e) && !s.mode && !(cut && s.looking) ? clippingOf(pieces, cut) : null
      if (!clipping || !e.clipboardData) return
      e.preventDefault()
      const words = clipping.sheet.pieces.map((p) => labelOf(p, clipping.sheet)).join(', ')
      const html = asHtml(clipping, words)
      e.clipboardData.setData('text/html', html)
      e.clipboardData.setData('text/plain', words)
      pasted = null
      void withPicture(pieces, html, words)
      if (cut) void removePieces(pieces)
    }
    const put = (e: ClipboardEvent) => {
      if (!isOurs(e) || !canSettle()) return
      const clipping = readClipping(e.clipboardData?.getData('text/html') ?? '')
      if (clipping !== null) {
        e.preventDefault()
        if (typeof clipping === 'string') say(clipping)
        else void paste(clipping)
        return
      }
      const files = photosOf(e.clipboardData)
      const text = e.clipboardData?.getData('text/plain').trim() ?? ''
      // a drawing that was copied as text
      if (files.length === 0 && /^(<\?xml[^>]*>\s*)?(<!--[\s\S]{0,2000}?-->\s*)?<svg[\s>]/i.test(text)) files.push(new File([text], 'pasted.svg', { type: 'image/svg+xml' }))
      if (files.length === 0) return
      e.preventDefault()
      for (const file of files) void bringIn(file, bench.get().selected)
    }
    window.addEventListener('copy', take)
    window.addEventListener('cut', take)
    window.addEventListener('paste', put)
    return () => {
      window.removeEventListener('copy', take)
      window.removeEventListener('cut', take)
      window.removeEventListener('paste', put)
    }
  }, [])
}

/** Adds a picture for other programs to what was copied, where the browser lets that be done. */
async function withPicture(pieces: readonly string[], html: string, words: string) {
  try {
    const picture = await pictureOfPieces(pieces)
    if (!picture) return
    const text = (type: string, of: string) => new Blob([of], { type })
    await navigator.clipboard.write([new ClipboardItem({ 'text/html': text('text/html', html), 'text/plain': text('text/plain', words), 'image/png': picture })])
  } catch {
    // the pieces are in the clipboard already
  }
}

/** How far a box is moved so that its middle is that of a sheet, if it reaches beyond it. */
function ontoSheet([l, t, r, b]: Bounds): Point {
  const sheet = bench.get().bench?.sheet
  if (!sheet || (l >= 0 && t >= 0 && r <= sheet.width && b <= sheet.height)) return [0, 0]
  return [sheet.width / 2 - (l + r) / 2, sheet.height / 2 - (t + b) / 2]
}

/**
 * Puts copies of what was copied on the sheet: a little aside where it comes from this very sheet; else in the same place, or in the middle
 * where that is beyond the edge.
 */
async function paste(clipping: Clipping) {
  const copies = clipping.sheet.pieces.map((p) => ({ piece: p.id, copy: crypto.randomUUID() }))
  const of = JSON.stringify(clipping.sheet.pieces.map((p) => p.id))
  const own = clipping.of === bench.get().bench?.id
  const aside = own && !clipping.cut
  const times = aside ? (pasted?.of === of ? pasted.times + 1 : 1) : 0
  const [dx, dy] = own ? [ASIDE * times, ASIDE * times] : ontoSheet(clipping.box)
  if (copies.length === 0) return
  try {
    if (!(await edit({ edit: 'paste', from: clipping.sheet, copies: copies.map(({ piece, copy }) => [piece, copy]), by: [dx, dy] }))) return
    pasted = { of, times }
    selectAll(copies.map((c) => c.copy))
  } catch (error) {
    say(sentenceOf(error))
  }
}
