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
  draw: (piece: string, member: number | null) => ReactNode
  /** Whether a piece looks other than elsewhere in this member of the repeated bundle around it. */
  hasOwn: (piece: string, member: number) => boolean
  /** The member of that bundle that is drawn; null for what all of them share. */
  member: number | null
}

/** Pieces one over the other; bundles with a finish of their own, in panes or repeated, as wholes. */
export function Layers(props: Props) {
  const { layers, views, inside, draw, hasOwn, member } = props
  const suffix = member === null ? '' : `-in-${member}`
  return layers.map((layer) => {
    if (member !== null && !looksOther(layer, member, hasOwn)) {
      const href = 'piece' in layer ? `#piece-${layer.piece}` : `#bundle-${layer.bundle.id}`
      return <use key={href} href={href} />
    }
    if ('piece' in layer) return <Fragment key={layer.piece}>{draw(layer.piece, member)}</Fragment>
    const { id, finish } = layer.bundle
    const strength = finish?.strength ?? 1
    const blend = finish?.blend ?? 'normal'
    const view = views.find((v) => v.bundle === id)
    const isInside = inside?.includes(id) ?? false
    // while a bundle is stepped into, the rest is faint, and so is a shadow of the rest
    const isFaint = inside !== null && !isInside
    const pieces = <Layers {...props} layers={layer.inside} />
    const others = view?.divided?.members?.flatMap((_, k) => (layer.inside.some((l) => looksOther(l, k, hasOwn)) ? [k] : [])) ?? []
    return (
      <g key={id} id={`bundle-${id}${suffix}`} data-bundle={id}>
        <g opacity={isFaint ? 0.25 : undefined}>
          <BundleShadows markup={(view?.shadows ?? '').replaceAll(`#seen-${id}`, `#seen-${id}${suffix}`)} />
        </g>
        <g opacity={strength < 1 ? strength : undefined} className={blend === 'normal' ? undefined : `blend-${blend}`}>
          {view?.divided ? (
            <Divided
              name={`${id}${suffix}`}
              view={view.divided}
              own={new Map(others.map((k) => [k, <Layers key={k} {...props} layers={layer.inside} member={k} />]))}
              isInside={isInside}
              by={commonCarry(layer.inside, props.carried)}
              drag={props.drag?.of.pieces[0] === id ? props.drag : null}
            >
              {pieces}
            </Divided>
          ) : (
            <g id={`seen-${id}${suffix}`}>{pieces}</g>
          )}
        </g>
      </g>
    )
  })
}

/** Whether something in a layer looks other in this member of the repeated bundle around it. */
const looksOther = (layer: Layer, member: number, hasOwn: Props['hasOwn']): boolean =>
  'piece' in layer ? hasOwn(layer.piece, member) : !layer.bundle.repeat && layer.inside.some((l) => looksOther(l, member, hasOwn))

/** How far all of a bundle is carried; nowhere where its pieces are not carried alike. */
function commonCarry(layers: Layer[], carried: (piece: string) => Similarity): Similarity {
  const pieces = (all: Layer[]): string[] => all.flatMap((l) => ('piece' in l ? [l.piece] : pieces(l.inside)))
  const moves = pieces(layers).map(carried)
  const [first = STILL] = moves
  const same = moves.every((m) => m.a === first.a && m.b === first.b && m.dx === first.dx && m.dy === first.dy)
  return same ? first : STILL
}

interface DividedProps {
  /** What is drawn here is called after. */
  name: string
  view: BundleHandles
  /** What is in it, in the members in which something of it looks other. */
  own: Map<number, ReactNode>
  /** It was stepped into: it is seen whole, and other members faintly. */
  isInside: boolean
  by: Similarity
  drag: { of: Drag; by: Similarity } | null
  children: ReactNode
}

/** A bundle in its panes and as its members: what is in it is drawn once, and shown in each of them. */
function Divided({ name, view: { parts, members }, own, isInside, by, drag, children }: DividedProps) {
  // what is carried by the browser alone is carried in each of the places where it is seen
  const carry = (to: readonly number[], moved: Similarity | null): string => {
    const own = css(to as Matrix)
    return `${moved ? `${matrix(moved)} ` : ''}${matrix(by)} ${own} ${matrix(inverse(by))}`
  }
  const draggedAt = (what: 'pane' | 'member', k: number | null | undefined) => (drag && k !== null && k !== undefined && drag.of[what] === k ? drag.by : null)
  // the one that lies where the bundle lies is what is worked on
  const others = members?.flatMap((m, k) => (m.hidden || (isInside && isStillAt(m.transform)) ? [] : [{ to: m.transform, k }]))
  const seen = others ?? (isInside ? [] : [{ to: IDENTITY as readonly number[], k: null }])
  const whole = <g id={`whole-${name}`}>{children}</g>
  return (
    <>
      <defs>
        {!isInside && whole}
        {[...own].map(([k, pieces]) => (
          <g key={k} id={`whole-${name}-in-${k}`}>
            {pieces}
          </g>
        ))}
        {parts.map((part, k) =>
          part.region === undefined ? null : (
            <clipPath key={k} id={`part-${name}-${k}`}>
              <path d={part.region} transform={matrix(by)} />
            </clipPath>
          ),
        )}
      </defs>
      <g id={`seen-${name}`}>
        <g opacity={isInside ? 0.25 : undefined}>
          {seen.map(({ to, k }) => (
            <g key={k ?? 'once'} data-member={k ?? undefined} transform={carry(to, draggedAt('member', k))}>
              {parts.map((part, n) => (
                <g key={n} data-pane={part.pane} transform={carry(part.transform, draggedAt('pane', part.pane))}>
                  <use href={`#whole-${name}${k !== null && own.has(k) ? `-in-${k}` : ''}`} clipPath={part.region === undefined ? undefined : `url(#part-${name}-${n})`} />
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
