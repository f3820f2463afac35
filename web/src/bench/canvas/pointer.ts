/** What happens while a pointer is down. */
export interface Watch {
  move: (e: PointerEvent) => void
  /** Let go of. */
  up: (e: PointerEvent) => void
  /** Given up, by Escape or by the system. */
  drop: () => void
  /** The wheel is turned while the pointer is down; the sheet stays where it is. */
  wheel?: (e: WheelEvent) => void
}

/** Follows the pointer until it is let go; Escape gives the drag up. What it gives ends it without a word. */
export function follow({ move, up, drop, wheel }: Watch): () => void {
  const end = () => {
    window.removeEventListener('pointermove', move)
    window.removeEventListener('pointerup', done)
    window.removeEventListener('pointercancel', gone)
    window.removeEventListener('keydown', key, true)
    window.removeEventListener('wheel', spin, true)
  }
  const spin = (e: WheelEvent) => {
    e.preventDefault()
    e.stopPropagation()
    wheel?.(e)
  }
  const done = (e: PointerEvent) => {
    end()
    up(e)
  }
  const gone = () => {
    end()
    drop()
  }
  const key = (e: KeyboardEvent) => {
    if (e.key !== 'Escape') return
    e.stopPropagation()
    gone()
  }
  window.addEventListener('pointermove', move)
  window.addEventListener('pointerup', done)
  window.addEventListener('pointercancel', gone)
  window.addEventListener('keydown', key, true)
  if (wheel) window.addEventListener('wheel', spin, { capture: true, passive: false })
  return end
}

/** A click that shakes is still a click: true once the pointer is further than three pixels away. */
export function leaving(e: { clientX: number; clientY: number }) {
  const [x, y] = [e.clientX, e.clientY]
  let left = false
  return (m: { clientX: number; clientY: number }) => (left ||= Math.hypot(m.clientX - x, m.clientY - y) > 3)
}

interface Stroke {
  width: number
  points: [number, number][]
}

/** Lengthens a stroke until the pointer is let go, in the space of its points; null is shown where it is given up. */
export function followStroke<S extends Stroke>(begun: S, at: (m: PointerEvent) => readonly [number, number], show: (stroke: S | null) => void, done: (stroke: S) => void) {
  let stroke = begun
  show(stroke)
  follow({
    move: (m) => {
      const p = at(m)
      const last = stroke.points.at(-1) ?? p
      // points that lie nearer than a part of its width say nothing new
      if (Math.hypot(p[0] - last[0], p[1] - last[1]) < stroke.width / 5) return
      stroke = { ...stroke, points: [...stroke.points, [p[0], p[1]]] }
      show(stroke)
    },
    up: () => done(stroke),
    drop: () => show(null),
  })
}
