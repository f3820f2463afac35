import { placeOf } from '../canvas/place'
import { bench } from '../state/store'

/** The scene as pixels, as large as it is on the screen but upright. */
export interface Pixels {
  canvas: HTMLCanvasElement
  /** Pixels for one millimetre. */
  scale: number
}

/** Pictures as they are shown, to be put into a picture that may not fetch any itself. */
const embedded = new Map<string, string>()

async function embed(href: string): Promise<string> {
  if (href.startsWith('data:')) return href
  const known = embedded.get(href)
  if (known) return known
  const blob = await (await fetch(href)).blob()
  const data = await new Promise<string>((resolve, reject) => {
    const reader = new FileReader()
    reader.onload = () => resolve(reader.result as string)
    reader.onerror = () => reject(new Error('A picture of the sheet could not be read.'))
    reader.readAsDataURL(blob)
  })
  if (embedded.size > 40) embedded.clear()
  embedded.set(href, data)
  return data
}

/** Draws what the sheet shows now, so that its colours can be read. */
export async function pixelsOfScene(): Promise<Pixels> {
  const scene = document.querySelector<SVGSVGElement>('[data-testid=scene]')
  if (!scene) throw new Error('There is no sheet here.')
  const { width, height } = scene.viewBox.baseVal
  const scale = bench.get().view.zoom
  const size = [Math.max(1, Math.round(width * scale)), Math.max(1, Math.round(height * scale))] as const
  const copy = scene.cloneNode(true) as SVGSVGElement
  copy.setAttribute('xmlns', 'http://www.w3.org/2000/svg')
  copy.setAttribute('width', String(size[0]))
  copy.setAttribute('height', String(size[1]))
  copy.removeAttribute('class')
  copy.removeAttribute('style')
  for (const image of copy.querySelectorAll('image')) image.setAttribute('href', await embed(image.getAttribute('href') ?? ''))
  // a picture of its own knows no stylesheet
  for (const mixed of copy.querySelectorAll<SVGElement>('[class^="blend-"]')) mixed.style.mixBlendMode = mixed.classList[0]?.slice('blend-'.length) ?? ''
  const address = URL.createObjectURL(new Blob([new XMLSerializer().serializeToString(copy)], { type: 'image/svg+xml' }))
  try {
    const picture = new Image()
    picture.src = address
    await picture.decode()
    const canvas = document.createElement('canvas')
    ;[canvas.width, canvas.height] = size
    canvas.getContext('2d', { willReadFrequently: true })?.drawImage(picture, 0, 0, canvas.width, canvas.height)
    return { canvas, scale }
  } finally {
    URL.revokeObjectURL(address)
  }
}

/** The colour at a place of the page; null beside the sheet. */
export function colourAt({ canvas, scale }: Pixels, x: number, y: number): string | null {
  const [mx, my] = placeOf({ clientX: x, clientY: y })
  const [px, py] = [Math.floor(mx * scale), Math.floor(my * scale)]
  if (px < 0 || py < 0 || px >= canvas.width || py >= canvas.height) return null
  const [r = 0, g = 0, b = 0] = canvas.getContext('2d')?.getImageData(px, py, 1, 1).data ?? []
  return `#${[r, g, b].map((v) => v.toString(16).padStart(2, '0')).join('')}`
}

/** Lets a colour be picked from the sheet; `take` gets it. */
export function sample(take: (colour: string) => void) {
  bench.set({ sampling: { take } })
}
