import { isPicture } from '../opening/forms'
import { topmost } from '../bundle/divided'
import type { Locate } from '../canvas/place'
import { follow, leaving } from '../canvas/pointer'
import { bench, pieceOf, select, viewsOf } from '../state/store'

/**
 * Takes a word from the shelf to the sheet, where it is typed: what shows through the piece that it is let go on then shows through the word,
 * in place of a mask that it has. On the bare sheet it is a window of its own.
 */
export function startWordCarry(e: React.PointerEvent, locate: Locate) {
  if (bench.get().mode) return
  const left = leaving(e)
  follow({
    move: () => undefined,
    up: (m) => {
      const port = document.querySelector('[data-testid=port]')
      if (!left(m) || !port || !document.elementFromPoint(m.clientX, m.clientY)?.closest('[data-testid=port]')) return
      const s = bench.get()
      const under = topmost(s, viewsOf(s).filter((v) => !pieceOf(s, v.piece)?.locked), locate(m))
      const piece = under && shows(under.piece) ? under.piece : null
      select(piece)
      bench.set({ open: 'new-word', wordOn: piece })
    },
    drop: () => undefined,
  })
}

/** Whether something is seen through a piece that another mask would leave. */
function shows(piece: string): boolean {
  const found = pieceOf(bench.get(), piece)
  return isPicture(found) || (found?.kind.fills.some((f) => f.paint.kind === 'photo' || f.paint.kind === 'drawing') ?? false)
}
