import { Card } from '../recipe/Card'
import { open, useBench } from '../state/store'
import { unitNow } from '../state/unit'
import { repeatOf } from './repeats'

/** Opens how often the selected window or bundle is shown, and where. */
export function MembersCard() {
  const isOpen = useBench((s) => s.open === 'repeat')
  const layout = useBench((s) => repeatOf(s, unitNow(s))?.layout)
  const caption = !layout ? 'shown once' : layout.kind === 'grid' ? `grid of ${layout.columns} by ${layout.rows}` : layout.kind === 'line' ? `${layout.count} along a line` : `${layout.kind} of ${layout.count}`
  return (
    <Card isSmall label="Repeat" sign="E" caption={caption} isOpen={isOpen} onClick={() => open('repeat')}>
      <svg viewBox="0 0 44 44" className={`h-11 w-11 ${layout ? '' : 'opacity-40'}`} aria-hidden>
        {[6, 18, 30].map((x, k) => (
          <path key={x} d={`M${x + 4} 8h8l-4 28h-8Z`} fill="currentColor" opacity={1 - k * 0.25} />
        ))}
      </svg>
    </Card>
  )
}
