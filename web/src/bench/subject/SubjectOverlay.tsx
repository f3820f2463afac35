import type { DraftView } from '../../types/DraftView'
import type { MatteStroke } from '../../types/MatteStroke'
import type { SubjectStroke } from '../../types/SubjectStroke'
import { pictureOf } from '../canvas/pictures'
import type { SubjectMode } from '../mode/modes'
import { useSheetState } from '../state/sheetState'
import { viewOf } from '../state/store'

const asPoints = (points: readonly (readonly number[])[]) =>
  // a dot is a line to itself
  [...points, ...(points.length === 1 ? points : [])].map((p) => `${p[0]},${p[1]}`).join(' ')

function Strokes({ strokes, opacity }: { strokes: SubjectStroke[]; opacity: number }) {
  return strokes.map((s, k) => (
    <polyline
      key={k}
      data-testid={s.keep ? 'stroke-keep' : 'stroke-drop'}
      points={asPoints(s.points)}
      fill="none"
      stroke={s.keep ? 'var(--color-sea)' : 'var(--color-rose)'}
      strokeWidth={s.width}
      strokeOpacity={opacity}
      strokeLinecap="round"
      strokeLinejoin="round"
    />
  ))
}

function Paint({ paint }: { paint: MatteStroke }) {
  return (
    <polyline
      points={asPoints(paint.points)}
      fill="none"
      stroke={paint.add ? 'var(--color-sea)' : 'var(--color-rose)'}
      strokeOpacity={0.55}
      strokeWidth={paint.width * ((1 + paint.hardness) / 2)}
      strokeLinecap="round"
      strokeLinejoin="round"
    />
  )
}

/** Where the program is unsure is washed; the place that is looked at has a ring. */
function Wash({ draft, at, frame, hair }: { draft: DraftView; at: number | null; frame: { width: number; height: number; preserveAspectRatio: string }; hair: number }) {
  const place = at === null ? undefined : draft.doubts[at]
  const step = hair * 6
  return (
    <g pointerEvents="none">
      {draft.wash && (
        <>
          <mask id="subject-wash" maskUnits="userSpaceOnUse" x="0" y="0" width={frame.width} height={frame.height}>
            <image href={draft.wash} {...frame} />
          </mask>
          <pattern id="subject-lines" width={step} height={step} patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
            <rect width={step} height={step} fill="var(--color-doubt)" fillOpacity={0.22} />
            <rect width={step / 2.5} height={step} fill="var(--color-doubt)" fillOpacity={0.75} />
          </pattern>
          <rect data-testid="wash" width={frame.width} height={frame.height} fill="url(#subject-lines)" mask="url(#subject-wash)" />
        </>
      )}
      {place && (
        <g data-testid="doubt" fill="none">
          <circle cx={place.at[0]} cy={place.at[1]} r={place.width / 2 + hair * 8} stroke="var(--color-leaf)" strokeWidth={hair * 3.4} />
          <circle cx={place.at[0]} cy={place.at[1]} r={place.width / 2 + hair * 8} stroke="var(--color-ink)" strokeWidth={hair * 1.4} />
        </g>
      )}
    </g>
  )
}

