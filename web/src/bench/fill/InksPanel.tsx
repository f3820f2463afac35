import { useState } from 'react'
import { NameField } from '../../parts/NameField'
import type { Ink } from '../../types/Ink'
import { edit } from '../state/edits'
import { useInks } from './inks'
import { Blob, ColourField } from './ColourField'
import { ChoiceField, Tick } from '../recipe/fields'
import { GradientField } from './GradientField'
import { PhotoInks } from './PhotoInks'

/** The inks of the sheet: named, mixed, removed. */
export function InksPanel() {
  const inks = useInks()
  const [chosen, setChosen] = useState<string | null>(null)
  const ink = inks.find((i) => i.id === chosen) ?? inks[0]
  const set = (next: Ink, gesture: string) => void edit({ edit: 'set_ink', ink: next }, gesture)
  const add = () => {
    const id = crypto.randomUUID()
    set({ id, name: `Ink ${inks.length + 1}`, mix: { mix: 'colour', colour: '#d7263d' } }, crypto.randomUUID())
    setChosen(id)
  }
  return (
    <div className="w-[600px]">
      <div className="flex flex-wrap items-center gap-1.5">
        {inks.map((i) => (
          <button
            key={i.id}
            aria-pressed={i.id === ink?.id}
            className={`flex items-center gap-1.5 rounded-full border-[1.5px] py-0.5 pr-3 pl-1 text-[13.5px] ${i.id === ink?.id ? 'border-ink bg-ink text-leaf' : 'border-edge bg-leaf hover:border-ink'}`}
            onClick={() => setChosen(i.id)}
          >
            <Blob ink={i} />
            {i.name}
          </button>
        ))}
        <button className="outlined py-0.5 text-[13.5px]" data-first onClick={add}>
          Mix an ink
        </button>
      </div>
      {ink ? (
        <div className="mt-3 space-y-3 border-t-[1.5px] border-edge pt-3">
          <div className="flex items-end gap-4">
            <NameField key={ink.id} label="Name of the ink" name={ink.name} onChange={(name) => set({ ...ink, name }, crypto.randomUUID())} />
            <ChoiceField
              label="It is"
              options={[
                ['colour', 'A colour'],
                ['gradient', 'A gradient'],
              ]}
              value={ink.mix.mix}
              onChange={(mix) => {
                const colour = ink.mix.mix === 'colour' ? ink.mix.colour : first(ink)
                set(
                  mix === 'colour'
                    ? { ...ink, mix: { mix, colour } }
                    : {
                        ...ink,
                        mix: {
                          mix,
                          gradient: {
                            kind: 'linear',
                            stops: [
                              { at: 0, tint: { colour }, opacity: 1 },
                              { at: 1, tint: { colour: '#f3c84b' }, opacity: 1 },
                            ],
                          },
                        },
                      },
                  crypto.randomUUID(),
                )
              }}
            />
            <button className="plain ml-auto" title="What is painted with it keeps its colour" onClick={() => void edit({ edit: 'remove_ink', ink: ink.id })}>
              Remove the ink
            </button>
          </div>
          {ink.mix.mix === 'colour' ? (
            <>
              <ColourField label="Colour" colour={ink.mix.colour} onChange={(colour, g) => set({ ...ink, mix: { mix: 'colour', colour } }, g)} />
              <Tick checked={ink.spot ?? false} onChange={(spot) => set({ ...ink, spot }, crypto.randomUUID())}>
                Printed as an ink of its own (spot ink), in a PDF
              </Tick>
            </>
          ) : (
            <GradientField plain gradient={ink.mix.gradient} onChange={(gradient, g) => set({ ...ink, mix: { mix: 'gradient', gradient } }, g)} />
          )}
        </div>
      ) : (
        <p className="mt-3 max-w-md text-[13.5px] text-ink-soft">An ink is a colour or a gradient with a name. Change it here, and everything painted with it follows.</p>
      )}
      <PhotoInks />
    </div>
  )
}

const first = (ink: Ink) => {
  const tint = ink.mix.mix === 'gradient' ? ink.mix.gradient.stops[0]?.tint : undefined
  return tint && 'colour' in tint ? tint.colour : '#141b34'
}
