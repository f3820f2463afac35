import type { Fill } from '../../types/Fill'
import type { FillPaint } from '../../types/FillPaint'
import { amendFill, drawingOf, photoOf, shownPiece, tiledPiece, type RepeatedPaint } from './fills'
import { bench, viewOf } from '../state/store'
import { ChoiceField, PlainField } from '../recipe/fields'

/** Only once, in the middle of a tile of it; another piece where it lies. */
function once(paint: RepeatedPaint): FillPaint {
  const shown = shownPiece(paint)
  if (shown !== undefined) return { kind: 'window', piece: shown, by: { a: 1, b: 0, dx: 0, dy: 0 } }
  if (paint.kind === 'window') return paint
  const { placement } = paint
  const drawing = drawingOf(paint)
  if (drawing !== undefined) return { kind: 'drawing', drawing, placement }
  return { kind: 'photo', photo: photoOf(paint) ?? '', placement, ...('tone' in paint && paint.tone ? { tone: paint.tone } : {}) }
}

function again(paint: RepeatedPaint, middle: readonly [number, number]): FillPaint {
  if (paint.kind === 'window') return tiledPiece(paint.piece, middle)
  const placement = { ...paint.placement, scale: paint.placement.scale / 4 }
  delete placement.pull
  const rest = { placement, step: [1.05, 1.05] as [number, number], offset: 0, ...('tone' in paint && paint.tone ? { tone: paint.tone } : {}) }
  const drawing = drawingOf(paint)
  return drawing !== undefined ? { kind: 'tile', drawing, ...rest } : { kind: 'tile', photo: photoOf(paint) ?? '', ...rest }
}

/** The middle of what a window opens. */
function middleOf(piece: string): readonly [number, number] {
  const [l, t, r, b] = viewOf(bench.get(), piece)?.bounds ?? [0, 0, 0, 0]
  return [(l + r) / 2, (t + b) / 2]
}

/** A photo, a drawing or another piece once, or again and again. */
export function TilePanel({ piece, fill, paint }: { piece: string; fill: Fill; paint: RepeatedPaint }) {
  const tiled = paint.kind === 'tile'
  const become = (kind: 'once' | 'again') => {
    if ((kind === 'again') === tiled) return
    void amendFill(piece, fill.id, (f) => ({ ...f, paint: kind === 'again' ? again(paint, middleOf(piece)) : once(paint) }), crypto.randomUUID())
  }
  const set = (change: { step?: [number, number]; offset?: number }, gesture: string) =>
    void amendFill(piece, fill.id, (f) => (f.paint.kind === 'tile' ? { ...f, paint: { ...f.paint, ...change } } : f), gesture)
  return (
    <div className="grid grid-cols-[auto_1fr_1fr_1fr] items-end gap-4">
      <ChoiceField
        label={drawingOf(paint) !== undefined ? 'The drawing' : shownPiece(paint) !== undefined ? 'The piece' : 'The photo'}
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
