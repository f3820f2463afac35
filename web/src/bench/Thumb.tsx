import { useMemo } from 'react'
import type { Layer } from '../types/Layer'

/** A small picture of a piece. Its identifiers get a name of their own, so that it never stands in for the sheet's. */
export function Thumb({ layer, name, className }: { layer: Layer; name: string; className?: string }) {
  const markup = useMemo(
    () =>
      layer.markup
        .replaceAll(/( id="|url\(#|xlink:href="#)/g, `$1${name}-`)
        .replaceAll(/data-outline="([^"]*)"/g, (_, before: string) => `d="${before}${layer.outline}"`),
    [layer.markup, layer.outline, name],
  )
  const [l, t, r, b] = layer.bounds
  const m = Math.max(r - l, b - t) * 0.06
  return (
    <svg
      aria-hidden
      className={className}
      viewBox={`${l - m} ${t - m} ${Math.max(r - l, 1) + 2 * m} ${Math.max(b - t, 1) + 2 * m}`}
      preserveAspectRatio="xMidYMid meet"
      dangerouslySetInnerHTML={{ __html: markup }}
    />
  )
}

/** The opening alone, in ink. */
export function OpeningThumb({ layer, className }: { layer: Layer; className?: string }) {
  const [l, t, r, b] = layer.bounds
  const m = Math.max(r - l, b - t) * 0.06
  return (
    <svg aria-hidden className={className} viewBox={`${l - m} ${t - m} ${Math.max(r - l, 1) + 2 * m} ${Math.max(b - t, 1) + 2 * m}`}>
      <path d={layer.outline} fill="currentColor" />
    </svg>
  )
}
