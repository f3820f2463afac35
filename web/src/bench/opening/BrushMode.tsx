import { useEffect } from 'react'
import { isOnControl } from '../../parts/focus'
import type { Form } from '../../types/Form'
import type { Join } from '../../types/Join'
import type { Stroke } from '../../types/Stroke'
import { forget } from '../state/edits'
import { formOf, formView, keepForm, newForm, tryForm } from './forms'
import { sheetWayOf } from '../canvas/keyMove'
import { IDENTITY, css, map, undone, type Matrix } from '../geometry/matrix'
import { amendMode, backInMode, enterMode, leaveMode, modeOf, stepMode, useMode } from '../mode/mode'
import { ModeBar } from '../mode/ModeBar'
import type { Locate } from '../canvas/place'
import { newMember } from '../state/newMember'
import { follow } from '../canvas/pointer'
import { ChoiceField, LengthField, PlainField } from '../recipe/fields'
import type { BrushMode } from '../mode/modes'
import { bench, useBench } from '../state/store'

/** Starts a new brushed area. */
export function enterBrush(piece: string | null, join: Join) {
  const sheet = bench.get().bench?.sheet
  const size = sheet ? Math.round(Math.min(sheet.width, sheet.height) / 12) : 10
  enterMode({ kind: 'brush', piece, form: null, join, strokes: [], toSheet: IDENTITY, size, hardness: 1, erase: false, live: null, cursor: null, past: [] })
}

/** Goes on with a brushed form. */
export function enterStrokes(piece: string, form: string) {
  const own = formOf(bench.get(), piece, form)
  const view = formView(bench.get(), piece, form)
  if (own?.shape.kind !== 'brush' || !view) return
  const last = own.shape.strokes.at(-1)
  // the form stays held: it is what is painted further
  enterMode(
    {
      kind: 'brush',
      piece,
      form,
      join: own.join,
      strokes: own.shape.strokes,
      toSheet: view.to_sheet as Matrix,
      size: last?.size ?? 10,
      hardness: last?.hardness ?? 1,
      erase: false,
      live: null,
      cursor: null,
      past: [],
    },
    { forms: bench.get().forms },
  )
}

/** The form that the strokes would become. */
function made(mode: BrushMode): Form | null {
  if (mode.strokes.length === 0) return null
  const shape = { kind: 'brush' as const, strokes: mode.strokes }
  if (mode.form === null) return newForm(shape, 0, 0, mode.join)
  const own = formOf(bench.get(), mode.piece, mode.form)
  return own ? { ...own, shape } : null
}

function setStrokes(strokes: Stroke[]) {
  amendMode('brush', { live: null })
  stepMode('brush', { strokes })
  show()
}

function takeBack() {
  backInMode('brush')
  show()
}

/** Tries what is painted. */
function show() {
  const mode = modeOf('brush')
  const form = mode && made(mode)
  if (mode && form && mode.piece !== null) tryForm(mode.piece, form, mode.form === null)
  else forget()
}

/** Takes the brush from the shelf to the sheet, and paints from where it comes there. */
export function startBrushCarry(locate: Locate) {
  const end = follow({
    move: (m) => {
      if (!(m.target instanceof Element) || !document.elementFromPoint(m.clientX, m.clientY)?.closest('[data-testid=port]')) return
      end()
      enterBrush(null, 'add')
      startStroke(m, locate)
    },
    up: () => undefined,
    drop: () => undefined,
  })
}

/** A press on the sheet: a stroke that lasts as long as the press; with Alt it erases. */
export function startStroke(e: Pick<PointerEvent, 'clientX' | 'clientY' | 'pointerType' | 'pressure' | 'altKey'>, locate: Locate) {
  const mode = modeOf('brush')
  const back = mode && undone(mode.toSheet)
  if (!mode || !back) return
  const scale = Math.hypot(mode.toSheet[0], mode.toSheet[1]) || 1
  // only pens tell how hard they press
  const pressure = (p: { pointerType: string; pressure: number }) => (p.pointerType === 'pen' ? Math.max(p.pressure, 0.05) : 1)
  const place = (p: { clientX: number; clientY: number; pointerType: string; pressure: number }): [number, number, number] => {
    const [x, y] = map(back, locate(p))
    return [x, y, pressure(p)]
  }
  let stroke: Stroke = newMember({ points: [place(e)], size: mode.size / scale, hardness: mode.hardness, erase: mode.erase !== e.altKey })
  const live = () => amendMode('brush', { live: stroke, cursor: null })
  live()
  follow({
    move: (m) => {
      const more = m.getCoalescedEvents().map(place)
      stroke = { ...stroke, points: [...stroke.points, ...(more.length > 0 ? more : [place(m)])] }
      live()
    },
    up: () => {
      const now = modeOf('brush')
      if (now) setStrokes([...now.strokes, stroke])
    },
    drop: () => amendMode('brush', { live: null }),
  })
}

