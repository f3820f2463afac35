import type { CrossingView } from '../../types/CrossingView'
import type { EdgeView } from '../../types/EdgeView'
import type { PieceView } from '../../types/PieceView'
import type { OverhangView } from '../../types/OverhangView'
import type { ReachLine } from '../../types/ReachLine'
import type { Sheet } from '../../types/Sheet'
import { pictureOf } from '../canvas/pictures'
import type { BreakoutMode } from '../mode/modes'
import { viewOf, useBench } from '../state/store'
import { amend, isOut, merge, put, putAlong, turn } from './choice'

const keyOf = (o: OverhangView) => `${o.anchor.fill} ${o.anchor.subject ?? 0} ${o.part ?? ''} ${o.anchor.x} ${o.anchor.y}`

/** What a sweep does to each part that it meets, while it goes on. */
let sweep: ((overhang: OverhangView) => void) | null = null
const swept = new Set<string>()

function meet(overhang: OverhangView) {
  if (sweep === null || swept.has(keyOf(overhang))) return
  swept.add(keyOf(overhang))
  sweep(overhang)
}

/** A click on a part, or the begin of a sweep: it does to all what it does to the first. */
function begin(overhang: OverhangView, tool: BreakoutMode['tool'], e: React.PointerEvent) {
  e.stopPropagation()
  if (e.button !== 0) return
  // the parts that are swept across must hear of it
  ;(e.target as Element).releasePointerCapture(e.pointerId)
  const out = !isOut(overhang)
  sweep = tool === 'merge' ? merge : (o) => put([o], out)
  swept.clear()
  meet(overhang)
  window.addEventListener('pointerup', () => (sweep = null), { once: true })
}

const percent = (share: number) => `${(share * 100).toFixed(share < 0.01 ? 1 : 0)}%`

const label = (o: OverhangView) =>
  `${isOut(o) ? 'Keep in' : 'Let out'}: the part ${o.name === undefined ? '' : `“${o.name}” `}${o.of === undefined ? '' : `of “${o.of}” `}${o.place}, ${percent(o.share)} of the ${o.part === undefined ? 'photo' : 'drawing'}${o.cut_off ? ', cut off by the end of the photo' : ''}`

/** The whole subject, faintly: what could be let out is seen before it is. */
export function FaintSubject({ pieceView, sheet, piece }: { pieceView: PieceView; sheet: Sheet; piece: string }) {
  const sharp = useBench((s) => s.sharp)
  const kind = sheet.pieces.find((p) => p.id === piece)?.kind
  if (kind?.kind !== 'window') return null
  return kind.fills.map((fill) => {
    const view = pieceView.photos.find((p) => p.fill === fill.id)
    const subjects = fill.paint.kind === 'photo' ? sheet.photos[fill.paint.photo]?.subjects : undefined
    if (!view || !subjects) return null
    const { x, y, width, height } = view.pulled ?? { x: 0, y: 0, width: view.width, height: view.height }
    return subjects.map((subject) => (
      <image
        key={`${fill.id} ${subject.key}`}
        {...{ x, y, width, height }}
        href={pictureOf(view, sharp, { subject: subject.matte })}
        transform={view.transform}
        opacity={0.55}
        preserveAspectRatio="none"
      />
    ))
  })
}

