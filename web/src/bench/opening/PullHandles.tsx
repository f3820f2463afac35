import { useState } from 'react'
import type { Placement } from '../../types/Placement'
import { edit } from '../state/edits'
import { pulledFill } from '../canvas/handling'
import type { Locate } from '../canvas/place'
import { toScreen } from '../canvas/viewport'
import { movedByKeys } from '../canvas/keyMove'
import { follow } from '../canvas/pointer'
import type { Point } from '../geometry/similarity'
import { useSheetState } from '../state/sheetState'
import { pieceOf, viewOf } from '../state/store'

type Corners = NonNullable<Placement['pull']>

const BASE: Corners = [[0, 0], [1, 0], [1, 1], [0, 1]]

/** The corners of the photo or drawing that the grip is about, to be pulled one by one; it follows when they are let go. */
export function PullHandles({ locate }: { locate: Locate }) {
  const s = useSheetState()
  const [live, setLive] = useState<Corners | null>(null)
  const piece = s.selected
  const pulled = pulledFill(s)
  const pieceView = viewOf(s, piece)
  const view = pieceView?.photos.find((p) => p.fill === pulled?.fill.id) ?? pieceView?.drawings?.find((d) => d.fill === pulled?.fill.id)
  if (!piece || !view || !pulled || pieceOf(s, piece)?.locked) return null
  const fill = pulled.fill
  const place = pulled.paint.placement
  const own = view.corners
  const corners = live ?? own
  /** Where a point of the sheet lies in the photo as it is without pulling, in shares of its sides. */
  const share = ([x, y]: Point): Point => {
    const turn = (-place.turn * Math.PI) / 180
    const [dx, dy] = [x - place.x, y - place.y]
    const [tx, ty] = [dx * Math.cos(turn) - dy * Math.sin(turn), dx * Math.sin(turn) + dy * Math.cos(turn)]
    const sx = tx + ty * Math.tan(((place.slant ?? 0) * Math.PI) / 180)
    return [(sx / place.scale) * (place.mirrored ? -1 : 1) / view.width + 0.5, ty / place.scale / view.height + 0.5]
  }
  const keep = (made: Corners, corner: number, gesture: string | null = null) => {
    const pull = made.map((c, i) => {
      if (i !== corner) return place.pull?.[i] ?? [0, 0]
      const [u, v] = share(c)
      const [bu, bv] = BASE[i] ?? [0, 0]
      return [u - bu, v - bv]
    }) as Corners
    return edit({ edit: 'set_placement', piece, fill: fill.id, placement: { ...place, pull } }, gesture)
  }
  const start = (e: React.PointerEvent, corner: number) => {
    e.preventDefault()
    e.stopPropagation()
    let made: Corners = [...own]
    follow({
      move: (m) => {
        const [x, y] = locate(m)
        made = own.map((c, i) => (i === corner ? [x, y] : c)) as Corners
        setLive(made)
      },
      up: () => void keep(made, corner).finally(() => setLive(null)),
      drop: () => setLive(null),
    })
  }
  const screen = corners.map((c) => toScreen(s.view, c))
  return (
    <svg className="pointer-events-none absolute inset-0 h-full w-full overflow-hidden">
      <polygon points={screen.map((p) => p.join(',')).join(' ')} fill="none" stroke="var(--color-leaf)" strokeWidth={3.5} strokeOpacity={0.8} />
      <polygon points={screen.map((p) => p.join(',')).join(' ')} fill="none" stroke="var(--color-sea)" strokeWidth={1.5} strokeDasharray="6 4" />
      {screen.map(([x, y], i) => (
        <path
          key={i}
          data-testid={`pull-${i}`}
          d="M0 -8L8 0L0 8L-8 0Z"
          transform={`translate(${x} ${y})`}
          fill="var(--color-leaf)"
          stroke="var(--color-sea)"
          strokeWidth={2}
          className="pointer-events-auto cursor-move outline-none focus-visible:stroke-rose focus-visible:[stroke-width:4]"
          onPointerDown={(e) => start(e, i)}
          {...movedByKeys(`Corner ${i + 1} of the photo`, (dx, dy, gesture) => void keep(own.map((c, k) => (k === i ? [c[0] + dx, c[1] + dy] : c)) as Corners, i, gesture))}
        >
          <title>Pull this corner</title>
        </path>
      ))}
    </svg>
  )
}
