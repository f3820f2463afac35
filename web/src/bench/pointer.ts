/** What happens while a pointer is down. */
export interface Watch {
  move: (e: PointerEvent) => void
  /** Let go of. */
  up: (e: PointerEvent) => void
  /** Given up, by Escape or by the system. */
  drop: () => void
}

/** Follows the pointer until it is let go; Escape gives the drag up. */
export function follow({ move, up, drop }: Watch) {
  const end = () => {
    window.removeEventListener('pointermove', move)
    window.removeEventListener('pointerup', done)
    window.removeEventListener('pointercancel', gone)
    window.removeEventListener('keydown', key, true)
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
}

/** A click that shakes is still a click: true once the pointer is further than three pixels away. */
export function leaving(e: { clientX: number; clientY: number }) {
  const [x, y] = [e.clientX, e.clientY]
  let left = false
  return (m: { clientX: number; clientY: number }) => (left ||= Math.hypot(m.clientX - x, m.clientY - y) > 3)
}
