import { Fragment, memo, type ReactNode } from 'react'
import type { BundleHandles } from '../../types/BundleHandles'
import type { BundleView } from '../../types/BundleView'
import { css, IDENTITY, type Matrix } from '../geometry/matrix'
import type { Similarity } from '../../types/Similarity'
import { inverse, matrix, STILL } from '../geometry/similarity'
import type { Drag } from '../state/store'
import type { Layer } from './bundles'

interface Props {
  layers: Layer[]
  /** What is drawn of bundles besides their pieces. */
  views: readonly BundleView[]
  /** The bundle that was stepped into and those around it; null outside of all. */
  inside: readonly string[] | null
  /** How far a piece is carried beyond what its view shows already. */
  carried: (piece: string) => Similarity
  /** A pane or a member of a bundle that is dragged, beyond what is shown already. */
  drag: { of: Drag; by: Similarity } | null
  draw: (piece: string) => ReactNode
}

/** Pieces one over the other; bundles with a finish of their own, in panes or repeated, as wholes. */
export function Layers(props: Props) {
  const { layers, views, inside, draw } = props
  return layers.map((layer) => {
    if ('piece' in layer) return <Fragment key={layer.piece}>{draw(layer.piece)}</Fragment>
    const { id, finish } = layer.bundle
    const strength = finish?.strength ?? 1
    const blend = finish?.blend ?? 'normal'
    const view = views.find((v) => v.bundle === id)
    const isInside = inside?.includes(id) ?? false
    // while a bundle is stepped into, the rest is faint, and so is a shadow of the rest
    const isFaint = inside !== null && !isInside
    const pieces = <Layers {...props} layers={layer.inside} />
    return (
      <g key={id} data-bundle={id}>
        <g opacity={isFaint ? 0.25 : undefined}>
          <BundleShadows markup={view?.shadows ?? ''} />
        </g>
        <g opacity={strength < 1 ? strength : undefined} className={blend === 'normal' ? undefined : `blend-${blend}`}>
          {view?.divided ? (
            <Divided id={id} view={view.divided} isInside={isInside} by={commonCarry(layer.inside, props.carried)} drag={props.drag?.of.pieces[0] === id ? props.drag : null}>
              {pieces}
            </Divided>
          ) : (
            <g id={`seen-${id}`}>{pieces}</g>
          )}
        </g>
      </g>
    )
  })
}

/** How far all of a bundle is carried; nowhere where its pieces are not carried alike. */
function commonCarry(layers: Layer[], carried: (piece: string) => Similarity): Similarity {
  const pieces = (all: Layer[]): string[] => all.flatMap((l) => ('piece' in l ? [l.piece] : pieces(l.inside)))
  const moves = pieces(layers).map(carried)
  const [first = STILL] = moves
  const same = moves.every((m) => m.a === first.a && m.b === first.b && m.dx === first.dx && m.dy === first.dy)
  return same ? first : STILL
}

interface DividedProps {
  id: string
  view: BundleHandles
  /** It was stepped into: it is seen whole, and other members faintly. */
  isInside: boolean
  by: Similarity
  drag: { of: Drag; by: Similarity } | null
  children: ReactNode
}

/** A bundle in its panes and as its members: what is in it is drawn once, and shown in each of them. */
function Divided({ id, view: { parts, members }, isInside, by, drag, children }: DividedProps) {
  // what is carried by the browser alone is carried in each of the places where it is seen
  const carry = (to: readonly number[], moved: Similarity | null): string => {
    const own = css(to as Matrix)
    return `${moved ? `${matrix(moved)} ` : ''}${matrix(by)} ${own} ${matrix(inverse(by))}`
  }
  const draggedAt = (what: 'pane' | 'member', k: number | null | undefined) => (drag && k !== null && k !== undefined && drag.of[what] === k ? drag.by : null)
  // the one that lies where the bundle lies is what is worked on
  const others = members?.flatMap((m, k) => (m.hidden || (isInside && isStillAt(m.transform)) ? [] : [{ to: m.transform, k }]))
  const seen = others ?? (isInside ? [] : [{ to: IDENTITY as readonly number[], k: null }])
  const whole = <g id={`whole-${id}`}>{children}</g>
  return (
    <>
      <defs>
        {!isInside && whole}
        {parts.map((part, k) =>
          part.region === undefined ? null : (
            <clipPath key={k} id={`part-${id}-${k}`}>
              <path d={part.region} transform={matrix(by)} />
            </clipPath>
          ),
        )}
      </defs>
      <g id={`seen-${id}`}>
        <g opacity={isInside ? 0.25 : undefined}>
          {seen.map(({ to, k }) => (
            <g key={k ?? 'once'} data-member={k ?? undefined} transform={carry(to, draggedAt('member', k))}>
              {parts.map((part, n) => (
                <g key={n} data-pane={part.pane} transform={carry(part.transform, draggedAt('pane', part.pane))}>
                  <use href={`#whole-${id}`} clipPath={part.region === undefined ? undefined : `url(#part-${id}-${n})`} />
                </g>
              ))}
            </g>
          ))}
        </g>
        {isInside && whole}
      </g>
    </>
  )
}

const isStillAt = (to: readonly number[]) => to.every((v, k) => v === IDENTITY[k])

const BundleShadows = memo(function BundleShadows({ markup }: { markup: string }) {
  return <g dangerouslySetInnerHTML={{ __html: markup }} />
})
