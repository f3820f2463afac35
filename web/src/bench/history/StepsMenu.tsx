import { Popover, PopoverButton, PopoverPanel } from '@headlessui/react'
import { useQuery } from '@tanstack/react-query'
import { useEffect, useRef } from 'react'
import type { StepView } from '../../types/StepView'
import { useBench } from '../state/store'
import { backToNow, lookAt, stepsOf } from './past'

/** What was done to the sheet, step by step; each can be looked at. */
export function StepsMenu() {
  return (
    <Popover className="relative">
      <PopoverButton className="plain px-2 text-[13.5px]" title="All steps: look at the sheet as it was, or go on from there">
        Steps
      </PopoverButton>
      <PopoverPanel className="absolute top-[calc(100%+12px)] left-0 z-30 w-[320px] rounded-xl border-[1.5px] border-ink bg-paper p-2 shadow-sheet focus:outline-none">
        <Steps />
      </PopoverPanel>
    </Popover>
  )
}

function Steps() {
  const id = useBench((s) => s.bench?.id ?? '')
  const revision = useBench((s) => s.bench?.revision ?? 0)
  const past = useBench((s) => s.past?.seq ?? null)
  const { data: steps } = useQuery({ queryKey: ['steps', id, revision], queryFn: () => stepsOf(id), placeholderData: (before) => before })
  const list = useRef<HTMLOListElement>(null)
  const now = steps?.find((s) => !s.undone)?.seq
  const at = past ?? now
  useEffect(() => {
    list.current?.querySelector('[aria-current]')?.scrollIntoView({ block: 'nearest' })
  }, [at, steps])
  if (!steps) return <p className="p-3 text-[14px] text-ink-soft">Looking the steps up …</p>
  if (steps.length === 0) return <p className="p-3 text-[14px] text-ink-soft">Nothing was done to this sheet yet.</p>
  return (
    <ol ref={list} aria-label="Steps, the last one first" className="max-h-[min(60vh,460px)] overflow-y-auto [scrollbar-width:thin]">
      {steps.map((step) => (
        <li key={step.seq}>
          <button
            aria-current={step.seq === at ? 'step' : undefined}
            className={`flex w-full items-baseline gap-3 rounded-md px-3 py-1.5 text-left text-[14px] ${step.seq === at ? 'bg-ink text-leaf' : 'hover:bg-ink/5'}`}
            onClick={() => (step.seq === now ? backToNow() : void lookAt(step.seq))}
          >
            <span className={`grow truncate first-letter:uppercase ${step.undone ? 'opacity-70' : ''}`}>{step.name}</span>
            <span className="shrink-0 text-[12.5px] tabular-nums opacity-80">{says(step, now)}</span>
          </button>
        </li>
      ))}
    </ol>
  )
}

function says(step: StepView, now: number | undefined): string {
  if (step.seq === now) return 'now'
  if (step.undone) return 'taken back'
  return step.made === null ? '' : timeOf(step.made)
}

/** When a step was made: the time of today, or the day. */
export function timeOf(made: number): string {
  const when = new Date(made * 1000)
  const isToday = when.toDateString() === new Date().toDateString()
  return isToday ? when.toLocaleTimeString(undefined, { hour: '2-digit', minute: '2-digit' }) : when.toLocaleDateString(undefined, { day: 'numeric', month: 'short' })
}
