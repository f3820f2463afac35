import { Radios } from '../../parts/Radios'
import type { Form } from '../../types/Form'
import type { Join } from '../../types/Join'
import type { Edit } from '../../types/Edit'
import { attempt, forget } from '../state/edits'
import { change, formLabel, JOINS } from './forms'

/** How a form acts on what stands before it: all joins side by side, each by one press. The one that is pointed at is seen on the sheet. */
export function JoinSign({ piece, form }: { piece: string; form: Form }) {
  const joined = (join: Join) => ({ change: 'set_join', form: form.id, join }) as const
  return (
    <Radios<Join>
      label={`Join of “${formLabel(form)}”`}
      className="grid shrink-0 grid-cols-2 gap-0.5"
      optionClass="h-[26px] w-[26px] rounded-md font-serif text-[18px] leading-none text-ink/55 hover:bg-ink/10 hover:text-ink data-checked:bg-ink data-checked:text-leaf"
      options={JOINS.map((j) => ({ value: j.join, face: j.sign, name: j.label, title: `${j.label}: ${j.sentence}` }))}
      value={form.join}
      onChange={(join) => void change(piece, joined(join)).finally(forget)}
      onTry={(join) => (join === null || join === form.join ? forget() : attempt([{ edit: 'opening', piece, ...joined(join) } satisfies Edit]))}
    />
  )
}
