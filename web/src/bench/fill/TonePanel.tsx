import type { Fill } from '../../types/Fill'
import type { Print } from '../../types/Print'
import type { Tone } from '../../types/Tone'
import { amendFill, type PhotoPaint } from './fills'
import { useInks } from './inks'
import { TintField } from './ColourField'
import { ChoiceField, PlainField } from '../recipe/fields'

const PLAIN: Tone = { brightness: 0, contrast: 0, saturation: 0, warmth: 0 }

const PRINTS: readonly (readonly [Print['inks'] | 'all', string])[] = [
  ['all', 'In its colours'],
  ['one', 'In one ink'],
  ['two', 'In two inks'],
]

/** The colours of a photo, and the inks that it is printed with. */
export function TonePanel({ piece, fill, paint }: { piece: string; fill: Fill; paint: PhotoPaint }) {
  const inks = useInks()
  const tone = paint.tone ?? PLAIN
  const set = (change: Partial<Tone>, gesture: string) =>
    void amendFill(piece, fill.id, (f) => (f.paint.kind === 'photo' || f.paint.kind === 'tile' ? { ...f, paint: { ...f.paint, tone: { ...(f.paint.tone ?? PLAIN), ...change } } } : f), gesture)
  const clear = (gesture: string, keep: Tone) =>
    void amendFill(piece, fill.id, (f) => (f.paint.kind === 'photo' || f.paint.kind === 'tile' ? { ...f, paint: { ...f.paint, tone: keep } } : f), gesture)
  const dark = tone.print?.dark ?? (inks[0] ? { ink: inks[0].id } : { colour: '#141b34' })
  const light = tone.print?.inks === 'two' ? tone.print.light : inks[1] ? { ink: inks[1].id } : { colour: '#f3c84b' }
  const print = (kind: Print['inks'] | 'all') => {
    const gesture = crypto.randomUUID()
    const { print: _, ...rest } = tone
    if (kind === 'all') clear(gesture, rest)
    else set({ print: kind === 'one' ? { inks: 'one', dark } : { inks: 'two', dark, light } }, gesture)
  }
  const slider = (label: string, key: 'brightness' | 'contrast' | 'saturation' | 'warmth') => (
    <PlainField label={`${label}, %`} value={tone[key]} factor={100} digits={0} min={-100} max={100} slider onChange={(v, g) => set({ [key]: v }, g)} />
  )
  return (
    <div className="space-y-3">
      <div className="grid grid-cols-4 gap-4">
        {slider('Brightness', 'brightness')}
        {slider('Contrast', 'contrast')}
        {slider('Saturation', 'saturation')}
        {slider('Warmth', 'warmth')}
      </div>
      <div className="flex items-end justify-between">
        <ChoiceField label="Printed" options={PRINTS} value={tone.print?.inks ?? 'all'} onChange={print} />
        <button className="plain" disabled={paint.tone === undefined} onClick={() => clear(crypto.randomUUID(), PLAIN)}>
          As the photo is
        </button>
      </div>
      {tone.print && (
        <div className="grid grid-cols-2 gap-6">
          <TintField label="Darks" tint={tone.print.dark} onChange={(next, g) => tone.print && set({ print: { ...tone.print, dark: next } }, g)} />
          {tone.print.inks === 'two' && (
            <TintField label="Lights" tint={tone.print.light} onChange={(next, g) => tone.print?.inks === 'two' && set({ print: { ...tone.print, light: next } }, g)} />
          )}
        </div>
      )}
    </div>
  )
}
