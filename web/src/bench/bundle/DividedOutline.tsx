import type { BundleHandles } from '../../types/BundleHandles'
import { css, IDENTITY, type Matrix } from '../geometry/matrix'

interface Props {
  view: BundleHandles | undefined
  colour: string
  width: number
}

/** The outline of what is seen of a bundle in panes or repeated; in the space of the sheet. */
export function DividedOutline({ view, colour, width }: Props) {
  if (!view) return null
  const { panes, members } = view
  const line = (d: string, key: number) => <path key={key} d={d} fill="none" stroke={colour} strokeWidth={width} vectorEffect="non-scaling-stroke" />
  if (!panes) return members?.map((m, k) => (m.hidden ? null : line(m.outline, k)))
  return (members ?? [{ transform: IDENTITY, hidden: false }]).map((m, k) =>
    m.hidden ? null : (
      <g key={k} transform={css(m.transform as Matrix)}>
        {panes.map((p, n) => (p.hidden ? null : line(p.outline, n)))}
      </g>
    ),
  )
}
