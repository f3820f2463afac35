import type { BasicShape } from '../../types/BasicShape'
import type { Figure } from '../../types/Figure'
import type { Form } from '../../types/Form'
import type { Tip } from '../../types/Tip'
import { amendForm } from './forms'
import { useBench } from '../state/store'
import { ChoiceField, LengthField, PlainField } from '../recipe/fields'

/** The numbers of a basic shape. */
export function ShapePanel({ piece, form, shape }: { piece: string; form: Form; shape: BasicShape }) {
  const sheet = useBench((s) => s.bench?.sheet)
  const set = (how: (b: BasicShape) => BasicShape, gesture: string) =>
    void amendForm(
      piece,
      form.id,
      (f) => (f.shape.kind === 'basic' ? { ...f, shape: { kind: 'basic', ...how(f.shape) } } : f),
      gesture,
    )
  const figure = (next: Figure, gesture: string) => set((b) => ({ ...b, figure: next }), gesture)
  const most = sheet ? Math.max(sheet.width, sheet.height) : 1000
  return (
    <div className="grid w-[560px] grid-cols-4 gap-x-3 gap-y-2">
      <LengthField
        label={shape.figure.figure === 'line' ? 'Length' : 'Width'}
        value={shape.width}
        least={0.1}
        slider={{ min: 1, max: most }}
        onChange={(width, g) => set((b) => ({ ...b, width }), g)}
      />
      <LengthField
        label={shape.figure.figure === 'line' ? 'Thickness' : 'Height'}
        value={shape.height}
        least={0.1}
        slider={{ min: 1, max: most }}
        onChange={(height, g) => set((b) => ({ ...b, height }), g)}
      />
      <Own figure={shape.figure} half={Math.min(shape.width, shape.height) / 2} onChange={figure} />
    </div>
  )
}

interface OwnProps {
  figure: Figure
  /** Half of the shorter side, in mm. */
  half: number
  onChange: (figure: Figure, gesture: string) => void
}

function Own({ figure: f, half, onChange }: OwnProps) {
  const percent = { factor: 100, min: 0, max: 100, slider: true }
  const radius = { slider: { min: 0, max: half }, least: 0 }
  const count = { digits: 0, max: 60, slider: true }
  switch (f.figure) {
    case 'ellipse':
    case 'heart':
    case 'drop':
      return null
    case 'box':
      return (
        <>
          <LengthField label="All corners" value={Math.max(...f.corners)} {...radius} onChange={(r, g) => onChange({ ...f, corners: [r, r, r, r] }, g)} />
          <span />
          {(['Top left', 'Top right', 'Bottom right', 'Bottom left'] as const).map((name, i) => (
            <LengthField
              key={name}
              label={name}
              value={f.corners[i] ?? 0}
              least={0}
              onChange={(r, g) => {
                const corners: typeof f.corners = [...f.corners]
                corners[i] = r
                onChange({ ...f, corners }, g)
              }}
            />
          ))}
        </>
      )
    case 'ring':
      return <PlainField label="Hole, %" value={f.hole} {...percent} onChange={(hole, g) => onChange({ ...f, hole }, g)} />
    case 'sector':
      return (
        <>
          <PlainField label="From, degrees" value={f.from} step={5} min={-360} max={360} slider onChange={(from, g) => onChange({ ...f, from }, g)} />
          <PlainField label="Sweep, degrees" value={f.sweep} step={5} min={1} max={360} slider onChange={(sweep, g) => onChange({ ...f, sweep }, g)} />
        </>
      )
    case 'triangle':
      return (
        <>
          <PlainField label="Lean, %" value={f.lean} {...percent} onChange={(lean, g) => onChange({ ...f, lean }, g)} />
          <LengthField label="Rounding" value={f.rounding} {...radius} onChange={(rounding, g) => onChange({ ...f, rounding }, g)} />
        </>
      )
    case 'polygon':
      return (
        <>
          <PlainField label="Sides" value={f.sides} {...count} min={3} onChange={(v, g) => onChange({ ...f, sides: Math.round(v) }, g)} />
          <LengthField label="Rounding" value={f.rounding} {...radius} onChange={(rounding, g) => onChange({ ...f, rounding }, g)} />
        </>
      )
    case 'star':
      return (
        <>
          <PlainField label="Points" value={f.points} {...count} min={3} onChange={(v, g) => onChange({ ...f, points: Math.round(v) }, g)} />
          <PlainField label="Depth, %" value={f.depth} {...percent} onChange={(depth, g) => onChange({ ...f, depth }, g)} />
          <LengthField label="Rounding" value={f.rounding} {...radius} onChange={(rounding, g) => onChange({ ...f, rounding }, g)} />
        </>
      )
    case 'arch':
      return <PlainField label="Rise, % of height" value={f.rise} {...percent} onChange={(rise, g) => onChange({ ...f, rise }, g)} />
    case 'cross':
      return <PlainField label="Arm, %" value={f.arm} {...percent} onChange={(arm, g) => onChange({ ...f, arm }, g)} />
    case 'arrow':
      return (
        <>
          <PlainField label="Head, % of width" value={f.head} {...percent} onChange={(head, g) => onChange({ ...f, head }, g)} />
          <PlainField label="Shaft, % of height" value={f.shaft} {...percent} onChange={(shaft, g) => onChange({ ...f, shaft }, g)} />
        </>
      )
    case 'zigzag':
      return (
        <>
          <PlainField label="Teeth" value={f.teeth} {...count} min={1} onChange={(v, g) => onChange({ ...f, teeth: Math.round(v) }, g)} />
          <PlainField label="Depth, %" value={f.depth} {...percent} onChange={(depth, g) => onChange({ ...f, depth }, g)} />
        </>
      )
    case 'cloud':
      return <PlainField label="Bumps" value={f.bumps} {...count} min={3} onChange={(v, g) => onChange({ ...f, bumps: Math.round(v) }, g)} />
    case 'blot':
      return (
        <>
          <PlainField label="Roughness, %" value={f.roughness} {...percent} onChange={(roughness, g) => onChange({ ...f, roughness }, g)} />
          <div className="self-end pb-1">
            <button className="outlined" onClick={() => onChange({ ...f, seed: Math.floor(Math.random() * 1e6) }, crypto.randomUUID())}>
              Spill anew
            </button>
          </div>
        </>
      )
    case 'line':
      return (
        <div className="col-span-2">
          <ChoiceField<Tip>
            label="Ends"
            options={[
              ['flat', 'Flat'],
              ['round', 'Round'],
              ['pointed', 'Pointed'],
            ]}
            value={f.ends}
            onChange={(ends) => onChange({ ...f, ends }, crypto.randomUUID())}
          />
        </div>
      )
  }
}
