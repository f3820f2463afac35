import { Popover, PopoverButton, PopoverPanel } from '@headlessui/react'
import { useQueryClient } from '@tanstack/react-query'
import { useState, type FormEvent } from 'react'
import { call, sentenceOf } from '../../api/client'
import type { Invitation } from '../../types/Invitation'
import type { MemberView } from '../../types/MemberView'
import type { Role } from '../../types/Role'
import { ROLES, useMembers } from './members'
import { useBench } from '../state/store'

/** Who may do what with the sheet; nothing where there are no accounts. */
export function Share() {
  const id = useBench((s) => s.bench?.id ?? null)
  const found = useMembers(id).data
  if (id === null || !found?.members) return null
  const owns = found.role === 'own'
  return (
    <Popover className="relative">
      <PopoverButton className="plain whitespace-nowrap">{owns ? 'Share' : 'Members'}</PopoverButton>
      <PopoverPanel className="absolute top-[calc(100%+12px)] right-0 z-30 w-[380px] rounded-xl border-[1.5px] border-ink bg-paper p-5 shadow-sheet focus:outline-none">
        <h2 className="font-serif text-xl font-semibold">{owns ? 'Share this sheet' : 'Members of this sheet'}</h2>
        <ul className="mt-3 space-y-2">
          {found.members.map((m) => (
            <Member key={m.id} sheet={id} member={m} owns={owns} />
          ))}
        </ul>
        {owns && <Invite sheet={id} />}
      </PopoverPanel>
    </Popover>
  )
}

function useAsk(sheet: string) {
  const queries = useQueryClient()
  const [wrong, setWrong] = useState<string | null>(null)
  const ask = async (work: () => Promise<unknown>) => {
    try {
      await work()
      setWrong(null)
      return true
    } catch (error) {
      setWrong(sentenceOf(error))
      return false
    } finally {
      await queries.invalidateQueries({ queryKey: ['members', sheet] })
    }
  }
  return { wrong, ask }
}

function Wrong({ sentence }: { sentence: string | null }) {
  if (sentence === null) return null
  return (
    <p role="alert" className="mt-2 text-[14px] font-medium text-rose">
      {sentence}
    </p>
  )
}

function RoleSelect({ label, role, onRole }: { label: string; role: Role; onRole: (role: Role) => void }) {
  return (
    <select aria-label={label} className="field w-auto! py-0.5" value={role} onChange={(e) => onRole(e.target.value as Role)}>
      {ROLES.map((r) => (
        <option key={r.role} value={r.role} title={r.may}>
          {r.name}
        </option>
      ))}
    </select>
  )
}

function Member({ sheet, member: m, owns }: { sheet: string; member: MemberView; owns: boolean }) {
  const { wrong, ask } = useAsk(sheet)
  return (
    <li>
      <div className="flex items-center gap-2">
        <span className="min-w-0 grow truncate">
          <span className="font-medium">{m.name}</span>
          {m.this && <span className="text-ink-soft"> (you)</span>}
          {!m.taken && <span className="text-[13px] text-ink-soft">, invited</span>}
        </span>
        {owns ? (
          <>
            <RoleSelect label={`What ${m.name} may do`} role={m.role} onRole={(role) => void ask(() => call('POST', `/sheets/${sheet}/members`, { name: m.name, role } satisfies Invitation))} />
            <button className="plain px-2" aria-label={`Share no more with ${m.name}`} title="Share no more" onClick={() => void ask(() => call('DELETE', `/sheets/${sheet}/members/${m.id}`))}>
              ✕
            </button>
          </>
        ) : (
          <span className="text-[14px] text-ink-soft">{ROLES.find((r) => r.role === m.role)?.name}</span>
        )}
      </div>
      <Wrong sentence={wrong} />
    </li>
  )
}

function Invite({ sheet }: { sheet: string }) {
  const { wrong, ask } = useAsk(sheet)
  const [name, setName] = useState('')
  const [role, setRole] = useState<Role>('edit')
  const submit = async (e: FormEvent) => {
    e.preventDefault()
    if (await ask(() => call('POST', `/sheets/${sheet}/members`, { name, role } satisfies Invitation))) setName('')
  }
  return (
    <form className="mt-4 border-t-[1.5px] border-edge pt-4" onSubmit={(e) => void submit(e)}>
      <div className="flex items-end gap-2">
        <label className="tag block grow">
          Invite by name
          <input className="field" value={name} spellCheck={false} autoComplete="off" onChange={(e) => setName(e.target.value)} />
        </label>
        <RoleSelect label="What they may do" role={role} onRole={setRole} />
        <button type="submit" className="strong py-0.5" disabled={name.trim() === ''}>
          Invite
        </button>
      </div>
      <p className="mt-2 text-[13px] text-ink-soft">They may {ROLES.find((r) => r.role === role)?.may}. The invitation lies on their desk.</p>
      <Wrong sentence={wrong} />
    </form>
  )
}
