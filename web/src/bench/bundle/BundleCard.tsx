import { chosenBundle } from './bundles'
import { Card } from '../recipe/Card'
import { open, useBench } from '../state/store'
import { finishOfBundle } from './finish'

/** Opens how the selected bundle looks as a whole; nothing where no bundle is selected. */
export function BundleCard() {
  const bundle = useBench(chosenBundle)
  const finish = useBench((s) => finishOfBundle(s, bundle))
  const isOpen = useBench((s) => s.open === 'as-one')
  if (bundle === null) return null
  const strength = Math.round((finish.strength ?? 1) * 100)
  const shadows = finish.shadows?.filter((s) => !s.off).length ?? 0
  const blend = finish.blend ?? 'normal'
  const says = [...(strength < 100 ? [`${strength} %`] : []), ...(blend === 'normal' ? [] : [blend]), ...(shadows > 0 ? [shadows === 1 ? 'one shadow' : `${shadows} shadows`] : [])]
  return (
    <Card label="As one" sign="Q" caption={says.length > 0 ? says.join(', ') : 'as its pieces are'} isOpen={isOpen} onClick={() => open('as-one')}>
      <svg viewBox="0 0 48 48" className="h-11 w-11" aria-hidden>
        {shadows > 0 && <path d="M14 18h18v-6h12v32H14Z" fill="currentColor" opacity="0.35" />}
        <path d="M6 12h18v-6h12v32H6Z" fill="var(--color-rose)" opacity={0.25 + (strength / 100) * 0.75} />
        <path d="M24 12v26" stroke="currentColor" strokeWidth="1.4" strokeDasharray="3 3" />
      </svg>
    </Card>
  )
}
