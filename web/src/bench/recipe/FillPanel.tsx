import { NumberField } from '../../parts/NumberField'
import { readLength, showLength } from '../../parts/units'
import type { Placement } from '../../types/Placement'
import { edit } from '../edits'
import { bringIn } from '../photos'
import { layerOf, pieceOf, useBench } from '../store'
import { PhotoButton } from './Card'
import { ColourField } from './SheetPanels'

/** What shows through the opening: its placement, or its colour. */
export function FillPanel() {
  const s = useBench()
  const piece = pieceOf(s, s.selected)
  const sheet = s.bench?.sheet
  if (piece?.kind.kind !== 'window' || !sheet) return null
  const id = piece.id
  const colour = piece.kind.fills.find((f) => f.paint.kind === 'colour')
  const photo = piece.kind.fills.find((f) => f.paint.kind === 'photo')
  if (photo?.paint.kind === 'photo') {
    const place = photo.paint.placement
    const ppi = layerOf(s, id)?.photos.at(-1)?.ppi
    const set = (change: Partial<Placement>, gesture: string) =>
      void edit({ edit: 'set_placement', piece: id, fill: photo.id, placement: { ...place, ...change } }, gesture)
    const length = {
      show: (v: number) => showLength(v, sheet.unit, sheet.ppi),
      read: (t: string) => readLength(t, sheet.unit, sheet.ppi),
      step: 1,
    }
    const facts = sheet.photos[photo.paint.photo]
    // how large the photo is, as a share of the sheet's width
    const full = facts ? sheet.width / facts.width : 1
    return (
      <div className="w-[560px]">
        <div className="grid grid-cols-4 gap-3">
          <NumberField label={`Centre across, ${sheet.unit}`} value={place.x} {...length} onChange={(x, g) => set({ x }, g)} />
          <NumberField label={`Centre down, ${sheet.unit}`} value={place.y} {...length} onChange={(y, g) => set({ y }, g)} />
          <NumberField
            label="Width, % of sheet"
            value={place.scale / full}
            step={0.01}
            show={(v) => String(Math.round(v * 1000) / 10)}
            read={(t) => (Number(t.replace(',', '.')) > 0 ? Number(t.replace(',', '.')) / 100 : null)}
            onChange={(v, g) => set({ scale: v * full }, g)}
          />
          <NumberField
            label="Turn, degrees"
            value={place.turn}
            step={1}
            show={(v) => String(Math.round(v * 10) / 10)}
            read={(t) => (t.trim() !== '' && Number.isFinite(Number(t.replace(',', '.'))) ? Number(t.replace(',', '.')) : null)}
            onChange={(turn, g) => set({ turn }, g)}
          />
        </div>
        <div className="mt-3 flex flex-wrap items-center gap-2">
          <button className="outlined" onClick={() => void edit({ edit: 'fit_photo', piece: id, fill: photo.id, fit: 'cover' })}>
            Cover the opening
          </button>
          <button className="outlined" onClick={() => void edit({ edit: 'fit_photo', piece: id, fill: photo.id, fit: 'contain' })}>
            Show it whole
          </button>
          <button className="outlined" onClick={() => set({ mirrored: !place.mirrored }, crypto.randomUUID())}>
            Mirror
          </button>
          <PhotoButton className="outlined" label="Another photo" onFile={(file) => void bringIn(file, id)} />
          <button className="plain" onClick={() => void edit({ edit: 'remove_fill', piece: id, fill: photo.id })}>
            Take it out
          </button>
        </div>
        {ppi !== undefined && <p className="mt-2 text-[13px] text-ink-soft">{Math.round(ppi)} pixels of the photo to an inch of the sheet.</p>}
      </div>
    )
  }
  if (colour?.paint.kind === 'colour') {
    return (
      <ColourField
        label="Ink of the word"
        colour={colour.paint.colour}
        onChange={(c, gesture) => void edit({ edit: 'set_fill_colour', piece: id, fill: colour.id, colour: c }, gesture)}
      />
    )
  }
  return null
}
