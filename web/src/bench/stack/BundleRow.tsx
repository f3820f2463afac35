import { useState } from 'react'
import { useShallow } from 'zustand/react/shallow'
import { bundleLabel, bundlesAround, piecesOf } from '../bundle/bundles'
import { pickBundle } from '../bundle/bundling'
import { edit } from '../state/edits'
import { isChosen } from '../state/selection'
import { bench, useBench } from '../state/store'
import { markOf, PIECES, takesPieces, type DropProps } from './dropping'
import { NameInput } from './NameInput'

interface Props extends DropProps {
  bundle: string
  depth: number
  isFolded: boolean
  onFold: () => void
}

/** A bundle of the stack: it is selected as one, named, and folded away. */
export function BundleRow({ bundle, depth, isFolded, onFold, ...drop }: Props) {
  const label = useBench((s) => bundleLabel(s.bench?.sheet, bundle))
  const pieces = useBench(useShallow((s) => piecesOf(s.bench?.sheet, bundle)))
  const isNamed = useBench((s) => s.bench?.sheet.bundles?.some((b) => b.id === bundle && b.name !== undefined) === true)
  const isOn = useBench((s) => pieces.every((p) => isChosen(s, p)))
  const isInside = useBench((s) => bundlesAround(s.bench?.sheet, s.inside).includes(bundle))
  const [naming, setNaming] = useState(false)
  return (
    <li
      draggable={!naming}
      className={`relative flex items-center ${isOn ? 'bg-rose/12' : 'hover:bg-ink/5'} ${markOf(drop.marked)}`}
      style={{ paddingLeft: depth * 12 }}
      onDragStart={(e) => {
        e.stopPropagation()
        pickBundle(bundle)
        e.dataTransfer.setData(PIECES, piecesOf(bench.get().bench?.sheet, bundle).join(' '))
      }}
      {...takesPieces(drop)}
    >
      <span className={`absolute inset-y-0 left-0 w-[3px] ${isOn ? 'bg-rose' : isInside ? 'bg-sea' : ''}`} aria-hidden />
      <button className="ml-1 flex h-8 w-6 shrink-0 items-center justify-center rounded-md hover:bg-ink/10" aria-expanded={!isFolded} aria-label={`${isFolded ? 'Unfold' : 'Fold'} “${label}”`} title={isFolded ? 'Unfold' : 'Fold'} onClick={onFold}>
        <svg viewBox="0 0 12 12" className={`h-3 w-3 ${isFolded ? '' : 'rotate-90'}`} aria-hidden>
          <path d="M4 2l4 4-4 4" fill="none" stroke="currentColor" strokeWidth="1.8" />
        </svg>
      </button>
      {naming ? (
        <NameInput label="Name of the bundle" name={label} onTake={(name) => void edit({ edit: 'name_bundle', bundle, name })} onEnd={() => setNaming(false)} />
      ) : (
        <button
          className="flex min-w-0 grow items-baseline gap-1.5 py-1.5 pr-2 text-left"
          aria-pressed={isOn}
          aria-label={`Select the bundle “${label}”`}
          title={`${label}. A double press names it`}
          onClick={() => pickBundle(bundle)}
          onDoubleClick={() => setNaming(true)}
        >
          <span className="truncate text-[13px] font-semibold">{label}</span>
          {isNamed && <span className="shrink-0 text-[11.5px] text-ink-soft">{pieces.length}</span>}
        </button>
      )}
    </li>
  )
}
