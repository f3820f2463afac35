import type { PieceView } from '../../types/PieceView'
import type { Sheet } from '../../types/Sheet'
import { bundleLabel } from '../bundle/bundles'
import { stepOut } from '../bundle/bundling'
import { change } from '../opening/forms'
import { labelOf } from '../state/labels'
import { select, useBench } from '../state/store'

/** Says which bundle was stepped into, and how to get out of it. */
export function Inside({ bundle }: { bundle: string }) {
  const label = useBench((s) => bundleLabel(s.bench?.sheet, bundle))
  return (
    <p role="status" className="absolute top-3 left-1/2 flex w-max -translate-x-1/2 items-center gap-2 rounded-full border-[1.5px] border-sea bg-leaf py-0.5 pr-1 pl-4 text-[13.5px] font-medium shadow-sheet" onPointerDown={(e) => e.stopPropagation()}>
      In “{label}”
      <button className="plain min-h-6 py-0 text-[13px]" onClick={stepOut}>
        Step out <span className="key">Esc</span>
      </button>
    </p>
  )
}

/** What else a hand can do to what it carries, while it does. */
export function CarryHint() {
  const hint = useBench((s) => s.carryHint)
  if (hint === null) return null
  return (
    <p role="status" className="pointer-events-none absolute bottom-3 left-1/2 w-max -translate-x-1/2 rounded-full bg-ink px-3.5 py-1 text-[13px] font-medium text-leaf shadow-sheet">
      {hint}
    </p>
  )
}

/** Says which piece is not drawn, and why: of the selected one, else of the first. */
export function NotDrawn({ sheet, pieceViews, selected }: { sheet: Sheet; pieceViews: PieceView[]; selected: PieceView | undefined }) {
  const all = pieceViews.filter((v) => v.problem)
  const shown = selected?.problem ? selected : all[0]
  const piece = sheet.pieces.find((p) => p.id === shown?.piece)
  if (!shown || !piece) return null
  const others = all.length - 1
  return (
    <p role="alert" className="absolute bottom-3 left-1/2 w-max max-w-[80%] -translate-x-1/2 rounded-md bg-leaf px-3 py-1 font-medium text-rose shadow-sheet">
      <button className="underline underline-offset-2" onClick={() => select(piece.id)}>
        “{labelOf(piece, sheet)}”
      </button>
      {` is not drawn. ${shown.problem}`}
      {others > 0 && ` ${others === 1 ? 'One more is' : `${others} more are`} not drawn either.`}
    </p>
  )
}

/** Says which window shows nothing because all of its forms are switched off, and switches them on again. */
export function SwitchedOff({ sheet, pieceViews }: { sheet: Sheet; pieceViews: PieceView[] }) {
  const empty = sheet.pieces.find((p) => {
    const forms = p.kind.opening.forms
    if (forms.length === 0 || !forms.every((f) => f.off)) return false
    const view = pieceViews.find((v) => v.piece === p.id)
    return view !== undefined && !view.problem && view.nodes === 0
  })
  if (!empty) return null
  const on = async () => {
    const gesture = crypto.randomUUID()
    for (const form of empty.kind.opening.forms) await change(empty.id, { change: 'switch_form', form: form.id, off: false }, gesture)
  }
  return (
    <p role="status" className="absolute bottom-3 left-1/2 flex w-max max-w-[80%] -translate-x-1/2 items-center gap-3 rounded-md bg-leaf px-3 py-1.5 font-medium shadow-sheet" onPointerDown={(e) => e.stopPropagation()}>
      {`“${labelOf(empty, sheet)}” shows nothing: its forms are switched off.`}
      <button className="outlined py-0.5" onClick={() => void on()}>
        Switch on
      </button>
    </p>
  )
}

/** Photos on their way, with how much of them is sent. */
export function Uploads() {
  const uploads = useBench((s) => s.uploads)
  if (uploads.length === 0) return null
  return (
    <ul className="absolute top-3 right-[236px] space-y-2">
      {uploads.map((u) => (
        <li key={u.id} className="w-64 rounded-md bg-leaf px-3 py-2 shadow-sheet">
          <p className="truncate text-[13px] font-medium">
            {u.share < 1 ? `Bringing in “${u.name}”` : `Reading “${u.name}”`}
          </p>
          <div className="mt-1 flex items-center gap-2">
            <progress className="h-1.5 w-full accent-ink" max={1} {...(u.share < 1 ? { value: u.share } : {})} />
            <button className="plain px-1.5 py-0 text-[13px]" onPointerDown={(e) => e.stopPropagation()} onClick={u.cancel}>
              Cancel
            </button>
          </div>
        </li>
      ))}
    </ul>
  )
}
