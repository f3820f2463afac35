import { useEffect, useRef } from 'react'
import type { SubjectStroke } from '../types/SubjectStroke'
import { edit } from './edits'
import { fitted } from './geometry'
import { begin, cancel, isOpen, stopFollowing, useFollowed, useJob } from './jobs'
import { ModeBar } from './ModeBar'
import { follow } from './pointer'
import { PlainField } from './recipe/fields'
import { cutoutOf } from './pictures'
import { bench, layerOf, useBench, type SeenAs, type SubjectMode as Subject } from './store'
import type { Point } from './similarity'

/** Opens the mode in which the subject of a photo is found; looks for it by itself at once. */
export function enterSubjectMode(piece: string) {
  const s = bench.get()
  const sheet = s.bench?.sheet
  const found = sheet?.pieces.find((p) => p.id === piece)
  const photos = found?.kind.kind === 'window' ? found.kind.fills.filter((f) => f.paint.kind === 'photo') : []
  // of several photos the one whose card was opened last, or the foremost
  const fill = photos.find((f) => f.id === s.fill) ?? photos.at(-1)
  const photo = fill?.paint.kind === 'photo' ? fill.paint.photo : undefined
  const view = layerOf(s, piece)?.photos.find((p) => p.fill === fill?.id)
  if (!s.bench || !fill || !photo || !view) return
  const xs = view.corners.map((c) => c[0])
  const ys = view.corners.map((c) => c[1])
  const rect = [Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys)] as const
  const facts = sheet?.photos[photo]
  const known = facts?.subject ?? null
  bench.set({
    mode: {
      kind: 'subject',
      piece,
      fill: fill.id,
      photo,
      box: facts?.hints?.within ?? null,
      strokes: facts?.hints?.strokes ?? [],
      tool: known === null ? null : 'keep',
      width: Math.max(4, Math.round(Math.max(view.width, view.height) / 60)),
      live: null,
      found: known,
      by: facts?.hints ?? { strokes: [] },
      seen: 'photo',
    },
    open: null,
    view: fitted(rect, s.port),
  })
  if (known === null) void find({ box: null, strokes: [] })
}

/** Looks for the subject again by what is known now; what was looked for before is not wanted any more. */
async function find(hints: Pick<Subject, 'box' | 'strokes'>) {
  const s = bench.get()
  if (s.mode?.kind !== 'subject' || !s.bench) return
  // with strokes, what was found before stays in sight until it is found anew
  const found = hints.strokes.length > 0 ? s.mode.found : null
  const tool = hints.strokes.length > 0 ? s.mode.tool : null
  bench.set({ mode: { ...s.mode, ...hints, found, tool, live: null } })
  const running = useFollowed.getState().subject
  stopFollowing('subject')
  if (running) void cancel(running)
  await begin(s.bench.id, 'subject', { task: 'find_subject', photo: s.mode.photo, within: hints.box, strokes: hints.strokes })
}

function leave() {
  const s = bench.get()
  const sheet = s.bench?.sheet
  bench.set({ mode: null, tried: {}, ...(sheet ? { view: fitted([0, 0, sheet.width, sheet.height], s.port) } : {}) })
  stopFollowing('subject')
}

/** Draws a box or a stroke on the photo, in its own pixels. */
export function startHint(e: React.PointerEvent, locate: (e: { clientX: number; clientY: number }) => Point) {
  const s = bench.get()
  const mode = s.mode
  if (mode?.kind !== 'subject' || mode.tool === null) return
  const view = layerOf(s, mode.piece)?.photos.find((p) => p.fill === mode.fill)
  if (!view) return
  const [a, b, , d] = view.corners
  const toPhoto = ([x, y]: Point): Point => {
    // from the photo's own corners: across its width, and down its height
    const [ux, uy] = [(b[0] - a[0]) / view.width, (b[1] - a[1]) / view.width]
    const [vx, vy] = [(d[0] - a[0]) / view.height, (d[1] - a[1]) / view.height]
    const det = ux * vy - vx * uy
    const [px, py] = [x - a[0], y - a[1]]
    return [(px * vy - vx * py) / det, (ux * py - px * uy) / det]
  }
  const start = toPhoto(locate(e))
  if (mode.tool === 'box') startBox(start, (m) => toPhoto(locate(m)))
  else startStroke(start, (m) => toPhoto(locate(m)), mode.tool === 'keep')
}

