import type { KeyboardEvent } from 'react'

/** The gesture that a handle's keys belong to as long as they follow one another. */
let moving: { of: string; gesture: string; last: number } | null = null

/** The direction of an arrow key. */
export const wayOf = (key: string): readonly [number, number] | undefined =>
  ({ ArrowLeft: [-1, 0] as const, ArrowRight: [1, 0] as const, ArrowUp: [0, -1] as const, ArrowDown: [0, 1] as const })[key]

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
      const way = wayOf(e.key)
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
