import { useBench } from '../state/store'

/** Where on the sheet a finding is; in sheet space. */
export function PointedPlace() {
  const at = useBench((s) => s.pointed)
  if (!at) return null
  const [l, t, r, b] = at
  return <rect data-testid="pointed" x={l} y={t} width={r - l} height={b - t} fill="var(--color-doubt)" fillOpacity={0.16} stroke="var(--color-doubt)" strokeWidth={3} vectorEffect="non-scaling-stroke" />
}
