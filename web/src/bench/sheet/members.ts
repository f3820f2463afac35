import { useQuery } from '@tanstack/react-query'
import { call } from '../../api/client'
import type { MembersView } from '../../types/MembersView'
import type { Role } from '../../types/Role'

/** What each role may do, as it is said to people. */
export const ROLES: { role: Role; name: string; may: string }[] = [
  { role: 'look', name: 'may look', may: 'see it, copy it, take files of it' },
  { role: 'edit', name: 'may edit', may: 'change it as well' },
  { role: 'own', name: 'owns it', may: 'share it and take it off the desk as well' },
]

/** Who may do what with a sheet. Asked for now and then: somebody may be let in, or not any more. */
export function useMembers(id: string | null) {
  return useQuery({ queryKey: ['members', id], queryFn: () => call<MembersView>('GET', `/sheets/${id}/members`), enabled: id !== null, refetchInterval: (q) => (q.state.data?.members ? 20_000 : false), retry: 2 })
}
