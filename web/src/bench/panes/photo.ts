import { say } from '../../parts/notices'
import type { PanePath } from '../../types/PanePath'
import type { PhotoCard } from '../../types/PhotoCard'
import { edit } from '../state/edits'
import { upload } from '../fill/uploads'

/** A photo that one pane shows in place of what the window shows there. */
export async function bringIntoPane(file: File, piece: string, pane: PanePath) {
  const card = await upload<PhotoCard>('photos', file)
  if (!card) return
  for (const note of card.notes) say(note)
  await edit({ edit: 'fill_pane', piece, pane, fill: crypto.randomUUID(), photo: card.id })
}
