import { say, useNotices } from '../../parts/notices'
import type { Bench } from '../../types/Bench'
import { labelOf } from '../state/labels'
import { useBench } from '../state/store'

/** What was said of each window, until it holds no more. */
const said = new Map<string, string>()

/** Follows the sheet, see `tellUnmatched`; gives what ends it. */
export const watchUnmatched = () =>
  useBench.subscribe((now, before) => {
    if (now.bench && now.bench !== before.bench) tellUnmatched(before.bench, now.bench)
  })

/** Says where a part that was let out is not found any more, as after a move of its photo or of the opening. */
function tellUnmatched(before: Bench | null, now: Bench) {
  if (!before || before.id !== now.id) return
  for (const pieceView of now.scene.pieces) {
    const was = before.scene.pieces.find((l) => l.piece === pieceView.piece)?.unmatched?.length ?? 0
    const count = pieceView.unmatched?.length ?? 0
    const piece = now.sheet.pieces.find((p) => p.id === pieceView.piece)
    if (count === was || !piece) continue
    takeBack(pieceView.piece)
    if (count < was) continue
    const parts = count === 1 ? 'A part' : `${count} parts`
    const sentence = `${parts} of what “${labelOf(piece, now.sheet)}” lets out ${count === 1 ? 'is' : 'are'} not there any more: nothing of the subject reaches over the edge at that place. Once it does again, it is out again.`
    said.set(pieceView.piece, sentence)
    say(sentence)
  }
}

function takeBack(piece: string) {
  const { notices, dismiss } = useNotices.getState()
  for (const n of notices) if (n.sentence === said.get(piece)) dismiss(n.id)
  said.delete(piece)
}
