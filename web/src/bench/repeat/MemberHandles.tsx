import type { Similarity } from '../../types/Similarity'
import { PartOutlines } from '../canvas/PartOutlines'
import { pieceOf, useBench, viewOf } from '../state/store'
import { LayoutHandles } from './LayoutHandles'
import { chosenMember } from './repeats'

/** The members of the selected window, while their card is open. */
export function MemberHandles({ residual }: { residual: Similarity }) {
  const s = useBench()
  const members = s.open === 'repeat' && !s.mode ? (viewOf(s, s.selected)?.members ?? []) : []
  const chosen = chosenMember(s)
  if (members.length === 0) return null
  const { view } = s
  return (
    <svg className="pointer-events-none absolute inset-0 h-full w-full overflow-hidden" data-testid="member-handles">
      <g transform={`translate(${view.x} ${view.y}) scale(${view.zoom})`}>
        <PartOutlines name="member" parts={members} chosen={chosen?.index} dragged={s.drag ? residual : null} />
      </g>
      {s.selected !== null && !s.drag && !pieceOf(s, s.selected)?.locked && <LayoutHandles piece={s.selected} />}
    </svg>
  )
}
