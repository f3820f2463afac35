import type { Contour } from '../../types/Contour'
import type { Form } from '../../types/Form'
import type { Join } from '../../types/Join'
import { useEffect } from 'react'
import { countNodes, mapped, nodeAt, pathOf, sharpened, smoothed, split, without } from './contour'
import { formOf, formView, keepForm, newForm, tryForm } from './forms'
import { around } from '../geometry/boxes'
import { IDENTITY, undone, type Matrix } from '../geometry/matrix'
import { amendMode, backInMode, enterMode, leaveMode, modeOf, stepMode, useMode } from '../mode/mode'
import { ModeBar } from '../mode/ModeBar'
import type { SubjectMode, TraceMode } from '../mode/modes'
import { bench, viewOf, useBench } from '../state/store'
import { takeContour } from '../subject/finding'

/** Starts a new contour. */
export function enterTrace(piece: string | null, join: Join) {
  const contour: Contour = { subpaths: [], even_odd: false }
  enterMode({ kind: 'trace', piece, form: null, join, contour, toSheet: IDENTITY, at: null, growing: false, follows: bench.get().followsEdges, pending: [], past: [], subject: null })
}

/** Shows the nodes of a form to be changed. */
export function enterNodes(piece: string, form: string) {
  const own = formOf(bench.get(), piece, form)
  const view = formView(bench.get(), piece, form)
  if (own?.shape.kind !== 'contour' || !view) return
  const { subpaths, even_odd } = own.shape
  enterMode(
    {
      kind: 'trace',
      piece,
      form,
      join: own.join,
      contour: { subpaths, even_odd },
      toSheet: view.to_sheet as Matrix,
      at: null,
      growing: false,
      follows: bench.get().followsEdges,
      pending: [],
      past: [],
      subject: null,
    },
    { forms: bench.get().forms },
  )
}

/** Traces what belongs to a subject, in the pixels of its photo. */
export function enterSubjectTrace(subject: SubjectMode, toSheet: Matrix) {
  const contour: Contour = { subpaths: [], even_odd: true }
  enterMode({ kind: 'trace', piece: null, form: null, join: 'add', contour, toSheet, at: null, growing: false, follows: true, pending: [], past: [], subject })
}

/** Back to the search that it was traced for, if there is one. */
const leave = () => leaveMode({ mode: modeOf('trace')?.subject ?? null })

/** The form that the contour would become. */
function made(mode: TraceMode): Form | null {
  const subpaths = mode.contour.subpaths.filter((s) => s.nodes.length > 1)
  if (subpaths.length === 0) return null
  if (mode.form !== null) {
    const own = formOf(bench.get(), mode.piece, mode.form)
    return own ? { ...own, shape: { kind: 'contour', ...mode.contour, subpaths } } : null
  }
  const [l, t, r, b] = around(subpaths.flatMap((s) => s.nodes.map((n) => [n.x, n.y] as const)))
  const [x, y] = [(l + r) / 2, (t + b) / 2]
  const moved = subpaths.map((s) => ({ ...s, nodes: s.nodes.map((n) => ({ ...n, x: n.x - x, y: n.y - y })) }))
  return newForm({ kind: 'contour', subpaths: moved, even_odd: mode.contour.even_odd }, x, y, mode.join)
}

/** Takes the contour further; what the opening would become is tried where there is one. `step` is for steps that can be taken back. */
export function setContour(contour: Contour, part: Partial<TraceMode> = {}, step = true) {
  amendMode('trace', part)
  if (step) stepMode('trace', { contour })
  else amendMode('trace', { contour })
  show()
}

/** Tries what is traced so far. */
function show() {
  const mode = modeOf('trace')
  if (!mode || mode.piece === null) return
  const form = made(mode)
  const enough = form?.shape.kind === 'contour' && form.shape.subpaths.some((s) => s.nodes.length > 2 || s.nodes.some((n) => n.after ?? n.before))
  if (form && enough) tryForm(mode.piece, form, mode.form === null)
}

function takeBack() {
  const now = modeOf('trace')
  if (!now) return
  if (now.pending.length > 0) {
    // what is still looked for is taken back first
    amendMode('trace', { pending: now.pending.slice(0, -1) })
    return
  }
  const before = backInMode('trace')
  if (!before) return
  amendMode('trace', { at: null, growing: now.growing && before.contour.subpaths.length === now.contour.subpaths.length })
  show()
}

/** Keeps what is traced, and ends the mode; what is nothing yet is dropped. */
export async function keepTrace(): Promise<boolean> {
  const mode = modeOf('trace')
  if (!mode || mode.subject) return false
  const form = made(mode)
  if (form) return keepForm(mode.piece, form, mode.form === null)
  leave()
  return true
}

async function keep(mode: TraceMode) {
  if (mode.subject) {
    const subpaths = mode.contour.subpaths.filter((s) => s.nodes.length > 1).map((s) => ({ ...s, closed: true }))
    bench.set({ mode: mode.subject })
    takeContour(pathOf({ ...mode.contour, subpaths }))
    return
  }
  const form = made(mode)
  if (form) await keepForm(mode.piece, form, mode.form === null)
}

