import { pictureOf } from '../canvas/pictures'
import { bench, viewOf } from '../state/store'

/** Shows a photo in a window from the file itself, until what is done with it meanwhile has ended and the server's own picture is there. */
export async function seenMeanwhile<T>(file: File, piece: string | null, work: () => Promise<T>): Promise<T> {
  if (piece === null) return work()
  const url = URL.createObjectURL(file)
  let ended = false
  const drop = () => {
    ended = true
    bench.set((s) => ({ arriving: s.arriving.filter((a) => a.url !== url) }))
    URL.revokeObjectURL(url)
  }
  const picture = new Image()
  picture.src = url
  // a kind that the browser cannot read is seen once the server has read it
  void picture.decode().then(
    () => !ended && bench.set((s) => ({ arriving: [...s.arriving, { piece, url, width: picture.naturalWidth, height: picture.naturalHeight }] })),
    () => undefined,
  )
  try {
    const done = await work()
    const view = viewOf(bench.get(), piece)?.photos.at(-1)
    if (view) {
      const real = new Image()
      real.src = pictureOf(view, bench.get().sharp)
      await real.decode().catch(() => undefined)
    }
    return done
  } finally {
    drop()
  }
}
