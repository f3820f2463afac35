import { useBench } from '../state/store'
import { backToNow, compare, goOnFromHere, lookFurther } from './past'

/** In place of the recipe while the sheet is looked at as it was. */
export function PastBar() {
  const past = useBench((s) => s.past)
  const comparing = useBench((s) => s.comparing)
  const mayChange = useBench((s) => !s.lookedBefore)
  if (!past) return null
  return (
    <section className="flex h-[104px] items-center gap-3 border-t-2 border-ink bg-leaf px-5" aria-label="Looking at an earlier step">
      <p className="grow text-ink-soft" role="status">
        {comparing ? (
          <span className="font-serif text-[19px] text-ink">As it is now</span>
        ) : (
          <>
            As it was {past.seq === 0 ? 'in' : 'after'} <span className="font-serif text-[19px] text-ink">{past.seq === 0 ? past.name : `“${past.name}”`}</span>
          </>
        )}
      </p>
      <button className="plain" onClick={() => void lookFurther('earlier')}>
        Earlier <span className="key">←</span>
      </button>
      <button className="plain" onClick={() => void lookFurther('later')}>
        Later <span className="key">→</span>
      </button>
      <button className="outlined" title="The sheet as it is now, while this or the key is held" onPointerDown={() => void compare(true)} onPointerUp={() => void compare(false)} onPointerLeave={() => void compare(false)}>
        Hold to compare <span className="key">C</span>
      </button>
      {mayChange && (
        <button className="outlined" title="The sheet becomes what you see, as one more step: nothing that came later is lost" onClick={() => void goOnFromHere()}>
          Go on from here
        </button>
      )}
      <button className="strong" onClick={backToNow}>
        Back to now <span className="key">Esc</span>
      </button>
    </section>
  )
}