/** For the keyboard: a triangle in the middle of the sheet, whose nodes are then moved and added to. */
function begin() {
  const now = modeOf('trace')
  const sheet = bench.get().bench?.sheet
  if (!now || !sheet) return
  const [x, y, r] = [sheet.width / 2, sheet.height / 2, Math.min(sheet.width, sheet.height) / 5]
  const nodes = [-90, 30, 150].map((deg) => ({ x: x + r * Math.cos((deg * Math.PI) / 180), y: y + r * Math.sin((deg * Math.PI) / 180) }))
  const back = undone(now.toSheet) ?? IDENTITY
  setContour({ ...now.contour, subpaths: [{ nodes: nodes.map((n) => mapped(back, n)), closed: true }] }, { at: [0, 0] })
}

/** Adds a node in the middle of the side after the chosen one. */
function addAfter(mode: TraceMode) {
  if (!mode.at) return
  const [subpath, node] = mode.at
  const next = split(mode.contour, subpath, node, 0.5)
  if (next !== mode.contour) setContour(next, { at: [subpath, node + 1] })
}

export function TraceBar() {
  const mode = useMode('trace')
  const hasPhoto = useBench((s) => (viewOf(s, s.mode?.piece ?? null)?.photos.length ?? 0) > 0 || (s.bench?.scene.pieces.some((l) => l.photos.length > 0) ?? false))
  useEffect(() => {
    const key = (e: KeyboardEvent) => {
      const now = modeOf('trace')
      if (!now || e.ctrlKey || e.metaKey) return
      if ((e.key === 'Delete' || e.key === 'Backspace') && now.at) setContour(without(now.contour, now.at), { at: null, growing: false })
      else if (e.key.toLowerCase() === 'n' && now.at) smooth(now)
      else if (e.key === 'Escape' && now.growing) amendMode('trace', { growing: false })
      else return
      e.preventDefault()
      e.stopImmediatePropagation()
    }
    window.addEventListener('keydown', key, true)
    return () => window.removeEventListener('keydown', key, true)
  }, [])
  if (!mode) return null
  const node = mode.at && nodeAt(mode.contour, mode.at)
  const traced = countNodes(mode.contour)
  const sentence = mode.pending.length > 0
    ? 'Following the edge … Go on clicking: every click is joined in its turn.'
    : mode.growing
    ? 'Click for a corner, press and drag for a curve. Click the first node to close the contour; Escape leaves it open.'
    : traced === 0
      ? 'Click for a corner, press and drag for a curve. Zoom and pan as you like meanwhile.'
      : 'Drag nodes and handles; click a side to add a node, the end of an open contour to go on with it. Double-click a node to smooth or sharpen it.'
  return (
    <ModeBar
      title={mode.subject ? 'Trace the subject' : mode.form === null ? 'Trace' : 'Nodes'}
      sentence={sentence}
      canKeep={mode.pending.length === 0 && mode.contour.subpaths.some((s) => s.nodes.length > 1) && mode.past.length > 0}
      onKeep={() => void keep(mode)}
      onDrop={leave}
      onBack={takeBack}
      canGoBack={mode.past.length > 0 || mode.pending.length > 0}
    >
      {countNodes(mode.contour) === 0 ? (
        <button className="outlined" onClick={begin}>
          Begin with a triangle
        </button>
      ) : (
        <button className="outlined" disabled={!node} title="A node in the middle of the side after the chosen one" onClick={() => addAfter(mode)}>
          Add a node
        </button>
      )}
      <button className="outlined" disabled={!node} onClick={() => smooth(mode)}>
        {node?.smooth ? 'Sharpen' : 'Smooth'} <span className="key">N</span>
      </button>
      <button className="outlined" disabled={!mode.at} onClick={() => mode.at && setContour(without(mode.contour, mode.at), { at: null, growing: false })}>
        Remove the node <span className="key">Del</span>
      </button>
      {hasPhoto && (
        <label className="flex items-center gap-2 text-[14px]">
          <input type="checkbox" className="h-4 w-4 accent-ink" checked={mode.follows} onChange={(e) => bench.set({ mode: { ...mode, follows: e.target.checked }, followsEdges: e.target.checked })} />
          Follow the photo’s edge
        </label>
      )}
      {!mode.subject && (
        <label className="flex items-center gap-2 text-[14px]">
          <input
            type="checkbox"
            className="h-4 w-4 accent-ink"
            checked={mode.contour.even_odd}
            onChange={(e) => setContour({ ...mode.contour, even_odd: e.target.checked })}
          />
          Where it crosses itself is empty
        </label>
      )}
      <span className="text-[13px] text-ink-soft tabular-nums">{traced === 1 ? '1 node' : `${traced} nodes`}</span>
    </ModeBar>
  )
}

/** Smooths the chosen node, or sharpens it if it is smooth. */
export function smooth(mode: TraceMode) {
  if (!mode.at) return
  const node = nodeAt(mode.contour, mode.at)
  setContour(node?.smooth || node?.before || node?.after ? sharpened(mode.contour, mode.at) : smoothed(mode.contour, mode.at))
}
