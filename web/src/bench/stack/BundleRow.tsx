import { useState } from 'react'
import { useShallow } from 'zustand/react/shallow'
import { bundleLabel, bundlesAround, piecesOf } from '../bundles'
import { pickBundle } from '../bundling'
import { edit } from '../edits'
import { isChosen } from '../selection'
import { bench, useBench } from '../store'
import { PIECES } from './StackRow'

interface Props {
  bundle: string
  depth: number
  isFolded: boolean
  onFold: () => void
  /** Where what is dragged would come to lie. */
  marked: 'above' | 'below' | null
  onOver: (upper: boolean) => void
  onDropped: (pieces: readonly string[]) => void
}

/** A bundle of the stack: it is selected as one, named, and folded away. */
export function BundleRow({ bundle, depth, isFolded, onFold, marked, onOver, onDropped }: Props) {
  const label = useBench((s) => bundleLabel(s.bench?.sheet, bundle))
  const pieces = useBench(useShallow((s) => piecesOf(s.bench?.sheet, bundle)))
  const isNamed = useBench((s) => s.bench?.sheet.bundles?.some((b) => b.id === bundle && b.name !== undefined) === true)
  const isOn = useBench((s) => pieces.every((p) => isChosen(s, p)))
  const isInside = useBench((s) => bundlesAround(s.bench?.sheet, s.inside).includes(bundle))
  const [naming, setNaming] = useState(false)
  return (
    <li
      draggable={!naming}
      className={`relative flex items-center ${isOn ? 'bg-rose/12' : 'hover:bg-ink/5'} ${marked === 'above' ? 'shadow-[inset_0_3px_0_var(--color-sea)]' : marked === 'below' ? 'shadow-[inset_0_-3px_0_var(--color-sea)]' : ''}`}
      style={{ paddingLeft: depth * 12 }}
      onDragStart={(e) => {
        e.stopPropagation()
        pickBundle(bundle)
        e.dataTransfer.setData(PIECES, piecesOf(bench.get().bench?.sheet, bundle).join(' '))
      }}
      onDragOver={(e) => {
        if (!e.dataTransfer.types.includes(PIECES)) return
        e.preventDefault()
        const box = e.currentTarget.getBoundingClientRect()
        onOver(e.clientY < box.top + box.height / 2)
      }}
      onDrop={(e) => {
        e.preventDefault()
        e.stopPropagation()
        onDropped(e.dataTransfer.getData(PIECES).split(' ').filter(Boolean))
      }}
    >
      <span className={`absolute inset-y-0 left-0 w-[3px] ${isOn ? 'bg-rose' : isInside ? 'bg-sea' : ''}`} aria-hidden />
      <button className="ml-1 flex h-8 w-6 shrink-0 items-center justify-center rounded-md hover:bg-ink/10" aria-expanded={!isFolded} aria-label={`${isFolded ? 'Unfold' : 'Fold'} “${label}”`} title={isFolded ? 'Unfold' : 'Fold'} onClick={onFold}>
        <svg viewBox="0 0 12 12" className={`h-3 w-3 ${isFolded ? '' : 'rotate-90'}`} aria-hidden>
          <path d="M4 2l4 4-4 4" fill="none" stroke="currentColor" strokeWidth="1.8" />
        </svg>
      </button>
      {naming ? (
        <input
          className="field mr-1 min-w-0 px-1 py-0.5 text-[13px]"
          aria-label="Name of the bundle"
          autoFocus
          defaultValue={label}
          onFocus={(e) => e.target.select()}
          onKeyDown={(e) => {
            if (e.key === 'Enter') e.currentTarget.blur()
            if (e.key === 'Escape') setNaming(false)
            e.stopPropagation()
          }}
          onBlur={(e) => {
            setNaming(false)
            if (e.target.value !== label) void edit({ edit: 'name_bundle', bundle, name: e.target.value })
          }}
        />
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
