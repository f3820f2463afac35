import { useState } from 'react'
import { FileButton } from '../../parts/FileButton'
import type { Figure } from '../../types/Figure'
import type { Join } from '../../types/Join'
import { enterBrush } from './BrushMode'
import { bringInDrawing } from '../fill/drawings'
import { enterDraw, enterFreeDraw } from './DrawMode'
import { figureLabel, JOINS } from './forms'
import { edit } from '../state/edits'
import { labelOf } from '../state/labels'
import { bench, useBench } from '../state/store'
import { enterTrace } from './TraceMode'
import { addWord } from '../lettering/LetteringPanel'
import { ChoiceField } from '../recipe/fields'
import { FIGURES } from './figures'

/** Everything an opening can be made of: for the opening of the selected window, or (`fresh`) for a window of its own. */
export function AddPanel({ fresh }: { fresh: boolean }) {
  const selected = useBench((s) => s.selected)
  const [join, setJoin] = useState<Join>('add')
  const piece = fresh ? null : selected
  const others = useOtherWindows(piece)
  const draw = (figure: Figure) => (fresh ? enterFreeDraw(figure) : enterDraw(piece, figure, join))
  return (
    <div className="w-[640px]">
      {!fresh && (
        <div className="mb-3">
          <ChoiceField<Join> label="It will act on what is there" options={JOINS.map((j) => [j.join, `${j.sign}  ${j.label}`] as const)} value={join} onChange={setJoin} />
        </div>
      )}
      <p className="tag">Draw a shape</p>
      <ul aria-label="Shapes" className="mt-1 grid grid-cols-8 gap-1.5">
        {FIGURES.map(({ figure, sign }, i) => (
          <li key={figure.figure}>
            <button
              {...(i === 0 ? { 'data-first': true } : {})}
              className="flex w-full flex-col items-center rounded-lg bg-leaf pt-1.5 pb-0.5 hover:bg-ink hover:text-leaf"
              onClick={() => draw(figure)}
            >
              <svg viewBox="0 0 40 40" className="h-9 w-9" aria-hidden>
                {sign}
              </svg>
              <span className="text-[12px]">{figureLabel(figure.figure)}</span>
            </button>
          </li>
        ))}
      </ul>
      <div className="mt-3 flex flex-wrap gap-2">
        {piece !== null ? (
          <button className="outlined" onClick={() => void addWord(piece, join)}>
            Lettering
          </button>
        ) : (
          <button className="outlined" onClick={() => bench.set({ open: 'new-word' })}>
            Lettering
          </button>
        )}
        <button className="outlined" onClick={() => enterTrace(piece, join)}>
          Trace a contour
        </button>
        <button className="outlined" onClick={() => enterBrush(piece, join)}>
          Paint an area
        </button>
        <FileButton
          label="Bring in a drawing (SVG)"
          chooser="Drawing file"
          accept=".svg,image/svg+xml"
          className="outlined"
          onFile={(file) => void bringInDrawing(file, piece, join)}
        />
      </div>
      {piece !== null && others.length > 0 && (
        <>
          <p className="tag mt-4">Take in a window of this sheet</p>
          <p className="text-[13px] text-ink-soft">Its forms join this opening, where they are. The fills and the finish that it has now are dropped.</p>
          <ul aria-label="Windows to take in" className="mt-1 flex flex-wrap gap-2">
            {others.map(({ id, label }) => (
              <li key={id}>
                <button className="outlined max-w-[280px] overflow-hidden text-ellipsis whitespace-nowrap" onClick={() => void takeIn(piece, id, join)}>
                  {label}
                </button>
              </li>
            ))}
          </ul>
        </>
      )}
    </div>
  )
}

/** The windows that an opening could take in: all others that are not locked, from front to back. */
function useOtherWindows(piece: string | null) {
  const sheet = useBench((s) => s.bench?.sheet)
  if (!sheet) return []
  const windows = sheet.pieces.filter((p) => p.kind.kind === 'window' && p.id !== piece && !p.locked)
  return windows.map((p) => ({ id: p.id, label: labelOf(p, sheet) })).reverse()
}

async function takeIn(piece: string, other: string, join: Join) {
  await edit({ edit: 'take_in', piece, other, form: crypto.randomUUID(), join })
}
