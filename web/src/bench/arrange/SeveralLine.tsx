import { useShallow } from 'zustand/react/shallow'
import { bundleLabel, chosenBundle, unitsOf } from '../bundle/bundles'
import { BundleCard } from '../bundle/BundleCard'
import { bundleChosen, stepIn } from '../bundle/bundling'
import { dissolveChosen } from '../bundle/dissolving'
import { chosen, kindOf, selectEverything, selectKind } from '../state/selection'
import { select, useBench, viewOf } from '../state/store'
import { Thumb } from '../canvas/Thumb'
import { PanesCard } from '../panes/PanesCard'
import { MembersCard } from '../repeat/MembersCard'
import { ArrangeCard } from './ArrangeCard'

/** So many of the selected pieces are shown. */
const SHOWN = 6

const KINDS = { picture: ['picture', 'pictures'], word: ['word', 'words'], shape: ['shape', 'shapes'] } as const

/** Several selected pieces: which, and what can be done to all of them. */
export function SeveralLine() {
  const pieces = useBench(useShallow(chosen))
  const views = useBench(useShallow((s) => pieces.slice(-SHOWN).flatMap((p) => viewOf(s, p) ?? [])))
  const kinds = useBench(useShallow((s) => pieces.map((p) => kindOf(s, p))))
  const name = useBench((s) => {
    const bundle = chosenBundle(s)
    return bundle === null ? null : bundleLabel(s.bench?.sheet, bundle)
  })
  const hasBundle = useBench((s) => unitsOf(s.bench?.sheet, pieces, s.inside).bundles.length > 0)
  const ground = useBench((s) => s.bench?.sheet.background)
  const counted = (['word', 'shape', 'picture'] as const).flatMap((kind) => {
    const n = kinds.filter((k) => k === kind).length
    return n > 0 ? [`${n} ${KINDS[kind][n === 1 ? 0 : 1]}`] : []
  })
  return (
    <>
      <div className="shrink-0 pr-2">
        <p className="max-w-[180px] truncate font-serif text-[19px] leading-tight">{name ?? `${pieces.length} pieces`}</p>
        <p className="text-[13px] text-ink-soft">{counted.join(', ')}</p>
      </div>
      <span className="flex shrink-0 items-center gap-1">
        {pieces.length > SHOWN && <span className="text-[13px] text-ink-soft">…</span>}
        {views.map((v) => (
          <span key={v.piece} className="flex h-[62px] w-[62px] items-center justify-center rounded-md p-1" style={{ background: ground }}>
            <Thumb pieceView={v} className="h-full w-full" />
          </span>
        ))}
      </span>
      <span className="mx-2 h-14 w-px shrink-0 bg-edge" />
      <ArrangeCard />
      <BundleCard />
      {name !== null && (
        <>
          <PanesCard />
          <MembersCard />
        </>
      )}
      <div className="ml-1 flex shrink-0 flex-col gap-1">
        {name === null ? (
          <button className="outlined justify-between py-0.5 text-[13px]" title="From now on they are selected and moved as one" onClick={() => void bundleChosen()}>
            Bundle <span className="key">U</span>
          </button>
        ) : (
          <button className="outlined justify-between py-0.5 text-[13px]" title="What is in it is handled by itself; a double press on the sheet does the same" onClick={stepIn}>
            Step in <span className="key">Enter</span>
          </button>
        )}
        <button className="plain justify-between py-0.5 text-[13px]" disabled={!hasBundle} title="What is in it stays where it is" onClick={() => void dissolveChosen()}>
          Dissolve <span className="key">Shift U</span>
        </button>
      </div>
      <div className="ml-1 flex shrink-0 flex-col gap-1">
        <button className="plain py-0.5 text-[13px]" title="Selects all pieces of the kinds that are selected" onClick={selectKind}>
          All of {counted.length === 1 ? 'this kind' : 'these kinds'}
        </button>
        <button className="plain py-0.5 text-[13px]" onClick={selectEverything}>
          All pieces <span className="key">Ctrl A</span>
        </button>
        <button className="plain py-0.5 text-[13px]" onClick={() => select(null)}>
          None <span className="key">Esc</span>
        </button>
      </div>
      {name === null && <p className="ml-3 max-w-[330px] text-[13px] leading-snug text-ink-soft">A drag, the corners and the keys move all of them as one. Shift with a press takes one more, or leaves one out.</p>}
    </>
  )
}