function startBox(start: Point, at: (m: PointerEvent) => Point) {
  const box = (m: PointerEvent) => {
    const end = at(m)
    return {
      x: Math.min(start[0], end[0]),
      y: Math.min(start[1], end[1]),
      width: Math.abs(end[0] - start[0]),
      height: Math.abs(end[1] - start[1]),
    }
  }
  follow({
    move: (m) => amend({ box: box(m) }),
    up: (m) => {
      const drawn = box(m)
      const now = bench.get().mode
      if (now?.kind === 'subject' && drawn.width > 2 && drawn.height > 2) void find({ box: drawn, strokes: now.strokes })
    },
    drop: () => amend({ box: null }),
  })
}

function startStroke(start: Point, at: (m: PointerEvent) => Point, keep: boolean) {
  const now = bench.get().mode
  if (now?.kind !== 'subject') return
  let live: SubjectStroke = { keep, width: now.width, points: [[...start]] }
  amend({ live })
  follow({
    move: (m) => {
      const p = at(m)
      const last = live.points.at(-1) ?? p
      // points that lie nearer than a quarter of the stroke say nothing new
      if (Math.hypot(p[0] - last[0], p[1] - last[1]) < live.width / 4) return
      live = { ...live, points: [...live.points, [p[0], p[1]]] }
      amend({ live })
    },
    up: () => {
      const done = bench.get().mode
      if (done?.kind === 'subject') void find({ box: done.box, strokes: [...done.strokes, live] })
    },
    drop: () => amend({ live: null }),
  })
}

function amend(change: Partial<Subject>) {
  const now = bench.get().mode
  if (now?.kind === 'subject') bench.set({ mode: { ...now, ...change } })
}

function Strokes({ strokes, opacity }: { strokes: SubjectStroke[]; opacity: number }) {
  return strokes.map((s, k) => (
    <polyline
      key={k}
      data-testid={s.keep ? 'stroke-keep' : 'stroke-drop'}
      // a dot is a line to itself
      points={[...s.points, ...(s.points.length === 1 ? s.points : [])].map((p) => p.join(',')).join(' ')}
      fill="none"
      stroke={s.keep ? 'var(--color-sea)' : 'var(--color-rose)'}
      strokeWidth={s.width}
      strokeOpacity={opacity}
      strokeLinecap="round"
      strokeLinejoin="round"
    />
  ))
}

/** The whole photo; what is not the subject under a veil of paper once it is found; the box. */
export function SubjectOverlay({ mode }: { mode: Subject }) {
  const s = useBench()
  const view = layerOf(s, mode.piece)?.photos.find((p) => p.fill === mode.fill)
  const sheet = s.bench?.sheet
  if (!view || !sheet) return null
  const frame = { width: view.width, height: view.height }
  const photo = <image href={view.href} {...frame} preserveAspectRatio="none" />
  const cutout = mode.found && cutoutOf(view.href, mode.found)
  // where nothing was found yet, there is only the photo
  const seen = mode.found ? mode.seen : 'photo'
  const ground = { matte: '#000000', black: '#000000', white: '#ffffff', sheet: sheet.background, photo: undefined, rest: undefined }[seen]
  return (
    <g>
      <defs>
        {[0, 1].map((tone) => (
          // all in one colour, as opaque as it is
          <filter key={tone} id={`subject-in-${tone}`} colorInterpolationFilters="sRGB" x="0" y="0" width="1" height="1">
            <feColorMatrix values={`0 0 0 0 ${tone}  0 0 0 0 ${tone}  0 0 0 0 ${tone}  0 0 0 1 0`} />
          </filter>
        ))}
        <mask id="subject-rest" maskUnits="userSpaceOnUse" x="0" y="0" {...frame}>
          <rect {...frame} fill="#ffffff" />
          {cutout && <image href={cutout} {...frame} preserveAspectRatio="none" filter="url(#subject-in-0)" />}
        </mask>
      </defs>
      <rect width={sheet.width} height={sheet.height} fill="var(--color-paper)" fillOpacity={0.85} />
      <g transform={view.transform}>
        {ground !== undefined && <rect {...frame} fill={ground} />}
        {seen === 'photo' && photo}
        {seen === 'photo' && cutout && <rect {...frame} fill="var(--color-paper)" fillOpacity={0.82} />}
        {seen === 'rest' && <g mask="url(#subject-rest)">{photo}</g>}
        {seen !== 'rest' && cutout && (
          <image data-testid="found" href={cutout} {...frame} preserveAspectRatio="none" filter={seen === 'matte' ? 'url(#subject-in-1)' : undefined} />
        )}
        <Strokes strokes={mode.strokes} opacity={0.3} />
        {mode.live && <Strokes strokes={[mode.live]} opacity={0.6} />}
        {mode.box && (
          <rect
            {...mode.box}
            fill="none"
            stroke="var(--color-sea)"
            strokeWidth={2}
            strokeDasharray="7 5"
            vectorEffect="non-scaling-stroke"
          />
        )}
      </g>
    </g>
  )
}

