import { useState } from 'react'
import type { Fill } from '../../types/Fill'
import type { FillPaint } from '../../types/FillPaint'
import type { Form } from '../../types/Form'
import type { Lettering } from '../../types/Lettering'
import { amendFill } from '../fills'
import { BendFields } from './BendPanel'
import { useFonts } from './fonts'
import { FontList } from './FontList'
import { LengthField, PlainField } from './fields'
import { PaintField } from './PaintField'

type FormPaint = Extract<FillPaint, { kind: 'form' }>

/** Lettering that is seen only inside of the opening. */
export function FillFormPanel({ piece, fill, paint }: { piece: string; fill: Fill; paint: FormPaint }) {
  const fonts = useFonts()
  const form = paint.form
  const amend = (change: (form: Form) => Form, gesture: string) =>
    void amendFill(piece, fill.id, (f) => (f.paint.kind === 'form' ? { ...f, paint: { ...f.paint, form: change(f.paint.form) } } : f), gesture)
  const pose = (change: Partial<Form['pose']>, gesture: string) => amend((f) => ({ ...f, pose: { ...f.pose, ...change } }), gesture)
  const type = (change: Partial<Lettering>, gesture: string) =>
    amend((f) => (f.shape.kind === 'lettering' ? { ...f, shape: { ...f.shape, ...change } } : f), gesture)
  const shape = form.shape
  return (
    <div className="grid grid-cols-[250px_1fr] gap-5">
      <div className="space-y-2.5">
        {shape.kind === 'lettering' && (
          <>
            <TextBox text={shape.text} onChange={(text) => type({ text }, crypto.randomUUID())} />
            <FontList fonts={fonts} chosen={shape.font} sample={shape.text} onChoose={(font) => type({ font }, crypto.randomUUID())} />
          </>
        )}
      </div>
      <div className="space-y-2.5">
        <div className="grid grid-cols-3 gap-2">
          {shape.kind === 'lettering' && <LengthField label="Size" value={shape.size} least={0.1} onChange={(size, g) => type({ size }, g)} />}
          {shape.kind === 'lettering' && <PlainField label="Leading" value={shape.leading} digits={2} step={0.05} min={0.1} max={10} onChange={(leading, g) => type({ leading }, g)} />}
          <PlainField label="Turn, degrees" value={form.pose.turn} onChange={(turn, g) => pose({ turn }, g)} />
          <LengthField label="Across" value={form.pose.x} onChange={(x, g) => pose({ x }, g)} />
          <LengthField label="Down" value={form.pose.y} onChange={(y, g) => pose({ y }, g)} />
        </div>
        <PaintField
          label="Painted with"
          paint={paint.paint}
          onChange={(next, g) => void amendFill(piece, fill.id, (f) => (f.paint.kind === 'form' ? { ...f, paint: { ...f.paint, paint: next } } : f), g)}
        />
      </div>
    </div>
  )
}

const CORNERS = ['Top left', 'Top right', 'Bottom right', 'Bottom left']
const UNPULLED: NonNullable<Form['pose']['pull']> = [[0, 0], [0, 0], [0, 0], [0, 0]]

/** A form that fills a window, bent and pulled as a form of an opening is. */
export function FillFormShape({ piece, fill, paint }: { piece: string; fill: Fill; paint: FormPaint }) {
  const form = paint.form
  const { pose } = form
  const amend = (change: (form: Form) => Form, gesture: string) =>
    void amendFill(piece, fill.id, (f) => (f.paint.kind === 'form' ? { ...f, paint: { ...f.paint, form: change(f.paint.form) } } : f), gesture)
  const set = (part: Partial<Form['pose']>, gesture: string) => amend((f) => ({ ...f, pose: { ...f.pose, ...part } }), gesture)
  const pull = pose.pull ?? UNPULLED
  const pulled = (corner: number, axis: 0 | 1, to: number): NonNullable<Form['pose']['pull']> =>
    pull.map((c, k) => (k === corner ? (axis === 0 ? [to, c[1]] : [c[0], to]) : c)) as NonNullable<Form['pose']['pull']>
  return (
    <div className="w-[620px] space-y-3">
      <div className="grid grid-cols-[1fr_170px] gap-5">
        <BendFields bend={form.bend} onChange={(bend, g) => amend(({ bend: _, ...f }) => (bend ? { ...f, bend } : f), g)} />
      </div>
      <div className="grid grid-cols-4 gap-3">
        <PlainField label="Slant, degrees" value={pose.slant} min={-80} max={80} onChange={(slant, g) => set({ slant }, g)} />
        <PlainField label="Wide, %" value={pose.wide} factor={100} onChange={(wide, g) => wide !== 0 && set({ wide }, g)} />
        <PlainField label="Tall, %" value={pose.tall} factor={100} onChange={(tall, g) => tall !== 0 && set({ tall }, g)} />
        <button className="plain self-end" disabled={!pose.pull} onClick={() => amend(({ pose: { pull: _, ...rest }, ...f }) => ({ ...f, pose: rest }), crypto.randomUUID())}>
          Corners back
        </button>
      </div>
      <div>
        <p className="tag">Corners pulled, % of its box: right and down</p>
        <div className="mt-1 grid grid-cols-4 gap-3">
          {CORNERS.map((name, k) => (
            <div key={name} className="grid grid-cols-2 gap-1">
              {([0, 1] as const).map((axis) => (
                <PlainField
                  key={axis}
                  label={axis === 0 ? name : '\u00a0'}
                  value={pull[k]?.[axis] ?? 0}
                  factor={100}
                  digits={0}
                  onChange={(to, g) => set({ pull: pulled(k, axis, to) }, g)}
                />
              ))}
            </div>
          ))}
        </div>
      </div>
    </div>
  )
}

/** A text that is kept when it is left. */
function TextBox({ text, onChange }: { text: string; onChange: (text: string) => void }) {
  const [draft, setDraft] = useState<string | null>(null)
  return (
    <label className="tag block">
      Text
      <textarea
        data-first
        className="field h-20 resize-none text-[15px]"
        value={draft ?? text}
        onChange={(e) => setDraft(e.target.value)}
        onKeyDown={(e) => e.stopPropagation()}
        onBlur={() => {
          if (draft !== null && draft.trim() !== '' && draft !== text) onChange(draft)
          setDraft(null)
        }}
      />
    </label>
  )
}
