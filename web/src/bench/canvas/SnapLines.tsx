import { showLength } from '../../parts/units'
import { useBench } from '../state/store'

/** The lines that what is dragged lies on, with how far it is from what it lies on. */
export function SnapLines() {
  const snapLines = useBench((s) => s.snapLines)
  const sheet = useBench((s) => s.bench?.sheet)
  const zoom = useBench((s) => s.view.zoom)
  return snapLines.map((g, k) => {
    const [x1, y1, x2, y2] = g.axis === 'x' ? [g.at, g.from, g.at, g.to] : [g.from, g.at, g.to, g.at]
    return (
      <g key={k} data-testid="snap-line">
        <line x1={x1} y1={y1} x2={x2} y2={y2} stroke="var(--color-sea)" strokeWidth={1} vectorEffect="non-scaling-stroke" />
        <text x={x1 + 5 / zoom} y={y1 + 13 / zoom} fontSize={12 / zoom} fill="var(--color-sea)" fontWeight={600} stroke="var(--color-leaf)" strokeWidth={3 / zoom} paintOrder="stroke">
          {!sheet || g.gap === 0 ? g.of : g.of === 'gap' ? `${showLength(g.gap, sheet.unit, sheet.ppi)} ${sheet.unit}` : `${g.of}, ${showLength(g.gap, sheet.unit, sheet.ppi)} ${sheet.unit} away`}
        </text>
      </g>
    )
  })
}
