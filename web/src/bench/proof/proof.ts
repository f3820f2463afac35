import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { call } from '../../api/client'
import type { Finding } from '../../types/Finding'
import type { ProofView } from '../../types/ProofView'
import type { Severity } from '../../types/Severity'
import { fitted } from '../canvas/viewport'
import type { Bounds } from '../geometry/boxes'
import { edit } from '../state/edits'
import { bench, pieceOf, select, useBench } from '../state/store'

/** How long a sheet has to rest before it is looked through again, in milliseconds. */
const REST = 200
/** What is around a finding when it is shown, as a share of its size, and in millimetres at least. */
const AROUND = 0.25
const AROUND_MM = 8
/** Room for the list, which stays open beside what it points at, in CSS pixels. */
const LIST = 560

/** What would go wrong with the sheet, the worst first; undefined until it was looked through once. */
export function useFindings(): Finding[] | undefined {
  const id = useBench((s) => s.bench?.id ?? '')
  const revision = useRested(useBench((s) => s.bench?.revision ?? 0))
  const { data } = useQuery({
    queryKey: ['proof', id, revision],
    queryFn: () => call<ProofView>('GET', `/sheets/${id}/proof`),
    enabled: id !== '',
    placeholderData: keepPreviousData,
  })
  return data?.findings
}

/** A value once it has not changed for a while. */
function useRested(value: number): number {
  const [rested, setRested] = useState(value)
  useEffect(() => {
    const timer = setTimeout(() => setRested(value), REST)
    return () => clearTimeout(timer)
  }, [value])
  return rested
}

/** Severities as they are said, the worst first. */
export const SEVERITIES: { severity: Severity; word: string; means: string }[] = [
  { severity: 'wrong', word: 'Goes wrong', means: 'It would come out wrong' },
  { severity: 'doubtful', word: 'In doubt', means: 'It may come out wrong' },
  { severity: 'note', word: 'To know', means: 'It comes out as it is' },
]

/** Findings that ask for something to be done. */
export const toMend = (findings: readonly Finding[]) => findings.filter((f) => f.severity !== 'note' && f.waved === undefined)

/** Shows where a finding is: its piece is selected, and what is around it fills the view. */
export function showFinding({ piece, at }: Finding) {
  const s = bench.get()
  if (s.mode) return
  if (piece !== undefined && pieceOf(s, piece) && !pieceOf(s, piece)?.hidden) select(piece)
  if (!at) return
  const [l, t, r, b] = at
  const more = Math.max(AROUND_MM, AROUND * Math.max(r - l, b - t))
  const around: Bounds = [l - more, t - more, r + more, b + more]
  bench.set((now) => ({ view: fitted(around, now.port, now.view.turn, LIST) }))
}

/** Marks where a finding is on the sheet; null takes the mark away. */
export const pointAt = (finding: Finding | null) => bench.set({ pointed: finding?.at ?? null })

/** Waves a finding through, with a reason or an empty one; null looks at it again. */
export const waveFinding = ({ key }: Finding, why: string | null) => void edit({ edit: 'wave_finding', finding: key, why })

export async function mendFinding({ mend }: Finding) {
  pointAt(null)
  if (mend) await edit([...mend.edits])
}