const TOOLS = [
  ['box', 'In a box', 'A box around the whole subject'],
  ['keep', 'Belongs to it', 'Strokes over what is missing'],
  ['drop', 'Does not', 'Strokes over what is too much'],
] as const

const SEEN: readonly (readonly [SeenAs, string])[] = [
  ['photo', 'in the photo'],
  ['sheet', 'on the sheet’s colour'],
  ['black', 'on black'],
  ['white', 'on white'],
  ['matte', 'as its matte'],
  ['rest', 'without it: what is left'],
]

export function SubjectBar() {
  const mode = useBench((s) => s.mode)
  const followed = useFollowed((f) => f.subject)
  const job = useJob(followed)
  const settled = useRef<string | null>(null)
  const searching = followed !== null && (job === undefined || isOpen(job))

  useEffect(() => {
    if (!job || isOpen(job) || settled.current === job.id) return
    settled.current = job.id
    const now = bench.get().mode
    if (now?.kind !== 'subject') return
    // with something found, strokes are what is wanted next
    if (job.outcome?.outcome === 'subject') amend({ found: job.outcome.subject, tool: now.tool ?? 'keep', by: { ...(now.box ? { within: now.box } : {}), strokes: now.strokes } })
    // what led nowhere is taken back; with nothing found at all, a box is what helps
    else if (job.state === 'failed' || !now.found) amend(now.found ? { strokes: now.by.strokes ?? [], box: now.by.within ?? null } : { tool: 'box' })
  }, [job])

  if (mode?.kind !== 'subject') return null
  const failure = !searching && job?.state === 'failed' && job.outcome?.outcome === 'failed' ? job.outcome.sentence : null
  const sentence = searching
    ? `${job?.step || 'Waiting for its turn'} …`
    : mode.tool === 'box'
      ? 'Draw a box around the whole subject.'
      : mode.found === null
        ? 'Draw a box around what you want, or strokes over it.'
        : mode.tool === 'drop'
          ? 'Draw over what does not belong to it: each stroke looks again.'
          : 'Keep it, or draw over what is missing: each stroke looks again.'
  const keep = async () => {
    if (!mode.found) return
    const kept = await edit({ edit: 'set_subject', photo: mode.photo, subject: mode.found, hints: mode.by })
    if (kept) leave()
  }
  return (
    <ModeBar
      title="Subject"
      sentence={failure ?? sentence}
      alarm={failure !== null}
      canKeep={mode.found !== null && !searching}
      onKeep={() => void keep()}
      onDrop={() => {
        if (searching && followed) void cancel(followed)
        leave()
      }}
    >
      {searching ? (
        <>
          <progress aria-label="Finding the subject" className="h-2 w-56 accent-sea" max={1} value={job?.done ?? 0} />
          <button className="outlined" onClick={() => followed && void cancel(followed)}>
            Cancel the search
          </button>
        </>
      ) : (
        <>
          <button className="outlined" onClick={() => void find({ box: null, strokes: [] })}>
            Find it by itself
          </button>
          <div className="flex gap-1" role="group" aria-label="What a drag draws">
            {TOOLS.map(([tool, text, title]) => (
              <button
                key={tool}
                className={`outlined ${mode.tool === tool ? 'bg-ink text-leaf' : ''}`}
                aria-pressed={mode.tool === tool}
                title={title}
                onClick={() => amend({ tool: mode.tool === tool ? null : tool })}
              >
                {text}
              </button>
            ))}
          </div>
          {(mode.tool === 'keep' || mode.tool === 'drop') && (
            <div className="w-24">
              <PlainField label="Stroke, px" value={mode.width} digits={0} min={2} max={400} onChange={(width) => amend({ width })} />
            </div>
          )}
          {mode.strokes.length > 0 && (
            <button className="plain" onClick={() => void find({ box: mode.box, strokes: mode.strokes.slice(0, -1) })}>
              Last stroke back
            </button>
          )}
          {mode.found && (
            <label className="tag flex items-center gap-2">
              Seen
              <select
                className="field w-auto text-[14px]"
                value={mode.seen}
                onChange={(e) => bench.set({ mode: { ...mode, seen: e.target.value as SeenAs } })}
                onKeyDown={(e) => e.stopPropagation()}
              >
                {SEEN.map(([value, text]) => (
                  <option key={value} value={value}>
                    {text}
                  </option>
                ))}
              </select>
            </label>
          )}
        </>
      )}
    </ModeBar>
  )
}
