import type { ReactNode } from 'react'
import { KeySign } from '../../parts/KeySign'
import { useShallow } from 'zustand/react/shallow'
import { Radios } from '../../parts/Radios'
import type { Grip } from '../../types/Grip'
import type { PieceView } from '../../types/PieceView'
import type { Similarity } from '../../types/Similarity'
import { startDrag, startFillScale } from './drag'
import { windowOf } from '../opening/forms'
import { handlingsOf, takeGrip, takeHandling } from './handling'
import { middle, moved } from '../geometry/boxes'
import { SHELF, STACK, toScreen } from './viewport'
import { hasHalves, heldNow, type Held } from '../state/held'
import type { Locate } from './place'
import { SizeField } from './SizeField'
import { bench, useBench, type Handling } from '../state/store'

const GRIPS: { what: Grip; label: string; key: string; sign: ReactNode }[] = [
  // an opening, what lies behind it, and the two together
  { what: 'opening', label: 'Opening', key: 'O', sign: <path d="M3 15V8a5 5 0 0 1 10 0v7Z" fill="none" stroke="currentColor" strokeWidth="1.6" /> },
  { what: 'fill', label: 'Fill', key: 'F', sign: <path d="M1.500 3.500h13v10h-13Zm0 8 4-4 3 3 2-2 4 4" fill="none" stroke="currentColor" strokeWidth="1.6" strokeDasharray="2.400 1.400" /> },
  { what: 'both', label: 'Both', key: 'B', sign: <path d="M1.500 2.500h13v11h-13Zm4 11V9a2.500 2.500 0 0 1 5 0v4.500Z" fill="none" stroke="currentColor" strokeWidth="1.6" /> },
]

const HANDLINGS: { what: Handling; label: string; key: string; title: string }[] = [
  { what: 'scale', label: 'Scale', key: 'S', title: 'Corners and sides scale; Shift the other way (even or free), Alt from the middle' },
  { what: 'slant', label: 'Slant', key: 'L', title: 'Sides slant it' },
  { what: 'join', label: 'Join', key: 'J', title: 'Sweep across forms or windows: they are one; with Alt they are cut out. A click takes a region in or leaves it out' },
  { what: 'pull', label: 'Pull', key: 'P', title: 'Each corner is pulled on its own; Shift in one direction, Alt with its neighbour' },
]

interface Props {
  held: Held
  /** The piece that is selected alone. */
  pieceView: PieceView | null
  residual: Similarity
  locate: Locate
}

/** Beneath what is selected: what a drag moves, and what the handles of its form do. */
export function GripBar({ held, pieceView, residual, locate }: Props) {
  const piece = pieceView?.piece ?? null
  const view = useBench((s) => s.view)
  const grip = useBench((s) => s.grip)
  const free = useBench((s) => s.free)
  const handling = useBench((s) => s.handling)
  const handlings = useBench(useShallow(handlingsOf))
  const holdsForms = useBench((s) => s.forms.length > 0)
  const halves = useBench((s) => held.pieces.some((p) => hasHalves(s, p)))
  const masked = useBench((s) => piece === null || windowOf(s, piece)?.opening.forms.some((f) => !f.off) === true)
  const chosen = handlings.includes(handling) ? handling : (handlings[0] ?? null)
  const isFill = !holdsForms && held.what === 'fill'
  if (!masked || (pieceView === null && !halves && handlings.length === 0)) return null
  const corners = moved(held.corners, residual).map((c) => toScreen(view, c))
  const centre = middle(corners)
  const port = bench.get().port
  const low = Math.max(...corners.map((p) => p[1])) + 14
  const [areaLeft, , areaRight, areaBottom] = free ?? [SHELF, 0, port.width - (bench.get().stackAway ? 0 : STACK), port.height]
  // what a drag moves and the size lie in one row, what the handles do in the next
  const wide = halves ? 250 : 75 + 40 * handlings.length
  const half = Math.min(wide, (areaRight - areaLeft) / 2 - 4)
  return (
    <div
      className="absolute flex w-max -translate-x-1/2 flex-wrap justify-center gap-1.5"
      style={{ left: Math.max(Math.min(centre[0], areaRight - half), areaLeft + half), top: Math.max(Math.min(low, areaBottom - (halves || half < wide ? 82 : 44)), 8), maxWidth: 2 * half }}
      onPointerDown={(e) => e.stopPropagation()}
      onDoubleClick={(e) => e.stopPropagation()}
    >
      {halves && (
        <Radios
          label="A drag moves"
          onSheet
          className="flex shrink-0 overflow-hidden rounded-full border-[1.5px] border-ink bg-leaf text-[13px] font-medium shadow-sheet"
          optionClass="flex cursor-grab items-center gap-1.5 px-3 py-1 hover:bg-ink/10 data-checked:bg-ink data-checked:text-leaf"
          options={GRIPS.map((g) => ({
            value: g.what,
            title: `A drag moves: ${g.label.toLowerCase()} (key ${g.key}, held or tapped)`,
            onPointerDown: (e: React.PointerEvent) => {
              if (e.button !== 0) return
              takeGrip(g.what)
              startDrag(e, heldNow(), locate)
            },
            face: (
              <>
                <svg viewBox="0 0 16 16" className="h-4 w-4" aria-hidden>
                  {g.sign}
                </svg>
                {g.label}
                <KeySign sign={g.key} />
                {g.what === 'fill' && piece !== null && (
                  <span
                    data-testid="fill-scale"
                    title="Drag to scale the fill: right larger, left smaller (keys + and −)"
                    className="-mr-1 cursor-ew-resize px-1 font-bold"
                    onPointerDown={(e) => startFillScale(e, piece)}
                  >
                    ⤢
                  </span>
                )}
              </>
            ),
          }))}
          value={holdsForms ? null : grip}
          onChange={takeGrip}
        />
      )}
      {pieceView && <SizeField key={piece} pieceView={pieceView} />}
      {handlings.length > 0 && (
        <Radios
          label="Handles"
          onSheet
          className={`flex shrink-0 overflow-hidden rounded-full border-[1.5px] bg-leaf text-[13px] font-medium shadow-sheet ${isFill ? 'border-sea' : 'border-rose'}`}
          optionClass={`flex items-center gap-1.5 px-3 py-1 data-checked:text-leaf ${isFill ? 'hover:bg-sea/10 data-checked:bg-sea' : 'hover:bg-rose/10 data-checked:bg-rose'}`}
          options={HANDLINGS.filter((h) => handlings.includes(h.what)).map((h) => ({
            value: h.what,
            title: `${h.title} (key ${h.key})`,
            face: (
              <>
                {h.label}
                <KeySign sign={h.key} />
              </>
            ),
          }))}
          value={chosen}
          onChange={takeHandling}
        />
      )}
    </div>
  )
}
