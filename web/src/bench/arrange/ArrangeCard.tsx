import { Card } from '../recipe/Card'
import { open, useBench } from '../state/store'

/** Opens the numbers of what is selected, and what it is lined up with. */
export function ArrangeCard() {
  const isOpen = useBench((s) => s.open === 'arrange')
  return (
    <Card label="Arrange" sign="R" caption="place, size, line up" isOpen={isOpen} onClick={() => open('arrange')}>
      <svg viewBox="0 0 48 48" className="h-11 w-11" aria-hidden>
        <path d="M4 4h40M4 4v40M12 4v4m8-4v6m8-6v4m8-4v6M4 12h4m-4 8h6m-6 8h4m-4 8h6" fill="none" stroke="currentColor" strokeWidth="1.6" />
        <path d="M20 20h20v16H20Z" fill="none" stroke="var(--color-rose)" strokeWidth="2" />
      </svg>
    </Card>
  )
}
