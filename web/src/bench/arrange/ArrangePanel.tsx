import { useState } from 'react'
import { useShallow } from 'zustand/react/shallow'
import { Radios } from '../../parts/Radios'
import { edit } from '../state/edits'
import { around, middle, type Bounds } from '../geometry/boxes'
import { heldNow, moveOf, transformOf } from '../state/held'
import { within, type Matrix } from '../geometry/matrix'
import { ChoiceField, LengthField, PlainField, Tick } from '../recipe/fields'
import { chosen } from '../state/selection'
import { about, shift, type Point } from '../geometry/similarity'
import { useBench } from '../state/store'
import { marginBox } from '../guides/layout'
import { EDGES } from './edges'
import { linePiecesUp, spreadPieces, type Relation } from './lineUp'

/** Where what is selected lies, how large it is, and what it is lined up with. */
export function ArrangePanel() {
  return (
    <div className="flex gap-6">
      <Place />
      <LineUp />
    </div>
  )
}

/** The nine points of a box that numbers can be about, as shares of its width and height. */
const POINTS = [0, 0.5, 1].flatMap((v) => [0, 0.5, 1].map((u) => ({ u, v })))

const NAMES = ['top left', 'top', 'top right', 'left', 'middle', 'right', 'bottom left', 'bottom', 'bottom right']

const pointOf = ([l, t, r, b]: Bounds, k: number): Point => {
  const { u, v } = POINTS[k] ?? { u: 0, v: 0 }
  return [l + (r - l) * u, t + (b - t) * v]
}

/** Place and size in numbers, of one of nine points. */
function Place() {
  const [of, setOf] = useState(0)
  const [even, setEven] = useState(true)
  // what is held follows from all of these
  useBench(useShallow((s) => [s.bench, s.tried, s.grip, s.selected, s.several, s.fill]))
  const held = heldNow()
  if (!held) return <p className="w-[280px] text-[13.5px] text-ink-soft">What is selected is locked, or hidden. Unlock or show it in the stack.</p>
  const box = around(held.corners)
  const [width, height] = [box[2] - box[0], box[3] - box[1]]
  const [x, y] = pointOf(box, of)
  const uneven = held.fill === null && !even
  const reshape = (by: Matrix, gesture: string) => void edit(transformOf(held, within([1, 0, 0, 1, x, y], by)), gesture)
  const scale = (kx: number, ky: number, gesture: string) => {
    if (!(kx > 1e-4 && ky > 1e-4)) return
    if (kx === ky) void edit(moveOf(held, about(x, y, kx, 0)), gesture)
    else reshape([kx, 0, 0, ky, 0, 0], gesture)
  }
  const size = (k: number, isWide: boolean, gesture: string) => scale(uneven && !isWide ? 1 : k, uneven && isWide ? 1 : k, gesture)
  return (
    <div className="w-[320px]">
      <div className="flex gap-4">
        <div>
          <p className="tag">Point</p>
          <Radios
            label="Point that the numbers are about"
            className="mt-0.5 grid w-[82px] grid-cols-3 rounded-md border-[1.5px] border-edge bg-leaf p-0.5"
            optionClass="flex h-6 w-6 items-center justify-center rounded-[4px] hover:bg-ink/10 data-checked:text-rose"
            options={NAMES.map((name, k) => ({ value: k, name: `The ${name}`, title: `The ${name}`, face: <span className={`block rounded-full bg-current ${k === of ? 'h-3 w-3' : 'h-1.5 w-1.5 opacity-60'}`} /> }))}
            value={of}
            onChange={setOf}
          />
        </div>
        <div className="grid grow grid-cols-2 gap-x-3 gap-y-1.5">
          <LengthField label="Across" value={x} onChange={(v, g) => void edit(moveOf(held, shift(v - x, 0)), g)} />
          <LengthField label="Down" value={y} onChange={(v, g) => void edit(moveOf(held, shift(0, v - y)), g)} />
          <LengthField label="Width" value={width} onChange={(v, g) => size(v / width, true, g)} />
          <LengthField label="Height" value={height} onChange={(v, g) => size(v / height, false, g)} />
          <PlainField label="Turn by, degrees" value={0} onChange={(v, g) => void edit(moveOf(held, about(x, y, 1, v)), g)} />
          <PlainField label="Slant by, degrees" value={0} min={-80} max={80} onChange={(v, g) => held.fill === null && reshape([1, 0, -Math.tan((v * Math.PI) / 180), 1, 0, 0], g)} />
        </div>
      </div>
      <div className="mt-2">
        <Tick checked={!uneven} onChange={setEven}>
          Width and height together
        </Tick>
      </div>
      <div className="mt-2 flex gap-2">
        <button className="outlined px-2.5 py-0.5 text-[13.5px]" disabled={held.fill !== null} onClick={() => void edit(transformOf(held, within(centreOf(held.corners), [-1, 0, 0, 1, 0, 0])))}>
          Mirror left to right
        </button>
        <button className="outlined px-2.5 py-0.5 text-[13.5px]" disabled={held.fill !== null} onClick={() => void edit(transformOf(held, within(centreOf(held.corners), [1, 0, 0, -1, 0, 0])))}>
          Mirror top to bottom
        </button>
      </div>
    </div>
  )
}

