import type { Form } from '../../types/Form'
import type { Pose } from '../../types/Pose'
import { lineFormsUp, spreadForms, type Relation } from '../arrange/lineUp'
import { EDGES } from '../arrange/edges'
import { marginBox } from '../guides/layout'
import { amendForm, change, formView } from './forms'
import { middle } from '../geometry/boxes'
import { IDENTITY, within, type Matrix } from '../geometry/matrix'
import { useBench } from '../state/store'
import { useState } from 'react'
import { ChoiceField, LengthField, PlainField } from '../recipe/fields'

/** Where a form lies, in numbers. */
export function PlacePanel({ piece, form }: { piece: string; form: Form }) {
  const view = useBench((s) => formView(s, piece, form.id))
  // a form that fills the window is not held
  const held = useBench((s) => (s.forms.length > 0 ? s.forms : null)) ?? [form.id]
  const pose = form.pose
  const set = (part: Partial<Pose>, gesture: string) => void amendForm(piece, form.id, (f) => ({ ...f, pose: { ...f.pose, ...part } }), gesture)
  const mirror = (by: Matrix) => {
    const [x, y] = middle(view?.corners ?? [])
    const about: Matrix = [1, 0, 0, 1, x, y]
    void change(piece, { change: 'transform', forms: held, by: within(about, by) })
  }
  return (
    <div className="w-[620px]">
      <div className="grid grid-cols-6 gap-3">
        <LengthField label="Across" value={pose.x} onChange={(x, g) => set({ x }, g)} />
        <LengthField label="Down" value={pose.y} onChange={(y, g) => set({ y }, g)} />
        <PlainField label="Turn, degrees" value={pose.turn} onChange={(turn, g) => set({ turn }, g)} />
        <PlainField label="Slant, degrees" value={pose.slant} min={-80} max={80} onChange={(slant, g) => set({ slant }, g)} />
        <PlainField label="Wide, %" value={pose.wide} factor={100} digits={1} onChange={(wide, g) => wide !== 0 && set({ wide }, g)} />
        <PlainField label="Tall, %" value={pose.tall} factor={100} digits={1} onChange={(tall, g) => tall !== 0 && set({ tall }, g)} />
      </div>
      <div className="mt-3 flex flex-wrap gap-2">
        <button className="outlined" onClick={() => mirror([-1, 0, 0, 1, 0, 0])}>
          Mirror left to right
        </button>
        <button className="outlined" onClick={() => mirror([1, 0, 0, -1, 0, 0])}>
          Mirror top to bottom
        </button>
        <button
          className="plain"
          disabled={pose.turn === 0 && pose.slant === 0 && pose.wide === IDENTITY[0] && pose.tall === IDENTITY[3] && !pose.pull}
          onClick={() =>
            void amendForm(piece, form.id, (f) => ({ ...f, pose: { x: f.pose.x, y: f.pose.y, turn: 0, slant: 0, wide: 1, tall: 1 } }), crypto.randomUUID())
          }
        >
          Upright again
        </button>
        <button
          className="plain"
          disabled={!pose.pull}
          onClick={() =>
            void amendForm(piece, form.id, ({ pose: { pull: _, ...rest }, ...f }) => ({ ...f, pose: rest }), crypto.randomUUID())
          }
        >
          Corners back
        </button>
      </div>
    </div>
  )
}

/** Lines held forms up with something. */
export function AlignPanel({ piece }: { piece: string }) {
  const held = useBench((s) => s.forms)
  const [to, setTo] = useState<Relation>('others')
  const several = held.length > 1
  const hasMargins = useBench((s) => marginBox(s.bench?.sheet) !== null)
  const relation: Relation = !several && (to === 'others' || to === 'last') ? 'opening' : to === 'margins' && !hasMargins ? 'sheet' : to
  return (
    <div className="w-[620px]">
      <ChoiceField<Relation>
        label="With"
        options={[
          ...(several
            ? ([
                ['others', 'One another'],
                ['last', 'The form held last'],
              ] as const)
            : []),
          ['opening', 'The other forms'],
          ['sheet', 'The sheet'],
          ...(hasMargins ? ([['margins', 'Its margins']] as const) : []),
        ]}
        value={relation}
        onChange={setTo}
      />
      <div className="mt-3 grid grid-cols-3 gap-1.5">
        {EDGES.map(([edge, name]) => (
          <button key={edge} className="outlined justify-center" onClick={() => void lineFormsUp(piece, held, edge, relation)}>
            {name}
          </button>
        ))}
      </div>
      <div className="mt-2 grid grid-cols-2 gap-1.5">
        <button className="outlined justify-center" disabled={held.length < 3} onClick={() => void spreadForms(piece, held, 'across')}>
          Spread evenly across
        </button>
        <button className="outlined justify-center" disabled={held.length < 3} onClick={() => void spreadForms(piece, held, 'down')}>
          Spread evenly down
        </button>
      </div>
    </div>
  )
}
