import { useState, type ReactNode } from 'react'
import type { Contour } from '../../types/Contour'
import type { Form } from '../../types/Form'
import { enterStrokes } from './BrushMode'
import { countNodes } from './contour'
import { change, chosenForm, kindOf, windowOf } from './forms'
import { bench, useBench } from '../state/store'
import { enterNodes } from './TraceMode'
import { gather, FormLine } from './FormLine'
import { BendPanel, LinePanel } from './BendPanel'
import { DrawingPanel } from '../fill/DrawingPanel'
import { LengthField } from '../recipe/fields'
import { LetteringControls, LettersPanel } from '../lettering/LetteringPanel'
import { AlignPanel, PlacePanel } from './PlacePanel'
import { ShapePanel } from './ShapePanel'
import { Tabs } from '../recipe/Tabs'

/** The controls of the form that is held. */
export function FormPanel() {
  const piece = useBench((s) => s.selected) ?? ''
  const form = useBench(chosenForm)
  const several = useBench((s) => s.forms.length > 1)
  if (!form) return null
  const tabs: [string, ReactNode][] = [
    [kindOf(form.shape), <OwnPanel piece={piece} form={form} />],
    ...(form.shape.kind === 'lettering' ? [['Letters', <LettersPanel piece={piece} form={form.id} shape={form.shape} />] satisfies [string, ReactNode]] : []),
    ['Place', <PlacePanel piece={piece} form={form} />],
    ['Align', <AlignPanel piece={piece} />],
    ['Bend', <BendPanel piece={piece} form={form} />],
    ['Line', <LinePanel piece={piece} form={form} />],
  ]
  return (
    <div className="min-w-[560px]">
      <Tabs key={`${form.id}${several}`} tabs={tabs} first={several ? tabs.findIndex(([name]) => name === 'Align') : 0} />
      <Actions piece={piece} form={form} />
    </div>
  )
}

function OwnPanel({ piece, form }: { piece: string; form: Form }) {
  const shape = form.shape
  switch (shape.kind) {
    case 'lettering':
      return <LetteringControls key={form.id} piece={piece} form={form.id} shape={shape} />
    case 'basic':
      return <ShapePanel piece={piece} form={form} shape={shape} />
    case 'contour':
      return <ContourPanel piece={piece} form={form} shape={shape} />
    case 'brush':
      return (
        <div className="flex items-center gap-4">
          <button className="strong" onClick={() => enterStrokes(piece, form.id)}>
            Go on painting
          </button>
          <p className="text-[13.5px] text-ink-soft">{shape.strokes.length === 1 ? 'One stroke.' : `${shape.strokes.length} strokes.`}</p>
        </div>
      )
    case 'drawing':
      return <DrawingPanel piece={piece} form={form} shape={shape} />
    case 'list':
      return (
        <div className="max-w-[840px]">
          <div className="overflow-x-auto pb-1">
            <FormLine piece={piece} forms={shape.forms} list={form.id} locked={false} />
          </div>
          <button className="outlined mt-2" onClick={() => void change(piece, { change: 'spread', list: form.id })}>
            Spread the list out
          </button>
        </div>
      )
  }
}

function ContourPanel({ piece, form, shape }: { piece: string; form: Form; shape: Contour }) {
  const [by, setBy] = useState(1)
  return (
    <div className="flex items-end gap-4">
      <button className="strong" onClick={() => enterNodes(piece, form.id)}>
        Change its nodes
      </button>
      <p className="pb-1 text-[13.5px] text-ink-soft tabular-nums">
        {countNodes(shape).toLocaleString('en')} nodes in {shape.subpaths.length === 1 ? 'one subpath' : `${shape.subpaths.length} subpaths`}.
      </p>
      <span className="ml-auto w-24">
        <LengthField label="Width" value={by} step={0.1} onChange={setBy} />
      </span>
      <button className="outlined" title="The contour moves inward by this width, so that no background comes along" onClick={() => void change(piece, { change: 'step_inside', form: form.id, by })}>
        Step inside
      </button>
    </div>
  )
}

function Actions({ piece, form }: { piece: string; form: Form }) {
  const held = useBench((s) => s.forms)
  const own = useBench((s) => windowOf(s, s.selected)?.opening.forms)
  const several = held.length > 1
  const together = own?.filter((f) => held.includes(f.id)).length === held.length
  const copy = async () => {
    const made = crypto.randomUUID()
    if (await change(piece, { change: 'copy_form', form: form.id, copy: made })) bench.set({ forms: [made] })
  }
  return (
    <div className="mt-3 flex flex-wrap items-center gap-1 border-t-[1.5px] border-edge pt-2">
      {several && (
        <button className="outlined" disabled={!together} onClick={() => void gather(piece, held)}>
          Gather into a list
        </button>
      )}
      <button className="plain" onClick={() => void change(piece, { change: 'switch_form', form: form.id, off: !form.off })}>
        {form.off ? 'Switch on' : 'Switch off'}
      </button>
      <button className="plain" onClick={() => void copy()}>
        Copy
      </button>
      {form.shape.kind !== 'contour' || form.bend || form.line ? (
        <button className="plain" title="Freeze it into nodes, as it is now" onClick={() => void change(piece, { change: 'bake', form: form.id })}>
          Bake into nodes
        </button>
      ) : null}
      <button className="plain" onClick={() => void change(piece, { change: 'remove_forms', forms: held })}>
        {several ? 'Remove them' : 'Remove'} <span className="key">Del</span>
      </button>
      <span className="ml-auto text-[12.5px] text-ink-soft">Shift-click cards to hold several.</span>
    </div>
  )
}
