import { useBench } from '../state/store'
import { startGuide } from './dragGuide'
import { baselinesOf, guidesOf, marginBox, stripesOf } from './layout'

/** Baselines nearer than this are not drawn, in CSS pixels. */
const NEAREST = 8

/** Margins, columns, rows, baselines and guides over the sheet; in the sheet's space. They are never printed. */
export function GuideLines() {
  const sheet = useBench((s) => s.bench?.sheet)
  const dragged = useBench((s) => s.guide)
  const zoom = useBench((s) => s.view.zoom)
  // they are in nobody's way while something is selected
  const free = useBench((s) => s.selected === null && s.several.length === 0 && s.mode === null && !s.looking)
  if (!sheet) return null
  const guides = guidesOf(sheet)
  if (guides.hidden && !dragged) return null
  const box = marginBox(sheet)
  const { columns, rows } = stripesOf(sheet)
  const baselines = baselinesOf(sheet)
  const [l, t, r, b] = box ?? [0, 0, sheet.width, sheet.height]
  const lines = (guides.lines ?? []).filter((g) => !dragged || g.id !== dragged.id)
  const shown = dragged ? [...lines, dragged] : lines
  const frames = (
    <>
      {columns.map(([from, to]) => (
        <rect key={`c${from}`} x={from} y={t} width={to - from} height={b - t} fill="none" vectorEffect="non-scaling-stroke" />
      ))}
      {rows.map(([from, to]) => (
        <rect key={`r${from}`} x={l} y={from} width={r - l} height={to - from} fill="none" vectorEffect="non-scaling-stroke" />
      ))}
      {box && <rect x={l} y={t} width={r - l} height={b - t} fill="none" vectorEffect="non-scaling-stroke" />}
    </>
  )
  return (
    <g data-testid="guides" data-columns={columns.length}>
      {/* where they would cover the sheet, they wait for a nearer look */}
      {baselines.length > 1 &&
        zoom * ((baselines[1] ?? 0) - (baselines[0] ?? 0)) >= NEAREST &&
        baselines.map((y) => <line key={y} x1={l} x2={r} y1={y} y2={y} stroke="var(--color-sea)" strokeOpacity={0.55} vectorEffect="non-scaling-stroke" />)}
      {/* a light line beneath each, so that they are seen on dark sheets */}
      <g stroke="var(--color-leaf)" strokeOpacity={0.5} strokeWidth={3}>
        {frames}
      </g>
      <g stroke="var(--color-sea)" strokeWidth={1}>
        {frames}
      </g>
      {shown.map((g) => {
        const [x1, y1, x2, y2] = g.way === 'upright' ? [g.at, -sheet.height * 4, g.at, sheet.height * 5] : [-sheet.width * 4, g.at, sheet.width * 5, g.at]
        return (
          <g key={g.id ?? 'new'} data-testid="guide" data-at={g.at}>
            <line x1={x1} y1={y1} x2={x2} y2={y2} stroke="var(--color-leaf)" strokeOpacity={0.5} strokeWidth={3} vectorEffect="non-scaling-stroke" />
            <line x1={x1} y1={y1} x2={x2} y2={y2} stroke="var(--color-sea)" strokeDasharray="8 3" strokeWidth={g === dragged ? 2 : 1.25} vectorEffect="non-scaling-stroke" />
            {free && (
              <line
                x1={x1}
                y1={y1}
                x2={x2}
                y2={y2}
                stroke="transparent"
                strokeWidth={9 / zoom}
                style={{ pointerEvents: 'stroke', cursor: g.way === 'upright' ? 'ew-resize' : 'ns-resize' }}
                onPointerDown={(e) => startGuide(e, g.way, g.id ?? null)}
              />
            )}
          </g>
        )
      })}
    </g>
  )
}
