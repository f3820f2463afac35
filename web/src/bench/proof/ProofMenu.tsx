import { Popover, PopoverButton, PopoverPanel } from '@headlessui/react'
import { useEffect } from 'react'
import type { Finding } from '../../types/Finding'
import { NameField } from '../../parts/NameField'
import { useBench } from '../state/store'
import { mendFinding, pointAt, SEVERITIES, showFinding, toMend, useFindings, waveFinding } from './proof'

/** What would go wrong if the sheet were delivered as it is: how much of it, and each finding with what mends it. */
export function ProofMenu() {
  const findings = useFindings()
  const asking = findings ? toMend(findings) : []
  const count = asking.length
  const wrong = asking.some((f) => f.severity === 'wrong')
  const says = !findings ? 'Proof: looking' : count === 0 ? 'Proof: nothing to mend' : `Proof ${count}: to look at`
  return (
    <Popover className="relative">
      <PopoverButton className="plain px-2" aria-label={says} title="What would go wrong if it were delivered as it is">
        Proof{' '}
        {count > 0 && (
          <span data-testid="proof-count" className={`min-w-[22px] rounded-full px-1.5 text-center text-[12.5px] font-semibold tabular-nums ${wrong ? 'bg-ink text-leaf' : 'border-[1.5px] border-ink'}`}>
            {count}
          </span>
        )}
      </PopoverButton>
      <PopoverPanel className="absolute top-[calc(100%+12px)] right-0 z-30 w-[430px] rounded-xl border-[1.5px] border-ink bg-paper p-4 shadow-sheet focus:outline-none">
        <Findings findings={findings} />
      </PopoverPanel>
    </Popover>
  )
}

function Findings({ findings }: { findings: Finding[] | undefined }) {
  // nothing stays marked once the list is closed
  useEffect(() => () => pointAt(null), [])
  if (!findings) return <p className="text-[14px] text-ink-soft">Looking the sheet through …</p>
  return (
    <>
      <h2 className="font-serif text-[19px] font-semibold">Before it is delivered</h2>
      {findings.length === 0 && <p className="mt-1 text-[14px] text-ink-soft">Nothing was found that would go wrong.</p>}
      <div className="mt-1 max-h-[min(64vh,520px)] overflow-y-auto [scrollbar-width:thin]">
        {SEVERITIES.map(({ severity, word, means }) => (
          <Section key={severity} word={word} means={means} findings={findings.filter((f) => f.severity === severity && f.waved === undefined)} />
        ))}
        {/* known, not counted, and not forgotten */}
        <Section word="Waved through" means="It is known, and comes out as it is" findings={findings.filter((f) => f.waved !== undefined)} />
      </div>
    </>
  )
}

function Section({ word, means, findings }: { word: string; means: string; findings: Finding[] }) {
  if (findings.length === 0) return null
  return (
    <section aria-label={word}>
      <h3 className="tag mt-3 mb-1" title={means}>
        {word}
      </h3>
      <ul className="grid gap-1.5">
        {findings.map((finding) => (
          <Line key={finding.key} finding={finding} />
        ))}
      </ul>
    </section>
  )
}

const BAR = { wrong: 'border-l-ink', doubtful: 'border-l-doubt', note: 'border-l-edge' } as const

function Line({ finding }: { finding: Finding }) {
  const locked = useBench((s) => s.looking || s.mode !== null)
  const waved = finding.waved !== undefined
  return (
    <li className={`rounded-md border border-l-4 border-edge bg-leaf ${BAR[waved ? 'note' : finding.severity]}`} onPointerEnter={() => pointAt(finding)} onPointerLeave={() => pointAt(null)}>
      <button className="w-full px-3 pt-2 pb-1 text-left text-[14px] leading-snug hover:bg-ink/5" title="Show where it is" onFocus={() => pointAt(finding)} onBlur={() => pointAt(null)} onClick={() => showFinding(finding)}>
        {finding.sentence}
      </button>
      <div className="flex items-end gap-2 px-3 pb-2">
        {waved && <NameField label="Why" className="grow" name={finding.waved ?? ''} free onChange={(why) => waveFinding(finding, why)} />}
        {!waved && finding.mend && (
          <button className="outlined text-[13.5px]" disabled={locked} onClick={() => void mendFinding(finding)}>
            {finding.mend.label}
          </button>
        )}
        {(waved || finding.severity !== 'note') && (
          <button className="plain ml-auto text-[13.5px]" disabled={locked} onClick={() => waveFinding(finding, waved ? null : '')}>
            {waved ? 'Look at it again' : 'Wave it through'}
          </button>
        )}
      </div>
    </li>
  )
}
