import { useLayoutEffect, type RefObject } from 'react'
import { boxAround } from '../bundle/divided'
import type { Bounds } from '../geometry/boxes'
import { boxOnScreen, SHELF, STACK, zoomed, type View } from '../canvas/viewport'
import { chosen } from '../state/selection'
import { bench, isAboutSheet, useBench } from '../state/store'

/** Clear space around the piece for its handles, and below it for its bar; CSS pixels. */
const MARGIN = 34
const BAR = 86

type Box = readonly [left: number, top: number, right: number, bottom: number]

/** The parts of the port (its size in pixels) that a card leaves free: beside it, above and below it. */
function freeAround([l, t, r, b]: Box, port: number, height: number): Box[] {
  const left = SHELF
  const width = port - (bench.get().stackAway || isAboutSheet(bench.get()) ? 0 : STACK)
  const all: Box[] = [
    [left, 0, width, Math.min(t, height)],
    [Math.max(r, left), 0, width, height],
    [left, 0, l, height],
    [left, b, width, height],
  ]
  return all.filter(([x0, y0, x1, y1]) => x1 - x0 > 160 && y1 - y0 > 120)
}

/** The view in which a piece (bounds in mm) is seen whole in a part of the port: moved as little as it can be, smaller where it has to be. */
function viewIn(view: View, bounds: Bounds, [x0, y0, x1, y1]: Box): View {
  const room = [x1 - x0 - 2 * MARGIN, y1 - y0 - MARGIN - BAR] as const
  const [l, t, r, b] = boxOnScreen(view, bounds)
  const factor = Math.min(1, Math.max(room[0], 40) / Math.max(r - l, 0.1), Math.max(room[1], 40) / Math.max(b - t, 0.1))
  // a change of size keeps the middle of the piece
  const sized = zoomed(view, factor, (l + r) / 2, (t + b) / 2)
  const seen = boxOnScreen(sized, bounds)
  const into = (low: number, high: number, from: number, to: number) => (low < from ? from - low : high > to ? to - high : 0)
  return { ...sized, x: sized.x + into(seen[0], seen[2], x0 + MARGIN, x1 - MARGIN), y: sized.y + into(seen[1], seen[3], y0 + MARGIN, y1 - BAR) }
}

const same = (a: View, b: View) => a.zoom === b.zoom && a.x === b.x && a.y === b.y && a.turn === b.turn

/**
 * Keeps what is selected, or the sheet itself, clear of an open card about it: the sheet moves aside, or gets smaller, and is as it was when the card closes, unless it was
 * moved meanwhile.
 */
export function useRoom(card: RefObject<HTMLElement | null>) {
  const selected = useBench((s) => chosen(s).join())
  const place = useBench((s) => s.cardAt)
  useLayoutEffect(() => {
    const element = card.current
    if (!element) return
    let before: View | null = null
    let made: View | null = null
    const makeRoom = () => {
      const s = bench.get()
      const sheet = s.bench?.sheet
      const bounds = isAboutSheet(s) && sheet ? ([0, 0, sheet.width, sheet.height] as const) : boxAround(s, chosen(s))
      const port = document.querySelector('[data-testid=port]')?.getBoundingClientRect()
      if (!bounds || !port) return
      const r = element.getBoundingClientRect()
      const box: Box = [r.left - port.left, r.top - port.top, r.right - port.left, r.bottom - port.top]
      const from = before !== null && made !== null && same(made, s.view) ? before : s.view
      const views = freeAround(box, port.width, port.height).map((area) => ({ area, view: viewIn(from, bounds, area) }))
      const far = (v: View) => Math.hypot(v.x - from.x, v.y - from.y)
      const found = views.sort((a, b) => b.view.zoom - a.view.zoom || far(a.view) - far(b.view))[0]
      if (found) bench.set({ free: found.area })
      if (!found || same(found.view, s.view)) return
      const best = found.view
      before = from
      made = best
      bench.set({ view: best })
    }
    // before the card is seen, and whenever its size changes
    makeRoom()
    const watch = new ResizeObserver(makeRoom)
    watch.observe(element)
    return () => {
      watch.disconnect()
      bench.set({ free: null })
      if (before !== null && made !== null && same(made, bench.get().view)) bench.set({ view: before })
    }
  }, [card, selected, place])
}
