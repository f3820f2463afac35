import { FileButton } from '../../parts/FileButton'
import { NameField } from '../../parts/NameField'
import type { Repeat } from '../../types/Repeat'
import { freeBundleMember } from '../bundle/freeMember'
import { repeatedAround } from '../bundle/bundles'
import { OwnColour, type PartOfWindow } from '../fill/OwnColour'
import { IDENTITY } from '../geometry/matrix'
import { windowOf } from '../opening/forms'
import { Tick } from '../recipe/fields'
import { edit } from '../state/edits'
import { labelOf } from '../state/labels'
import { bench, pieceOf, select, useBench, type BenchState } from '../state/store'
import { dealPhotos } from './photos'
import { amendRepeat, countOf, lookOf, withLook } from './repeats'

const IMAGES = 'image/png,image/jpeg,image/webp,image/tiff'

/** The next drag on the sheet draws the line. */
function DrawButton() {
  const drawing = useBench((s) => s.along.drawing)
  return (
    <button className={`${drawing ? 'strong' : 'plain border-[1.5px] border-ink'} px-2.5 text-[14px] whitespace-nowrap`} aria-pressed={drawing} title="Drag over the sheet, by mouse or pen" onClick={() => bench.set({ along: { drawing: !drawing, drawn: null } })}>
      Draw the line
    </button>
  )
}

/** The window of a repeated bundle that members are given something in: the one that was chosen last, else the frontmost one. */
function windowIn(s: BenchState, bundle: string): string | null {
  const inside = s.bench?.sheet.pieces.filter((p) => repeatedAround(s.bench?.sheet, p.id) === bundle).map((p) => p.id) ?? []
  return inside.find((p) => p === s.memberPiece) ?? inside.at(-1) ?? null
}

/** Which member is worked on, and what it has for itself. `unit` is a window or a bundle. */
export function MemberFields({ unit, isBundle, repeat, onBehind }: { unit: string; isBundle: boolean; repeat: Repeat; onBehind: (behind: boolean) => void }) {
  const at = useBench((s) => s.member)
  const piece = useBench((s) => (isBundle ? windowIn(s, unit) : unit))
  const count = countOf(repeat.layout)
  const chosen = at !== null && at < count ? at : null
  const look = chosen === null ? undefined : lookOf(repeat, chosen)
  const bundle = isBundle ? unit : null
  const takesPhotos = piece !== null && !repeat.behind
  const set = (change: Parameters<typeof withLook>[2]) => chosen !== null && void amendRepeat(unit, (now) => now && withLook(now, chosen, change), crypto.randomUUID())
  const setFree = async () => {
    const copy = crypto.randomUUID()
    if (chosen !== null && isBundle) await freeBundleMember(unit, chosen)
    else if (chosen !== null && (await edit({ edit: 'set_free', piece: unit, member: chosen, copy }))) select(copy)
  }
  return (
    <div className="mt-3 border-t border-edge pt-2">
      <div className="flex items-center gap-4">
        {repeat.layout.kind === 'line' && <DrawButton />}
        <div className="flex max-h-[60px] grow flex-wrap gap-1 overflow-y-auto" role="group" aria-label="Members">
          {Array.from({ length: count }, (_, k) => (
            <button
              key={k}
              aria-pressed={chosen === k}
              aria-label={`Member ${k + 1}`}
              className={`min-w-8 rounded-md border-[1.5px] px-2 py-0.5 text-[13.5px] ${chosen === k ? 'border-rose bg-rose text-leaf' : 'border-edge bg-leaf hover:border-ink'} ${lookOf(repeat, k)?.hidden ? 'line-through opacity-60' : ''}`}
              onClick={() => bench.set({ member: chosen === k ? null : k })}
            >
              {k + 1}
            </button>
          ))}
        </div>
        <Tick checked={repeat.behind ?? false} onChange={onBehind}>
          One photo behind all
        </Tick>
        {isBundle && piece !== null && <WindowChoice bundle={unit} piece={piece} />}
        {takesPhotos && (
          <FileButton
            label="Deal photos out…"
            chooser="Photos for the members: files"
            accept={IMAGES}
            className="plain border-[1.5px] border-edge"
            title="One photo for each member, in their order; or drop them on the window"
            onFile={() => undefined}
            onFiles={(files) => void dealPhotos(files, piece, chosen ?? 0, bundle)}
          />
        )}
      </div>
      {/* as high with a member as without one: the sheet stays where it is when a member is pressed */}
      <div className="min-h-[60px]">
        {chosen === null && (
          <p className="mt-3 text-[13px] text-ink-soft">
            Press a member, here or on the sheet, to drag it away or to give {isBundle ? 'one of its windows' : 'it'} a word, a photo or a colour of its own. Photos dropped on the window are dealt out.
          </p>
        )}
        {chosen !== null && (
          <div className="mt-2 flex items-end gap-3">
            {piece !== null && <WordOf key={`${piece} ${chosen}`} piece={piece} member={chosen} isBundle={isBundle} repeat={repeat} onWord={(word) => set({ word })} />}
            <span className="pb-1.5">
              <Tick checked={look?.hidden ?? false} onChange={(hidden) => set({ hidden })}>
                Hidden
              </Tick>
            </span>
            {piece !== null && (takesPhotos || isBundle) && <OwnFills piece={piece} member={chosen} bundle={bundle} takesPhotos={takesPhotos} />}
            <button className="plain border-[1.5px] border-edge disabled:opacity-40" disabled={!look?.by} onClick={() => set({ by: IDENTITY })}>
              Back in its place
            </button>
            <button className="plain border-[1.5px] border-edge" title="It stands for itself from now on; its place stays empty" onClick={() => void setFree()}>
              Set it free
            </button>
          </div>
        )}
      </div>
    </div>
  )
}

