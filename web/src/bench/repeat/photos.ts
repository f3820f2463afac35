import { say } from '../../parts/notices'
import type { PhotoCard } from '../../types/PhotoCard'
import { edit } from '../state/edits'
import { bench } from '../state/store'
import { upload } from '../fill/uploads'
import { countOf, repeatOf } from './repeats'

/** Photos for members of a window, or of the `bundle` around it, one each, in their order, from one member on; those beyond the last one are said. */
export async function dealPhotos(files: readonly File[], piece: string, from: number, bundle: string | null) {
  const repeat = repeatOf(bench.get(), bundle ?? piece)
  const room = repeat ? countOf(repeat.layout) - from : 0
  if (files.length > room) say(`There are ${room} members for ${files.length} photos: the others were left out.`)
  const cards = await Promise.all(files.slice(0, room).map((file) => upload<PhotoCard>('photos', file)))
  const taken = cards.flatMap((card) => card ?? [])
  for (const note of taken.flatMap((card) => card.notes)) say(note)
  if (taken.length > 0) await edit({ edit: 'deal', piece, from, photos: taken.map((card): [string, string] => [crypto.randomUUID(), card.id]), within_bundle: bundle !== null })
}
