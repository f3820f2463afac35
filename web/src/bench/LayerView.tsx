import { memo, useLayoutEffect, useRef } from 'react'
import type { Similarity } from '../types/Similarity'
import type { Drag } from './store'
import { inverse, isStill, matrix, STILL, then } from './similarity'

interface Props {
  markup: string
  /** Path data for what the markup leaves to be filled in. */
  outline: string
  drag: Drag | null
  /** The part of the drag that the markup shows already. */
  shown: Similarity | null
}

/** A piece as the scene draws it; while it is dragged, what is only a move is moved here. */
export const LayerView = memo(function LayerView({ markup, outline, drag, shown }: Props) {
  const group = useRef<SVGGElement>(null)
  useLayoutEffect(() => {
    const g = group.current
    if (!g) return
    for (const path of g.querySelectorAll('path[data-outline]')) if (path.getAttribute('d') !== outline) path.setAttribute('d', outline)
    const by = drag ? then(inverse(shown ?? STILL), drag.by) : STILL
    const whole = drag && (drag.what === 'both' || !g.querySelector('clipPath, mask, path[data-fill]'))
    place(g, whole ? by : STILL)
    const fill = drag?.what === 'fill' ? by : STILL
    const opening = drag?.what === 'opening' ? by : STILL
    for (const e of g.querySelectorAll('image[data-fill], g[data-breakout]')) place(e, whole ? STILL : fill)
    for (const e of g.querySelectorAll('clipPath[id^="opening-"] > path, mask[id^="opening-"] > *, path[data-fill], rect[data-fill]')) {
      place(e, whole ? STILL : opening)
    }
  })
  return <g ref={group} dangerouslySetInnerHTML={{ __html: markup }} />
})

function place(element: Element, by: Similarity) {
  const e = element as SVGElement
  e.dataset.own ??= e.getAttribute('transform') ?? ''
  const own = e.dataset.own
  const all = isStill(by) ? own : `${matrix(by)} ${own}`.trim()
  if (all) e.setAttribute('transform', all)
  else e.removeAttribute('transform')
}
