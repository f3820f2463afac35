import { bench } from '../state/store'

/** Pixels of the wheel that are one notch. */
const NOTCH = 100
const MOST_COPIES = 24

/** Pixels that a wheel was turned by, whatever the browser counts in. */
const pixels = (e: WheelEvent) => e.deltaY * (e.deltaMode === WheelEvent.DOM_DELTA_LINE ? 33 : e.deltaMode === WheelEvent.DOM_DELTA_PAGE ? 400 : 1)

/** Sizes and turns what is carried: away from you larger; with Ctrl towards you clockwise. */
export class CarryWheel {
  /** Factor of the size. */
  grown = 1
  /** Degrees, clockwise. */
  turned = 0

  spin(e: WheelEvent) {
    const notches = pixels(e) / NOTCH
    if (e.ctrlKey || e.metaKey) this.turned += 5 * notches
    else this.grown = Math.min(20, Math.max(0.05, this.grown * Math.exp(-0.1 * notches)))
  }

  get isStill() {
    return this.grown === 1 && this.turned === 0
  }
}

/** Counts the copies that are taken away at once: away from you one more. */
export class CopyWheel {
  private sum = 0
  count = 1

  spin(e: WheelEvent) {
    // a trackpad turns by less than a notch at a time
    this.sum = Math.min(MOST_COPIES - 1, Math.max(0, this.sum - pixels(e) / NOTCH))
    this.count = 1 + Math.round(this.sum)
  }
}

export const CARRIES = 'The wheel scales it; with Ctrl it turns'

/** Says what the wheel does while something is carried; null when it is let go of. Fingers and pens have no wheel. */
export function sayWheel(e: { pointerType: string }, hint: string | null) {
  if (hint === null || e.pointerType === 'mouse') bench.set({ carryHint: hint })
}
