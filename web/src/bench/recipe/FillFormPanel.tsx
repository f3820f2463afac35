import { useState } from 'react'
import type { Fill } from '../../types/Fill'
import type { FillPaint } from '../../types/FillPaint'
import type { Form } from '../../types/Form'
import type { Lettering } from '../../types/Lettering'
import { amendFill } from '../fills'
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
