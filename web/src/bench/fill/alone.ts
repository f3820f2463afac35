import { call } from '../../api/client'
import type { InkProposal } from '../../types/InkProposal'
import type { Paint } from '../../types/Paint'
import type { Placement } from '../../types/Placement'
import { edit } from '../state/edits'
import { amendFill } from './fills'
import { isPicture, windowOf } from '../opening/forms'
import { bench, pieceOf, viewOf } from '../state/store'
import { takeProposal } from '../subject/proposals'

/** A gradient of the two colours that there is most of in a photo; the lighter one first. */
export function mainGradient([light, dark]: InkProposal[]): Paint | null {
  if (!light || !dark) return null
  const stops = [light, dark].map((p, at) => ({ at, tint: { colour: p.colour }, opacity: 1 }))
  return { kind: 'gradient', gradient: { kind: 'linear', stops } }
}

/** What an opening is painted with behind a subject that stands alone, until something else is chosen: the colours of the photo go on. */
async function groundOf(photo: string): Promise<Paint> {
  const found = await call<InkProposal[]>('GET', `/photos/${photo}/inks`).catch(() => [])
  return mainGradient(found) ?? { kind: 'colour', colour: '#f3c84b' }
}

/** Whether a photo lies in the middle of its opening, as it came: nobody has slid it yet. */
function isUntouched(piece: string, { x, y, turn, slant, pull, mirrored }: Placement): boolean {
  const bounds = viewOf(bench.get(), piece)?.bounds
  if (!bounds || turn !== 0 || slant || pull || mirrored) return false
  const [l, t, r, b] = bounds
  return Math.hypot(x - (l + r) / 2, y - (t + b) / 2) < 0.05
}

/**
 * Shows a photo whole, or its subject alone; one that was found by itself is taken for it. The subject stands on a ground, and in the middle of
 * the opening where the photo lies as it came. One step to be undone.
 */
export async function showAlone(piece: string, fill: string, photo: string, alone: boolean) {
  const gesture = crypto.randomUUID()
  if (alone && !(await takeProposal(photo, gesture))) return
  const was = windowOf(bench.get(), piece)?.fills.find((f) => f.id === fill)?.paint
  const centres = was?.kind === 'photo' && isUntouched(piece, was.placement)
  await amendFill(piece, fill, (f) => (f.paint.kind === 'photo' ? { ...f, paint: { ...f.paint, alone } } : f), gesture)
  if (!alone || isPicture(pieceOf(bench.get(), piece))) return
  // nothing would be seen of the opening beside the subject
  if (!windowOf(bench.get(), piece)?.fills.some((f) => f.id !== fill && !f.off)) {
    const ground = { id: crypto.randomUUID(), paint: await groundOf(photo), follows_opening: true }
    await edit([{ edit: 'add_fill', piece, fill: ground }, { edit: 'order_fill', piece, fill: ground.id, to: 0 }], gesture)
  }
  if (centres) await edit({ edit: 'fit_photo', piece, fill, fit: 'middle' }, gesture)
}
