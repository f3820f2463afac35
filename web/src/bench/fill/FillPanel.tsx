import type { ReactNode } from 'react'
import type { Fill } from '../../types/Fill'
import { BlendField } from './BlendField'
import { edit } from '../state/edits'
import { amendFill, chosenFill, isPhoto } from './fills'
import { pieceOf, useBench } from '../state/store'
import { formTabs } from './FillForm'
import { PlainField, Tick } from '../recipe/fields'
import { PaintField } from './PaintField'
import { Tabs } from '../recipe/Tabs'
import { PartsPanel } from './PartsPanel'
import { PlacementPanel } from './PlacementPanel'
import { TilePanel } from './TilePanel'
import { TonePanel } from './TonePanel'

/** Blend modes as the W3C text names them, in its groups. */
/** One fill of the selected window: what it is made of, and how it lies on the others. */
export function FillPanel() {
  const piece = useBench((s) => s.selected) ?? ''
  const fill = useBench(chosenFill)
  if (!fill) return null
  const paint = fill.paint
  const laying: [string, ReactNode] = ['Strength and blend', <Layering piece={piece} fill={fill} />]
  const tabs: [string, ReactNode][] =
    paint.kind === 'photo' || paint.kind === 'tile' || paint.kind === 'drawing'
      ? [
          ...(paint.kind === 'drawing' ? [['Parts', <PartsPanel key={paint.drawing} piece={piece} fill={fill} paint={paint} />] as [string, ReactNode]] : []),
          ['Placement', <PlacementPanel piece={piece} fill={fill} paint={paint} />],
          ...(isPhoto(paint) ? [['Tone', <TonePanel piece={piece} fill={fill} paint={paint} />] as [string, ReactNode]] : []),
          ['Repeat', <TilePanel piece={piece} fill={fill} paint={paint} />],
          laying,
        ]
      : paint.kind === 'form'
        ? [...formTabs(piece, fill, paint.form, paint.paint), laying]
        : paint.kind === 'window'
          ? [['Repeat', <TilePanel piece={piece} fill={fill} paint={paint} />], laying]
          : [
            ['Paint', <PaintField label="Painted with" paint={paint} onChange={(next, g) => void amendFill(piece, fill.id, (f) => ({ ...f, paint: next }), g)} />],
            laying,
          ]
  return (
    <div className={paint.kind === 'drawing' ? 'w-[650px]' : paint.kind === 'form' ? 'min-w-[600px]' : paint.kind === 'photo' ? 'w-[690px]' : 'w-[600px]'}>
      <Tabs key={fill.id} tabs={tabs} />
    </div>
  )
}

/** How a fill lies on those beneath it. */
function Layering({ piece, fill }: { piece: string; fill: Fill }) {
  const kind = useBench((s) => pieceOf(s, piece)?.kind)
  const fills = kind?.kind === 'window' ? kind.fills : []
  const at = fills.findIndex((f) => f.id === fill.id)
  const set = (change: Partial<Fill>, gesture: string) => void amendFill(piece, fill.id, (f) => ({ ...f, ...change }), gesture)
  const order = (to: number) => void edit({ edit: 'order_fill', piece, fill: fill.id, to })
  return (
    <div>
      <div className="flex items-end gap-4">
        <div className="w-36">
          <PlainField label="Strength, %" value={fill.strength ?? 1} factor={100} digits={0} min={0} max={100} slider onChange={(strength, g) => set({ strength }, g)} />
        </div>
        <BlendField value={fill.blend ?? 'normal'} onChange={(blend) => set({ blend }, crypto.randomUUID())} />
        <div className="pb-1.5">
          <Tick checked={fill.follows_opening ?? false} onChange={(follows_opening) => set({ follows_opening }, crypto.randomUUID())}>
            Rides with the opening
          </Tick>
        </div>
      </div>
      <div className="mt-2 flex flex-wrap gap-1">
        <button className="plain" disabled={at <= 0} onClick={() => order(at - 1)}>
          Further back
        </button>
        <button className="plain" disabled={at < 0 || at >= fills.length - 1} onClick={() => order(at + 1)}>
          Further front
        </button>
        <button className="plain" onClick={() => set({ off: !fill.off }, crypto.randomUUID())}>
          {fill.off ? 'Switch on' : 'Switch off'}
        </button>
        <button className="plain" onClick={() => void edit({ edit: 'remove_fill', piece, fill: fill.id })}>
          Take it out
        </button>
      </div>
    </div>
  )
}
