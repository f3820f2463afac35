import type { Similarity } from '../../types/Similarity'
import { groupTransform, toScreen } from '../canvas/viewport'
import { css } from '../geometry/matrix'
import type { Locate } from '../canvas/place'
import { PartOutlines } from '../canvas/PartOutlines'
import type { Point } from '../geometry/similarity'
import { useSheetState } from '../state/sheetState'
import { useBench } from '../state/store'
import { unitNow, unitView } from '../state/unit'
import { movedByKeys } from '../canvas/keyMove'
import { lineMoved, nudgeLine, pointAdded, pointMoved, startLineDrag, toothMoved, toothOf, type LineChange } from './drawLine'
import { chosenPane, splitOf, type Line } from './split'

/** The panes of the selected window or bundle and the lines between them, while their card is open. */
export function PaneHandles({ residual, locate }: { residual: Similarity; locate: Locate }) {
  const s = useSheetState()
  const unit = s.open === 'panes' && !s.mode ? unitNow(s) : null
  if (unit === null) return null
  const seen = unitView(s, unit)
  const { view } = s
  const split = splitOf(s, unit)
  const chosen = chosenPane(s)
  const lines = split.lines ?? []
  const paths = new Map(seen.split_lines?.map((l) => [l.line, l.path]))
  return (
    <svg className="pointer-events-none absolute inset-0 h-full w-full overflow-hidden" data-testid="pane-handles">
      <g transform={groupTransform(view)}>
        <PartOutlines name="pane" parts={seen.panes ?? []} chosen={chosen?.index} dragged={s.drag ? residual : null} />
        {lines.map((line) => {
          const path = paths.get(line.id ?? '')
          return path === undefined ? null : (
            <g key={line.id}>
              <path d={path} fill="none" stroke="var(--color-leaf)" strokeWidth={4} strokeOpacity={0.7} vectorEffect="non-scaling-stroke" />
              <path d={path} fill="none" stroke="var(--color-sea)" strokeWidth={s.panes.line === line.id ? 2.5 : 1.5} vectorEffect="non-scaling-stroke" />
              <path
                d={path}
                data-testid="split-line"
                fill="none"
                stroke="transparent"
                strokeWidth={12}
                vectorEffect="non-scaling-stroke"
                className={s.panes.drawing ? '' : 'pointer-events-auto cursor-move'}
                onPointerDown={(e) => line.id !== undefined && startLineDrag(e, unit, line.id, lineMoved, locate)}
              >
                <title>Drag the line; its points are moved one by one</title>
              </path>
            </g>
          )
        })}
        {s.panes.drawn && <path d={`M${s.panes.drawn.map((p) => p.join()).join('L')}`} fill="none" stroke="var(--color-sea)" strokeWidth={2} strokeDasharray="6 4" vectorEffect="non-scaling-stroke" />}
      </g>
      {!s.panes.drawing && lines.filter((l) => s.panes.line === l.id || (lines.length === 1 && s.panes.at === null)).map((line) => <Points key={line.id} unit={unit} line={line} locate={locate} />)}
    </svg>
  )
}

function Points({ unit, line, locate }: { unit: string; line: Line; locate: Locate }) {
  const view = useBench((s) => s.view)
  const { id } = line
  if (id === undefined) return null
  const round = (key: string, [x, y]: Point, title: string, change: LineChange, look: { r: number; fill: string }, name?: string) => (
    <circle key={key} data-testid={key} cx={x} cy={y} r={look.r} fill={look.fill} stroke="var(--color-sea)" strokeWidth={2.5} className="pointer-events-auto cursor-grab" onPointerDown={(e) => startLineDrag(e, unit, id, change, locate)} {...(name ? movedByKeys(name, (dx, dy, g) => nudgeLine(unit, id, change, [dx, dy], g)) : {})}>
      <title>{title}</title>
    </circle>
  )
  const screen = line.points.map((p) => toScreen(view, p))
  const tooth = toothOf(line)
  return (
    <g>
      {screen.slice(1).map((p, k) => {
        const before = screen[k] ?? p
        return round(`split-between-${k}`, [(before[0] + p[0]) / 2, (before[1] + p[1]) / 2], 'Drag: one more point', pointAdded(k), { r: 4, fill: 'var(--color-sea)' })
      })}
      {screen.map((p, k) => round(`split-point-${k}`, p, 'Drag the point; Shift keeps to steps of 15°', pointMoved(k), { r: 6.5, fill: 'var(--color-leaf)' }, `Point ${k + 1} of the line`))}
      {tooth && (
        <rect
          data-testid="split-tooth"
          x={-6}
          y={-6}
          width={12}
          height={12}
          transform={`${css([1, 0, 0, 1, ...toScreen(view, tooth)])} rotate(45)`}
          fill="var(--color-leaf)"
          stroke="var(--color-sea)"
          strokeWidth={2.5}
          className="pointer-events-auto cursor-grab"
          onPointerDown={(e) => startLineDrag(e, unit, id, toothMoved, locate)}
          {...movedByKeys(line.course.kind === 'zigzag' ? 'Teeth of the line' : 'Roughness of the line', (dx, dy, g) => nudgeLine(unit, id, toothMoved, [dx, dy], g))}
        >
          <title>{line.course.kind === 'zigzag' ? 'Drag: how wide and how deep the teeth are' : 'Drag: how far it strays'}</title>
        </rect>
      )}
    </g>
  )
}
