import type { Similarity } from '../../types/Similarity'
import { matrix } from '../similarity'
import { useBench, viewOf } from '../store'
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
        {members.map((m, k) =>
          m.hidden ? null : (
            <path
              key={k}
              data-testid={`member-${k}`}
              d={m.outline}
              transform={chosen?.index === k && s.drag ? matrix(residual) : undefined}
              fill="none"
              stroke={chosen?.index === k ? 'var(--color-rose)' : 'var(--color-ink)'}
              strokeOpacity={chosen?.index === k ? 1 : 0.45}
              strokeWidth={chosen?.index === k ? 2 : 1}
              vectorEffect="non-scaling-stroke"
            />
          ),
        )}
      </g>
    </svg>
  )
}
