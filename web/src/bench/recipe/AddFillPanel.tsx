import { FileButton } from '../../parts/FileButton'
import type { DrawingCard } from '../../types/DrawingCard'
import type { FillPaint } from '../../types/FillPaint'
import type { Form } from '../../types/Form'
import { fillWithDrawing } from '../drawings'
import { edit } from '../edits'
import { addPhotoTo, fillWithPiece } from '../photos'
import { bench, viewOf, open, useBench } from '../store'
import { upload } from '../uploads'
import { PhotoButton } from './Card'
import { labelOf } from '../labels'
import { useFonts } from './fonts'

/** What can be laid over the fills of the selected window. */
export function AddFillPanel() {
  const piece = useBench((s) => s.selected) ?? ''
  const fonts = useFonts()
  const sheet = useBench((s) => s.bench?.sheet)
  const others = sheet?.pieces.filter((p) => p.id !== piece) ?? []
  const add = async (paint: FillPaint, follows_opening: boolean) => {
    const id = crypto.randomUUID()
    if (await edit({ edit: 'add_fill', piece, fill: { id, paint, follows_opening } })) bench.set({ fill: id, open: 'fill' })
  }
  const photos = others.flatMap((p) =>
    p.kind.fills.filter((f) => f.paint.kind === 'photo').map((f) => [f.id, sheet ? labelOf(p, sheet) : ''] as const),
  )
  const share = async (of: string) => {
    const fill = crypto.randomUUID()
    if (await edit({ edit: 'share_fill', piece, fill, of })) bench.set({ fill, open: 'fill' })
  }
  const lettering = () => {
    const bounds = viewOf(bench.get(), piece)?.bounds
    const font = fonts[0]?.id
    if (!bounds || font === undefined) return
    const [l, t, r, b] = bounds
    const size = (r - l) / 6
    const form: Form = {
      id: crypto.randomUUID(),
      join: 'add',
      off: false,
      pose: { x: (l + r) / 2, y: (t + b) / 2 + size * 0.35, turn: 0, slant: 0, wide: 1, tall: 1 },
      shape: {
        kind: 'lettering',
        text: 'Inside',
        font,
        size,
        tracking: 0,
        leading: 1.1,
        align: 'centre',
      },
    }
    void add({ kind: 'form', form, paint: { kind: 'colour', colour: '#fbf4e2' } }, true)
  }
  const drawing = async (file: File) => {
    const card = await upload<DrawingCard>('drawings', file)
    if (card) await fillWithDrawing(card, piece)
  }
  return (
    <div className="w-[520px]">
      <p className="tag">Over what shows through now</p>
      <div className="mt-1.5 grid grid-cols-2 gap-2">
        <PhotoButton className="outlined justify-center" label="A photo over it" onFile={(file) => void addPhotoTo(file, piece)} />
        <button className="outlined justify-center" data-first onClick={() => void add({ kind: 'colour', colour: '#e9722f' }, true)}>
          A colour
        </button>
        <button
          className="outlined justify-center"
          onClick={() =>
            void add(
              {
                kind: 'gradient',
                gradient: {
                  kind: 'linear',
                  stops: [
                    { at: 0, tint: { colour: '#141b34' }, opacity: 0 },
                    { at: 1, tint: { colour: '#141b34' }, opacity: 0.9 },
                  ],
                },
              },
              true,
            )
          }
        >
          A gradient that darkens below
        </button>
        <button className="outlined justify-center" disabled={fonts.length === 0} onClick={lettering}>
          Lettering, seen only inside
        </button>
        <FileButton label="A drawing in its colours" chooser="Drawing inside: file" accept=".svg,image/svg+xml" className="outlined justify-center" onFile={(file) => void drawing(file)} />
        {others.length > 0 && (
          <select
            className="field text-[15px]"
            aria-label="Another window, seen only inside"
            value=""
            onChange={(e) => e.target.value && void fillWithPiece(piece, e.target.value)}
          >
            <option value="">Another piece of the sheet …</option>
            {others.map((p) => (
              <option key={p.id} value={p.id}>
                {sheet ? labelOf(p, sheet) : ''}
              </option>
            ))}
          </select>
        )}
        {photos.length > 0 && (
          <select className="field text-[15px]" aria-label="Share another window's photo" value="" onChange={(e) => e.target.value && void share(e.target.value)}>
            <option value="">Share another window's photo …</option>
            {photos.map(([of, name]) => (
              <option key={of} value={of}>
                {name}
              </option>
            ))}
          </select>
        )}
        <button className="outlined justify-center" onClick={() => open('stock')}>
          From the stock drawer
        </button>
      </div>
      <p className="mt-2.5 text-[13px] leading-snug text-ink-soft">Fills lie on one another in the order of their cards. Each has a strength and a blend mode of its own.</p>
    </div>
  )
}
