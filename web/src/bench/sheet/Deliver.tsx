import { Popover, PopoverButton, PopoverPanel } from '@headlessui/react'
import { useEffect, useRef, useState } from 'react'
import { say } from '../../parts/notices'
import { Radios } from '../../parts/Radios'
import { pixels, showLength } from '../../parts/units'
import type { FileKind } from '../../types/FileKind'
import { Tick } from '../recipe/fields'
import { DeliverPdf } from './DeliverPdf'
import { DeliverPicture } from './DeliverPicture'
import { begin, cancel, isOpen, stopFollowing, useFollowed, useJob } from './jobs'
import { hasOpacity, isPicture, orderOf, TERMS, type Terms } from './order'
import { useBench } from '../state/store'

const KINDS: { kind: FileKind; name: string; use: string }[] = [
  { kind: 'pdf', name: 'PDF', use: 'for a print shop: outlines stay sharp' },
  { kind: 'png', name: 'PNG', use: 'for print and screen, every pixel exact' },
  { kind: 'jpeg', name: 'JPEG', use: 'for sending around, small' },
  { kind: 'tiff', name: 'TIFF', use: 'for print, also in the inks of a press' },
  { kind: 'webp', name: 'WebP', use: 'for the web, every pixel exact' },
  { kind: 'svg', name: 'SVG', use: 'for the web, sharp at any size' },
  { kind: 'sheet', name: 'Sheet file', use: 'everything in it, to go on elsewhere' },
]

/** The sheet as a file. */
export function Deliver() {
  const s = useBench((x) => x.bench)
  const followed = useFollowed((f) => f.deliver)
  const job = useJob(followed)
  const [kind, setKind] = useState<FileKind>('png')
  const [ppi, setPpi] = useState<string | null>(null)
  const [terms, setTerms] = useState<Terms>(TERMS)
  const single = useBench((x) => x.selected)
  const several = useBench((x) => x.several)
  const selected = single === null ? several : [single]
  const link = useRef<HTMLAnchorElement>(null)
  const panel = useRef<HTMLDivElement>(null)
  const fetched = useRef<string | null>(null)
  const working = followed !== null && (job === undefined || isOpen(job))
  const file = job?.outcome?.outcome === 'file' ? job.outcome : null

  useEffect(() => {
    if (!job || isOpen(job) || fetched.current === job.id) return
    fetched.current = job.id
    if (job.outcome?.outcome === 'file') link.current?.click()
    else if (job.outcome?.outcome === 'failed') {
      say(job.outcome.sentence)
      stopFollowing('deliver')
    }
  }, [job])

  // the button that was pressed goes when work begins: the panel keeps the focus, so that Escape still closes it
  useEffect(() => {
    if (document.activeElement === document.body) panel.current?.focus()
  }, [working])

  if (!s) return null
  const wanted = Number((ppi ?? String(s.sheet.ppi)).replace(',', '.'))
  const room = s.sheet.bleed ?? 0
  const extra = terms.bleed ? 2 * room : 0
  const [w, h] = pixels(s.sheet.width + extra, s.sheet.height + extra, wanted)
  const raster = isPicture(kind)
  // photos in a PDF have a resolution too
  const resolved = raster || kind === 'pdf'
  return (
    <Popover className="relative ml-2">
      <PopoverButton className="strong">Deliver</PopoverButton>
      <a ref={link} className="hidden" href={job && file ? `/api/jobs/${job.id}/file` : undefined} download={file?.name} aria-hidden tabIndex={-1} />
      <PopoverPanel ref={panel} className="absolute top-[calc(100%+10px)] right-0 z-30 w-[400px] rounded-xl border-[1.5px] border-ink bg-paper p-5 shadow-sheet focus:outline-none">
        <h2 className="font-serif text-xl font-semibold">Deliver this sheet</h2>
        <Radios
          label="Kind of file"
          className="mt-3 divide-y divide-edge overflow-hidden rounded-md border-[1.5px] border-edge"
          optionClass="flex w-full items-baseline gap-3 px-3 py-1.5 text-left bg-leaf hover:bg-ink/8 data-checked:bg-ink data-checked:text-leaf"
          options={KINDS.map((k) => ({
            value: k.kind,
            face: (
              <>
                <span className="w-20 shrink-0 font-semibold">{k.name}</span>
                <span className="text-[13px] opacity-80">{k.use}</span>
              </>
            ),
          }))}
          value={kind}
          onChange={setKind}
        />
        {resolved && (
          <div className="mt-3 flex items-end gap-3">
            <label className="tag block w-28 shrink-0">
              Resolution in ppi
              <input className="field mt-0.5 w-24! text-[15px] tabular-nums" inputMode="decimal" value={ppi ?? String(s.sheet.ppi)} onChange={(e) => setPpi(e.target.value)} />
            </label>
            <p className="pb-1 text-[13px] text-ink-soft tabular-nums">
              {!(Number.isFinite(w) && w > 0) ? 'This is no number.' : kind === 'pdf' ? 'of photos and soft edges' : `${w.toLocaleString('en')} × ${h.toLocaleString('en')} pixels`}
            </p>
          </div>
        )}
        {room > 0 && kind !== 'sheet' && (
          <div className="mt-3">
            <Tick checked={terms.bleed} onChange={(bleed) => setTerms({ ...terms, bleed })}>
              With its bleed of {showLength(room, s.sheet.unit, s.sheet.ppi)} {s.sheet.unit}
            </Tick>
          </div>
        )}
        {kind === 'pdf' && <DeliverPdf terms={terms} onChange={setTerms} />}
        {hasOpacity(kind) && <DeliverPicture terms={terms} inked={kind === 'tiff'} selected={selected.length} onChange={setTerms} />}
        {working ? (
          <div className="mt-4">
            <p role="status" className="text-[13px] text-ink-soft">
              {job?.step || 'Waiting for its turn'} …
            </p>
            <div className="mt-1 flex items-center gap-3">
              <progress aria-label="Making the file" className="h-2 grow accent-ink" max={1} value={job?.done ?? 0} />
              <button className="outlined" onClick={() => followed && void cancel(followed)}>
                Cancel
              </button>
            </div>
          </div>
        ) : (
          <div className="mt-4 flex items-center gap-3">
            <button
              className="strong"
              disabled={resolved && !(wanted > 0)}
              onClick={() => void begin(s.id, 'deliver', { task: 'deliver', ...orderOf(kind, resolved ? wanted : s.sheet.ppi, { ...terms, bleed: terms.bleed && room > 0 }, selected) })}
            >
              Make the file
            </button>
            {job && file && (
              <a data-testid="file" className="truncate text-[13px] font-medium underline" href={`/api/jobs/${job.id}/file`} download={file.name}>
                {file.name}
              </a>
            )}
          </div>
        )}
      </PopoverPanel>
    </Popover>
  )
}