/** Which window of a repeated bundle members are given something in. */
function WindowChoice({ bundle, piece }: { bundle: string; piece: string }) {
  const sheet = useBench((s) => s.bench?.sheet)
  const inside = sheet?.pieces.filter((p) => repeatedAround(sheet, p.id) === bundle).reverse() ?? []
  if (!sheet || inside.length < 2) return null
  return (
    <label className="tag flex items-center gap-1.5 whitespace-nowrap">
      Given in
      <select className="field w-[130px] text-[14px]" value={piece} onChange={(e) => bench.set({ memberPiece: e.target.value })}>
        {inside.map((p) => (
          <option key={p.id} value={p.id}>
            {labelOf(p, sheet)}
          </option>
        ))}
      </select>
    </label>
  )
}

/** The word of a member, where the window has a lettering. */
function WordOf({ piece, member, isBundle, repeat, onWord }: { piece: string; member: number; isBundle: boolean; repeat: Repeat; onWord: (word: string | undefined) => void }) {
  const common = useBench((s) => windowOf(s, piece)?.opening.forms.flatMap((f) => (f.shape.kind === 'lettering' ? [f.shape.text] : []))[0])
  const inBundle = useBench((s) => pieceOf(s, piece)?.kind.bundle_words?.find((own) => own.member === member)?.word)
  if (common === undefined) return null
  const own = isBundle ? inBundle : lookOf(repeat, member)?.word
  const take = (to: string) => {
    const word = to === '' || to === common ? undefined : to
    if (isBundle) void edit({ edit: 'set_bundle_word', piece, member, word: word ?? null })
    else onWord(word)
  }
  return <NameField label="Its word" className="w-[150px]" free name={own ?? common} onChange={take} />
}

/** A photo or a colour for one member. */
function OwnFills({ piece, member, bundle, takesPhotos }: { piece: string; member: number; bundle: string | null; takesPhotos: boolean }) {
  const part: PartOfWindow = bundle === null ? { member } : { bundle_member: member }
  const hasPhoto = useBench((s) => windowOf(s, piece)?.fills.some((f) => f.paint.kind === 'photo' && (bundle === null ? f.member : f.bundle_member) === member) ?? false)
  return (
    <>
      {takesPhotos && <FileButton label={hasPhoto ? 'Another photo…' : 'A photo of its own…'} chooser="A photo for this member: file" accept={IMAGES} className="plain border-[1.5px] border-edge" onFile={(file) => void dealPhotos([file], piece, member, bundle)} />}
      <OwnColour piece={piece} part={part} />
    </>
  )
}
