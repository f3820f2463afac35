import type { BreakoutStroke } from '../../types/BreakoutStroke'
import type { CellView } from '../../types/CellView'
import type { Contour } from '../../types/Contour'
import type { DraftView } from '../../types/DraftView'
import type { DrawingCard } from '../../types/DrawingCard'
import type { Figure } from '../../types/Figure'
import type { Hints } from '../../types/Hints'
import type { Join } from '../../types/Join'
import type { MatteStroke } from '../../types/MatteStroke'
import type { PhotoBox } from '../../types/PhotoBox'
import type { PhotoId } from '../../types/PhotoId'
import type { Edit } from '../../types/Edit'
import type { Anchor } from '../../types/Anchor'
import type { ReachLine } from '../../types/ReachLine'
import type { Stroke } from '../../types/Stroke'
import type { SubjectId } from '../../types/SubjectId'
import type { SubjectStroke } from '../../types/SubjectStroke'
import type { Matrix } from '../geometry/matrix'

/** A subject of a photo is found. */
export interface SubjectMode {
  kind: 'subject'
  piece: string
  fill: string
  photo: PhotoId
  /** The subject's number among those of the photo, and its name. */
  key: number
  name: string
  /** What it is found by, and what it was found by before each step. */
  hints: Hints
  past: { hints: Hints; gesture: string }[]
  /** The matte at the working size that these hints give; null while there is none that differs from what is kept. */
  draft: DraftView | null
  /** The matte that the sheet has. */
  kept: SubjectId | null
  asking: boolean
  /** Why the last step gave nothing. */
  problem: string | null
  panel: 'find' | 'paint' | 'edge' | 'through'
  /** What a drag over the photo draws. */
  tool: SubjectTool | null
  /** Diameter of strokes and of the brush, in pixels of the photo. */
  width: number
  hardness: number
  /** Paint stays on its own side of the subject's edge. */
  inside: boolean
  /** What is being drawn. */
  box: PhotoBox | null
  stroke: SubjectStroke | null
  paint: MatteStroke | null
  /** Where the keyboard draws, in pixels of the photo; null while the mouse draws. */
  cursor: readonly [number, number] | null
  /** Which of the doubted places is looked at. */
  doubt: number | null
  seen: SeenAs
}

export type SubjectTool = 'box' | 'keep' | 'drop' | 'add' | 'take' | 'refine' | 'film' | 'shadow'

/** How what was found is looked at. */
export type SeenAs = 'photo' | 'matte' | 'black' | 'white' | 'sheet' | 'rest'

/** What a mode was like before each of its steps: of each, what that step changed. */
interface Stepped {
  past: readonly object[]
}

export type Mode =
  | SubjectMode
  | BreakoutMode
  | DrawMode
  | CellsMode
  | TraceMode
  | PiecesMode
  | BrushMode

/** What passes over the edge is chosen. */
export interface BreakoutMode extends Stepped {
  kind: 'breakout'
  piece: string
  /** What was chosen so far; nothing of it is kept yet. */
  edits: Edit[]
  /** What a press does: takes parts, takes all parts along an edge, cuts parts, paints the subject out or in, draws the reach line, turns parts into contours. */
  tool: 'parts' | 'edge' | 'cut' | 'out' | 'in' | 'reach' | 'merge'
  /** The part that was pressed last. */
  part: Anchor | null
  /** How far a contour of a part may stray inwards from its edge, and what is smoothed of it; millimetres. */
  tolerance: number
  smooth: number
  /** Diameter of the brush in pixels of the photo. */
  width: number
  painted: BreakoutStroke[]
  reach: ReachLine | null
  /** What is being drawn. */
  stroke: BreakoutStroke | null
  line: ReachLine | null
  /** Where the brush or the line of the keyboard stands, on the sheet; null while the mouse draws. */
  cursor: readonly [number, number] | null
}

/** An area is painted. */
export interface BrushMode extends Stepped {
  kind: 'brush'
  piece: string | null
  /** The form that is painted further; null for a new one. */
  form: string | null
  join: Join
  strokes: Stroke[]
  toSheet: Matrix
  /** Diameter of the brush in mm of the sheet. */
  size: number
  hardness: number
  erase: boolean
  /** The stroke that is being made. */
  live: Stroke | null
  /** Where the brush of the keyboard stands, on the sheet; null while the mouse paints. */
  cursor: readonly [number, number] | null
}

/** A basic shape is being drawn. */
export interface DrawMode {
  kind: 'draw'
  /** The window whose opening it joins. */
  piece: string | null
  figure: Figure
  join: Join
  /** Where it goes is decided by where it is drawn; else it goes to `piece`, or becomes a window of its own. */
  free: boolean
  /** The box so far: left, top, right, bottom in mm. */
  box: readonly [number, number, number, number] | null
}

/** Cells are taken in and left out. */
export interface CellsMode extends Stepped {
  kind: 'cells'
  piece: string
  cells: CellView[]
}

/** A contour is traced, or its nodes are changed. */
export interface TraceMode extends Stepped {
  kind: 'trace'
  /** The window it goes into; null for a new one. */
  piece: string | null
  /** The form whose nodes are changed; null while a new contour is traced. */
  form: string | null
  join: Join
  contour: Contour
  /** From the contour's own space to the sheet. */
  toSheet: Matrix
  /** The node that is chosen: which subpath, which node. */
  at: readonly [number, number] | null
  /** The subpath that goes on growing with every click. */
  growing: boolean
  /** Clicks are joined along the strongest edge of the photo. */
  follows: boolean
  /** Clicks whose way along the edge is still looked for, on the sheet; the last one may close the contour. */
  pending: readonly { at: readonly [number, number]; closes: boolean }[]
  /** The search for a subject that the contour is traced for. */
  subject: SubjectMode | null
}

/** Pieces of an imported drawing are picked off. */
export interface PiecesMode extends Stepped {
  kind: 'pieces'
  piece: string
  form: string
  card: DrawingCard
  pickedOff: number[]
}
