import type { Gradient } from '../../types/Gradient'
import type { Ink } from '../../types/Ink'
import type { Paint } from '../../types/Paint'
import type { Sheet } from '../../types/Sheet'
import type { Tint } from '../../types/Tint'
import { useBench } from '../state/store'

const NONE: Ink[] = []

/** The inks of the sheet. */
export const useInks = () => useBench((s) => s.bench?.sheet.inks) ?? NONE

/** The colour of a tint, to be shown. */
export function colourOf(tint: Tint, inks: Ink[]): string {
  if ('colour' in tint) return tint.colour
  const mix = inks.find((i) => i.id === tint.ink)?.mix
  if (mix?.mix === 'colour') return mix.colour
  const first = mix?.gradient.stops[0]?.tint
  return first && 'colour' in first ? first.colour : '#141b34'
}

/** A gradient as a CSS background, from left to right. */
export function cssGradient(gradient: Gradient, inks: Ink[]): string {
  const stops = gradient.stops.map((s) => `color-mix(in srgb, ${colourOf(s.tint, inks)} ${(s.opacity ?? 1) * 100}%, transparent) ${s.at * 100}%`)
  return `linear-gradient(to right, ${stops.join(', ')})`
}

/** A paint as a CSS background. */
export function cssPaint(paint: Paint, inks: Ink[]): string {
  if (paint.kind === 'colour') return paint.colour
  if (paint.kind === 'gradient') return cssGradient(paint.gradient, inks)
  const mix = inks.find((i) => i.id === paint.ink)?.mix
  return !mix ? '#141b34' : mix.mix === 'colour' ? mix.colour : cssGradient(mix.gradient, inks)
}

/** A few words for a paint. */
export function nameOfPaint(paint: Paint, sheet: Sheet | undefined): string {
  if (paint.kind === 'colour') return paint.colour
  if (paint.kind === 'gradient') return paint.gradient.kind === 'linear' ? 'gradient along' : 'gradient around'
  return sheet?.inks?.find((i) => i.id === paint.ink)?.name ?? 'ink'
}

/** The gradient of a paint, its ink's if it is one. */
export function gradientOf(paint: Paint, inks: Ink[]): Gradient | null {
  if (paint.kind === 'gradient') return paint.gradient
  if (paint.kind === 'colour') return null
  const mix = inks.find((i) => i.id === paint.ink)?.mix
  return mix?.mix === 'gradient' ? mix.gradient : null
}
