import { call, sentenceOf } from '../../api/client'
import { say } from '../../parts/notices'
import type { CellChoice } from '../../types/CellChoice'
import type { CellView } from '../../types/CellView'
import { attempt } from '../state/edits'
import { change, formLabel, windowOf } from './forms'
import type { Locate } from '../canvas/place'
import { inside } from '../geometry/boxes'
import { backInMode, enterMode, leaveMode, modeOf, stepMode, useMode } from '../mode/mode'
import { ModeBar } from '../mode/ModeBar'
import { follow } from '../canvas/pointer'
import type { Point } from '../geometry/similarity'
import type { CellsMode } from '../mode/modes'
import { bench, useBench } from '../state/store'

export async function enterCells(piece: string) {
  const id = bench.get().bench?.id
  if (!id) return
  try {
    const cells = await call<CellView[]>('GET', `/sheets/${id}/pieces/${piece}/cells`)
    enterMode({ kind: 'cells', piece, cells, past: [] }, { selected: piece })
  } catch (error) {
    say(sentenceOf(error))
  }
}

export const sameCover = (a: CellChoice, b: CellChoice) => a.cover.join() === b.cover.join()

/** What was decided by hand: cells that the joins alone would not have so. */
export function choicesOf(cells: CellView[]): CellChoice[] {
  const made: CellChoice[] = []
  for (const { cover, taken, by_joins } of cells) {
    const choice = { cover, taken }
    if (taken !== by_joins && !made.some((m) => sameCover(m, choice))) made.push(choice)
  }
  return made
}

/** Takes cells in or leaves them out. */
const changed = (all: CellView[], cells: readonly CellView[], taken: boolean) => all.map((c) => (cells.some((x) => sameCover(x, c)) ? { ...c, taken } : c))

/** Takes cells in or leaves them out, as one step. */
function set(cells: readonly CellView[], taken: boolean) {
  const now = modeOf('cells')
  if (!now || cells.length === 0) return
  stepMode('cells', { cells: changed(now.cells, cells, taken) })
  show()
}

/** Tries the opening that the cells would give. */
function show() {
  const now = modeOf('cells')
  if (now) attempt([{ edit: 'opening', piece: now.piece, change: 'set_cells', cells: choicesOf(now.cells) }])
}

function takeBack() {
  backInMode('cells')
  show()
}

export const cellAt = (cells: CellView[], point: Point) => cells.find((c) => inside(c.outline, point))

/**
 * Sweeps over cells: with the main button they are taken in, with the other one (or with Alt) left out.
 * A click on a single cell changes it.
 */
export function startSweep(e: React.PointerEvent, locate: Locate) {
  const mode = modeOf('cells')
  if (!mode) return
  e.preventDefault()
  const cells = mode.cells
  const first = cellAt(cells, locate(e))
  const out = e.button === 2 || e.altKey
  let last = locate(e)
  const swept = new Set<CellView>(first ? [first] : [])
  let moved = false
  if (first) set([first], !out && !first.taken)
  follow({
    move: (m) => {
      const to = locate(m)
      const steps = Math.ceil((Math.hypot(to[0] - last[0], to[1] - last[1]) * bench.get().view.zoom) / 3) || 1
      for (let i = 1; i <= steps; i++) {
        const found = cellAt(cells, [last[0] + ((to[0] - last[0]) * i) / steps, last[1] + ((to[1] - last[1]) * i) / steps])
        if (found && !swept.has(found)) {
          swept.add(found)
          moved = true
        }
      }
      last = to
      // a sweep takes in (or leaves out) all it has met, whatever a click would do with the first one
      if (!moved) return
      bench.set({ mode })
      set([...swept], !out)
    },
    up: () => undefined,
    drop: () => {
      bench.set({ mode })
      show()
    },
  })
}

/** The cells, washed: what is taken in ink, what is left out empty. */
export function CellWashes({ mode }: { mode: CellsMode }) {
  const forms = useBench((s) => windowOf(s, mode.piece)?.opening.forms)
  return (
    <g className="pointer-events-auto">
      {mode.cells.map((c, i) => {
        const names = c.cover.map((id) => forms?.find((f) => f.id === id)).flatMap((f) => (f ? [formLabel(f)] : []))
        return (
          <path
            key={i}
            data-testid="cell"
            data-taken={c.taken}
            role="button"
            tabIndex={0}
            aria-pressed={c.taken}
            aria-label={`${c.taken ? 'Leave out' : 'Take in'}: where ${names.join(' and ')} ${names.length === 1 ? 'lies alone' : 'overlap'}`}
            d={c.outline}
            vectorEffect="non-scaling-stroke"
            strokeWidth={1.5}
            className={`cursor-pointer stroke-ink outline-none hover:stroke-sea focus-visible:stroke-sea focus-visible:[stroke-width:4] ${
              c.taken ? 'fill-ink stroke-leaf [fill-opacity:0.5] hover:[fill-opacity:0.62]' : 'fill-paper [fill-opacity:0.35] hover:fill-sea hover:[fill-opacity:0.3]'
            }`}
            onKeyDown={(e) => {
              if (e.key !== 'Enter' && e.key !== ' ') return
              e.preventDefault()
              e.stopPropagation()
              set([c], !c.taken)
            }}
          />
        )
      })}
    </g>
  )
}

export function CellsBar() {
  const mode = useMode('cells')
  const before = useBench((s) => (s.mode?.kind === 'cells' ? windowOf(s, s.mode.piece)?.opening.cells : undefined))
  if (!mode) return null
  const choices = choicesOf(mode.cells)
  const taken = mode.cells.filter((c) => c.taken).length
  const keep = async () => {
    if (await change(mode.piece, { change: 'set_cells', cells: choices })) leaveMode()
  }
  return (
    <ModeBar
      title="Cells"
      sentence={`Click a cell to take it in or leave it out. Sweep to take in many; with the right button or Alt they are left out. ${taken} of ${mode.cells.length} are in.`}
      canKeep={taken > 0 && JSON.stringify(choices) !== JSON.stringify(before ?? [])}
      onKeep={() => void keep()}
      onDrop={() => leaveMode()}
      onBack={takeBack}
      canGoBack={mode.past.length > 0}
    >
      <button className="outlined" onClick={() => set(mode.cells, true)}>
        Take all in
      </button>
      <button className="outlined" onClick={() => set(mode.cells, false)}>
        Leave all out
      </button>
      <button className="plain" onClick={() => {
          stepMode('cells', { cells: mode.cells.map((c) => ({ ...c, taken: c.by_joins })) })
          show()
        }}>
        As the joins have it
      </button>
    </ModeBar>
  )
}
