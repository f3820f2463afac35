import { Dialog, DialogPanel, DialogTitle, Field, Input, Label, Select } from '@headlessui/react'
import { useState, type FormEvent } from 'react'
import { make, sentenceOf } from '../api/client'
import { useNotices } from '../parts/notices'
import { UNITS, inMm, pixels, readSize, showLength } from '../parts/units'
import { go } from '../route'
import type { Made } from '../types/Made'
import type { NewSheet } from '../types/NewSheet'
import type { Unit } from '../types/Unit'

interface Paper {
  name: string
  /** Width and height, upright, in the paper's own unit. */
  size: [number, number]
  unit: Unit
}

const PAPERS: Paper[] = [
  { name: 'A2', size: [420, 594], unit: 'mm' },
  { name: 'A3', size: [297, 420], unit: 'mm' },
  { name: 'A4', size: [210, 297], unit: 'mm' },
  { name: 'A5', size: [148, 210], unit: 'mm' },
  { name: '50 × 70 cm', size: [50, 70], unit: 'cm' },
  { name: '24 × 36 in', size: [24, 36], unit: 'in' },
  { name: 'Letter', size: [8.5, 11], unit: 'in' },
  { name: 'Square', size: [2000, 2000], unit: 'px' },
]

export function NewSheetDialog({ open, onClose }: { open: boolean; onClose: () => void }) {
  return (
    <Dialog open={open} onClose={onClose} className="relative z-40">
      <div className="fixed inset-0 bg-ink/30" aria-hidden />
      <div className="fixed inset-0 flex items-center justify-center p-6">
        <DialogPanel className="w-[640px] rounded-xl bg-paper p-7 shadow-sheet">
          <NewSheetForm onClose={onClose} />
        </DialogPanel>
      </div>
    </Dialog>
  )
}

function NewSheetForm({ onClose }: { onClose: () => void }) {
  const [name, setName] = useState('')
  const [unit, setUnit] = useState<Unit>('mm')
  const [ppi, setPpi] = useState('150')
  const [width, setWidth] = useState('297')
  const [height, setHeight] = useState('420')
  const [wrong, setWrong] = useState<string | null>(null)
  const [busy, setBusy] = useState(false)

  const number = (text: string) => Number(text.trim().replace(',', '.') || NaN)
  // both may be typed at once: 1000 x 800 px
  const size = readSize(width)
  const meant = size?.unit ?? unit
  const mm = (text: string) => number(text) * inMm(meant, number(ppi))
  const [wMm, hMm] = [mm(size?.width ?? width), mm(size?.height ?? height)]
  const [wPx, hPx] = pixels(wMm, hMm, number(ppi))
  const known = Number.isFinite(wPx) && Number.isFinite(hPx) && wPx > 0 && hPx > 0

  /** A whole size that was typed as the width is put into its fields. */
  const spread = () => {
    if (!size) return
    setWidth(size.width)
    setHeight(size.height)
    if (size.unit) setUnit(size.unit)
  }
  const take = (paper: Paper) => {
    const upright = wMm <= hMm
    const [a, b] = upright ? paper.size : [paper.size[1], paper.size[0]]
    setUnit(paper.unit)
    setWidth(String(a))
    setHeight(String(b))
  }
  const changeUnit = (next: Unit) => {
    if (known) {
      setWidth(showLength(wMm, next, number(ppi)))
      setHeight(showLength(hMm, next, number(ppi)))
    }
    setUnit(next)
  }
  const submit = async (e: FormEvent) => {
    e.preventDefault()
    if (!known) {
      setWrong('Width, height and ppi have to be numbers above zero.')
      return
    }
    setBusy(true)
    try {
      const body: NewSheet = { name: name.trim() || 'Untitled sheet', width: wMm, height: hMm, unit: meant, ppi: number(ppi) }
      const made = await make<Made>('/sheets', body, useNotices.getState().setAway)
      onClose()
      go(`/sheet/${made.id}`)
    } catch (error) {
      setWrong(sentenceOf(error))
      setBusy(false)
    }
  }
  const long = Math.max(wMm, hMm)

  return (
    <form onSubmit={(e) => void submit(e)}>
      <DialogTitle className="font-serif text-[26px] leading-tight font-semibold">New sheet</DialogTitle>
      <div className="mt-5 grid grid-cols-[1fr_190px] gap-7">
        <div className="space-y-4">
          <Field>
            <Label className="tag block">Name</Label>
            <Input className="field" value={name} placeholder="Untitled sheet" autoFocus onChange={(e) => setName(e.target.value)} />
          </Field>
          <div>
            <p className="tag mb-1">Paper</p>
            <div className="flex flex-wrap gap-1.5">
              {PAPERS.map((paper) => (
                <button key={paper.name} type="button" className="outlined text-[13px]" onClick={() => take(paper)}>
                  {paper.name}
                </button>
              ))}
            </div>
          </div>
          <div className="grid grid-cols-[1fr_auto_1fr_84px] items-end gap-2">
            <Field>
              <Label className="tag block">Width, or 300 x 200 mm</Label>
              <Input className="field tabular-nums" value={width} onFocus={(e) => e.target.select()} onChange={(e) => setWidth(e.target.value)} onBlur={spread} />
            </Field>
            <button
              type="button"
              className="plain px-1.5"
              aria-label="Exchange width and height"
              title="Exchange width and height"
              onClick={() => {
                setWidth(height)
                setHeight(width)
              }}
            >
              ⇄
            </button>
            <Field>
              <Label className="tag block">Height</Label>
              <Input className="field tabular-nums" inputMode="decimal" value={height} onChange={(e) => setHeight(e.target.value)} />
            </Field>
            <Field>
              <Label className="tag block">Unit</Label>
              <Select className="field" value={unit} onChange={(e) => changeUnit(e.target.value as Unit)}>
                {UNITS.map((u) => (
                  <option key={u}>{u}</option>
                ))}
              </Select>
            </Field>
          </div>
          <Field>
            <Label className="tag block">Resolution in ppi</Label>
            <Input className="field w-28! tabular-nums" inputMode="decimal" value={ppi} onChange={(e) => setPpi(e.target.value)} />
          </Field>
        </div>
        <div className="flex flex-col items-center justify-center">
          {known && (
            <>
              <div
                className="bg-white shadow-sheet transition-all"
                style={{ width: (wMm / long) * 150, height: (hMm / long) * 150 }}
                aria-hidden
              />
              <p className="mt-3 text-[13px] text-ink-soft tabular-nums">
                {wPx.toLocaleString('en')} × {hPx.toLocaleString('en')} pixels
              </p>
            </>
          )}
        </div>
      </div>
      {wrong && (
        <p role="alert" className="mt-4 font-medium text-rose">
          {wrong}
        </p>
      )}
      <div className="mt-6 flex justify-end gap-2">
        <button type="button" className="plain" onClick={onClose}>
          Leave it
        </button>
        <button type="submit" className="strong" disabled={busy}>
          Lay out the sheet
        </button>
      </div>
    </form>
  )
}
