import { useState } from 'react'
import type { OpenSide } from '../../types/OpenSide'
import type { Side } from '../../types/Side'
import { attempt, edit, forget } from '../state/edits'
import type { Locate } from '../canvas/place'
import { toScreen } from '../canvas/viewport'
import { along, closedBounds, openSidesOf, placeOn, room, setSides, SHORTEST, SIDES, type Bounds } from './openSides'
import { follow, leaving } from '../canvas/pointer'
import { bench, useBench } from '../state/store'

/** How far off the opening the rails stand, and how near to its end a stretch takes in all of a side; pixels. */
const OFF = 20
const NEAR = 8

/** Rails along an opening's sides while its card is open: what is marked on one is not cut there. */
export function OpenSideHandles({ locate }: { locate: Locate }) {
  const piece = useBench((s) => (s.open === 'opening' && !s.mode ? s.selected : null))
  const bounds = useBench((s) => closedBounds(s, piece))
  const kept = useBench((s) => openSidesOf(s, piece))
  // what a drag has made of them so far
  const [made, setMade] = useState<OpenSide[] | null>(null)
  if (piece === null || !bounds || bounds[2] <= bounds[0] || bounds[3] <= bounds[1]) return null
  return (
    <svg className="pointer-events-none absolute inset-0 h-full w-full overflow-hidden">
      {SIDES.map(([side]) => (
        <Rail key={side} piece={piece} side={side} bounds={bounds} locate={locate} open={made ?? kept} show={setMade} />
      ))}
    </svg>
  )
}

interface RailProps {
  piece: string
  side: Side
  bounds: Bounds
  locate: Locate
  open: OpenSide[]
  show: (open: OpenSide[] | null) => void
}

function Rail({ piece, side, bounds, locate, open, show }: RailProps) {
  const view = useBench((s) => s.view)
  const at = (share: number, out: number) => toScreen(view, placeOn(bounds, side, share, out))
  const off = OFF / view.zoom
  /** The share itself, or the end of the side that it is near to. */
  const caught = (share: number) => {
    const near = NEAR / view.zoom / (side === 'top' || side === 'bottom' ? bounds[2] - bounds[0] : bounds[3] - bounds[1])
    return share < near ? 0 : share > 1 - near ? 1 : share
  }
  /** Shows what a drag makes of the sides, and keeps it in the end; a click makes what is said for it, if anything. */
  const drag = (e: React.PointerEvent, made: (m: { clientX: number; clientY: number }) => OpenSide[], click?: () => OpenSide[]) => {
    e.preventDefault()
    e.stopPropagation()
    if (e.button !== 0) return
    const left = leaving(e)
    const end = () => {
      show(null)
      forget()
    }
    follow({
      move: (m) => {
        if (!left(m)) return
        const sides = made(m)
        show(sides)
        attempt([setSides(piece, sides)])
      },
      up: (m) => {
        const sides = left(m) ? made(m) : click?.()
        bench.set({ trying: false })
        if (sides) void edit(setSides(piece, sides)).finally(end)
      },
      drop: end,
    })
  }
  /** Marks a stretch; one that is there already is slid along. */
  const mark = (e: React.PointerEvent) => {
    const pressed = along(bounds, side, locate(e)).share
    const there = open.findIndex((s) => s.side === side && s.from <= pressed && pressed <= s.to)
    const held = open[there]
    if (held) {
      drag(e, (m) => {
        const by = along(bounds, side, locate(m)).share - pressed
        const from = Math.min(Math.max(held.from + by, 0), 1 - (held.to - held.from))
        return amended(there, { from, to: from + held.to - held.from })
      })
      return
    }
    const begun = caught(pressed)
    const whole = (from: number, to: number) => [...open, { side, from, to, far: room(bench.get(), bounds, side) }]
    const made = (m: { clientX: number; clientY: number }) => {
      const now = caught(along(bounds, side, locate(m)).share)
      const from = Math.min(begun, now, 1 - SHORTEST)
      return whole(from, Math.max(begun, now, from + SHORTEST))
    }
    drag(e, made, open.some((s) => s.side === side) ? undefined : () => whole(0, 1))
  }
  const amended = (k: number, part: Partial<OpenSide>) => open.map((s, i) => (i === k ? { ...s, ...part } : s))
  const moveEnd = (e: React.PointerEvent, k: number, { from, to }: OpenSide, which: 'from' | 'to') => {
    drag(e, (m) => {
      const share = caught(along(bounds, side, locate(m)).share)
      return amended(k, which === 'from' ? { from: Math.min(share, to - SHORTEST) } : { to: Math.max(share, from + SHORTEST) })
    })
  }
  const moveFar = (e: React.PointerEvent, k: number, s: OpenSide) => {
    const by = s.far - along(bounds, side, locate(e)).out
    drag(e, (m) => amended(k, { far: Math.max(0, along(bounds, side, locate(m)).out + by) }))
  }
  const [a, b] = [at(0, off), at(1, off)]
  const line = (from: readonly number[], to: readonly number[]) => ({ x1: from[0], y1: from[1], x2: to[0], y2: to[1] })
  const level = side === 'top' || side === 'bottom'
  const name = SIDES.find(([s]) => s === side)?.[1].toLowerCase()
  return (
    <g data-testid={`rail-${side}`}>
      <line {...line(a, b)} stroke="var(--color-leaf)" strokeWidth={5} strokeLinecap="round" strokeOpacity={0.85} />
      <line {...line(a, b)} stroke="var(--color-ink)" strokeWidth={1.5} strokeDasharray="1 5" strokeLinecap="round" />
      <line {...line(a, b)} data-testid="rail" stroke="transparent" strokeWidth={16} className="pointer-events-auto cursor-crosshair" onPointerDown={mark}>
        <title>{`Drag along here: nothing is cut in that stretch of the ${name}; a click opens all of it`}</title>
      </line>
      {open.map((s, k) => {
        if (s.side !== side) return null
        const [from, to, out] = [at(s.from, off), at(s.to, off), at((s.from + s.to) / 2, s.far)]
        return (
          <g key={k}>
            {s.far > off && (
              <line {...line(at((s.from + s.to) / 2, off), out)} stroke="var(--color-sea)" strokeWidth={1.5} strokeDasharray="4 4" />
            )}
            <line {...line(from, to)} stroke="var(--color-sea)" strokeWidth={4} strokeLinecap="round" />
            {(['from', 'to'] as const).map((which) => (
              <circle
                key={which}
                data-testid={`open-${which}`}
                cx={(which === 'from' ? from : to)[0]}
                cy={(which === 'from' ? from : to)[1]}
                r={6.5}
                fill="var(--color-leaf)"
                stroke="var(--color-sea)"
                strokeWidth={2.5}
                className={`pointer-events-auto ${level ? 'cursor-ew-resize' : 'cursor-ns-resize'}`}
                onPointerDown={(e) => moveEnd(e, k, s, which)}
              >
                <title>{which === 'from' ? 'Where the open stretch begins' : 'Where it ends'}</title>
              </circle>
            ))}
            <rect
              data-testid="open-far"
              x={out[0] - (level ? 11 : 4)}
              y={out[1] - (level ? 4 : 11)}
              width={level ? 22 : 8}
              height={level ? 8 : 22}
              rx={4}
              fill="var(--color-sea)"
              stroke="var(--color-leaf)"
              strokeWidth={2}
              className={`pointer-events-auto ${level ? 'cursor-ns-resize' : 'cursor-ew-resize'}`}
              onPointerDown={(e) => moveFar(e, k, s)}
            >
              <title>How far it goes on</title>
            </rect>
          </g>
        )
      })}
    </g>
  )
}