/** The overhangs, washed with ink while they stay in; what a click would change shows under the pointer. */
export function OverhangWashes({ mode }: { mode: BreakoutMode }) {
  const overhangs = useBench((s) => viewOf(s, mode.piece)?.overhangs)
  const act = (o: OverhangView) => (mode.tool === 'merge' ? merge(o) : put([o], !isOut(o)))
  return (
    <g className={mode.tool === 'parts' || mode.tool === 'merge' ? 'pointer-events-auto' : 'pointer-events-none'}>
      {overhangs?.filter((o) => mode.tool !== 'merge' || o.part === undefined).map((o) => {
        const out = isOut(o)
        return (
          <path
            key={keyOf(o)}
            data-testid={out ? 'overhang-out' : 'overhang-in'}
            role="button"
            tabIndex={0}
            aria-pressed={out}
            aria-label={label(o)}
            d={o.outline}
            transform={o.transform}
            fillRule="evenodd"
            vectorEffect="non-scaling-stroke"
            strokeWidth={2}
            strokeDasharray={o.cut_off ? '7 5' : undefined}
            className={`cursor-pointer outline-none transition-[fill,fill-opacity] duration-100 hover:fill-sea hover:stroke-sea focus-visible:stroke-sea focus-visible:[stroke-width:4] ${
              out ? 'fill-transparent stroke-rose hover:[fill-opacity:0.45]' : 'fill-ink stroke-ink [fill-opacity:0.42] hover:[fill-opacity:0.55]'
            }`}
            onPointerDown={(e) => begin(o, mode.tool, e)}
            onFocus={() => amend({ part: o.part === undefined ? o.anchor : null })}
            onPointerEnter={() => meet(o)}
            // screen readers click without a pointer
            onClick={(e) => e.detail === 0 && act(o)}
            onKeyDown={(e) => {
              if (e.key !== 'Enter' && e.key !== ' ') return
              e.preventDefault()
              act(o)
            }}
          />
        )
      })}
    </g>
  )
}

/** Where parts cross the edge, the stroke that is being made, and the line that may not be passed. */
export function BreakoutMarks({ mode }: { mode: BreakoutMode }) {
  const pieceView = useBench((s) => viewOf(s, mode.piece))
  const zoom = useBench((s) => s.view.zoom)
  const sheet = useBench((s) => s.bench?.sheet)
  const line = (mode.tool === 'reach' ? mode.line : null) ?? mode.reach
  const view = pieceView?.photos.find((p) => p.fill === mode.stroke?.fill)
  const brushed = view ?? pieceView?.photos[0]
  return (
    <>
      {line && sheet && <Reach line={line} long={2 * (sheet.width + sheet.height)} />}
      {mode.stroke && view && (
        <polyline
          transform={view.transform}
          points={[...mode.stroke.points, ...(mode.stroke.points.length === 1 ? mode.stroke.points : [])].map((p) => p.join(',')).join(' ')}
          fill="none"
          stroke={mode.stroke.keep ? 'var(--color-sea)' : 'var(--color-rose)'}
          strokeOpacity={0.55}
          strokeWidth={mode.stroke.width}
          strokeLinecap="round"
          strokeLinejoin="round"
        />
      )}
      {mode.cursor && <Cursor at={mode.cursor} radius={mode.tool === 'reach' || mode.tool === 'cut' || !brushed ? 3 / zoom : (mode.width / 2) * (brushed.ppi > 0 ? 25.4 / brushed.ppi : 1)} hair={1.5 / zoom} />}
      {mode.tool === 'edge' && pieceView?.edges?.map((e) => <Edge key={e.key} edge={e} parts={pieceView.overhangs.filter((o) => o.touches.includes(e.key))} />)}
      {mode.tool === 'parts' && pieceView?.crossings?.map((c, k) => <Crossing key={k} crossing={c} size={1 / zoom} />)}
    </>
  )
}

/** The brush, or the end of a line, that keys move. */
function Cursor({ at: [x, y], radius, hair }: { at: readonly [number, number]; radius: number; hair: number }) {
  return (
    <g data-testid="cursor" fill="none">
      <circle cx={x} cy={y} r={radius} stroke="var(--color-leaf)" strokeWidth={hair * 2.6} />
      <circle cx={x} cy={y} r={radius} stroke="var(--color-ink)" strokeWidth={hair} />
    </g>
  )
}

