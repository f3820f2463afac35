/** Any CSS colour as #rrggbb; null for a text that is none, or that is not opaque. */
export function readColour(text: string): string | null {
  const written = text.trim()
  if (/^#[0-9a-f]{6}$/i.test(written)) return written.toLowerCase()
  if (written === '' || !CSS.supports('color', written)) return null
  const canvas = document.createElement('canvas')
  canvas.width = canvas.height = 1
  const pen = canvas.getContext('2d', { colorSpace: 'srgb' })
  if (!pen) return null
  pen.fillStyle = written
  pen.fillRect(0, 0, 1, 1)
  const [r = 0, g = 0, b = 0, a = 0] = pen.getImageData(0, 0, 1, 1).data
  return a === 255 ? `#${[r, g, b].map((v) => v.toString(16).padStart(2, '0')).join('')}` : null
}