/** The whole photo; what is not the subject under a veil of paper once it is found; the box, the strokes. */
export function SubjectOverlay({ mode }: { mode: SubjectMode }) {
  const s = useSheetState()
  const view = viewOf(s, mode.piece)?.photos.find((p) => p.fill === mode.fill)
  const sheet = s.bench?.sheet
  if (!view || !sheet) return null
  const frame = { width: view.width, height: view.height, preserveAspectRatio: 'none' }
  const photo = <image href={pictureOf(view, s.sharp, { whole: true })} {...frame} />
  const cutout = mode.kept && pictureOf(view, s.sharp, { subject: mode.kept, whole: true })
  const found = mode.draft !== null || cutout !== null
  // where nothing was found yet, there is only the photo
  const seen = found ? mode.seen : 'photo'
  const ground = { matte: '#000000', black: '#000000', white: '#ffffff', sheet: sheet.background, photo: undefined, rest: undefined }[seen]
  const area = { width: view.width, height: view.height }
  const box = mode.box ?? mode.hints.within
  const hair = 1.5 / (s.view.zoom * Math.hypot(view.corners[1][0] - view.corners[0][0], view.corners[1][1] - view.corners[0][1]) / view.width)
  // white where the subject is
  const shape = mode.draft ? (
    <image data-testid="draft" href={mode.draft.matte} {...frame} />
  ) : (
    cutout && <image data-testid="found" href={cutout} {...frame} filter="url(#subject-white)" />
  )
  return (
    <g>
      <defs>
        <filter id="subject-white" colorInterpolationFilters="sRGB" x="0" y="0" width="1" height="1">
          <feColorMatrix values="0 0 0 0 1  0 0 0 0 1  0 0 0 0 1  0 0 0 1 0" />
        </filter>
        <filter id="subject-inverse" colorInterpolationFilters="sRGB" x="0" y="0" width="1" height="1">
          <feColorMatrix values="-1 0 0 0 1  0 -1 0 0 1  0 0 -1 0 1  0 0 0 1 0" />
        </filter>
        <mask id="subject-shape" maskUnits="userSpaceOnUse" x="0" y="0" {...area}>
          {shape}
        </mask>
        <mask id="subject-rest" maskUnits="userSpaceOnUse" x="0" y="0" {...area}>
          <g filter="url(#subject-inverse)">
            <rect {...area} fill="#000000" />
            {shape}
          </g>
        </mask>
      </defs>
      <rect width={sheet.width} height={sheet.height} fill="var(--color-paper)" fillOpacity={0.85} />
      <g transform={view.transform}>
        {ground !== undefined && <rect {...area} fill={ground} />}
        {seen === 'photo' && photo}
        {seen === 'photo' && found && <rect {...area} fill="var(--color-paper)" fillOpacity={0.82} />}
        {seen === 'rest' && <g mask="url(#subject-rest)">{photo}</g>}
        {seen === 'matte' && shape}
        {seen !== 'rest' && seen !== 'matte' && found && (
          // until it is kept, the colours of its edge are those of the photo
          <g data-testid="subject" mask={mode.draft ? 'url(#subject-shape)' : undefined}>
            {mode.draft ? (mode.hints.shadow_alone ? <rect {...area} /> : photo) : cutout && <image href={cutout} {...frame} />}
          </g>
        )}
        {mode.panel === 'find' && mode.draft && <Wash draft={mode.draft} at={mode.doubt} frame={frame} hair={hair} />}
        {mode.panel === 'find' && <Strokes strokes={mode.hints.strokes ?? []} opacity={0.3} />}
        {mode.panel === 'find' &&
          mode.hints.traced?.map((d, k) => <path key={k} d={d} fill="none" stroke="var(--color-sea)" strokeWidth={2} vectorEffect="non-scaling-stroke" />)}
        {mode.panel === 'edge' && mode.tool === 'refine' && <Strokes strokes={(mode.hints.refined ?? []).map((r) => ({ ...r, keep: true }))} opacity={0.25} />}
        {mode.panel === 'through' && mode.tool && <Strokes strokes={(mode.hints.see_through ?? []).map((t) => ({ width: t.width, points: t.points, keep: true }))} opacity={0.12} />}
        {mode.stroke && <Strokes strokes={[mode.stroke]} opacity={0.6} />}
        {mode.paint && <Paint paint={mode.paint} />}
        {box && mode.panel === 'find' && <rect {...box} fill="none" stroke="var(--color-sea)" strokeWidth={2} strokeDasharray="7 5" vectorEffect="non-scaling-stroke" />}
        {mode.cursor && (
          <g data-testid="cursor" fill="none">
            <circle cx={mode.cursor[0]} cy={mode.cursor[1]} r={mode.width / 2} stroke="var(--color-leaf)" strokeWidth={hair * 2.6} />
            <circle cx={mode.cursor[0]} cy={mode.cursor[1]} r={mode.width / 2} stroke="var(--color-ink)" strokeWidth={hair} />
          </g>
        )}
      </g>
    </g>
  )
}
