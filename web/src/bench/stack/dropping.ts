/** What a drag of pieces out of the stack carries: their identifiers. */
export const PIECES = 'text/inky-piece'

/** Where what is dragged would come to lie, beside a line of the stack. */
export type Marked = 'above' | 'below' | null

/** The line that shows it. */
export const markOf = (marked: Marked) => (marked === 'above' ? 'shadow-[inset_0_3px_0_var(--color-sea)]' : marked === 'below' ? 'shadow-[inset_0_-3px_0_var(--color-sea)]' : '')

export interface DropProps {
  marked: Marked
  /** Something is dragged over its upper or lower half. */
  onOver: (upper: boolean) => void
  onDropped: (pieces: readonly string[]) => void
}

/** What makes a line of the stack take pieces that are dropped on it. */
export const takesPieces = ({ onOver, onDropped }: DropProps) => ({
  onDragOver: (e: React.DragEvent) => {
    if (!e.dataTransfer.types.includes(PIECES)) return
    e.preventDefault()
    const box = e.currentTarget.getBoundingClientRect()
    onOver(e.clientY < box.top + box.height / 2)
  },
  onDrop: (e: React.DragEvent) => {
    const pieces = e.dataTransfer.getData(PIECES)
    if (!pieces) return
    e.preventDefault()
    e.stopPropagation()
    onDropped(pieces.split(' '))
  },
})
