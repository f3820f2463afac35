import { create } from 'zustand'
import { call } from '../../api/client'
import type { JobCard } from '../../types/JobCard'
import type { PhotoId } from '../../types/PhotoId'
import type { SubjectId } from '../../types/SubjectId'
import { edit } from '../state/edits'
import { isOpen } from '../sheet/jobs'
import { bench } from '../state/store'

/** Subjects that were looked for by themselves and that nobody has looked at yet: they are on the sheet once one of them is used. */
interface Proposals {
  /** The matte that was found for a photo; null while it is looked for. */
  found: Record<PhotoId, SubjectId | null>
}

export const useProposals = create<Proposals>(() => ({ found: {} }))

const amend = (photo: PhotoId, matte: SubjectId | null | undefined) =>
  useProposals.setState(({ found: { [photo]: _, ...rest } }) => ({ found: matte === undefined ? rest : { ...rest, [photo]: matte } }))

/** Looks for the subject of a photo in the background, unless one is known. That there is none is no news. */
export async function lookForSubject(photo: PhotoId) {
  const sheet = bench.get().bench
  if (!sheet || sheet.sheet.photos[photo]?.subjects || photo in useProposals.getState().found) return
  amend(photo, null)
  try {
    let job = await call<JobCard>('POST', `/sheets/${sheet.id}/jobs`, { task: 'find_subject', photo })
    while (isOpen(job)) {
      await new Promise((done) => setTimeout(done, 250))
      job = await call<JobCard>('GET', `/jobs/${job.id}`)
    }
    amend(photo, job.outcome?.outcome === 'subject' ? job.outcome.subject : undefined)
  } catch {
    amend(photo, undefined)
  }
}

/** Takes the proposal for a photo to the sheet; true where it has a subject then. */
export async function takeProposal(photo: PhotoId, gesture: string | null = null): Promise<boolean> {
  if (bench.get().bench?.sheet.photos[photo]?.subjects) return true
  const matte = useProposals.getState().found[photo]
  if (!matte) return false
  const taken = await edit({ edit: 'set_subject', photo, subject: { key: 0, name: 'Subject', matte, hints: {} } }, gesture)
  if (taken) amend(photo, undefined)
  return taken
}
