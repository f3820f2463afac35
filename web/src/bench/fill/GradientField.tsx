import { useRef, useState } from 'react'
import type { Gradient } from '../../types/Gradient'
import type { GradientKind } from '../../types/GradientKind'
import type { Stop } from '../../types/Stop'
import { colourOf, cssGradient, useInks } from './inks'
import { ColourField, TintField } from './ColourField'
import { ChoiceField, PlainField } from '../recipe/fields'

const WAYS: readonly (readonly [GradientKind, string])[] = [
  ['linear', 'Along'],
  ['radial', 'Around'],
]

/** The stops of a gradient: on a strip to be dragged, each with its colour. */
export function GradientField({ gradient, onChange, plain = false }: { gradient: Gradient; onChange: (gradient: Gradient, gesture: string) => void; /** Of colours only. */ plain?: boolean }) {
  const inks = useInks()
  const [chosen, setChosen] = useState(0)
  const strip = useRef<HTMLDivElement>(null)
  const at = Math.min(chosen, gradient.stops.length - 1)
  const stop = gradient.stops[at]
  if (!stop) return null
  const put = (stops: Stop[], gesture: string) => onChange({ ...gradient, stops }, gesture)
  /** A stop lies between its neighbours. */
  const amend = (index: number, change: Partial<Stop>, gesture: string) =>
    put(
      gradient.stops.map((s, k) => {
        if (k !== index) return s
        const next = { ...s, ...change }
        const [least, most] = [gradient.stops[k - 1]?.at ?? 0, gradient.stops[k + 1]?.at ?? 1]
        return { ...next, at: Math.min(most, Math.max(least, next.at)) }
      }),
      gesture,
    )
  const share = (x: number) => {
    const box = strip.current?.getBoundingClientRect()
    return box ? Math.min(1, Math.max(0, (x - box.left) / box.width)) : 0
  }
  const add = (where: number) => {
    const after = gradient.stops.findIndex((s) => s.at > where)
    const index = after < 0 ? gradient.stops.length : after
    const near = gradient.stops[Math.max(0, index - 1)] ?? stop
    put([...gradient.stops.slice(0, index), { ...near, at: where }, ...gradient.stops.slice(index)], crypto.randomUUID())
    setChosen(index)
  }
  const drag = (index: number, e: React.PointerEvent) => {
    e.stopPropagation()
    setChosen(index)
    const gesture = crypto.randomUUID()
    const element = e.currentTarget
    element.setPointerCapture(e.pointerId)
    const move = (m: Event) => amend(index, { at: Math.round(share((m as PointerEvent).clientX) * 1000) / 1000 }, gesture)
    const up = () => {
      element.removeEventListener('pointermove', move)
      element.removeEventListener('pointerup', up)
    }
    element.addEventListener('pointermove', move)
    element.addEventListener('pointerup', up)
  }
  return (
    <div className="space-y-3">
      <div className="flex items-end gap-4">
        <ChoiceField label="Runs" options={WAYS} value={gradient.kind} onChange={(kind) => onChange({ ...gradient, kind }, crypto.randomUUID())} />
        <div
          ref={strip}
          className="relative mb-1 h-7 grow cursor-copy rounded-md border-[1.5px] border-ink/40"
          style={{ background: cssGradient(gradient, inks) }}
          title="Click to add a stop"
          onPointerDown={(e) => add(share(e.clientX))}
        >
          {gradient.stops.map((s, k) => (
            <button
              key={k}
              aria-label={`Stop ${k + 1} at ${Math.round(s.at * 100)} %`}
              aria-pressed={k === at}
              className={`absolute -bottom-2 h-4 w-4 -translate-x-1/2 cursor-ew-resize rounded-full border-2 ${k === at ? 'border-rose' : 'border-leaf'} outline outline-ink/60`}
              style={{ left: `${s.at * 100}%`, background: colourOf(s.tint, inks) }}
              onPointerDown={(e) => drag(k, e)}
              onClick={() => setChosen(k)}
            />
          ))}
        </div>
      </div>
      <div className="grid grid-cols-[auto_84px] gap-4">
        {plain ? (
          <ColourField label={`Stop ${at + 1}`} colour={colourOf(stop.tint, inks)} onChange={(colour, g) => amend(at, { tint: { colour } }, g)} />
        ) : (
          <TintField label={`Stop ${at + 1}`} tint={stop.tint} onChange={(tint, g) => amend(at, { tint }, g)} />
        )}
        <div className="space-y-1.5">
          <PlainField label="Place, %" value={stop.at} factor={100} min={0} max={100} onChange={(v, g) => amend(at, { at: v }, g)} />
          <PlainField label="Opacity, %" value={stop.opacity ?? 1} factor={100} min={0} max={100} onChange={(opacity, g) => amend(at, { opacity }, g)} />
        </div>
      </div>
      <div className="flex gap-1">
        <button className="plain" disabled={gradient.stops.length <= 2} onClick={() => put(gradient.stops.filter((_, k) => k !== at), crypto.randomUUID())}>
          Remove the stop
        </button>
        <button
          className="plain"
          onClick={() => put([...gradient.stops].reverse().map((s) => ({ ...s, at: 1 - s.at })), crypto.randomUUID())}
        >
          The other way round
        </button>
      </div>
    </div>
  )
}
