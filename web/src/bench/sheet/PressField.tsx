import { useQuery } from '@tanstack/react-query'
import { call } from '../../api/client'
import type { PressCard } from '../../types/PressCard'

interface Props {
  /** What it means to choose none. */
  none: string
  /** What a press stands for in this kind of file. */
  kind: string
  press: string
  onChange: (press: string) => void
}

/** The press that a file is made for; empty where it is made for none. */
export function PressField({ none, kind, press, onChange }: Props) {
  const { data: presses = [] } = useQuery({ queryKey: ['presses'], queryFn: () => call<PressCard[]>('GET', '/presses'), staleTime: Infinity })
  return (
    <label className="tag block">
      Printed on
      <select className="field mt-0.5 text-[15px]" value={press} onChange={(e) => onChange(e.target.value)}>
        <option value="">{none}</option>
        {presses.map((known) => (
          <option key={known.id} value={known.id}>
            {known.name} ({kind})
          </option>
        ))}
      </select>
    </label>
  )
}
