import type { Similarity } from '../../types/Similarity'
import { matrix } from '../geometry/similarity'

interface Props {
  /** What the parts are called in tests. */
  name: string
  parts: readonly { outline: string; hidden?: boolean }[]
  /** The place of the chosen one. */
  chosen: number | undefined
  /** How far the chosen one is dragged beyond what its outline shows; null where nothing is dragged. */
  dragged: Similarity | null
}

/** The outlines of a window's panes or members; the chosen one stands out. */
export function PartOutlines({ name, parts, chosen, dragged }: Props) {
  return parts.map((p, k) => {
    const isChosen = chosen === k
    return p.hidden ? null : (
      <path
        key={k}
        data-testid={`${name}-${k}`}
        d={p.outline}
        transform={isChosen && dragged ? matrix(dragged) : undefined}
        fill="none"
        stroke={isChosen ? 'var(--color-rose)' : 'var(--color-ink)'}
        strokeOpacity={isChosen ? 1 : 0.45}
        strokeWidth={isChosen ? 2 : 1}
        vectorEffect="non-scaling-stroke"
      />
    )
  })
}
