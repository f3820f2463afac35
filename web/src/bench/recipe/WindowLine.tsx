import type { PieceView } from '../../types/PieceView'
import type { Window } from '../../types/Window'
import { enterBreakoutMode } from '../breakout/choice'
import { finishOf } from '../fills'
import { smallPictureOf } from '../pictures'
import { calmViewOf, open, useBench } from '../store'
import { enterSubjectMode } from '../subject/finding'
import { OpeningThumb } from '../Thumb'
import { AddCard, Card, Sign } from './Card'
import { FillCards } from './FillCards'
import { FinishCards } from './FinishCards'
import { FormLine } from './FormLine'

/** A window as a line of a sum: its forms, the opening they give, what fills it, what it lets out, how it is finished. */
export function WindowLine({ window, piece, locked }: { window: Window; piece: string; locked: boolean }) {
  const pieceView = useBench((s) => calmViewOf(s, piece))
  const sheet = useBench((s) => s.bench?.sheet)
  const card = useBench((s) => s.open)
  const photo = window.fills.findLast((f) => f.paint.kind === 'photo')
  const photoId = photo?.paint.kind === 'photo' ? photo.paint.photo : null
  const facts = photoId && sheet ? sheet.photos[photoId] : undefined
  const first = facts?.subjects?.[0]
  const count = facts?.subjects?.length ?? 0
  const view = pieceView?.photos.find((p) => p.fill === photo?.id)
  const drawn = window.fills.some((f) => f.paint.kind === 'drawing' && !f.off)
  return (
    <>
      <FormLine piece={piece} forms={window.opening.forms} list={null} locked={locked} />
      {!locked && (
        <AddCard word="Form" isOpen={card === 'add-form'} title="Add a form to this opening" onClick={() => open('add-form')} />
      )}
      <Sign name="gives the opening">=</Sign>
      <Card label="Opening" caption="one compound outline" isOpen={card === 'opening'} onClick={() => open('opening')}>
        {pieceView && <OpeningThumb pieceView={pieceView} className="h-12 w-[88px]" />}
      </Card>
      <Sign name="filled with">←</Sign>
      <FillCards piece={piece} fills={window.fills} pieceView={pieceView} locked={locked} />
      {drawn && !first && (
        <>
          <Sign name="and lets out">↗</Sign>
          <BreakoutCard piece={piece} pieceView={pieceView} />
        </>
      )}
      {photo && view && photoId && (
        <>
          <Sign name="and lets out">↗</Sign>
          {first ? (
            <>
              <Card label="Subject" caption={count > 1 ? `${count} found` : 'found'} onClick={() => enterSubjectMode(piece)}>
                <img
                  src={smallPictureOf(view, first.matte)}
                  alt=""
                  className="max-h-12 max-w-[84px]"
                  draggable={false}
                />
              </Card>
              <BreakoutCard piece={piece} pieceView={pieceView} />
            </>
          ) : (
            <button className="strong h-11 shrink-0 px-4" disabled={locked} onClick={() => enterSubjectMode(piece)}>
              Find the subject
            </button>
          )}
        </>
      )}
      <span className="mx-1 h-14 w-px shrink-0 bg-edge" />
      <FinishCards finish={finishOf(window)} />
      <span className="grow" />
      {sheet && locked && <p className="text-[13px] text-ink-soft">Locked. Unlock it in the stack to change it.</p>}
    </>
  )
}

/** What of the subject, or of a drawing, passes over the edge. */
function BreakoutCard({ piece, pieceView }: { piece: string; pieceView: PieceView | undefined }) {
  const out = pieceView?.overhangs.filter((o) => o.let_out_by.length > 0).length ?? 0
  return (
    <Card
      label="Breakout"
      caption={pieceView && pieceView.overhangs.length > 0 ? `${out} of ${pieceView.overhangs.length} out` : 'nothing reaches over'}
      onClick={() => enterBreakoutMode(piece)}
    >
      <svg viewBox="0 0 48 48" className="h-12 w-12" aria-hidden>
        <path d="M6 46V24a18 18 0 0 1 36 0v22Z" fill="var(--color-ink)" />
        <path d="M25 2c8 6 9 13 5 20s-1 11 4 15c-9 1-17-2-17-12 0-8 6-11 8-23Z" fill={out > 0 ? 'var(--color-rose)' : 'none'} stroke="var(--color-rose)" strokeWidth="2" />
      </svg>
    </Card>
  )
}
