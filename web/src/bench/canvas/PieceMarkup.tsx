import { memo, useLayoutEffect, useRef } from 'react'
import type { OutlineView } from '../../types/OutlineView'
import type { Similarity } from '../../types/Similarity'
import { fillIn } from './outlines'
import { sharpen } from './pictures'
import { inverse, isStill, matrix, STILL, then } from '../geometry/similarity'
import { useBench, type Drag } from '../state/store'

interface Props {
  piece: string
  /** The member of the repeated bundle around it that shows it so; null for all of them. */
  member: number | null
  markup: string
  /** What the markup leaves to be filled in. */
  outline: OutlineView
  drag: Drag | null
  /** The part of the drag that the markup shows already. */
  shown: Similarity | null
  /** Its outline changes with every move of the pointer. */
  lively: boolean
}

/** A piece as the scene draws it; while it is dragged, what is only a move is moved here. */
export const PieceMarkup = memo(function PieceMarkup({ piece, member, markup, outline, drag, shown, lively }: Props) {
  const group = useRef<SVGGElement>(null)
  /** Something within it was moved by itself. */
  const within = useRef(false)
  const sharp = useBench((s) => s.sharp)
  useLayoutEffect(() => {
    const g = group.current
    if (!g) return
    for (const path of g.querySelectorAll<SVGPathElement>('path[data-outline]')) fillIn(path, outline, lively)
    sharpen(g, sharp)
  }, [markup, outline, lively, sharp])
  useLayoutEffect(() => {
    const g = group.current
    if (!g) return
    const by = drag ? then(inverse(shown ?? STILL), drag.by) : STILL
    // a picture has no halves
    const whole = drag && drag.pane === null && drag.member === null && (drag.what === 'both' || !g.querySelector('[data-moves]'))
    place(g, whole ? by : STILL)
    // most pieces are moved whole, and nothing within them ever by itself
    if (!within.current && (!drag || whole)) return
    within.current = drag !== null && !whole
    // a pane that is not drawn by itself yet waits for the answer that draws it so
    for (const e of g.querySelectorAll('[data-pane]')) place(e, drag?.pane === Number(e.getAttribute('data-pane')) ? by : STILL)
    for (const e of g.querySelectorAll('[data-member]')) place(e, drag?.member === Number(e.getAttribute('data-member')) ? by : STILL)
    if (drag && (drag.pane !== null || drag.member !== null)) return
    for (const e of g.querySelectorAll('[data-moves]')) {
      const named = drag && (drag.what !== 'fill' || drag.fill === null || e.getAttribute('data-of') === drag.fill)
      const along = !whole && named && (e.getAttribute('data-moves') ?? '').split(' ').includes(drag.what)
      place(e, along ? by : STILL)
    }
  })
  const name = member === null ? { id: `piece-${piece}`, 'data-piece': piece } : { 'data-piece-in': `${piece} ${member}` }
  return <g ref={group} {...name} dangerouslySetInnerHTML={{ __html: markup }} />
})

/** What belongs to the sheet itself. */
export const PageMarkup = memo(function PageMarkup({ markup }: { markup: string }) {
  const group = useRef<SVGGElement>(null)
  const sharp = useBench((s) => s.sharp)
  useLayoutEffect(() => {
    if (group.current) sharpen(group.current, sharp)
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
  // most of what is looked through stays where it is
  if (all === (e.getAttribute(attribute) ?? '')) return
  if (all) e.setAttribute(attribute, all)
  else e.removeAttribute(attribute)
}
