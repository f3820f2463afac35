import { useState } from 'react'
import type { Layout } from '../../types/Layout'
import { movedByKeys } from '../canvas/keyMove'
import { placeOf } from '../canvas/place'
import { follow, leaving } from '../canvas/pointer'
import { toScreen } from '../geometry/boxes'
import type { Point } from '../geometry/similarity'
import { attempt, forget } from '../state/edits'
import { bench, useBench } from '../state/store'
import { layoutHandles, type LayoutHandle } from './layoutHandles'
import { amendRepeat, repeatOf } from './repeats'

/** Handles on the sheet for how a window is repeated. */
export function LayoutHandles({ piece }: { piece: string }) {
  const s = useBench()
  const [held, setHeld] = useState<{ name: string; at: Point } | null>(null)
  return layoutHandles(s, piece).map((handle) => {
    const [x, y] = toScreen(s.view, held?.name === handle.name ? held.at : handle.at)
    return (
      <circle
        key={handle.name}
        data-testid="layout-handle"
        cx={x}
        cy={y}
        r={8}
        fill="var(--color-leaf)"
        stroke="var(--color-sea)"
        strokeWidth={3}
        className="pointer-events-auto cursor-grab"
        onPointerDown={(e) => startLayoutDrag(e, piece, handle, (at) => setHeld(at && { name: handle.name, at }))}
        {...movedByKeys(handle.name, (dx, dy, gesture) => nudge(piece, handle.name, [dx, dy], gesture))}
      >
        <title>{handle.title}</title>
      </circle>
    )
  })
}

/** `show` hears where the handle is while it is dragged. */
function startLayoutDrag(e: React.PointerEvent, piece: string, handle: LayoutHandle, show: (at: Point | null) => void) {
  e.stopPropagation()
  if (e.button !== 0) return
  const left = leaving(e)
  const from = placeOf(e)
  let made: Layout | null = null
  follow({
    move: (m) => {
      if (!left(m)) return
      const [x, y] = placeOf(m)
      const at: Point = [handle.at[0] + x - from[0], handle.at[1] + y - from[1]]
      show(at)
      const layout = handle.moved(at)
      const now = repeatOf(bench.get(), piece)
      if (!now || JSON.stringify(layout) === JSON.stringify(made)) return
      made = layout
      attempt([{ edit: 'set_repeat', piece, repeat: { ...now, layout } }])
    },
    up: () => {
      const layout = made
      const end = () => {
        show(null)
        forget()
      }
      if (layout) void amendRepeat(piece, (now) => now && { ...now, layout }, crypto.randomUUID()).finally(end)
      else end()
    },
    drop: () => {
      show(null)
      forget()
    },
  })
}

/** An arrow key is a member more or less, or a millimetre. */
function nudge(piece: string, name: string, [dx, dy]: Point, gesture: string) {
  void amendRepeat(
    piece,
    (now) => {
      const handle = layoutHandles(bench.get(), piece).find((h) => h.name === name)
      if (!now || !handle) return now
      const { layout } = now
      if (name !== 'How many') return { ...now, layout: handle.moved([handle.at[0] + dx, handle.at[1] + dy]) }
      const [sx, sy] = [Math.sign(dx), Math.sign(dy)]
      if (layout.kind === 'grid') return { ...now, layout: { ...layout, columns: Math.max(1, layout.columns + sx), rows: Math.max(1, layout.rows + sy) } }
      return { ...now, layout: { ...layout, count: Math.max(1, layout.count + (sx || -sy)) } }
    },
    gesture,
  )
}
