import { patiently, sentenceOf } from '../../api/client'
import { uploadFile } from '../../api/upload'
import { say, useNotices } from '../../parts/notices'
import { bench } from '../state/store'

let last = 0

/** Sends a file, with its progress on the screen; null, and a sentence, if it is not taken. */
export async function upload<T>(kind: 'photos' | 'drawings' | 'fonts', file: File): Promise<T | null> {
  const id = ++last
  const update = (share: number) =>
    bench.set((s) => ({ uploads: s.uploads.map((u) => (u.id === id ? { ...u, share } : u)) }))
  let cancel = () => {}
  bench.set((s) => ({ uploads: [...s.uploads, { id, name: file.name, share: 0, cancel: () => cancel() }] }))
  try {
    return await patiently(() => {
      const sent = uploadFile<T>(kind, file, update)
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
