import type { PieceView } from '../../types/PieceView'
import type { Window } from '../../types/Window'
import { say } from '../../parts/notices'
import { enterBreakoutMode, isOut, moved } from '../breakout/choice'
import { AROUND, PlaceButtons, type PlaceGroup } from '../breakout/PlaceButtons'
import { ArrangeCard } from '../arrange/ArrangeCard'
import { edit } from '../state/edits'
import { Radios, WORDS } from '../../parts/Radios'
import { finishOf } from '../fill/fills'
import { change } from '../opening/forms'
import { freePhoto } from '../fill/photos'
import { smallPictureOf } from '../canvas/pictures'
import { bench, calmViewOf, open, pieceOf, useBench, viewOf } from '../state/store'
import { enterSubjectMode } from '../subject/finding'
import { takeProposal, useProposals } from '../subject/proposals'
import { OpeningThumb } from '../canvas/Thumb'
import { showAlone } from '../fill/alone'
import { AddCard, Card, Sign } from './Card'
import { FillCards } from '../fill/FillCards'
import { FinishCards } from '../finish/FinishCards'
import { FormLine } from '../opening/FormLine'
import { PanesCard } from '../panes/PanesCard'
import { MembersCard } from '../repeat/MembersCard'

type Shown = 'whole' | 'alone'

const SHOWN: { value: Shown; face: string; title: string }[] = [
  { value: 'whole', face: 'Whole', title: 'The whole photo is seen' },
  { value: 'alone', face: 'Subject', title: 'The subject alone is seen, without its ground' },
]

const QUIET = 'plain justify-center px-1 py-0.5 text-center text-[12px] leading-tight whitespace-normal'

async function bake(piece: string) {
  if (await change(piece, { change: 'bake_all', form: crypto.randomUUID() })) bench.set({ forms: [], open: null })
}

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
  const proposal = useProposals((p) => (photoId === null ? undefined : p.found[photoId]))
  const matte = first?.matte ?? proposal ?? undefined
  const view = pieceView?.photos.find((p) => p.fill === photo?.id)
  const masked = window.opening.forms.some((f) => !f.off)
  const drawn = masked && window.fills.some((f) => f.paint.kind === 'drawing' && !f.off)
  return (
    <>
      <FormLine piece={piece} forms={window.opening.forms} list={null} locked={locked} />
      {!masked && <p className="w-[104px] shrink-0 text-center font-serif text-[15px] leading-tight text-ink-soft italic">whole: nothing masks it</p>}
      {!locked && (
        <AddCard
          word="Form"
          isOpen={card === 'add-form'}
          title={masked ? 'Add a form to this opening' : 'Show it through a form'}
          onClick={() => open('add-form')}
        />
      )}
      {masked && (
        <>
          <Sign name="gives the opening">=</Sign>
          <Card label="Opening" caption="one compound outline" isOpen={card === 'opening'} onClick={() => open('opening')}>
            {pieceView && <OpeningThumb pieceView={pieceView} className="h-12 w-[72px]" />}
          </Card>
          {!locked && (
            <div className="-ml-2 flex w-[58px] shrink-0 flex-col gap-1">
              {photo && (
                <button className={QUIET} title="Takes the mask off: the photo lies on the sheet whole, where it is" onClick={() => void freePhoto(piece)}>
                  Free the photo
                </button>
              )}
              {(window.opening.forms.length > 1 || window.opening.forms[0]?.shape.kind !== 'contour') && (
                <button className={QUIET} aria-label="Bake the opening" title="One contour of nodes in place of all forms; undo brings them back" onClick={() => void bake(piece)}>
                  Bake
                </button>
              )}
            </div>
          )}
        </>
      )}
      <Sign name="filled with">←</Sign>
      <FillCards piece={piece} fills={window.fills} pieceView={pieceView} locked={locked} />
      {photo?.paint.kind === 'photo' && photoId && matte && (
        <Radios<Shown>
          label="The photo shows"
          className="flex shrink-0 flex-col gap-1"
          optionClass={`disabled:opacity-40 ${WORDS}`}
          options={SHOWN}
          value={photo.paint.alone ? 'alone' : 'whole'}
          onChange={(shown) => void showAlone(piece, photo.id, photoId, shown === 'alone')}
        />
      )}
      {drawn && !first && (
        <>
          <Sign name="and lets out">↗</Sign>
          <BreakoutCard piece={piece} photo={null} pieceView={pieceView} />
        </>
      )}
      {photo && view && photoId && (
        <>
          <Sign name="and lets out">↗</Sign>
          {matte ? (
            <>
              <Card label="Subject" caption={first ? (count > 1 ? `${count} found` : 'found') : 'found by itself; look at it'} onClick={() => enterSubjectMode(piece)}>
                <img src={smallPictureOf(view, matte)} alt="" className="max-h-12 max-w-[84px]" draggable={false} />
              </Card>
              {masked && <BreakoutCard piece={piece} photo={photoId} pieceView={pieceView} />}
            </>
          ) : (
            <div className="shrink-0">
              <button className="strong h-11 px-4" disabled={locked} onClick={() => enterSubjectMode(piece)}>
                Find the subject
              </button>
              {proposal === null && (
                <p role="status" className="mt-1 text-center text-[12px] text-ink-soft">
                  It is looked for …
                </p>
              )}
            </div>
          )}
        </>
      )}
      <span className="mx-1 h-14 w-px shrink-0 bg-edge" />
      <ArrangeCard />
      <FinishCards piece={piece} finish={finishOf(window)} locked={locked} />
      <PanesCard />
      <MembersCard />
      <span className="grow" />
      {sheet && locked && <p className="text-[13px] text-ink-soft">Locked. Unlock it in the stack to change it.</p>}
    </>
  )
}

