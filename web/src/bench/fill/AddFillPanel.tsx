import { FileButton } from '../../parts/FileButton'
import type { DrawingCard } from '../../types/DrawingCard'
import type { Fill } from '../../types/Fill'
import type { FillPaint } from '../../types/FillPaint'
import type { Form } from '../../types/Form'
import type { Lettering } from '../../types/Lettering'
import { fillWithDrawing } from './drawings'
import { edit } from '../state/edits'
import { newForm } from '../opening/forms'
import { addPhotoTo, fillWithPiece } from './photos'
import { bench, viewOf, open, useBench } from '../state/store'
import { upload } from './uploads'
import { PhotoButton } from '../recipe/Card'
import { labelOf } from '../state/labels'
import { WordField } from '../lettering/WordField'
import { amendWord, useNewWord } from '../lettering/words'

/** What can be laid over the fills of the selected window. */
export function AddFillPanel() {
  const piece = useBench((s) => s.selected) ?? ''
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
  const word = useNewWord((form, text, font, gesture, refused) => {
    const bounds = viewOf(bench.get(), piece)?.bounds
    if (!bounds || font === '') return null
    const [l, t, r, b] = bounds
    const size = (r - l) / 6
    const shape: Lettering = { text, font, size, tracking: 0, leading: 1.1, align: 'centre' }
    const id = crypto.randomUUID()
    const made: Form = { ...newForm({ kind: 'lettering', ...shape }, (l + r) / 2, (t + b) / 2 + size * 0.35, 'add'), id: form }
    const fill: Fill = { id, paint: { kind: 'form', form: made, paint: { kind: 'colour', colour: '#fbf4e2' } }, follows_opening: true }
    const added = edit({ edit: 'add_fill', piece, fill }, gesture, refused)
    void added.then((done) => {
      if (!done) return
      bench.set({ fill: id, forms: [] })
      void amendWord(piece, form, {}, gesture, true)
    })
    return { piece, form, added }
  }, true)
  const drawing = async (file: File) => {
    const card = await upload<DrawingCard>('drawings', file)
    if (card) await fillWithDrawing(card, piece)
  }
  return (
    <div className="w-[520px]">
      <WordField label="Lettering, seen only inside: type it" text={word.text} onChange={word.type} problem={word.problem} />
      <p className="tag mt-3">Or over what shows through now</p>
      <div className="mt-1.5 grid grid-cols-2 gap-2">
        <PhotoButton className="outlined justify-center" label="A photo over it" onFile={(file) => void addPhotoTo(file, piece)} />
        <button className="outlined justify-center" onClick={() => void add({ kind: 'colour', colour: '#e9722f' }, true)}>
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
