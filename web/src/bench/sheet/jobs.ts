import { useQuery } from '@tanstack/react-query'
import { create } from 'zustand'
import { call, make, patiently, sentenceOf } from '../../api/client'
import { say, useNotices } from '../../parts/notices'
import type { JobCard } from '../../types/JobCard'
import type { Task } from '../../types/Task'

/** The work that is followed on the bench, by what it is for. */
interface Followed {
  subject: string | null
  deliver: string | null
}

export const useFollowed = create<Followed>(() => ({ subject: null, deliver: null }))

export async function begin(sheet: string, slot: keyof Followed, task: Task): Promise<boolean> {
  try {
    const job = await make<JobCard>(`/sheets/${sheet}/jobs`, task, useNotices.getState().setAway)
    useFollowed.setState({ [slot]: job.id })
    return true
  } catch (error) {
    say(sentenceOf(error))
    return false
  }
}

export function stopFollowing(slot: keyof Followed) {
  useFollowed.setState({ [slot]: null })
}

export async function cancel(id: string) {
  await patiently(() => call('POST', `/jobs/${id}/cancel`), useNotices.getState().setAway)
}

export const isOpen = (job: JobCard | undefined) => job?.state === 'waiting' || job?.state === 'running'

/** A job as it stands, looked at often until it ends. */
export function useJob(id: string | null): JobCard | undefined {
  const query = useQuery({
    queryKey: ['job', id],
    queryFn: () => call<JobCard>('GET', `/jobs/${id}`),
    enabled: id !== null,
    refetchInterval: (q) => (q.state.data && !isOpen(q.state.data) ? false : 150),
  })
  return query.data
}
