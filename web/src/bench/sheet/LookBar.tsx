import { keepCopy } from './copies'
import { useBench } from '../state/store'

/** In place of the recipe, for those who may look at the sheet and not change it. */
export function LookBar() {
  const s = useBench((x) => x.bench)
  if (!s) return null
  return (
    <section className="flex items-center gap-4 border-t-[1.5px] border-ink bg-leaf px-5 py-3" aria-label="Looking at the sheet">
      <p className="grow text-ink-soft">
        <span className="font-medium text-ink">You may look at this sheet.</span> An owner of it can let you change it. A copy is yours to go on with.
      </p>
      <button className="outlined" onClick={() => void keepCopy(s.id, s.sheet.name)}>
        Put a copy on my desk
      </button>
    </section>
  )
}
