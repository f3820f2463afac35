import { BLENDS } from '../fill/blends'
import { joined, type Bounds } from '../geometry/boxes'
import { sharpen } from '../canvas/pictures'
import { bench, viewOf } from '../state/store'

/** Pixels of a millimetre, and the most that a side may have. */
const DENSITY = 6
const LONG = 2400

/** As many pixels the long side has where the drawn part is looked for. */
const SMALL = 500

async function asData(address: string): Promise<string> {
  const blob = await (await fetch(address)).blob()
  return new Promise((done, failed) => {
    const reader = new FileReader()
    reader.onload = () => done(String(reader.result))
    reader.onerror = () => failed(reader.error ?? new Error('unreadable'))
    reader.readAsDataURL(blob)
  })
}

/** Draws a box (mm) of a picture with so many pixels to a millimetre. */
async function draw(svg: SVGSVGElement, [l, t, r, b]: Bounds, density: number): Promise<HTMLCanvasElement> {
  const [width, height] = [Math.max(1, Math.round((r - l) * density)), Math.max(1, Math.round((b - t) * density))]
  svg.setAttribute('viewBox', `${l} ${t} ${r - l} ${b - t}`)
  svg.setAttribute('width', String(width))
  svg.setAttribute('height', String(height))
  const picture = new Image()
  picture.src = URL.createObjectURL(new Blob([new XMLSerializer().serializeToString(svg)], { type: 'image/svg+xml' }))
  try {
    await picture.decode()
    const canvas = document.createElement('canvas')
    canvas.width = width
    canvas.height = height
    canvas.getContext('2d')?.drawImage(picture, 0, 0, width, height)
    return canvas
  } finally {
    URL.revokeObjectURL(picture.src)
  }
}

/** The part of a canvas that is not clear, in its pixels; null if all of it is. */
function drawnPart(canvas: HTMLCanvasElement): Bounds | null {
  const { width, height } = canvas
  const data = canvas.getContext('2d')?.getImageData(0, 0, width, height).data ?? []
  let [l, t, r, b] = [width, height, 0, 0]
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      if ((data[4 * (y * width + x) + 3] ?? 0) < 4) continue
      l = Math.min(l, x)
      r = Math.max(r, x + 1)
      t = Math.min(t, y)
      b = Math.max(b, y + 1)
    }
  }
  return l < r ? [l, t, r, b] : null
}

/** Pieces as one picture with a clear ground (PNG), for other programs; null if there is nothing to be seen of them. */
export async function pictureOfPieces(pieces: readonly string[]): Promise<Blob | null> {
  const s = bench.get()
  const box = joined(pieces.map((p) => viewOf(s, p)).flatMap((v) => (v ? [v.bounds] : [])))
  const scene = document.querySelector('[data-testid=scene]')
  if (!box || !scene) return null
  const svg = document.createElementNS('http://www.w3.org/2000/svg', 'svg')
  const style = document.createElementNS(svg.namespaceURI, 'style')
  style.textContent = BLENDS
  svg.append(style)
  for (const piece of scene.querySelectorAll<SVGGElement>('g[data-piece]')) if (pieces.includes(piece.dataset.piece ?? '')) svg.append(piece.cloneNode(true))
  // breakouts and shadows reach over the outlines
  const far = Math.max(box[2] - box[0], box[3] - box[1])
  const around: Bounds = [box[0] - far, box[1] - far, box[2] + far, box[3] + far]
  sharpen(svg, DENSITY)
  // a picture of its own reads nothing from elsewhere
  await Promise.all([...svg.querySelectorAll('image')].map(async (image) => image.setAttribute('href', await asData(image.getAttribute('href') ?? ''))))
  const coarse = SMALL / Math.max(around[2] - around[0], around[3] - around[1])
  const part = drawnPart(await draw(svg, around, coarse))
  if (!part) return null
  // a pixel more than was seen
  const [l, t, r, b] = [part[0] - 1, part[1] - 1, part[2] + 1, part[3] + 1].map((v, k) => v / coarse + (around[k % 2] ?? 0)) as [number, number, number, number]
  const canvas = await draw(svg, [l, t, r, b], Math.min(DENSITY, LONG / Math.max(r - l, b - t)))
  return new Promise((done) => canvas.toBlob(done, 'image/png'))
}
