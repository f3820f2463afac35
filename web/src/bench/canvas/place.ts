import { toSheet } from './viewport'
import type { Point } from '../geometry/similarity'
import { bench } from '../state/store'

export type Locate = (e: { clientX: number; clientY: number }) => Point

/** Where on the sheet a pointer is, in mm. */
export const placeOf: Locate = (e) => {
  const port = document.querySelector('[data-testid=port]')?.getBoundingClientRect()
  return toSheet(bench.get().view, e.clientX - (port?.left ?? 0), e.clientY - (port?.top ?? 0))
}
