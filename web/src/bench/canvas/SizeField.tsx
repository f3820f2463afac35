import { useState } from 'react'
import { giveKeysToSheet } from '../../parts/focus'
import { inMm, readLength, readSize, showLength } from '../../parts/units'
import type { PieceView } from '../../types/PieceView'
import { edit } from '../state/edits'
import { movedFill } from '../fill/fills'
import { heldViews } from '../opening/formDrag'
import { change, windowOf } from '../opening/forms'
import { around, cornersOf, middle, type Bounds } from '../geometry/boxes'
import { gripFor, heldPiece, moveOf } from '../state/held'
import { within, type Matrix } from '../geometry/matrix'
import { about, type Point } from '../geometry/similarity'
import { bench, useBench } from '../state/store'

/** The corners of what is moved: of the held forms, else of what the grip is about. */
function cornersNow(pieceView: PieceView): Point[] {
  const s = bench.get()
  if (s.forms.length > 0) return heldViews(pieceView.piece).flatMap((v) => v.corners)
  const what = gripFor(pieceView.piece)
  const closed = pieceView.closed
  // the box of a form is exact, while an outline strays from its curve by a hair
  const [only, ...others] = pieceView.forms
  if (what !== 'fill' && only && others.length === 0 && isUpright(only.corners) && isLike(only.corners, pieceView.bounds)) return only.corners
  return what !== 'fill' && closed ? [[closed[0], closed[1]], [closed[2], closed[3]]] : cornersOf(pieceView, what, movedFill(s, pieceView.piece))
}

const isUpright = ([a, b, c]: readonly Point[]) => a !== undefined && b !== undefined && c !== undefined && Math.abs(a[1] - b[1]) < 1e-6 && Math.abs(b[0] - c[0]) < 1e-6

const isLike = (corners: readonly Point[], bounds: Bounds) => around(corners).every((v, k) => Math.abs(v - (bounds[k] ?? 0)) < 0.05)

/** Width and height across the sheet, in mm. */
function sizeOf(corners: Point[]): [number, number] {
  const [l, t, r, b] = around(corners)
  return [r - l, b - t]
}

/** Scales what is moved to a width, or the forms to a width and a height, about its middle. */
async function scaleTo(pieceView: PieceView, wide: number, high: number | null) {
  const s = bench.get()
  const piece = pieceView.piece
  const corners = cornersNow(pieceView)
  const [w, h] = sizeOf(corners)
  const [cx, cy] = middle(corners)
  const [x, y] = [wide / w, high === null ? wide / w : high / h]
  const [least, most] = [Math.min(x, y), Math.max(x, y)]
  if (!(least > 1e-4 && most < 1e4)) return
  const even = Math.abs(x - y) < 1e-6 * most
  if (s.forms.length === 0 && even) {
    const held = heldPiece(piece)
    if (held) await edit(moveOf(held, about(cx, cy, x, 0)))
    return
  }
  const forms = s.forms.length > 0 ? s.forms : (windowOf(s, piece)?.opening.forms.map((f) => f.id) ?? [])
  const at: Matrix = [1, 0, 0, 1, cx, cy]
  await change(piece, { change: 'transform', forms, by: within(at, [x, 0, 0, y, 0, 0]) })
}

/** How large what is selected is; another size can be typed: a width, or a width and a height. */
export function SizeField({ pieceView }: { pieceView: PieceView }) {
  const sheet = useBench((s) => s.bench?.sheet)
  useBench((s) => s.grip)
  useBench((s) => s.forms)
  const [draft, setDraft] = useState<string | null>(null)
  const [wrong, setWrong] = useState(false)
  if (!sheet) return null
  const { unit, ppi } = sheet
  const [w, h] = sizeOf(cornersNow(pieceView))
  const shown = `${showLength(w, unit, ppi)} × ${showLength(h, unit, ppi)} ${unit}`
  const read = (text: string): [number, number | null] | null => {
    const both = readSize(text)
    const scale = both ? inMm(both.unit ?? unit, ppi) : 1
    const [wide, high] = both ? [Number(both.width.replace(',', '.')) * scale, Number(both.height.replace(',', '.')) * scale] : [readLength(text, unit, ppi), null]
    return wide !== null && wide > 0 && (high === null || high > 0) ? [wide, high] : null
  }
  const commit = () => {
    if (draft === null || draft === shown) {
      setDraft(null)
      return
    }
    const size = read(draft)
    setWrong(size === null)
    if (!size) return
    setDraft(null)
    void scaleTo(pieceView, ...size)
  }
  return (
    <input
      aria-label="Size"
      title="Type another width, or width × height, with a unit if you like"
      className={`w-[136px] rounded-full border-[1.5px] bg-leaf px-2 py-1 text-center text-[13px] font-medium tabular-nums shadow-sheet ${wrong ? 'border-rose text-rose' : 'border-edge hover:border-ink focus:border-ink'}`}
      value={draft ?? shown}
      spellCheck={false}
      onFocus={(e) => e.target.select()}
      onChange={(e) => setDraft(e.target.value)}
      onBlur={commit}
      onKeyDown={(e) => {
        if (e.key === 'Enter') {
          if (draft === null || read(draft)) giveKeysToSheet()
          else setWrong(true)
        } else if (e.key === 'Escape') {
          setDraft(null)
          setWrong(false)
          e.currentTarget.blur()
        }
        e.stopPropagation()
      }}
    />
  )
}
