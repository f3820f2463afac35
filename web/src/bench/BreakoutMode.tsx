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

/** Lets overhangs out or takes them back in; nothing is kept before *keep*. */
function put(overhangs: OverhangView[], out: boolean) {
  const now = bench.get().mode
  const changing = overhangs.filter((o) => isOut(o) !== out)
  if (now?.kind !== 'breakout' || changing.length === 0) return
  const changes = changing.map((o): Edit =>
    o.part !== undefined
      ? { edit: 'let_pieces_out', piece: now.piece, fill: o.anchor.fill, parts: [o.part], out }
      : out ? { edit: 'let_out', piece: now.piece, anchor: o.anchor } : { edit: 'keep_in', piece: now.piece, anchors: o.let_out_by },
  )
  const edits = [...now.edits, ...changes]
  bench.set({ mode: { ...now, edits } })
  attempt(edits)
}

const isOut = (o: OverhangView) => o.let_out_by.length > 0

const keyOf = (o: OverhangView) => `${o.anchor.fill} ${o.part ?? ''} ${o.anchor.x} ${o.anchor.y}`

/** What a sweep across parts does to those it meets: the opposite of what the first of them was. */
let sweep: boolean | null = null
const swept = new Set<string>()

function meet(overhang: OverhangView) {
  if (sweep === null || swept.has(keyOf(overhang))) return
  swept.add(keyOf(overhang))
  put([overhang], sweep)
}

/** A click or the begin of a sweep. */
function begin(overhang: OverhangView, e: React.PointerEvent) {
  e.stopPropagation()
  if (e.button !== 0) return
  // the parts that are swept across must hear of it
  ;(e.target as Element).releasePointerCapture(e.pointerId)
  sweep = !isOut(overhang)
  swept.clear()
  meet(overhang)
  window.addEventListener('pointerup', () => (sweep = null), { once: true })
}

const percent = (share: number) => `${(share * 100).toFixed(share < 0.01 ? 1 : 0)}%`

const label = (o: OverhangView) =>
  `${isOut(o) ? 'Keep in' : 'Let out'}: the part ${o.place}, ${percent(o.share)} of the ${o.part === undefined ? 'photo' : 'drawing'}${o.cut_off ? ', cut off by the end of the photo' : ''}`

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
            onPointerDown={(e) => begin(o, e)}
            onPointerEnter={() => meet(o)}
            // screen readers click without a pointer
            onClick={(e) => e.detail === 0 && put([o], !out)}
            onKeyDown={(e) => {
              if (e.key !== 'Enter' && e.key !== ' ') return
              e.preventDefault()
              put([o], !out)
            }}
          />
        )
      })}
    </g>
  )
}

/** Scraps in counters and between letters are let out one by one: nobody means them by *all*. */
const AROUND = ['above', 'below', 'left', 'right']
const SIDES: readonly (readonly [text: string, places: readonly string[]])[] = [
  ['around', AROUND],
  ...AROUND.map((place) => [place, [place]] as const),
]

export function BreakoutBar() {
  const mode = useBench((s) => (s.mode?.kind === 'breakout' ? s.mode : null))
  const overhangs = useBench((s) => layerOf(s, s.mode?.piece ?? null)?.overhangs) ?? []
  if (!mode) return null
  const out = overhangs.filter(isOut)
  const keep = async () => {
    const gesture = crypto.randomUUID()
    let kept = true
    for (const change of mode.edits) kept = kept && (await edit(change, gesture))
    if (kept) leave()
  }
  const sentence =
    overhangs.length === 0
      ? 'Nothing reaches over the edge. Move or scale the photo or the drawing until it does.'
      : `Click a part, or sweep across several, to let it out over the edge; again to keep it in. ${out.length} of ${overhangs.length} are out.`
  const cut = out.some((o) => o.cut_off)
  return (
    <ModeBar
      title="Breakout"
      sentence={cut ? 'A part that is out (dashed) is cut off by the end of the photo, and shows a straight cut. Keep it in, or hide its end behind something.' : sentence}
      alarm={cut}
      canKeep={mode.edits.length > 0}
      onKeep={() => void keep()}
      onDrop={leave}
    >
      <div className="flex items-center gap-1" role="group" aria-label="Let out everything that lies">
        <span className="tag mr-1">Everything</span>
        {SIDES.map(([text, places]) => {
          const there = overhangs.filter((o) => places.includes(o.place))
          const outside = there.length > 0 && there.every(isOut)
          return (
            <button
              key={text}
              className={`rounded-md border-[1.5px] px-2.5 py-0.5 text-[13.5px] disabled:opacity-40 ${outside ? 'border-ink bg-ink text-leaf' : 'border-edge bg-leaf hover:border-ink'}`}
              aria-pressed={outside}
              disabled={there.length === 0}
              title={outside ? 'All of it is out: keep it in' : 'Let it out'}
              onClick={() => put(there, !outside)}
            >
              {text}
            </button>
          )
        })}
      </div>
      <button className="outlined" disabled={out.length === 0} onClick={() => put(overhangs, false)}>
        Keep all in
      </button>
    </ModeBar>
  )
}
