import type { KeyboardEvent } from 'react'
import { bench } from '../state/store'
import { alongSheet } from './viewport'

/** The gesture that a handle's keys belong to as long as they follow one another. */
let moving: { of: string; gesture: string; last: number } | null = null

/** The direction of an arrow key. */
export const wayOf = (key: string): readonly [number, number] | undefined =>
  ({ ArrowLeft: [-1, 0] as const, ArrowRight: [1, 0] as const, ArrowUp: [0, -1] as const, ArrowDown: [0, 1] as const })[key]

/** The direction of an arrow key on the sheet: where the arrow points to on the screen, however the view is turned. */
export function sheetWayOf(key: string): readonly [number, number] | undefined {
  const way = wayOf(key)
  const { view } = bench.get()
  // numbers stay round while the view is upright
  return way && (view.turn === 0 ? way : alongSheet(view, way))
}

/**
 * What a handle on the sheet needs to be moved by arrow keys as well: by a millimetre, with Shift by ten. Moves that follow one another are
 * undone together.
 */
export function movedByKeys(label: string, move: (dx: number, dy: number, gesture: string) => void) {
  return {
    tabIndex: 0,
    role: 'button',
    'aria-label': `${label}: arrow keys move it`,
    onKeyDown: (e: KeyboardEvent) => {
      const way = sheetWayOf(e.key)
      if (!way || e.altKey || e.ctrlKey || e.metaKey) return
      e.preventDefault()
      e.stopPropagation()
      const now = performance.now()
      if (moving?.of !== label || now - moving.last > 900) moving = { of: label, gesture: crypto.randomUUID(), last: now }
      moving.last = now
      const step = e.shiftKey ? 10 : 1
      move(way[0] * step, way[1] * step, moving.gesture)
    },
  } as const
}