/** A contour of the opening that parts lie against: as wide to the pointer as a finger, seen as a line. */
function Edge({ edge, parts }: { edge: EdgeView; parts: OverhangView[] }) {
  const known = parts.every(isOut)
  const line = { d: edge.path, fill: 'none', vectorEffect: 'non-scaling-stroke', strokeLinejoin: 'round' } as const
  return (
    <g
      data-testid="edge"
      role="button"
      tabIndex={0}
      aria-pressed={known}
      aria-label={`Let out only what lies against this edge: ${parts.length === 1 ? 'one part' : `${parts.length} parts`}${parts[0] ? `, the first ${parts[0].place}` : ''}`}
      className="pointer-events-auto cursor-pointer outline-none [&:focus-visible>.seen]:stroke-sea [&:focus-visible>.seen]:[stroke-width:5] [&:hover>.seen]:stroke-sea [&:hover>.seen]:[stroke-width:5]"
      onPointerDown={(e) => {
        e.stopPropagation()
        if (e.button === 0) putAlong(edge, e.shiftKey)
      }}
      // screen readers click without a pointer
      onClick={(e) => e.detail === 0 && putAlong(edge, e.shiftKey)}
      onKeyDown={(e) => {
        if (e.key !== 'Enter' && e.key !== ' ') return
        e.preventDefault()
        putAlong(edge, e.shiftKey)
      }}
    >
      <path {...line} stroke="transparent" strokeWidth={18} pointerEvents="stroke" />
      <path {...line} className="pointer-events-none stroke-leaf" strokeWidth={5} />
      <path {...line} className={`seen pointer-events-none ${known ? 'stroke-rose' : 'stroke-ink'}`} strokeWidth={2.5} strokeDasharray="2 4" strokeLinecap="round" />
    </g>
  )
}

function Reach({ line: { from, to }, long }: { line: ReachLine; long: number }) {
  const far = Math.hypot(to[0] - from[0], to[1] - from[1]) || 1
  const [dx, dy] = [((to[0] - from[0]) / far) * long, ((to[1] - from[1]) / far) * long]
  return (
    <line data-testid="reach" x1={from[0] - dx} y1={from[1] - dy} x2={from[0] + dx} y2={from[1] + dy} stroke="var(--color-rose)" strokeWidth={2} strokeDasharray="12 6" vectorEffect="non-scaling-stroke" />
  )
}

/** A button where subject and edge cross: two subpaths, the upper one whole. */
function Crossing({ crossing, size }: { crossing: CrossingView; size: number }) {
  const under = crossing.under_by.length > 0
  const subpath = (d: string, whole: boolean, colour: string) => (
    <>
      {whole && <path d={d} stroke="var(--color-leaf)" strokeWidth={7} />}
      <path d={d} stroke={colour} strokeWidth={3.5} strokeLinecap="round" />
    </>
  )
  const part = subpath('M-6.5,6.5L6.5,-6.5', !under, 'var(--color-rose)')
  const edge = subpath('M-6.5,-6.5L6.5,6.5', under, 'var(--color-ink)')
  return (
    <g
      data-testid="crossing"
      role="button"
      tabIndex={0}
      aria-pressed={under}
      aria-label={under ? 'It runs under the edge here: let it run over' : 'It runs over the edge here: let it run under'}
      transform={`translate(${crossing.at[0]} ${crossing.at[1]}) scale(${size})`}
      className="pointer-events-auto cursor-pointer outline-none [&:focus-visible>circle]:stroke-sea [&:hover>circle]:fill-paper"
      onPointerDown={(e) => {
        e.stopPropagation()
        if (e.button === 0) turn(crossing)
      }}
      // screen readers click without a pointer
      onClick={(e) => e.detail === 0 && turn(crossing)}
      onKeyDown={(e) => {
        if (e.key !== 'Enter' && e.key !== ' ') return
        e.preventDefault()
        turn(crossing)
      }}
    >
      <circle r={13} fill="var(--color-leaf)" stroke="var(--color-ink)" strokeWidth={1.5} />
      <g fill="none">{under ? [part, edge] : [edge, part]}</g>
    </g>
  )
}

