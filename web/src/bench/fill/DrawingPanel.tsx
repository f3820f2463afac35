import type { Drawing } from '../../types/Drawing'
import type { Form } from '../../types/Form'
import { amendForm } from '../opening/forms'
import { enterPieces } from '../opening/PiecesMode'
import { useBench } from '../state/store'
import { useDrawing } from './drawing'
import { PlainField } from '../recipe/fields'

/** What an imported drawing shows: specks dropped, pieces picked off. */
export function DrawingPanel({ piece, form, shape }: { piece: string; form: Form; shape: Drawing }) {
  const name = useBench((s) => s.bench?.sheet.drawings?.[shape.drawing])
  const card = useDrawing(shape.drawing)
  const set = (part: Partial<Drawing>, gesture: string) =>
    void amendForm(
      piece,
      form.id,
      (f) => (f.shape.kind === 'drawing' ? { ...f, shape: { ...f.shape, ...part } } : f),
      gesture,
    )
  if (!card) return <p className="text-[14px] text-ink-soft">Looking at the drawing …</p>
  const shown = card.pieces.filter((p, i) => p.area >= shape.specks && !shape.picked_off?.includes(i))
  const nodes = shown.reduce((n, p) => n + p.nodes, 0)
  // the slider goes up to what would leave the largest piece alone, by cube roots so that the small ones are told apart
  const most = card.pieces[1]?.area ?? card.pieces[0]?.area ?? 1
  return (
    <div className="w-[600px]">
      <p className="text-[14px]">
        <span className="font-semibold">{name ?? card.name}</span>
        <span className="text-ink-soft tabular-nums" data-testid="pieces-shown">
          {' '}
          shows {shown.length.toLocaleString('en')} of {card.pieces.length.toLocaleString('en')} pieces, {nodes.toLocaleString('en')} nodes.
        </span>
      </p>
      {card.notes.map((note) => (
        <p key={note} className="text-[13px] text-ink-soft">
          {note}
        </p>
      ))}
      <div className="mt-2 grid grid-cols-[150px_1fr_auto] items-end gap-4">
        <PlainField label="Drop specks below, mm²" value={shape.specks} digits={3} step={0.1} min={0} onChange={(specks, g) => set({ specks }, g)} />
        <input
          type="range"
          aria-label="Drop specks below this area"
          className="mb-2 accent-ink"
          min={0}
          max={Math.cbrt(most)}
          step="any"
          value={Math.cbrt(shape.specks)}
          onChange={(e) => set({ specks: Number((Number(e.target.value) ** 3).toPrecision(4)) }, `${form.id}`)}
        />
        <button className="outlined mb-0.5" onClick={() => enterPieces(piece, form.id, card)}>
          Pick pieces off
        </button>
      </div>
      {(shape.picked_off?.length ?? 0) > 0 && (
        <button className="plain mt-1" onClick={() => set({ picked_off: [] }, crypto.randomUUID())}>
          Put back the {shape.picked_off?.length} that were picked off
        </button>
      )}
    </div>
  )
}
