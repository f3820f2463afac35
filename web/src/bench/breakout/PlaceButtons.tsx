import type { OverhangView } from '../../types/OverhangView'
import { WORDS } from '../../parts/Radios'
import { isOut } from './choice'

/** Places that go by one name. */
export type PlaceGroup = readonly [name: string, places: readonly string[]]

/** Scraps in counters and between letters are let out one by one: nobody means them by *around*. */
const SIDES = ['above', 'below', 'left', 'right']

export const AROUND: PlaceGroup = ['around', SIDES]

export const EACH_PLACE: readonly PlaceGroup[] = [AROUND, ...SIDES.map((place): PlaceGroup => [place, [place]]), ['between', ['between the edges']]]

interface Props {
  groups: readonly PlaceGroup[]
  overhangs: OverhangView[]
  /** Whether what reaches over is known already. */
  known?: boolean
  title: (name: string, isOut: boolean) => string
  onPress: (places: readonly string[], out: boolean) => void
}

/** For each group of places a button that lets all out that lies there, or keeps it in. */
export function PlaceButtons({ groups, overhangs, known = true, title, onPress }: Props) {
  return groups.map(([name, places]) => {
    const there = overhangs.filter((o) => places.includes(o.place))
    const out = there.length > 0 && there.every(isOut)
    return (
      <button
        key={name}
        className={`${WORDS} disabled:opacity-40`}
        data-checked={out ? '' : undefined}
        aria-pressed={out}
        disabled={known && there.length === 0}
        title={title(name, out)}
        onClick={() => onPress(places, !out)}
      >
        {name}
      </button>
    )
  })
}