/** Arrows move the brush by a part of its size (with Shift by all of it), Space sets it down and lifts it. */
function byKey(e: KeyboardEvent, mode: BrushMode): boolean {
  const way = sheetWayOf(e.key)
  const sheet = bench.get().bench?.sheet
  const back = undone(mode.toSheet)
  if (!sheet || !back || (way === undefined && e.key !== ' ')) return false
  const [x, y] = mode.cursor ?? [sheet.width / 2, sheet.height / 2]
  const place = (to: readonly [number, number]): [number, number, number] => [...map(back, to), 1]
  if (way) {
    const step = mode.size * (e.shiftKey ? 1 : 0.25)
    const within = (v: number, most: number) => Math.min(Math.max(v, 0), most)
    const cursor = [within(x + way[0] * step, sheet.width), within(y + way[1] * step, sheet.height)] as const
    const live = mode.live && { ...mode.live, points: [...mode.live.points, place(cursor)] }
    amendMode('brush', { cursor, live })
  } else if (mode.live && mode.cursor) {
    setStrokes([...mode.strokes, mode.live])
  } else {
    const scale = Math.hypot(mode.toSheet[0], mode.toSheet[1]) || 1
    const live: Stroke = newMember({ points: [place([x, y])], size: mode.size / scale, hardness: mode.hardness, erase: mode.erase })
    amendMode('brush', { cursor: [x, y], live })
  }
  return true
}

/** The strokes of a new area, the one that is being made, and the brush of the keyboard. */
export function BrushOverlay({ mode }: { mode: BrushMode }) {
  const shown = [...(mode.piece === null ? mode.strokes : []), ...(mode.live ? [mode.live] : [])]
  const hair = 1.5 / useBench((s) => s.view.zoom)
  return (
    <>
      <Strokes shown={shown} toSheet={mode.toSheet} />
      {mode.cursor && (
        <g data-brush={mode.live ? 'down' : 'up'} fill="none">
          <circle cx={mode.cursor[0]} cy={mode.cursor[1]} r={mode.size / 2} stroke="var(--color-leaf)" strokeWidth={hair * 2.6} />
          <circle cx={mode.cursor[0]} cy={mode.cursor[1]} r={mode.size / 2} stroke="var(--color-ink)" strokeWidth={hair} strokeDasharray={mode.live ? undefined : `${hair * 3} ${hair * 2}`} />
        </g>
      )}
    </>
  )
}

function Strokes({ shown, toSheet }: { shown: Stroke[]; toSheet: Matrix }) {
  return (
    <g transform={css(toSheet)}>
      {shown.map((s, i) => (
        <polyline
          key={i}
          points={[...s.points, s.points[0] ?? [0, 0]].slice(0, Math.max(s.points.length, 2)).map(([x, y]) => `${x},${y}`).join(' ')}
          fill="none"
          stroke={s.erase ? 'var(--color-leaf)' : 'var(--color-sea)'}
          strokeOpacity={s.hardness < 0.99 ? 0.5 : 0.8}
          strokeWidth={s.size * ((1 + s.hardness) / 2)}
          strokeLinecap="round"
          strokeLinejoin="round"
        />
      ))}
    </g>
  )
}

/** Keeps what is painted, and ends the mode; what is nothing yet is dropped. */
export async function keepBrush(): Promise<boolean> {
  const mode = modeOf('brush')
  const form = mode && made(mode)
  if (!mode || !form || !mode.strokes.some((s) => !s.erase)) {
    leaveMode()
    return true
  }
  return keepForm(mode.piece, form, mode.form === null)
}

export function BrushBar() {
  const mode = useMode('brush')
  useEffect(() => {
    const key = (e: KeyboardEvent) => {
      const now = modeOf('brush')
      if (!now || (e.target instanceof HTMLElement && e.target.closest('input'))) return
      if (now.live && (e.key === 'Escape' || e.key === 'Enter')) {
        // first the stroke is dropped or done, by the next press the mode
        if (e.key === 'Escape') amendMode('brush', { live: null })
        else setStrokes([...now.strokes, now.live])
        e.stopImmediatePropagation()
        return
      }
      if (e.ctrlKey || e.metaKey) return
      if (e.key.toLowerCase() === 'e') amendMode('brush', { erase: !now.erase })
      else if (isOnControl(e.target) || !byKey(e, now)) return
      e.preventDefault()
      e.stopImmediatePropagation()
    }
    window.addEventListener('keydown', key, true)
    return () => window.removeEventListener('keydown', key, true)
  }, [])
  if (!mode) return null
  const set = (part: Partial<BrushMode>) => amendMode('brush', part)
  return (
    <ModeBar
      title="Brush"
      sentence={
        mode.cursor
          ? mode.live
            ? 'Arrows draw, Shift by larger steps; Space lifts the brush, Escape drops the stroke.'
            : 'Arrows move the brush, Space sets it down.'
          : 'Paint the area, with Alt erase, or use arrows and Space; a pen’s pressure sets the width. A clear edge becomes an outline, a fading one stays soft in the opening.'
      }
      canKeep={mode.strokes.some((s) => !s.erase) && mode.past.length > 0}
      onKeep={() => void keepBrush()}
      onDrop={() => leaveMode()}
      onBack={takeBack}
      canGoBack={mode.past.length > 0}
    >
      <ChoiceField<'brush' | 'eraser'>
        label="Tool (key E)"
        options={[
          ['brush', 'Brush'],
          ['eraser', 'Eraser'],
        ]}
        value={mode.erase ? 'eraser' : 'brush'}
        onChange={(v) => set({ erase: v === 'eraser' })}
      />
      <span className="w-28">
        <LengthField label="Size" value={mode.size} least={0.2} slider={{ min: 0.5, max: 80 }} onChange={(size) => set({ size })} />
      </span>
      <span className="w-28">
        <PlainField label="Hardness, %" value={mode.hardness} factor={100} digits={0} step={5} min={0} max={100} slider onChange={(hardness) => set({ hardness })} />
      </span>
    </ModeBar>
  )
}
