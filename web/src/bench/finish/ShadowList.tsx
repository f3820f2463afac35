import { useState } from 'react'
import type { Shadow } from '../../types/Shadow'
import type { ShadowPlace } from '../../types/ShadowPlace'
import { newMember } from '../state/newMember'
import { Chips } from '../recipe/Chips'
import { TintField } from '../fill/ColourField'
import { ChoiceField, LengthField, PlainField } from '../recipe/fields'

const PLACES: readonly (readonly [ShadowPlace, string])[] = [
  ['behind', 'Behind, on the sheet'],
  ['inside', 'Inside, from the edge'],
  ['contact', 'Of what breaks out'],
]

type Kind = 'shadow' | 'inside' | 'contact' | 'glow'

const FRESH: Record<Kind, Shadow> = {
  shadow: { place: 'behind', tint: { colour: '#141b34' }, blend: 'multiply', strength: 0.55, angle: 60, distance: 5, spread: 0, size: 6 },
  inside: { place: 'inside', tint: { colour: '#141b34' }, blend: 'multiply', strength: 0.6, angle: 60, distance: 3, spread: 0, size: 5 },
  contact: { place: 'contact', tint: { colour: '#141b34' }, blend: 'multiply', strength: 0.5, angle: 75, distance: 2.5, spread: 0, size: 5 },
  glow: { place: 'behind', tint: { colour: '#f3c84b' }, strength: 0.9, angle: 0, distance: 0, spread: 2, size: 14 },
}

const nameOf = (s: Shadow, k: number) => `${s.place === 'inside' ? 'Inside' : s.place === 'contact' ? 'Breakout' : s.distance === 0 ? 'Glow' : 'Shadow'} ${k + 1}`

const ADD: Record<Kind, { name: string; title?: string }> = {
  shadow: { name: 'Add a shadow' },
  inside: { name: 'One inside' },
  contact: { name: 'Of the breakout', title: 'Falls on the sheet from what breaks out, not on its own photo' },
  glow: { name: 'A glow' },
}

type Shadows = (Shadow & { id?: string })[]

interface Props {
  shadows: Shadows
  /** Changes the list as it is when its turn comes. */
  onChange: (change: (shadows: Shadows) => Shadows, gesture: string) => void
  /** Which kinds there may be. */
  kinds: readonly Kind[]
  /** What stands there while there is none. */
  none: string
}

/** Shadows and glows, with the numbers of one of them. */
export function ShadowList({ shadows, onChange, kinds, none }: Props) {
  const [chosen, setChosen] = useState(0)
  const at = Math.min(chosen, shadows.length - 1)
  const shadow = shadows[at]
  const amend = (change: Partial<Shadow>, gesture: string) => onChange((all) => all.map((s, k) => (k === at ? { ...s, ...change } : s)), gesture)
  const add = (kind: Kind) => {
    onChange((all) => [...all, newMember(FRESH[kind])], crypto.randomUUID())
    setChosen(shadows.length)
  }
  return (
    <div className="w-[730px]">
      <Chips names={shadows.map((s, k) => ({ name: nameOf(s, k), off: s.off ?? false }))} at={at} onChoose={setChosen}>
        {kinds.map((kind, k) => (
          <button key={kind} className="outlined py-0.5 text-[13.5px]" data-first={k === 0 ? true : undefined} title={ADD[kind].title} onClick={() => add(kind)}>
            {ADD[kind].name}
          </button>
        ))}
      </Chips>
      {shadow && (
        <div className="grid grid-cols-[330px_1fr] gap-6">
          <div className="space-y-2.5">
            {kinds.length > 2 && <ChoiceField label="Falls" options={PLACES} value={shadow.place} onChange={(place) => amend({ place }, crypto.randomUUID())} />}
            <div className="grid grid-cols-3 gap-3">
              <PlainField label="Strength, %" value={shadow.strength} factor={100} digits={0} min={0} max={100} slider onChange={(strength, g) => amend({ strength }, g)} />
              <LengthField label="Distance" value={shadow.distance} step={0.5} least={0} slider={{ min: 0, max: 60 }} onChange={(distance, g) => amend({ distance }, g)} />
              <PlainField label="Towards, °" value={shadow.angle} digits={0} min={-180} max={180} slider onChange={(angle, g) => amend({ angle }, g)} />
              <LengthField label="Fade" value={shadow.size} step={0.5} least={0} slider={{ min: 0, max: 60 }} onChange={(size, g) => amend({ size }, g)} />
              <LengthField label="Spread" value={shadow.spread} step={0.25} least={0} slider={{ min: 0, max: 20 }} onChange={(spread, g) => amend({ spread }, g)} />
              <label className="tag block">
                Blend
                <select className="field text-[15px]" value={shadow.blend ?? 'normal'} onChange={(e) => amend({ blend: e.target.value as NonNullable<Shadow['blend']> }, crypto.randomUUID())}>
                  {(['normal', 'multiply', 'screen', 'overlay', 'color-dodge', 'color-burn', 'soft-light'] as const).map((b) => (
                    <option key={b}>{b}</option>
                  ))}
                </select>
              </label>
            </div>
            <div className="flex gap-1">
              <button className="plain" onClick={() => amend({ off: !shadow.off }, crypto.randomUUID())}>
                {shadow.off ? 'Switch on' : 'Switch off'}
              </button>
              <button className="plain" onClick={() => onChange((all) => all.filter((_, k) => k !== at), crypto.randomUUID())}>
                Remove
              </button>
            </div>
          </div>
          <TintField label="Tint" tint={shadow.tint} onChange={(tint, g) => amend({ tint }, g)} />
        </div>
      )}
      {!shadow && <p className="max-w-md text-[13.5px] text-ink-soft">{none}</p>}
    </div>
  )
}
