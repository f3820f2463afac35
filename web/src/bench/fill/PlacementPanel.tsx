import type { Fill } from '../../types/Fill'
import type { Placement } from '../../types/Placement'
import { edit } from '../state/edits'
import { drawingOf, photoOf, type PlacedPaint } from './fills'
import { pulledFill } from '../canvas/handling'
import { bringIn } from './photos'
import { bench, pieceOf, viewOf, useBench } from '../state/store'
import { PhotoButton } from '../recipe/Card'
import { useDrawing } from './drawing'
import { LengthField, PlainField } from '../recipe/fields'
import { Placements } from './Placements'

/** A photo that moves by itself again. */
function alone({ shared: _, ...paint }: Extract<PlacedPaint, { kind: 'photo' }>) {
  return paint
}

/** Where it lies after all edits before. */
function placementNow(piece: string, fill: string): Placement | undefined {
  const paint = pieceOf(bench.get(), piece)?.kind.fills.find((f) => f.id === fill)?.paint
  return paint && 'placement' in paint ? paint.placement : undefined
}

interface Props {
  piece: string
  fill: Fill
  paint: PlacedPaint
}

/** Where a photo or a drawing lies, in numbers. */
export function PlacementPanel({ piece, fill, paint }: Props) {
  const sheet = useBench((s) => s.bench?.sheet)
  const ppi = useBench((s) => viewOf(s, piece)?.photos.find((p) => p.fill === fill.id)?.ppi)
  const pulling = useBench((s) => pulledFill(s)?.fill.id === fill.id)
  const drawing = useDrawing(drawingOf(paint))
  if (!sheet) return null
  const place = paint.placement
  const set = (change: Partial<Placement>, gesture: string) =>
    void edit(() => ({ edit: 'set_placement', piece, fill: fill.id, placement: { ...(placementNow(piece, fill.id) ?? place), ...change } }), gesture)
  const photo = photoOf(paint)
  const facts = photo === undefined ? undefined : sheet.photos[photo]
  const wide = facts?.width ?? drawing?.size[0]
  // how large it is, as a share of the sheet's width
  const full = wide ? sheet.width / wide : 1
  const slant = place.slant ?? 0
  return (
    <div>
      <div className="grid grid-cols-5 gap-3">
        <LengthField label="Across" value={place.x} onChange={(x, g) => set({ x }, g)} />
        <LengthField label="Down" value={place.y} onChange={(y, g) => set({ y }, g)} />
        <PlainField label="Width, %" value={place.scale / full} factor={100} min={0.1} onChange={(v, g) => set({ scale: v * full }, g)} />
        <PlainField label="Turn, °" value={place.turn} onChange={(turn, g) => set({ turn }, g)} />
        <PlainField label="Slant, °" value={slant} min={-80} max={80} onChange={(next, g) => set({ slant: next }, g)} />
      </div>
      <div className="mt-3 flex flex-wrap items-center gap-2">
        <button className="outlined" onClick={() => void edit({ edit: 'fit_photo', piece, fill: fill.id, fit: 'cover' })}>
          {paint.kind === 'photo' && paint.shared ? 'Cover all its windows' : 'Cover the opening'}
        </button>
        <button className="outlined" onClick={() => void edit({ edit: 'fit_photo', piece, fill: fill.id, fit: 'contain' })}>
          Show it whole
        </button>
        {facts?.subjects && (
          <button className="outlined" onClick={() => void edit({ edit: 'fit_photo', piece, fill: fill.id, fit: 'subject' })}>
            Centre the subject
          </button>
        )}
        <button className="outlined" onClick={() => set({ mirrored: !place.mirrored, slant: -slant, turn: -place.turn }, crypto.randomUUID())}>
          Mirror across
        </button>
        <button className="outlined" onClick={() => set({ mirrored: !place.mirrored, slant: -slant, turn: 180 - place.turn }, crypto.randomUUID())}>
          Mirror down
        </button>
        {paint.kind !== 'tile' && (
          <button className={pulling ? 'strong' : 'outlined'} aria-pressed={pulling} title="Each corner by itself, in perspective" onClick={() => bench.set({ grip: 'fill', forms: [], fill: fill.id, handling: pulling ? 'scale' : 'pull' })}>
            Pull its corners
          </button>
        )}
        <button
          className="plain"
          disabled={place.turn === 0 && slant === 0 && !place.mirrored && !place.pull}
          onClick={() => {
            const { pull: _, ...rest } = place
            void edit({ edit: 'set_placement', piece, fill: fill.id, placement: { ...rest, turn: 0, slant: 0, mirrored: false } })
          }}
        >
          Upright again
        </button>
        {paint.kind === 'photo' && <PhotoButton className="plain" label="Another photo in its place" onFile={(file) => void bringIn(file, piece)} />}
      </div>
      {paint.kind === 'photo' && Boolean(paint.shared) && (
        <p className="mt-3 flex items-center gap-3 text-[13px] leading-snug text-ink-soft">
          One photo behind several windows: it lies at one place for all of them, and its subject can stand in front of all.
          <button className="plain shrink-0" onClick={() => void edit({ edit: 'set_fill', piece, fill: { ...fill, paint: alone(paint) } })}>
            For this window alone
          </button>
        </p>
      )}
      {paint.kind === 'photo' && (
        <div className="mt-3">
          <Placements piece={piece} fill={fill.id} photo={paint.photo} subject={facts?.subjects?.[0]?.matte} />
        </div>
      )}
      {ppi !== undefined && <p className="mt-2 text-[13px] text-ink-soft">{Math.round(ppi)} pixels of the photo to an inch of the sheet.</p>}
    </div>
  )
}
