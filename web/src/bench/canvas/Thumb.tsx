import { useLayoutEffect, useRef } from 'react'
import type { PieceView } from '../../types/PieceView'
import { BLENDS } from '../fill/blends'
import { fillIn, pathOf } from './outlines'
import { sharpen } from './pictures'

const SVG = 'http://www.w3.org/2000/svg'

/** Blend modes for small pictures, which know no stylesheet of the page. */
let blends: CSSStyleSheet | null = null

function sheet(): CSSStyleSheet {
  if (blends) return blends
  blends = new CSSStyleSheet()
  blends.replaceSync(`svg { display: block; width: 100%; height: 100% } ${BLENDS}`)
  return blends
}

/** The long side of the largest small picture, in CSS pixels. To ask each of them would lay the page out anew as many times. */
const LONG = 96

/** The part of the sheet around a piece. */
function frame({ bounds: [l, t, r, b] }: PieceView): string {
  const m = Math.max(r - l, b - t) * 0.06
  return `${l - m} ${t - m} ${Math.max(r - l, 1) + 2 * m} ${Math.max(b - t, 1) + 2 * m}`
}

/** A small picture of a piece, in a tree of its own: its identifiers never stand in for the sheet's. */
export function Thumb({ pieceView, className }: { pieceView: PieceView; className?: string }) {
  const host = useRef<HTMLSpanElement>(null)
  useLayoutEffect(() => {
    const element = host.current
    if (!element) return
    const root = element.shadowRoot ?? element.attachShadow({ mode: 'open' })
    root.adoptedStyleSheets = [sheet()]
    const svg = document.createElementNS(SVG, 'svg')
    svg.setAttribute('viewBox', frame(pieceView))
    svg.innerHTML = pieceView.markup
    for (const path of svg.querySelectorAll<SVGPathElement>('path[data-outline]')) fillIn(path, pieceView.outline, false)
    const [l, t, r, b] = pieceView.bounds
    sharpen(svg, (LONG * window.devicePixelRatio) / Math.max(r - l, b - t, 1))
    root.replaceChildren(svg)
  }, [pieceView])
  return <span aria-hidden ref={host} className={`block ${className ?? ''}`} />
}

/** The opening alone, in ink. */
export function OpeningThumb({ pieceView, className }: { pieceView: PieceView; className?: string }) {
  return (
    <svg aria-hidden className={className} viewBox={frame(pieceView)}>
      <path d={pathOf(pieceView.outline)} fill="currentColor" />
    </svg>
  )
}
