import { groupTransform } from '../canvas/viewport'
import type { Similarity } from '../../types/Similarity'
import { PartOutlines } from '../canvas/PartOutlines'
import { useSheetState } from '../state/sheetState'
import { isUnitLocked, unitNow, unitView } from '../state/unit'
import { LayoutHandles } from './LayoutHandles'
import { chosenMember } from './repeats'

/** The members of the selected window or bundle, while their card is open. */
export function MemberHandles({ residual }: { residual: Similarity }) {
  const s = useSheetState()
  const unit = s.open === 'repeat' && !s.mode ? unitNow(s) : null
  const { members = [], member_line: line } = unitView(s, unit)
  const chosen = chosenMember(s)
  if (members.length === 0) return null
  const { view } = s
  return (
    <svg className="pointer-events-none absolute inset-0 h-full w-full overflow-hidden" data-testid="member-handles">
      <g transform={groupTransform(view)}>
 {line !== undefined && <path data-testid="member-line" d={line} fill="none" stroke="var(--color-sea)" strokeWidth={1.5} vectorEffect="non-scaling-stroke" />}
        {s.along.drawn && <polyline points={s.along.drawn.map(([x, y]) => `${x},${y}`).join(' ')} fill="none" stroke="var(--color-sea)" strokeWidth={2} strokeDasharray="6 4" vectorEffect="non-scaling-stroke" />}
        <PartOutlines name="member" parts={members} chosen={chosen?.index} dragged={s.drag ? residual : null} />
      </g>
      {unit !== null && !s.drag && !s.along.drawing && !isUnitLocked(s, unit) && <LayoutHandles unit={unit} />}
    </svg>
  )
}
