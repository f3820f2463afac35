import { bundleLabel, chosenBundle } from './bundles'
import { BlendField } from '../fill/BlendField'
import { PlainField } from '../recipe/fields'
import { ShadowList } from '../finish/ShadowList'
import { useBench } from '../state/store'
import { amendBundleFinish, finishOfBundle } from './finish'

/** How the selected bundle looks as a whole: how strong it is, how it is mixed with what lies beneath, and its shadows. */
export function BundlePanel() {
  const bundle = useBench(chosenBundle)
  const finish = useBench((s) => finishOfBundle(s, bundle))
  const label = useBench((s) => (bundle === null ? '' : bundleLabel(s.bench?.sheet, bundle)))
  if (bundle === null) return <p className="max-w-md text-[13.5px] text-ink-soft">Select a whole bundle to set its strength, its blend and its shadows as one. U makes a bundle of what is selected.</p>
  return (
    <div className="w-[730px]">
      <div className="mb-4 flex items-start gap-5">
        <p className="w-48 truncate pt-5 font-serif text-[19px]">{label}</p>
        <div className="w-44" data-first-field>
          <PlainField label="Strength of all, %" value={finish.strength ?? 1} factor={100} digits={0} min={0} max={100} slider onChange={(strength, g) => void amendBundleFinish(bundle, (f) => ({ ...f, strength }), g)} />
        </div>
        <BlendField value={finish.blend ?? 'normal'} onChange={(blend) => void amendBundleFinish(bundle, (f) => ({ ...f, blend }), crypto.randomUUID())} />
      </div>
      <ShadowList
        shadows={finish.shadows ?? []}
        onChange={(change, gesture) => void amendBundleFinish(bundle, (f) => ({ ...f, shadows: change(f.shadows ?? []) }), gesture)}
        kinds={['shadow', 'glow']}
        none="A shadow of the whole falls on what lies beneath the bundle, and not on its own pieces. What breaks out throws it too."
      />
    </div>
  )
}
