import { patiently, sentenceOf } from '../api/client'
import { uploadPhoto } from '../api/upload'
import { say, useNotices } from '../parts/notices'
import type { PhotoCard } from '../types/PhotoCard'
import { edit } from './edits'
import { bench, pieceOf, select } from './store'

let last = 0

/** Sends a photo file; null, and a sentence on the screen, if it is not taken. */
async function upload(file: File): Promise<PhotoCard | null> {
  const id = ++last
  const update = (share: number) =>
    bench.set((s) => ({ uploads: s.uploads.map((u) => (u.id === id ? { ...u, share } : u)) }))
  let cancel = () => {}
  bench.set((s) => ({ uploads: [...s.uploads, { id, name: file.name, share: 0, cancel: () => cancel() }] }))
  try {
    return await patiently(() => {
      const sent = uploadPhoto(file, update)
      cancel = sent.cancel
      return sent.done
    }, useNotices.getState().setAway)
  } catch (error) {
    say(sentenceOf(error))
    return null
  } finally {
    bench.set((s) => ({ uploads: s.uploads.filter((u) => u.id !== id) }))
  }
}

/** Brings a photo in: into the window `piece`, or as a picture of its own. */
export async function bringIn(file: File, piece: string | null) {
  const card = await upload(file)
  if (!card) return
  if (piece !== null && pieceOf(bench.get(), piece)?.kind.kind === 'window') {
    await edit({ edit: 'fill_with_photo', piece, fill: crypto.randomUUID(), photo: card.id })
    select(piece)
    return
  }
  const picture = crypto.randomUUID()
  if (await edit({ edit: 'add_picture', piece: picture, photo: card.id })) select(picture)
}

/** The files of a drop or of the clipboard that may be photos. */
export function photosOf(data: DataTransfer | null): File[] {
  return [...(data?.files ?? [])]
}
