/** A line that something lies on while it is dragged. */
export interface SnapLine {
  /** Upright lines have an x, level ones a y; mm. */
  axis: 'x' | 'y'
  at: number
  /** From where to where it is drawn, along the other axis. */
  from: number
  to: number
  /** How far what is dragged lies from what it has snapped to, along the line; of one of equal gaps, how wide it is; mm. */
  gap: number
  /** What lies there: an edge, a middle; or *gap*. */
  of: string
}
