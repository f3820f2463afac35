import { Fragment, memo, type ReactNode } from 'react'
import type { BundleView } from '../../types/BundleView'
import type { Layer } from './bundles'

interface Props {
  layers: Layer[]
  /** What is drawn of bundles besides their pieces. */
  views: readonly BundleView[]
  /** The bundle that was stepped into and those around it; null outside of all. */
  inside: readonly string[] | null
  draw: (piece: string) => ReactNode
}

/** Pieces one over the other; bundles with a finish of their own as wholes. */
export function Layers({ layers, views, inside, draw }: Props) {
  return layers.map((layer) => {
    if ('piece' in layer) return <Fragment key={layer.piece}>{draw(layer.piece)}</Fragment>
    const { id, finish } = layer.bundle
    const strength = finish?.strength ?? 1
    const blend = finish?.blend ?? 'normal'
    // while a bundle is stepped into, the rest is faint, and so is a shadow of the rest
    const isFaint = inside !== null && !inside.includes(id)
    return (
      <g key={id} id={`unit-${id}`} data-bundle={id}>
        <g opacity={isFaint ? 0.25 : undefined}>
          <BundleShadows markup={views.find((v) => v.bundle === id)?.shadows ?? ''} />
        </g>
        <g opacity={strength < 1 ? strength : undefined} className={blend === 'normal' ? undefined : `blend-${blend}`}>
          <Layers layers={layer.inside} views={views} inside={inside} draw={draw} />
        </g>
      </g>
    )
  })
}

const BundleShadows = memo(function BundleShadows({ markup }: { markup: string }) {
  return <g dangerouslySetInnerHTML={{ __html: markup }} />
})
