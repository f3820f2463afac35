import { Card } from '../recipe/Card'
import { open, useBench } from '../state/store'
import { unitNow, unitView } from '../state/unit'

/** Opens how the selected window or bundle falls into panes. */
export function PanesCard() {
  const isOpen = useBench((s) => s.open === 'panes')
  const count = useBench((s) => unitView(s, unitNow(s)).panes?.length ?? 0)
  return (
    <Card isSmall label="Panes" sign="Y" caption={count > 1 ? `${count} panes` : 'not split'} isOpen={isOpen} onClick={() => open('panes')}>
      <svg viewBox="0 0 44 44" className={`h-11 w-11 ${count > 1 ? '' : 'opacity-40'}`} aria-hidden>
        <path d="M4 6h36v13l-9 4-9-5-9 6-9-4Z" fill="currentColor" />
        <path d="M4 25l9 4 9-6 9 5 9-4v14H4Z" fill="currentColor" opacity="0.55" />
      </svg>
    </Card>
  )
}
