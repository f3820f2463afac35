import type { Fill } from '../../types/Fill'
import type { PieceView } from '../../types/PieceView'
import { repeatedAround } from '../bundle/bundles'
import { drawingOf, openFill, photoOf, shownPiece } from './fills'
import { cssPaint, nameOfPaint, useInks } from './inks'
import { bringIn } from './photos'
import { labelOf } from '../state/labels'
import { calmViewOf, open, useBench } from '../state/store'
import { smallPictureOf } from '../canvas/pictures'
import { Thumb } from '../canvas/Thumb'
import { AddCard, Card, PhotoButton } from '../recipe/Card'

/** The fills of a window from back to front, and what adds to them. */
export function FillCards({ piece, fills, pieceView, locked }: { piece: string; fills: Fill[]; pieceView: PieceView | undefined; locked: boolean }) {
  const card = useBench((s) => s.open)
  const chosen = useBench((s) => s.fill)
  const shows = (fill: Fill) => card === 'fill' && (fills.some((f) => f.id === chosen) ? fill.id === chosen : fill === fills.at(-1))
  const photo = fills.some((f) => f.paint.kind === 'photo')
  const isRepeated = useBench((s) => repeatedAround(s.bench?.sheet, piece) !== null)
  // what is for members of a bundle that is shown once is seen nowhere
  const seen = isRepeated ? fills : fills.filter((f) => f.bundle_member === undefined)
  return (
    <>
      {seen.map((fill) => (
        <FillCard key={fill.id} fill={fill} pieceView={pieceView} isOpen={shows(fill)} />
      ))}
      {!locked && !photo && <PhotoButton className="outlined h-11 shrink-0" label="Photo into it" onFile={(file) => void bringIn(file, piece)} />}
      {!locked && (
        <AddCard word="Fill" isOpen={card === 'add-fill'} title="Lay something over what shows through" onClick={() => open('add-fill')} />
      )}
    </>
  )
}

function FillCard({ fill, pieceView, isOpen }: { fill: Fill; pieceView: PieceView | undefined; isOpen: boolean }) {
  const sheet = useBench((s) => s.bench?.sheet)
  const inks = useInks()
  const paint = fill.paint
  const shown = sheet?.pieces.find((p) => p.id === shownPiece(paint))
  const other = useBench((s) => calmViewOf(s, shownPiece(paint) ?? null))
  const view = pieceView?.photos.find((p) => p.fill === fill.id)
  const [ofPhoto, ofDrawing] = [photoOf(paint), drawingOf(paint)]
  const name = (ofPhoto !== undefined ? sheet?.photos[ofPhoto]?.name : ofDrawing !== undefined ? sheet?.drawings?.[ofDrawing] : undefined) ?? ''
  const drawn = ofDrawing !== undefined ? `/api/drawings/${ofDrawing}/parts/0` : undefined
  // one that a single member or pane shows says so
  const member = fill.member ?? fill.bundle_member
  const own = member !== undefined ? ` ${member + 1}` : fill.pane ? ', one pane' : ''
  const [label, caption] =
    paint.kind === 'photo'
      ? ['Photo', name]
      : paint.kind === 'tile'
        ? ['Tile', shown && sheet ? labelOf(shown, sheet) : name]
        : paint.kind === 'drawing'
          ? ['Drawing', name]
        : paint.kind === 'form'
          ? [paint.form.shape.kind === 'drawing' ? 'Drawing' : 'Lettering', paint.form.shape.kind === 'lettering' ? paint.form.shape.text : 'inside']
          : paint.kind === 'window'
            ? ['Window', shown && sheet ? labelOf(shown, sheet) : 'gone']
            : [paint.kind === 'gradient' ? 'Gradient' : 'Ink', nameOfPaint(paint, sheet)]
  return (
    <Card label={label + own} caption={fill.off ? `${caption}, switched off` : caption} isOpen={isOpen} onClick={() => openFill(fill.id)}>
      <span className={fill.off ? 'opacity-30' : ''}>
        {paint.kind === 'photo' ? (
          view && <img src={smallPictureOf(view)} alt="" className="max-h-12 max-w-[84px] rounded-[3px]" draggable={false} />
        ) : paint.kind === 'tile' ? (
          other ? (
            <span className="grid grid-cols-3 gap-0.5">
              {Array.from({ length: 6 }, (_, k) => (
                <Thumb key={k} pieceView={other} className="h-5 w-6" />
              ))}
            </span>
          ) : <TilePicture href={view ? smallPictureOf(view) : drawn} whole={drawn !== undefined} />
        ) : paint.kind === 'drawing' ? (
          <img src={drawn} alt="" className="h-12 w-[84px] rounded-[3px] bg-leaf object-contain p-0.5" draggable={false} />
        ) : paint.kind === 'form' ? (
          <span className="grid h-11 w-14 place-items-center overflow-hidden rounded-[3px] bg-ink font-serif text-[22px] italic" style={{ color: paint.paint.kind === 'colour' ? paint.paint.colour : '#fbf4e2' }}>
            {paint.form.shape.kind === 'lettering' ? 'Aa' : '✶'}
          </span>
        ) : paint.kind === 'window' ? (
          other && <Thumb pieceView={other} className="h-12 w-[84px]" />
        ) : (
          <span className="block h-11 w-11 rounded-full border border-ink/15" style={{ background: cssPaint(paint, inks) }} />
        )}
      </span>
    </Card>
  )
}

function TilePicture({ href, whole }: { href: string | undefined; whole: boolean }) {
  return (
    <span className="grid grid-cols-3 gap-0.5">
      {Array.from({ length: 6 }, (_, k) => (
        <img key={k} src={href} alt="" className={`h-5 w-5 rounded-[2px] ${whole ? 'bg-leaf object-contain' : 'object-cover'}`} draggable={false} />
      ))}
    </span>
  )
}
