import { useState } from 'react'
import type { Layout } from '../../types/Layout'
import { movedByKeys } from '../canvas/keyMove'
import { placeOf } from '../canvas/place'
import { follow, leaving } from '../canvas/pointer'
import { toScreen } from '../canvas/viewport'
import type { Point } from '../geometry/similarity'
import { attempt, forget } from '../state/edits'
import { useSheetState } from '../state/sheetState'
import { bench } from '../state/store'
import { layoutHandles, type LayoutHandle } from './layoutHandles'
import { amendRepeat, repeatOf, setRepeat } from './repeats'

/** Handles on the sheet for how a window or a bundle is repeated. */
export function LayoutHandles({ unit }: { unit: string }) {
  const s = useSheetState()
  const [held, setHeld] = useState<{ name: string; at: Point } | null>(null)
  return layoutHandles(s, unit).map((handle) => {
    const [x, y] = toScreen(s.view, held?.name === handle.name ? held.at : handle.at)
    return (
      <circle
        key={handle.name}
        data-testid="layout-handle"
        cx={x}
        cy={y}
        r={handle.adds ? 4.5 : 8}
        fill={handle.adds ? 'var(--color-sea)' : 'var(--color-leaf)'}
        stroke="var(--color-sea)"
        strokeWidth={3}
        className="pointer-events-auto cursor-grab"
        onPointerDown={(e) => startLayoutDrag(e, unit, handle, (at) => setHeld(at && { name: handle.name, at }))}
        {...(handle.adds ? {} : movedByKeys(handle.name, (dx, dy, gesture) => nudge(unit, handle.name, [dx, dy], gesture)))}
      >
        <title>{handle.title}</title>
      </circle>
    )
  })
}

/** `show` hears where the handle is while it is dragged. */
function startLayoutDrag(e: React.PointerEvent, unit: string, handle: LayoutHandle, show: (at: Point | null) => void) {
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
      const now = repeatOf(bench.get(), unit)
      if (!now || JSON.stringify(layout) === JSON.stringify(made)) return
      made = layout
      attempt([setRepeat(bench.get(), unit, { ...now, layout })])
    },
    up: () => {
      const layout = made
      const end = () => {
        show(null)
        forget()
      }
      if (layout) void amendRepeat(unit, (now) => now && { ...now, layout }, crypto.randomUUID()).finally(end)
      else end()
    },
    drop: () => {
      show(null)
      forget()
    },
  })
}

/** An arrow key is a member more or less, or a millimetre. */
function nudge(unit: string, name: string, [dx, dy]: Point, gesture: string) {
  void amendRepeat(
    unit,
    (now) => {
      const handle = layoutHandles(bench.get(), unit).find((h) => h.name === name)
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
