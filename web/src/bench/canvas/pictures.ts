import type { PhotoView } from '../../types/PhotoView'

/** The least side that looks sharp over so many pixels of the screen, else the largest; sides fall. */
export const sharpSide = (sides: readonly number[], pixels: number): number => sides.findLast((side) => side * 1.05 >= pixels) ?? sides[0] ?? 1

/** How long the long side of a whole photo is on the sheet; mm. */
const longOf = (view: PhotoView): number => (Math.max(view.width, view.height) * 25.4) / view.ppi

/**
 * The address of a photo where `density` pixels of the screen show a millimetre: as it is seen if its corners are pulled, or `whole`;
 * of a subject's cut-out instead, if one is named.
 */
export function pictureOf(view: PhotoView, density: number, { subject, whole }: { subject?: string; whole?: boolean } = {}): string {
  const source = subject === undefined ? `/api/photos/${view.photo}` : `/api/subjects/${subject}`
  const side = sharpSide(view.sides, longOf(view) * density)
  if (view.pulled && !whole) return `${source}/pulled/${side}/${view.pulled.pull.flat().map((v) => v.toFixed(5)).join(',')}`
  return `${source}/levels/${side}`
}

/** The address of a photo, or of a subject's cut-out, for a small picture. */
export const smallPictureOf = (view: PhotoView, subject?: string): string =>
  pictureOf(view, 200 / longOf(view), { whole: true, ...(subject === undefined ? {} : { subject }) })

/** Gives the pictures of the scene within an element the levels that look sharp where `density` pixels show a millimetre. */
export function sharpen(element: Element, density: number) {
  for (const image of element.querySelectorAll<SVGImageElement>('image[data-levels]')) {
    const { levels = '', sides = '', long = '0' } = image.dataset
    const href = levels.replace('*', String(sharpSide(sides.split(' ').map(Number), Number(long) * density)))
    if (image.getAttribute('href') !== href) image.setAttribute('href', href)
  }
}
