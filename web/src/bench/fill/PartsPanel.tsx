import { useState } from 'react'
import type { DrawingPartCard } from '../../types/DrawingPartCard'
import type { Fill } from '../../types/Fill'
import type { FillPaint } from '../../types/FillPaint'
import type { PartLook } from '../../types/PartLook'
import { edit } from '../state/edits'
import { amendFill } from './fills'
import { cssPaint, useInks } from './inks'
import { useDrawing } from './drawing'
import { ChoiceField, Tick } from '../recipe/fields'
import { PaintField } from './PaintField'

type DrawingPaint = Extract<FillPaint, { kind: 'drawing' }>

/** The groups and shapes of a drawing: each can be switched off, let out over the edge, or painted in one paint instead of its own colours. */
export function PartsPanel({ piece, fill, paint }: { piece: string; fill: Fill; paint: DrawingPaint }) {
  const card = useDrawing(paint.drawing)
  const inks = useInks()
  const [chosen, setChosen] = useState(0)
  if (!card) return <p className="text-[14px] text-ink-soft">Looking at the drawing …</p>
  const looks = paint.looks ?? []
  const lookOf = (part: number): PartLook => looks.find((l) => l.part === part) ?? { part }
  const set = (part: number, change: (look: PartLook) => PartLook, gesture: string) =>
    void amendFill(
      piece,
      fill.id,
      (f) => {
        if (f.paint.kind !== 'drawing') return f
        const now = f.paint.looks ?? []
        const next = change(now.find((l) => l.part === part) ?? { part })
        const others = now.filter((l) => l.part !== part)
        // a part that looks as it came need not be mentioned
        const kept = next.off || next.out || next.paint ? [...others, next] : others
        return { ...f, paint: { ...f.paint, looks: kept.sort((a, b) => a.part - b.part) } }
      },
      gesture,
    )
  const whole: DrawingPartCard = { part: 0, depth: -1, name: card.name, shapes: 0, colours: [] }
  const parts = [whole, ...card.parts]
  const look = lookOf(chosen)
  /** A part is let out with what it lies in. */
  const isOut = (part: number) => {
    const at = parts.findIndex((p) => p.part === part)
    let depth = Infinity
    for (const p of parts.slice(0, at + 1).reverse()) {
      if (p.depth >= depth) continue
      depth = p.depth
      if (lookOf(p.part).out) return true
    }
    return false
  }
  return (
    <div className="grid grid-cols-[250px_1fr] gap-5">
      <ul aria-label="Parts of the drawing" className="max-h-[236px] space-y-0.5 overflow-y-auto pr-1">
        {parts.map((p) => {
          const own = lookOf(p.part)
          return (
            <li key={p.part} className="flex items-center gap-1.5" style={{ paddingLeft: Math.max(0, p.depth) * 14 }}>
              <input
                type="checkbox"
                className="h-4 w-4 shrink-0 accent-ink"
                aria-label={`Show ${nameOf(p)}`}
                checked={!own.off}
                onChange={({ target: { checked } }) => set(p.part, (l) => ({ ...l, off: !checked }), crypto.randomUUID())}
              />
              <button
                data-first={p.part === 0 ? true : undefined}
                aria-pressed={chosen === p.part}
                className={`flex min-w-0 grow items-center gap-2 rounded-md px-1.5 py-0.5 text-left text-[13.5px] ${chosen === p.part ? 'bg-ink text-leaf' : 'hover:bg-paper'} ${own.off ? 'opacity-50' : ''}`}
                onClick={() => setChosen(p.part)}
              >
                <span className="grid h-7 w-8 shrink-0 place-items-center rounded-[3px] bg-leaf">
                  <img src={`/api/drawings/${paint.drawing}/parts/${p.part}`} alt="" className="max-h-6 max-w-7" draggable={false} loading="lazy" />
                </span>
                <span className="min-w-0 grow truncate">{nameOf(p)}</span>
                <span className="flex shrink-0 gap-0.5" aria-hidden>
                  {own.paint ? (
                    <span className="h-3 w-7 rounded-full border border-leaf/60" style={{ background: cssPaint(own.paint, inks) }} />
                  ) : (
                    p.colours.map((c) => <span key={c} className="h-3 w-3 rounded-full border border-leaf/60" style={{ background: c }} />)
                  )}
                </span>
              </button>
            </li>
          )
        })}
      </ul>
      <div className="space-y-3">
        <p className="text-[15px] font-semibold">{nameOf(parts.find((p) => p.part === chosen) ?? whole)}</p>
        <Tick checked={!look.off} onChange={(on) => set(chosen, (l) => ({ ...l, off: !on }), crypto.randomUUID())}>
          Shown
        </Tick>
        <Tick checked={isOut(chosen)} onChange={(out) => void edit({ edit: 'let_pieces_out', piece, fill: fill.id, parts: [chosen], out })}>
          Climbs out where it reaches over the edge
        </Tick>
        <ChoiceField
          label="Painted"
          options={[
            ['own', 'In its own colours'],
            ['one', 'In one paint'],
          ]}
          value={look.paint ? 'one' : 'own'}
          onChange={(way) =>
            set(
              chosen,
              ({ paint: was, ...rest }) => (way === 'own' ? rest : { ...rest, paint: was ?? { kind: 'colour', colour: parts.find((p) => p.part === chosen)?.colours[0] ?? '#141b34' } }),
              crypto.randomUUID(),
            )
          }
        />
        {look.paint && <PaintField label="With" paint={look.paint} onChange={(next, g) => set(chosen, (l) => ({ ...l, paint: next }), g)} />}
        {chosen === 0 && card.notes.map((note) => <p key={note} className="text-[13px] text-ink-soft">{note}</p>)}
      </div>
    </div>
  )
}

const nameOf = (p: DrawingPartCard) => p.name || (p.shapes > 1 ? `Group of ${p.shapes}` : 'Shape')
