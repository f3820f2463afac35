import type { Finish } from '../../types/Finish'
import { showLength } from '../../parts/units'
import { attempt, forget } from '../state/edits'
import { amendFinish, finishOf } from '../fill/fills'
import { windowOf } from '../opening/forms'
import { newMember } from '../state/newMember'
import { follow, leaving } from '../canvas/pointer'
import { bench, type OpenCard } from '../state/store'

/** A length of a finish that a drag sets at once: what it is called, what it is now, and the finish with another one, all in mm. */
export interface Measure {
  card: OpenCard
  name: string
  of: (finish: Finish) => number
  set: (finish: Finish, length: number) => Finish
}

const lastOf = <T>(list: T[] | undefined): T | undefined => list?.at(-1)

/** The list with its last member changed, or with one like `fresh` where it is empty. */
const lastChanged = <T extends object>(list: T[] | undefined, fresh: T, change: (last: T) => T): T[] => [...(list ?? []).slice(0, -1), change(lastOf(list) ?? newMember(fresh))]

export const SOFTNESS: Measure = {
  card: 'edge',
  name: 'Softness',
  of: (f) => f.softness?.width ?? 0,
  set: (f, width) => ({ ...f, softness: { ...(f.softness ?? { side: 'both' }), width } }),
}

export const RIM_WIDTH: Measure = {
  card: 'rims',
  name: 'Rim',
  of: (f) => lastOf(f.rims)?.width ?? 0,
  set: (f, width) => ({ ...f, rims: lastChanged(f.rims, bench.get().lastRim, (r) => ({ ...r, width })) }),
}

export const SHADOW_DISTANCE: Measure = {
  card: 'shadows',
  name: 'Shadow',
  of: (f) => lastOf(f.shadows)?.distance ?? 0,
  set: (f, distance) => ({ ...f, shadows: lastChanged(f.shadows, bench.get().lastShadow, (s) => ({ ...s, distance })) }),
}

/** A drag from a card of the finish: as long as the pointer goes to the right, seen at once. Its card opens when the button is let go. */
export function startMeasure(e: React.PointerEvent, piece: string, { card, name, of, set }: Measure) {
  const window = windowOf(bench.get(), piece)
  const sheet = bench.get().bench?.sheet
  if (e.button !== 0 || !window || !sheet) return
  const before = finishOf(window)
  const left = leaving(e)
  const mm = 1 / bench.get().view.zoom
  let length: number | null = null
  const end = () => {
    bench.set({ carryHint: null })
    // the press that began it is no click
    const swallow = (c: MouseEvent) => c.stopPropagation()
    globalThis.addEventListener('click', swallow, { capture: true, once: true })
    setTimeout(() => globalThis.removeEventListener('click', swallow, true))
  }
  follow({
    move: (m) => {
      if (!left(m)) return
      // a tenth of a millimetre is as fine as a hand can mean it
      length = Math.max(0, Math.round((of(before) + (m.clientX - e.clientX) * mm) * 10) / 10)
      bench.set({ carryHint: `${name}: ${showLength(length, sheet.unit, sheet.ppi)} ${sheet.unit}` })
      attempt([{ edit: 'set_finish', piece, finish: set(before, length) }])
    },
    up: () => {
      if (length === null) return
      const made = length
      end()
      // the card opens on what is kept, with its number taken hold of
      void amendFinish(piece, (f) => set(f, made), crypto.randomUUID())
        .then((kept) => kept && bench.set({ open: card }))
        .finally(forget)
    },
    drop: () => {
      if (length !== null) end()
      forget()
    },
  })
}
