import { NumberField } from '../../parts/NumberField'
import { pixels, readLength, showLength, UNITS } from '../../parts/units'
import type { Border } from '../../types/Border'
import type { Unit } from '../../types/Unit'
import { edit } from '../state/edits'
import { bench, useBench } from '../state/store'
import { ColourField } from '../fill/ColourField'
import { photoOf } from '../fill/fills'
import { layBehind } from '../fill/photos'
import { cssPaint } from '../fill/inks'
import { mainGradient } from '../fill/alone'
import { useInkProposals } from '../fill/PhotoInks'
import { PhotoButton } from '../recipe/Card'
import { LengthField, PlainField, Tick } from '../recipe/fields'
import { PaintField } from '../fill/PaintField'

/** Size and resolution of the sheet. */
export function SizePanel() {
  const sheet = useBench((s) => s.bench?.sheet)
  if (!sheet) return null
  const size = { width: sheet.width, height: sheet.height, unit: sheet.unit, ppi: sheet.ppi }
  const set = (change: Partial<typeof size>, gesture: string) =>
    void edit(() => {
      const { width, height, unit, ppi } = bench.get().bench?.sheet ?? size
      return { edit: 'resize_sheet', width, height, unit, ppi, ...change }
    }, gesture)
  const length = {
    step: 1,
    show: (v: number) => showLength(v, sheet.unit, sheet.ppi),
    read: (t: string) => readLength(t, sheet.unit, sheet.ppi),
  }
  const [w, h] = pixels(sheet.width, sheet.height, sheet.ppi)
  return (
    <div className="w-[540px]">
      <div className="grid grid-cols-5 items-end gap-3">
        <NumberField label="Width" value={sheet.width} {...length} onChange={(width, g) => set({ width }, g)} />
        <NumberField label="Height" value={sheet.height} {...length} onChange={(height, g) => set({ height }, g)} />
        <label className="tag block">
          Unit
          <select className="field text-[15px]" value={sheet.unit} onChange={(e) => set({ unit: e.target.value as Unit }, crypto.randomUUID())}>
            {UNITS.map((u) => (
              <option key={u}>{u}</option>
            ))}
          </select>
        </label>
        <NumberField
          label="ppi"
          value={sheet.ppi}
          step={1}
          show={(v) => String(Number(v.toFixed(2)))}
          read={(t) => (Number(t) > 0 ? Number(t) : null)}
          onChange={(ppi, g) => set({ ppi }, g)}
        />
        <NumberField label="Bleed" value={sheet.bleed ?? 0} {...length} onChange={(bleed, g) => void edit({ edit: 'set_bleed', bleed: Math.max(0, bleed) }, g)} />
      </div>
      <p className="mt-2 text-[13px] text-ink-soft tabular-nums">
        {w.toLocaleString('en')} × {h.toLocaleString('en')} pixels
      </p>
    </div>
  )
}

/** What lies beneath everything: a colour, and a paint on it. */
export function BackgroundPanel() {
  const sheet = useBench((s) => s.bench?.sheet)
  if (!sheet) return null
  const backdrop = sheet.backdrop
  return (
    <div className="w-[560px] space-y-3">
      <ColourField
        label="Background"
        colour={sheet.background}
        onTry={(ground) => bench.set({ ground })}
        onChange={(c, gesture) => void edit({ edit: 'set_background', colour: c }, gesture)}
      />
      <div className="flex items-end gap-5">
        <div className="w-40">
          <PlainField label="Grain of the paper, %" value={sheet.paper ?? 0} factor={100} digits={0} min={0} max={100} slider onChange={(grain, gesture) => void edit({ edit: 'set_paper', grain }, gesture)} />
        </div>
        <PhotoButton className="outlined" label="A photo behind everything" onFile={(file) => void layBehind(file)} />
        <GroundOfPhoto />
      </div>
      <PaintField
        label="Over the background"
        paint={backdrop ?? null}
        start={sheet.background}
        onChange={(paint, gesture) => void edit({ edit: 'set_backdrop', paint }, gesture)}
        onNone={() => void edit({ edit: 'set_backdrop', paint: null })}
      />
    </div>
  )
}

/** The two colours that there is most of in the foremost photo of the sheet, as a gradient. */
function GroundOfPhoto() {
  const photo = useBench((s) => {
    const fills = s.bench?.sheet.pieces.flatMap((p) => p.kind.fills) ?? []
    return fills.flatMap((f) => photoOf(f.paint) ?? []).at(-1)
  })
  const paint = mainGradient(useInkProposals(photo).data ?? [])
  if (!paint) return null
  return (
    <button className="outlined" onClick={() => void edit({ edit: 'set_backdrop', paint })}>
      <span aria-hidden className="h-4 w-4 rounded-full border border-current" style={{ background: cssPaint(paint, []) }} />
      A gradient of its main colours
    </button>
  )
}

/** A line around the sheet. */
export function BorderPanel() {
  const sheet = useBench((s) => s.bench?.sheet)
  if (!sheet) return null
  const border = sheet.border
  const set = (change: Partial<Border>, gesture: string) =>
    void edit(() => {
      const now = bench.get().bench?.sheet.border
      return now ? { edit: 'set_border', border: { ...now, ...change } } : null
    }, gesture)
  return (
    <div className="w-[560px] space-y-3">
      <Tick
        checked={border !== undefined}
        onChange={(on) => void edit({ edit: 'set_border', border: on ? { width: 2, inset: Math.min(sheet.width, sheet.height) * 0.04, paint: { kind: 'colour', colour: '#141b34' } } : null })}
      >
        A line around the sheet
      </Tick>
      {border && (
        <>
          <div className="grid grid-cols-2 gap-4">
            <LengthField label="Width" value={border.width} step={0.25} least={0} slider={{ min: 0, max: 20 }} onChange={(width, g) => set({ width }, g)} />
            <LengthField label="From the edge" value={border.inset} step={0.5} least={0} slider={{ min: 0, max: 40 }} onChange={(inset, g) => set({ inset }, g)} />
          </div>
          <PaintField label="Painted with" paint={border.paint} onChange={(paint, g) => set({ paint }, g)} />
        </>
      )}
    </div>
  )
}
