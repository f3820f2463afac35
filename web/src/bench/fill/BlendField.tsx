import type { Blend } from '../../types/Blend'

const BLENDS: readonly (readonly [string, readonly Blend[]])[] = [
  ['Plain', ['normal']],
  ['Darker', ['multiply', 'darken', 'color-burn']],
  ['Lighter', ['screen', 'lighten', 'color-dodge']],
  ['Stronger', ['overlay', 'hard-light', 'soft-light']],
  ['Turned over', ['difference', 'exclusion']],
  ['In parts', ['hue', 'saturation', 'color', 'luminosity']],
]

/** How something is mixed with what lies beneath it. */
export function BlendField({ value, onChange }: { value: Blend; onChange: (blend: Blend) => void }) {
  return (
    <label className="tag block">
      Blend
      <select className="field text-[15px]" value={value} onChange={(e) => onChange(e.target.value as Blend)}>
        {BLENDS.map(([group, modes]) => (
          <optgroup key={group} label={group}>
            {modes.map((m) => (
              <option key={m} value={m}>
                {m}
              </option>
            ))}
          </optgroup>
        ))}
      </select>
    </label>
  )
}
