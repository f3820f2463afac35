import type { Fill } from '../../types/Fill'
import type { FillPaint } from '../../types/FillPaint'
import { amendFill, drawingOf, photoOf, type PlacedPaint } from '../fills'
import { ChoiceField, PlainField } from './fields'

/** Only once, in the middle of a tile of it. */
function once(paint: PlacedPaint): FillPaint {
  const { placement } = paint
  const drawing = drawingOf(paint)
  if (drawing !== undefined) return { kind: 'drawing', drawing, placement }
  return { kind: 'photo', photo: photoOf(paint) ?? '', placement, ...('tone' in paint && paint.tone ? { tone: paint.tone } : {}) }
}

function again(paint: PlacedPaint): FillPaint {
  const placement = { ...paint.placement, scale: paint.placement.scale / 4 }
  delete placement.pull
  const rest = { placement, step: [1.05, 1.05] as [number, number], offset: 0, ...('tone' in paint && paint.tone ? { tone: paint.tone } : {}) }
  const drawing = drawingOf(paint)
  return drawing !== undefined ? { kind: 'tile', drawing, ...rest } : { kind: 'tile', photo: photoOf(paint) ?? '', ...rest }
}

/** A photo or a drawing once, or again and again. */
export function RepeatPanel({ piece, fill, paint }: { piece: string; fill: Fill; paint: PlacedPaint }) {
  const tiled = paint.kind === 'tile'
  const become = (kind: 'once' | 'again') => {
    if ((kind === 'again') === tiled) return
    void amendFill(piece, fill.id, (f) => ({ ...f, paint: kind === 'again' ? again(paint) : once(paint) }), crypto.randomUUID())
  }
  const set = (change: { step?: [number, number]; offset?: number }, gesture: string) =>
    void amendFill(piece, fill.id, (f) => (f.paint.kind === 'tile' ? { ...f, paint: { ...f.paint, ...change } } : f), gesture)
  return (
    <div className="grid grid-cols-[auto_1fr_1fr_1fr] items-end gap-4">
      <ChoiceField
        label={drawingOf(paint) === undefined ? 'The photo' : 'The drawing'}
        options={[
          ['once', 'Once'],
          ['again', 'Again and again'],
        ]}
        value={tiled ? 'again' : 'once'}
        onChange={become}
      />
      {paint.kind === 'tile' && (
        <>
          <PlainField label="Step across, %" value={paint.step[0]} factor={100} min={25} max={400} slider onChange={(v, g) => set({ step: [v, paint.step[1]] }, g)} />
          <PlainField label="Step down, %" value={paint.step[1]} factor={100} min={25} max={400} slider onChange={(v, g) => set({ step: [paint.step[0], v] }, g)} />
          <PlainField label="Every other row, %" value={paint.offset} factor={100} min={-100} max={100} slider onChange={(offset, g) => set({ offset }, g)} />
        </>
      )}
    </div>
  )
}