const QUICK: readonly PlaceGroup[] = [['above', ['above']], ['below', ['below']], AROUND]

/** What of the subject, or of a drawing, passes over the edge; all of it above, below or around by one press. */
function BreakoutCard({ piece, photo, pieceView }: { piece: string; photo: string | null; pieceView: PieceView | undefined }) {
  const overhangs = pieceView?.overhangs ?? []
  const known = useBench((s) => photo === null || s.bench?.sheet.photos[photo]?.subjects !== undefined)
  const locked = useBench((s) => pieceOf(s, piece)?.locked ?? false)
  const out = overhangs.filter(isOut).length
  const enter = async () => {
    if (photo === null || (await takeProposal(photo))) enterBreakoutMode(piece)
  }
  return (
    <>
      <Card label="Breakout" caption={!known ? 'to be chosen' : overhangs.length > 0 ? `${out} of ${overhangs.length} out` : 'nothing reaches over'} onClick={() => void enter()}>
        <svg viewBox="0 0 48 48" className="h-12 w-12" aria-hidden>
          <path d="M6 46V24a18 18 0 0 1 36 0v22Z" fill="var(--color-ink)" />
          <path d="M25 2c8 6 9 13 5 20s-1 11 4 15c-9 1-17-2-17-12 0-8 6-11 8-23Z" fill={out > 0 ? 'var(--color-rose)' : 'none'} stroke="var(--color-rose)" strokeWidth="2" />
        </svg>
      </Card>
      {!locked && (
        <div className="flex shrink-0 flex-col gap-1" role="group" aria-label="Let out all that lies">
          <PlaceButtons
            groups={QUICK}
            overhangs={overhangs}
            known={known}
            title={(name, out) => (out ? `All that lies ${name} is out: keep it in` : `Let out all that lies ${name} the opening`)}
            onPress={(places, out) => void letOut(piece, photo, places, out)}
          />
        </div>
      )}
    </>
  )
}

/** Lets out (or keeps in) all that lies in some places; the subject that was found by itself is taken for it. One step to be undone. */
async function letOut(piece: string, photo: string | null, places: readonly string[], out: boolean) {
  const gesture = crypto.randomUUID()
  if (photo !== null && !(await takeProposal(photo, gesture))) return
  const there = viewOf(bench.get(), piece)?.overhangs.filter((o) => places.includes(o.place)) ?? []
  if (there.length === 0) say('Nothing of the subject reaches over the edge there. Move or scale the photo until it does.')
  const made = there.flatMap((o) => moved(piece, o, out))
  if (made.length > 0) await edit(made, gesture)
}
