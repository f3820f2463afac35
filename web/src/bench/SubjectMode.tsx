import { useEffect, useRef } from 'react'
import { edit } from './edits'
import { fitted } from './geometry'
import { begin, cancel, isOpen, stopFollowing, useFollowed, useJob } from './jobs'
import { ModeBar } from './ModeBar'
import { cutoutOf } from './pictures'
import { bench, layerOf, useBench, type Mode } from './store'
import type { Point } from './similarity'

type Subject = Extract<Mode, { kind: 'subject' }>

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
  const known = sheet?.photos[photo]?.subject ?? null
  bench.set({
    mode: { kind: 'subject', piece, fill: fill.id, photo, box: null, drawing: known !== null, found: known },
    open: null,
    view: fitted(rect, s.port),
  })
  if (known === null) void find(null)
}

async function find(box: Subject['box']) {
  const s = bench.get()
  if (s.mode?.kind !== 'subject' || !s.bench) return
  bench.set({ mode: { ...s.mode, box, found: null, drawing: false } })
  await begin(s.bench.id, 'subject', { task: 'find_subject', photo: s.mode.photo, within: box })
}

function leave() {
  const s = bench.get()
  const sheet = s.bench?.sheet
  bench.set({ mode: null, tried: {}, ...(sheet ? { view: fitted([0, 0, sheet.width, sheet.height], s.port) } : {}) })
  stopFollowing('subject')
}

/** Draws a box on the photo, in its own pixels. */
export function startBox(e: React.PointerEvent, locate: (e: { clientX: number; clientY: number }) => Point) {
  const s = bench.get()
  if (s.mode?.kind !== 'subject') return
  const view = layerOf(s, s.mode.piece)?.photos.find((p) => s.mode?.kind === 'subject' && p.fill === s.mode.fill)
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
  const box = (m: PointerEvent) => {
    const end = toPhoto(locate(m))
    return {
      x: Math.min(start[0], end[0]),
      y: Math.min(start[1], end[1]),
      width: Math.abs(end[0] - start[0]),
      height: Math.abs(end[1] - start[1]),
    }
  }
  const move = (m: PointerEvent) => {
    const now = bench.get().mode
    if (now?.kind === 'subject') bench.set({ mode: { ...now, box: box(m) } })
  }
  const up = (m: PointerEvent) => {
    window.removeEventListener('pointermove', move)
    window.removeEventListener('pointerup', up)
    const drawn = box(m)
    if (drawn.width > 2 && drawn.height > 2) void find(drawn)
  }
  window.addEventListener('pointermove', move)
  window.addEventListener('pointerup', up)
}

/** The whole photo; what is not the subject under a veil of paper once it is found; the box. */
export function SubjectOverlay({ mode }: { mode: Subject }) {
  const s = useBench()
  const view = layerOf(s, mode.piece)?.photos.find((p) => p.fill === mode.fill)
  const sheet = s.bench?.sheet
  if (!view || !sheet) return null
  const frame = { width: view.width, height: view.height }
  return (
    <g>
      <rect width={sheet.width} height={sheet.height} fill="var(--color-paper)" fillOpacity={0.85} />
      <g transform={view.transform}>
        <image href={view.href} {...frame} preserveAspectRatio="none" />
        {mode.found && (
          <>
            <rect {...frame} fill="var(--color-paper)" fillOpacity={0.82} />
            <image data-testid="found" href={cutoutOf(view.href, mode.found)} {...frame} preserveAspectRatio="none" />
          </>
        )}
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
    if (job.outcome?.outcome === 'subject') bench.set({ mode: { ...now, found: job.outcome.subject } })
    else bench.set({ mode: { ...now, drawing: true } })
  }, [job])

  if (mode?.kind !== 'subject') return null
  const failure = !searching && job?.state === 'failed' && job.outcome?.outcome === 'failed' && !mode.found ? job.outcome.sentence : null
  const sentence = searching
    ? `${job?.step || 'Waiting for its turn'} …`
    : mode.drawing
      ? 'Draw a box around the whole subject.'
      : 'This is what was found. Keep it, or draw a box around what you want.'
  const keep = async () => {
    if (!mode.found) return
    const kept = await edit({ edit: 'set_subject', photo: mode.photo, subject: mode.found })
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
          <button className="outlined" onClick={() => void find(null)}>
            Find it by itself
          </button>
          <button
            className={`outlined ${mode.drawing ? 'bg-ink text-leaf' : ''}`}
            aria-pressed={mode.drawing}
            onClick={() => bench.set({ mode: { ...mode, drawing: !mode.drawing, box: null } })}
          >
            In a box
          </button>
        </>
      )}
    </ModeBar>
  )
}
