import type { PieceView } from '../../types/PieceView'
import type { Similarity } from '../../types/Similarity'
import { matrix } from '../geometry/similarity'
import { seenPath } from './outlines'

/** Pieces as nothing but their edges: openings as lines, and how far photos and drawings reach. */
export function BareEdges({ pieceViews, by }: { pieceViews: readonly PieceView[]; by: (piece: string) => Similarity }) {
  return (
    <g data-testid="bare-edges" fill="none">
      {pieceViews.map((v) => (
        <g key={v.piece} transform={matrix(by(v.piece))}>
          {[...v.photos, ...(v.drawings ?? [])].map((p, k) => (
            <polygon key={k} points={p.corners.map((c) => c.join(',')).join(' ')} stroke="var(--color-sea)" strokeWidth={1} strokeDasharray="5 4" vectorEffect="non-scaling-stroke" />
          ))}
          <path d={seenPath(v)} stroke="var(--color-ink)" strokeWidth={1} vectorEffect="non-scaling-stroke" />
        </g>
      ))}
    </g>
  )
}
