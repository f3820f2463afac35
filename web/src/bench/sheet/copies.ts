import { make, sentenceOf } from '../../api/client'
import { say, useNotices } from '../../parts/notices'
import type { Made } from '../../types/Made'

/** Puts a copy of the sheet on the desk. */
export async function keepCopy(id: string, name: string) {
  try {
    await make<Made>(`/sheets/${id}/copy`, undefined, useNotices.getState().setAway)
    say(`“${name}, copy” is on the desk, as the sheet is now.`)
  } catch (error) {
    say(sentenceOf(error))
  }
}
