import type { Similarity } from '../../types/Similarity'
import { startScale, startSlant, startTurn } from './drag'
import { handledForms } from '../opening/forms'
import { handlingsOf } from './handling'
import { knobOf, moved } from '../geometry/boxes'
import { toScreen } from './viewport'
import type { Held } from '../state/held'
import type { Locate } from './place'
import { useBench } from '../state/store'

interface Props {
  held: Held
  residual: Similarity
  locate: Locate
  locked: boolean
}

/** Corners that scale what a drag moves, and a knob that turns it. */
export function GripHandles({ held, residual, locate, locked }: Props) {
  const view = useBench((s) => s.view)
  // the corners of the only form, or of the photo, are pulled instead
  const pulled = useBench((s) => s.handling === 'pull' && handlingsOf(s).includes('pull') && (held.what === 'fill' || handledForms(s).length === 1))
  // the rails for open sides stand where knob and bar do
  const rails = useBench((s) => s.open === 'opening')
  const slants = useBench((s) => s.handling === 'slant' && held.pieces.length > 1)
  const corners = moved(held.corners, residual).map((c) => toScreen(view, c))
  const [a, b, c, d] = corners
  if (!a || !b || !c || !d) return null
  const { top, knob } = knobOf(corners, 24)
  const colour = held.what === 'fill' ? 'var(--color-sea)' : 'var(--color-rose)'

  return (
    <>
      {!locked && (
        <svg className="pointer-events-none absolute inset-0 h-full w-full overflow-hidden">
          <polygon points={corners.map((p) => p.join(',')).join(' ')} fill="none" stroke={colour} strokeWidth={1} strokeDasharray="1 5" strokeLinecap="round" />
          {!rails && <line x1={top[0]} y1={top[1]} x2={knob[0]} y2={knob[1]} stroke={colour} strokeWidth={1} />}
          <circle
            data-testid="turn"
            display={rails ? 'none' : undefined}
            cx={knob[0]}
            cy={knob[1]}
            r={6}
            fill="var(--color-leaf)"
            stroke={colour}
            strokeWidth={2}
            className="pointer-events-auto cursor-grab"
            onPointerDown={(e) => startTurn(e, held, locate)}
          />
          {slants &&
            [0, 1, 2, 3].map((side) => {
              const [p, q] = [corners[side] ?? a, corners[(side + 1) % 4] ?? a]
              return (
                <circle key={side} data-testid={`slant-${side}`} cx={(p[0] + q[0]) / 2} cy={(p[1] + q[1]) / 2} r={5.5} fill="var(--color-leaf)" stroke={colour} strokeWidth={1.5} className={`pointer-events-auto ${side % 2 === 0 ? 'cursor-ew-resize' : 'cursor-ns-resize'}`} onPointerDown={(e) => startSlant(e, held, side, locate)}>
                  <title>Drag along the side: all of it is slanted</title>
                </circle>
              )
            })}
          {!pulled && corners.map((p, i) => (
            <path
              key={i}
              data-testid={`corner-${i}`}
              // a quarter of a disc that points outward
              d="M-7 -7h8a6 6 0 0 1 6 6v8h-8a6 6 0 0 1 -6 -6Z"
              transform={`translate(${p[0]} ${p[1]})`}
              fill={colour}
              stroke="var(--color-leaf)"
              strokeWidth={1.5}
              className={`pointer-events-auto ${i % 2 === 0 ? 'cursor-nwse-resize' : 'cursor-nesw-resize'}`}
              onPointerDown={(e) => startScale(e, held, i, locate)}
            >
              <title>Scale; with Alt from the middle, with Ctrl turning along</title>
            </path>
          ))}
        </svg>
      )}
    </>
  )
}
