import { useState } from 'react'
import { say } from '../../parts/notices'
import type { Credit } from '../../types/Credit'
import type { Licence } from '../../types/Licence'
import { edit } from '../state/edits'
import { creditLines, LICENCES, usedOn, type Used } from '../fill/stock'
import { bench, useBench } from '../state/store'
import { useFonts } from '../lettering/fonts'

const NOBODY: Credit = { title: '', maker: '', licence: 'free' }

/** Whose work is on the sheet, and on what terms; as a list to be copied or set as type. */
export function CreditsPanel() {
  const sheet = useBench((s) => s.bench?.sheet)
  const fonts = useFonts()
  if (!sheet) return null
  const used = usedOn(sheet)
  const lines = creditLines(sheet)
  const owed = used.filter((u) => u.credit?.licence === 'not_for_resale')
  const copy = async () => {
    try {
      await navigator.clipboard.writeText(lines.join('\n'))
      say('The credits are on the clipboard.')
    } catch {
      say('The browser does not let the credits onto the clipboard. Set them as type instead.')
    }
  }
  const asType = async () => {
    const [piece, form] = [crypto.randomUUID(), crypto.randomUUID()]
    const font = fonts.find((f) => f.id === 'archivo-black')?.id ?? fonts[0]?.id
    if (!font) return
    const gesture = crypto.randomUUID()
    if (!(await edit({ edit: 'add_lettering', piece, form, fill: crypto.randomUUID(), text: lines.join('\n'), font }, gesture))) return
    // small, at the foot of the sheet
    const kind = bench.get().bench?.sheet.pieces.find((p) => p.id === piece)?.kind
    const shape = kind?.kind === 'window' ? kind.opening.forms[0] : undefined
    if (shape?.shape.kind !== 'lettering') return
    const { kind: _, ...lettering } = shape.shape
    const size = Math.min(sheet.width, sheet.height) * 0.014
    const next = { ...shape, pose: { ...shape.pose, x: sheet.width * 0.05, y: sheet.height * 0.96 - (lines.length - 1) * size * 1.3 }, shape: { kind: 'lettering', ...lettering, size, align: 'left', leading: 1.3 } } as const
    if (await edit({ edit: 'opening', piece, change: 'set_form', form: next }, gesture)) bench.set({ selected: piece, open: null })
  }
  return (
    <div>
      {used.length === 0 && <p className="text-[13.5px] text-ink-soft">There is no photo and no drawing on this sheet yet.</p>}
      <ul className="max-h-[220px] space-y-1.5 overflow-y-auto pr-1">
        {used.map((u) => (
          <Row key={u.id} used={u} />
        ))}
      </ul>
      {owed.length > 0 && <p className="mt-2 text-[13px] font-medium text-rose">{owed.map((u) => u.credit?.title || u.name).join(', ')}: not on anything that is sold.</p>}
      <div className="mt-3 flex gap-2">
        <button className="outlined" disabled={lines.length === 0} onClick={() => void copy()}>
          Copy the credits
        </button>
        <button className="outlined" disabled={lines.length === 0} onClick={() => void asType()}>
          Set them as type
        </button>
      </div>
    </div>
  )
}

function Row({ used }: { used: Used }) {
  const now = used.credit ?? NOBODY
  const [draft, setDraft] = useState<string | null>(null)
  const set = (change: Partial<Credit>) => {
    const credit = { ...now, title: now.title || used.name, ...change }
    void edit({ edit: 'set_credit', of: used.id, credit: credit.maker === '' ? null : credit }, crypto.randomUUID())
  }
  const take = () => {
    if (draft !== null && draft.trim() !== now.maker) set({ maker: draft.trim() })
    setDraft(null)
  }
  return (
    <li className="grid grid-cols-[1fr_220px_150px] items-center gap-3">
      <span className="truncate text-[14px] font-medium">{now.title || used.name}</span>
      <input
        className="field text-[14px]"
        aria-label={`Maker of “${now.title || used.name}”`}
        placeholder="Who made it"
        value={draft ?? now.maker}
        onChange={(e) => setDraft(e.target.value)}
        onBlur={take}
        onKeyDown={(e) => {
          if (e.key === 'Enter') take()
          e.stopPropagation()
        }}
      />
      <select className="field text-[14px]" aria-label={`Terms for “${now.title || used.name}”`} disabled={now.maker === ''} value={now.licence} onChange={(e) => set({ licence: e.target.value as Licence })}>
        {(Object.keys(LICENCES) as Licence[]).map((l) => (
          <option key={l} value={l}>
            {LICENCES[l]}
          </option>
        ))}
      </select>
    </li>
  )
}
