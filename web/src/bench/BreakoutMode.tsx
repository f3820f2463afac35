import type { Edit } from '../types/Edit'
import type { Layer } from '../types/Layer'
import type { OverhangView } from '../types/OverhangView'
import type { Sheet } from '../types/Sheet'
import { attempt, edit, forget } from './edits'
import { ModeBar } from './ModeBar'
import { cutoutOf } from './pictures'
import { bench, layerOf, useBench, type Mode } from './store'

type BreakoutState = Extract<Mode, { kind: 'breakout' }>

export function enterBreakoutMode(piece: string) {
  bench.set({ mode: { kind: 'breakout', piece, edits: [] }, open: null, selected: piece })
}

function leave() {
  bench.set({ mode: null })
  forget()
}

/** Lets an overhang out or takes it back in; nothing is kept before *keep*. */
function toggle(overhang: OverhangView) {
  const now = bench.get().mode
  if (now?.kind !== 'breakout') return
  const change: Edit =
    overhang.let_out_by.length > 0
      ? { edit: 'keep_in', piece: now.piece, anchors: overhang.let_out_by }
      : { edit: 'let_out', piece: now.piece, anchor: overhang.anchor }
  const edits = [...now.edits, change]
  bench.set({ mode: { ...now, edits } })
  attempt(edits)
}

const percent = (share: number) => `${(share * 100).toFixed(share < 0.01 ? 1 : 0)}%`

const label = (o: OverhangView) =>
  `${o.let_out_by.length > 0 ? 'Keep in' : 'Let out'}: the part ${o.place}, ${percent(o.share)} of the photo`

/** The whole subject, faintly: what could be let out is seen before it is. */
export function FaintSubject({ layer, sheet, piece }: { layer: Layer; sheet: Sheet; piece: string }) {
  const kind = sheet.pieces.find((p) => p.id === piece)?.kind
  if (kind?.kind !== 'window') return null
  return kind.fills.map((fill) => {
    const view = layer.photos.find((p) => p.fill === fill.id)
    const subject = fill.paint.kind === 'photo' ? sheet.photos[fill.paint.photo]?.subject : undefined
    if (!view || !subject) return null
    return (
      <image
        key={fill.id}
        {...(view.pulled ?? { width: view.width, height: view.height })}
        href={cutoutOf(view.pulled?.href ?? view.href, subject)}
        transform={view.transform}
        opacity={0.55}
        preserveAspectRatio="none"
      />
    )
  })
}

/** The overhangs, washed with ink while they stay in; what a click would change shows under the pointer. */
export function OverhangWashes({ mode }: { mode: BreakoutState }) {
  const overhangs = useBench((s) => layerOf(s, mode.piece)?.overhangs)
  return (
    <g className="pointer-events-auto">
      {overhangs?.map((o) => {
        const out = o.let_out_by.length > 0
        return (
          <path
            key={`${o.anchor.x},${o.anchor.y}`}
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
            className={`cursor-pointer outline-none transition-[fill,fill-opacity] duration-100 hover:fill-sea hover:stroke-sea focus-visible:stroke-sea focus-visible:[stroke-width:4] ${
              out ? 'fill-transparent stroke-rose hover:[fill-opacity:0.45]' : 'fill-ink stroke-ink [fill-opacity:0.42] hover:[fill-opacity:0.55]'
            }`}
            onPointerDown={(e) => e.stopPropagation()}
            onClick={() => toggle(o)}
            onKeyDown={(e) => {
              if (e.key !== 'Enter' && e.key !== ' ') return
              e.preventDefault()
              toggle(o)
            }}
          />
        )
      })}
    </g>
  )
}

export function BreakoutBar() {
  const mode = useBench((s) => (s.mode?.kind === 'breakout' ? s.mode : null))
  const overhangs = useBench((s) => layerOf(s, s.mode?.piece ?? null)?.overhangs) ?? []
  if (!mode) return null
  const out = overhangs.filter((o) => o.let_out_by.length > 0)
  const keep = async () => {
    const gesture = crypto.randomUUID()
    let kept = true
    for (const change of mode.edits) kept = kept && (await edit(change, gesture))
    if (kept) leave()
  }
  const all = (letOut: boolean) => {
    const changes = overhangs
      .filter((o) => o.let_out_by.length > 0 !== letOut)
      .map((o): Edit =>
        letOut
          ? { edit: 'let_out', piece: mode.piece, anchor: o.anchor }
          : { edit: 'keep_in', piece: mode.piece, anchors: o.let_out_by },
      )
    const edits = [...mode.edits, ...changes]
    bench.set({ mode: { ...mode, edits } })
    attempt(edits)
  }
  const sentence =
    overhangs.length === 0
      ? 'The subject does not reach over the edge. Move or scale the photo until it does.'
      : `Click a part to let it out over the edge, click again to keep it in. ${out.length} of ${overhangs.length} are out.`
  return (
    <ModeBar
      title="Breakout"
      sentence={sentence}
      canKeep={mode.edits.length > 0}
      onKeep={() => void keep()}
      onDrop={leave}
    >
      <button className="outlined" disabled={out.length === overhangs.length} onClick={() => all(true)}>
        Let all out
      </button>
      <button className="outlined" disabled={out.length === 0} onClick={() => all(false)}>
        Keep all in
      </button>
    </ModeBar>
  )
}
