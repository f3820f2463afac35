/** The address of a subject's cut-out at the size in which a photo is shown. */
export function cutoutOf(photoHref: string, subject: string): string {
  return photoHref.replace(/photos\/[0-9a-f]+/, `subjects/${subject}`)
}
