import { useEffect, type RefObject } from 'react'
import { bench, viewOf } from '../store'

/** Clear space around the piece, in CSS pixels. */
const MARGIN = 20

/**
 * Keeps the selected piece clear of an open card as far as the bench allows: the sheet slides up, and back when the
 * card closes.
 */
export function useRoom(card: RefObject<HTMLElement | null>) {
  useEffect(() => {
    const element = card.current
    if (!element) return
    let lifted = 0
    const watch = new ResizeObserver(() => {
      const s = bench.get()
      const pieceView = viewOf(s, s.selected)
      if (!pieceView) return
      const [left, top, , bottom] = pieceView.bounds
      // cards stand on the lower edge of the sheet's port
      const edge = s.port.height - element.offsetHeight - MARGIN
      if (s.view.x + left * s.view.zoom > element.offsetLeft + element.offsetWidth) return
      const hidden = s.view.y + bottom * s.view.zoom - edge
      const by = Math.min(hidden, s.view.y + top * s.view.zoom - MARGIN)
      if (by <= 0) return
      lifted += by
      bench.set({ view: { ...s.view, y: s.view.y - by } })
    })
    watch.observe(element)
    return () => {
      watch.disconnect()
      if (lifted > 0) bench.set(({ view }) => ({ view: { ...view, y: view.y + lifted } }))
    }
  }, [card])
}
