import { useSheetState } from '../state/sheetState'
import { useBench, viewOf } from '../state/store'
import { pathOf } from './outlines'

/** Photos on their way, as they will cover the openings they are for. */
export function Arriving() {
  const s = useSheetState()
  const arriving = useBench((x) => x.arriving)
  return arriving.map(({ piece, url, width, height }) => {
    const pieceView = viewOf(s, piece)
    if (!pieceView) return null
    const [l, t, r, b] = pieceView.bounds
    const scale = Math.max((r - l) / width, (b - t) / height)
    const [w, h] = [width * scale, height * scale]
    return (
      <g key={url} data-testid="arriving">
        <clipPath id={`arriving-${piece}`}>
          <path d={pathOf(pieceView.outline)} />
        </clipPath>
        <image href={url} x={(l + r - w) / 2} y={(t + b - h) / 2} width={w} height={h} preserveAspectRatio="none" clipPath={`url(#arriving-${piece})`} />
      </g>
    )
  })
}
