import type { PieceView } from '../../types/PieceView'
import type { Similarity } from '../../types/Similarity'
import { matrix } from '../geometry/similarity'
import { useBench } from '../state/store'
import { pictureOf } from './pictures'

/** The whole of a piece's photos, faintly. */
export function Ghost({ pieceView, fill, by, opacity }: { pieceView: PieceView; fill: string | null; by: Similarity; opacity: number }) {
  const sharp = useBench((s) => s.sharp)
  return (
    <g transform={matrix(by)} opacity={opacity} data-testid="ghost">
      {pieceView.photos.filter((p) => fill === null || p.fill === fill).map((p) =>
        p.pulled ? (
          <image key={p.fill ?? p.photo} href={pictureOf(p, sharp)} x={p.pulled.x} y={p.pulled.y} width={p.pulled.width} height={p.pulled.height} transform={p.transform} preserveAspectRatio="none" />
        ) : (
          <image key={p.fill ?? p.photo} href={pictureOf(p, sharp)} width={p.width} height={p.height} transform={p.transform} preserveAspectRatio="none" />
        ),
      )}
    </g>
  )
}
