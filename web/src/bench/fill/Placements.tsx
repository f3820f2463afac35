import { useEffect, useState } from 'react'
import { call, sentenceOf } from '../../api/client'
import { say } from '../../parts/notices'
import type { PlacementProposal } from '../../types/PlacementProposal'
import type { SubjectId } from '../../types/SubjectId'
import { attempt, edit, forget } from '../state/edits'
import { pathOf } from '../canvas/outlines'
import { smallPictureOf } from '../canvas/pictures'
import { bench, viewOf, useBench } from '../state/store'

const SIDES = ['above', 'below', 'left', 'right'] as const

/** What of the subject reaches over, in words. */
function reaches(p: PlacementProposal): string {
  const over = SIDES.map((side, k) => ({ side, share: p.over[k] ?? 0 }))
    .filter((o) => o.share > 0.04)
    .map((o) => `${Math.round(o.share * 100)} % ${o.side}`)
  return over.length === 0 ? 'nothing reaches over' : over.join(', ')
}

/** Places for a photo, by their pictures; each is seen on the sheet while the pointer rests on it. */
export function Placements({ piece, fill, photo, subject }: { piece: string; fill: string; photo: string; subject: SubjectId | undefined }) {
  const revision = useBench((s) => s.bench?.revision)
  const [found, setFound] = useState<PlacementProposal[] | null>(null)
  const [asked, setAsked] = useState(false)
  // another opening or photo has other good places
  useEffect(() => {
    setFound(null)
    setAsked(false)
  }, [piece, fill, photo])
  useEffect(() => forget, [])
  const show = async () => {
    const id = bench.get().bench?.id
    if (!id) return
    setAsked(true)
    try {
      setFound(await call<PlacementProposal[]>('GET', `/sheets/${id}/pieces/${piece}/fills/${fill}/placements`))
    } catch (error) {
      setAsked(false)
      say(sentenceOf(error))
    }
  }
  const pieceView = useBench((s) => s.bench?.scene.pieces.find((l) => l.piece === piece) ?? viewOf(s, piece))
  const view = pieceView?.photos.find((p) => p.fill === fill)
  if (!found || !pieceView || !view) {
    return (
      <button className="strong" disabled={asked} onClick={() => void show()}>
        Show me placements
      </button>
    )
  }
  const [l, t, r, b] = pieceView.bounds
  const m = Math.max(r - l, b - t) * 0.25
  const put = (p: PlacementProposal) => ({ edit: 'set_placement', piece, fill, placement: p.placement }) as const
  return (
    <ul className="mt-1 flex w-full gap-2" aria-label="Placements">
      {found.map((p) => (
        <li key={p.good_for} className="w-[112px]">
          <button
            className="block w-full overflow-hidden rounded-md border-[1.5px] border-edge bg-leaf text-left hover:border-sea focus-visible:border-sea"
            aria-label={`Placement that ${p.good_for}`}
            onPointerEnter={() => attempt([put(p)])}
            onPointerLeave={forget}
            onFocus={() => attempt([put(p)])}
            onBlur={forget}
            onClick={() => {
              bench.set({ trying: false })
              void edit(put(p)).finally(forget)
            }}
          >
            <svg aria-hidden className="block h-[76px] w-full" viewBox={`${l - m} ${t - m} ${r - l + 2 * m} ${b - t + 2 * m}`}>
              <clipPath id={`place-${fill}-${revision ?? 0}`}>
                <path d={pathOf(pieceView.outline)} />
              </clipPath>
              {subject && <image href={smallPictureOf(view, subject)} width={view.width} height={view.height} transform={affine(p, view.width, view.height)} opacity={0.55} preserveAspectRatio="none" />}
              <g clipPath={`url(#place-${fill}-${revision ?? 0})`}>
                <image href={smallPictureOf(view)} width={view.width} height={view.height} transform={affine(p, view.width, view.height)} preserveAspectRatio="none" />
              </g>
            </svg>
            <span className="block px-1.5 pt-1 text-[12px] leading-tight font-semibold">{p.good_for}</span>
            <span className="block px-1.5 pb-1.5 text-[11.5px] leading-tight text-ink-soft">
              {subject ? `${Math.round(p.shown * 100)} % shown, ${reaches(p)}, ` : ''}
              {Math.round(p.ppi)} ppi
              {p.off_sheet >= 0.005 && <span className="block font-medium text-rose">{Math.max(1, Math.round(p.off_sheet * 100))} % beyond the sheet</span>}
            </span>
          </button>
        </li>
      ))}
    </ul>
  )
}

/** An upright placement as an SVG transform. */
const affine = ({ placement: { x, y, scale } }: PlacementProposal, width: number, height: number) =>
  `translate(${x} ${y}) scale(${scale}) translate(${-width / 2} ${-height / 2})`
