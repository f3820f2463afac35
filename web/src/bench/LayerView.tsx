import { memo, useLayoutEffect, useRef } from 'react'
import type { Similarity } from '../types/Similarity'
import type { Drag } from './store'
import { fillIn } from './outlineParts'
import { inverse, isStill, matrix, STILL, then } from './similarity'

interface Props {
  markup: string
  /** Path data for what the markup leaves to be filled in. */
  outline: string
  drag: Drag | null
  /** The part of the drag that the markup shows already. */
  shown: Similarity | null
  /** Its outline changes with every move of the pointer. */
  lively: boolean
}

/** A piece as the scene draws it; while it is dragged, what is only a move is moved here. */
export const LayerView = memo(function LayerView({ markup, outline, drag, shown, lively }: Props) {
  const group = useRef<SVGGElement>(null)
  useLayoutEffect(() => {
    const g = group.current
    if (!g) return
    for (const path of g.querySelectorAll<SVGPathElement>('path[data-outline]')) fillIn(path, outline, lively)
    const by = drag ? then(inverse(shown ?? STILL), drag.by) : STILL
    // a picture has no halves
    const whole = drag && (drag.what === 'both' || !g.querySelector('[data-moves]'))
    place(g, whole ? by : STILL)
    for (const e of g.querySelectorAll('[data-moves]')) {
      const named = drag && (drag.what !== 'fill' || drag.fill === null || e.getAttribute('data-of') === drag.fill)
      const along = !whole && named && (e.getAttribute('data-moves') ?? '').split(' ').includes(drag.what)
      place(e, along ? by : STILL)
    }
  })
  return <g ref={group} dangerouslySetInnerHTML={{ __html: markup }} />
})

/** Gradients and patterns are moved by attributes of their own. */
const TRANSFORM: Record<string, string> = { linearGradient: 'gradientTransform', radialGradient: 'gradientTransform', pattern: 'patternTransform' }

function place(element: Element, by: Similarity) {
  const e = element as SVGElement
  const attribute = TRANSFORM[e.tagName] ?? 'transform'
  e.dataset.own ??= e.getAttribute(attribute) ?? ''
  const own = e.dataset.own
  const all = isStill(by) ? own : `${matrix(by)} ${own}`.trim()
  if (all) e.setAttribute(attribute, all)
  else e.removeAttribute(attribute)
}
