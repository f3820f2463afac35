import type { DrawingCard } from '../../types/DrawingCard'
import { attempt } from '../state/edits'
import { change, formOf, formView } from './forms'
import { css } from '../geometry/matrix'
import { backInMode, enterMode, leaveMode, modeOf, stepMode, useMode } from '../mode/mode'
import { ModeBar } from '../mode/ModeBar'
import type { PiecesMode } from '../mode/modes'
import { bench, useBench } from '../state/store'

export function enterPieces(piece: string, form: string, card: DrawingCard) {
  const shape = formOf(bench.get(), piece, form)?.shape
  if (shape?.kind !== 'drawing') return
  enterMode({ kind: 'pieces', piece, form, card, pickedOff: shape.picked_off ?? [], past: [] }, { selected: piece, forms: bench.get().forms })
}

/** The card of the form, from which the mode was entered, opens again. */
const leave = () => leaveMode({ open: 'form' })

/** The form with other pieces picked off. */
function made(mode: PiecesMode) {
  const form = formOf(bench.get(), mode.piece, mode.form)
  if (form?.shape.kind !== 'drawing') return null
  return { ...form, shape: { ...form.shape, picked_off: [...mode.pickedOff].sort((a, b) => a - b) } }
}

function toggle(piece: number) {
  const now = modeOf('pieces')
  if (!now) return
  setPickedOff(now.pickedOff.includes(piece) ? now.pickedOff.filter((p) => p !== piece) : [...now.pickedOff, piece])
}

function setPickedOff(pickedOff: number[]) {
  stepMode('pieces', { pickedOff })
  show()
}

function takeBack() {
  backInMode('pieces')
  show()
}

/** Tries the drawing without what is picked off. */
function show() {
  const mode = modeOf('pieces')
  const form = mode && made(mode)
  if (mode && form) attempt([{ edit: 'opening', piece: mode.piece, change: 'set_form', form }])
}

/** The pieces of a drawing, to be picked off and put back. */
export function PieceWashes({ mode }: { mode: PiecesMode }) {
  const view = useBench((s) => formView(s, mode.piece, mode.form))
  const specks = useBench((s) => {
    const shape = formOf(s, mode.piece, mode.form)?.shape
    return shape?.kind === 'drawing' ? shape.specks : 0
  })
  if (!view) return null
  return (
    <g className="pointer-events-auto" transform={css(view.to_sheet as Parameters<typeof css>[0])}>
      {mode.card.pieces.map((p, i) => {
        if (p.area < specks) return null
        const off = mode.pickedOff.includes(i)
        return (
          <path
            key={i}
            data-testid="piece"
            role="button"
            tabIndex={i < 60 ? 0 : -1}
            aria-pressed={!off}
            aria-label={`${off ? 'Put back' : 'Pick off'} piece ${i + 1}, ${p.area.toPrecision(3)} mm²`}
            d={p.path}
            vectorEffect="non-scaling-stroke"
            strokeWidth={1}
            className={`cursor-pointer outline-none hover:fill-sea hover:stroke-sea focus-visible:stroke-sea focus-visible:[stroke-width:4] ${
              off ? 'fill-transparent stroke-rose' : 'fill-ink stroke-transparent [fill-opacity:0.55]'
            }`}
            onPointerDown={(e) => e.stopPropagation()}
            onClick={() => toggle(i)}
            onKeyDown={(e) => {
              if (e.key !== 'Enter' && e.key !== ' ') return
              e.preventDefault()
              e.stopPropagation()
              toggle(i)
            }}
          />
        )
      })}
    </g>
  )
}

export function PiecesBar() {
  const mode = useMode('pieces')
  if (!mode) return null
  const keep = async () => {
    const form = made(mode)
    if (form && (await change(mode.piece, { change: 'set_form', form }))) leave()
  }
  return (
    <ModeBar
      title="Pieces"
      sentence={`Click a piece of the drawing to pick it off, click again to put it back. ${mode.pickedOff.length} of ${mode.card.pieces.length} are off.`}
      canKeep
      onKeep={() => void keep()}
      onDrop={leave}
      onBack={takeBack}
      canGoBack={mode.past.length > 0}
    >
      <button className="outlined" disabled={mode.pickedOff.length === 0} onClick={() => setPickedOff([])}>
        Put all back
      </button>
    </ModeBar>
  )
}