function centreOf(corners: Point[]): Matrix {
  const [x, y] = middle(corners)
  return [1, 0, 0, 1, x, y]
}

const SMALL = 'outlined justify-center px-2 py-0.5 text-[13.5px]'

/** Lines pieces up with the sheet, with one another, or with the one taken last. */
function LineUp() {
  const count = useBench((s) => chosen(s).length)
  const [to, setTo] = useState<Relation>('others')
  const [asOne, setAsOne] = useState(false)
  const [gap, setGap] = useState(10)
  const several = count > 1
  const hasMargins = useBench((s) => marginBox(s.bench?.sheet) !== null)
  const relation = (several || to === 'margins') && (to !== 'margins' || hasMargins) ? to : 'sheet'
  const ofSheet = relation === 'sheet' || relation === 'margins'
  const together = ofSheet && several && asOne
  return (
    <div className="w-[424px] border-l border-edge pl-6">
      <ChoiceField<Relation>
          label="Line up with"
          options={[
            ...(several
              ? ([
                  ['others', 'One another'],
                  ['last', 'The last taken'],
                ] as const)
              : []),
            ['sheet', 'The sheet'],
            ...(hasMargins ? ([['margins', 'Its margins']] as const) : []),
          ]}
          value={relation}
          onChange={setTo}
        />
      <div className="mt-1.5 grid grid-cols-3 gap-1.5">
        {EDGES.map(([edge, name]) => (
          <button key={edge} className={SMALL} onClick={() => void linePiecesUp([edge], relation, together)}>
            {name}
          </button>
        ))}
        {several && ofSheet && (
          <Tick checked={asOne} onChange={setAsOne}>
            All as one
          </Tick>
        )}
        <button className={`${SMALL} ${several && ofSheet ? 'col-span-2' : 'col-span-3'}`} title="Middle on middle, across and down" onClick={() => void linePiecesUp(['middle', 'centre'], relation, together)}>
          Centre, both ways
        </button>
      </div>
      {several && (
        <div className="mt-2 grid grid-cols-[112px_1fr_1fr] items-center gap-1.5">
          <span className="row-span-2">
            <LengthField label="Gap" value={gap} onChange={setGap} />
          </span>
          <button className={SMALL} onClick={() => void spreadPieces('across', gap)}>
            Gap across
          </button>
          <button className={SMALL} onClick={() => void spreadPieces('down', gap)}>
            Gap down
          </button>
          <button className={SMALL} disabled={count < 3} title="The first and the last stay; the gaps between them come out alike" onClick={() => void spreadPieces('across', null)}>
            Even across
          </button>
          <button className={SMALL} disabled={count < 3} title="The first and the last stay; the gaps between them come out alike" onClick={() => void spreadPieces('down', null)}>
            Even down
          </button>
        </div>
      )}
    </div>
  )
}
