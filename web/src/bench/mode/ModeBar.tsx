import { useEffect, type ReactNode } from 'react'
import { isTyping } from '../../parts/focus'

interface Props {
  title: string
  /** What to do now. */
  sentence: string
  alarm?: boolean
  /** Beneath the sentence: what the mode works on. */
  aside?: ReactNode
  canKeep: boolean
  onKeep: () => void
  onDrop: () => void
  /** Takes the last step of the mode back; without it, it has no steps. */
  onBack?: () => void
  canGoBack?: boolean
  children: ReactNode
}

/** The line of a mode: what to do, its tools, and *keep* and *drop*. */
export function ModeBar({ title, sentence, alarm, aside, canKeep, onKeep, onDrop, onBack, canGoBack = false, children }: Props) {
  useEffect(() => {
    const key = (e: KeyboardEvent) => {
      if (e.key === 'Escape') onDrop()
      else if (e.key === 'Enter' && canKeep && !(e.target instanceof Element && e.target.closest('button, [role="button"]'))) onKeep()
    }
    window.addEventListener('keydown', key)
    return () => window.removeEventListener('keydown', key)
  }, [canKeep, onKeep, onDrop])
  useEffect(() => {
    const key = (e: KeyboardEvent) => {
      if (!onBack || isTyping(e.target) || !(e.ctrlKey || e.metaKey) || e.altKey || e.key.toLowerCase() !== 'z') return
      if (canGoBack) onBack()
      e.preventDefault()
      e.stopImmediatePropagation()
    }
    window.addEventListener('keydown', key, true)
    return () => window.removeEventListener('keydown', key, true)
  }, [canGoBack, onBack])
  return (
    <section aria-label={`${title} mode`} className="flex min-h-[104px] items-center gap-4 border-t-2 border-ink bg-leaf px-5 py-4">
      <div className={`shrink-0 ${aside ? 'w-[320px]' : 'w-[300px]'}`}>
        <h2 className="font-serif text-xl leading-tight font-semibold">{title}</h2>
        <p role={alarm ? 'alert' : 'status'} className={`text-[14px] leading-snug ${alarm ? 'font-medium text-rose' : 'text-ink-soft'}`}>
          {sentence}
        </p>
        {aside}
      </div>
      <div className="flex min-w-0 grow flex-wrap items-center gap-2">{children}</div>
      <div className="flex shrink-0 gap-2">
        {onBack && (
          <button className="plain" aria-label="Take back a step" title="Takes the last step back (Ctrl Z)" disabled={!canGoBack} onClick={onBack}>
            <span aria-hidden>↶</span> Back
          </button>
        )}
        <button className="plain" onClick={onDrop}>
          Drop <span className="key">Esc</span>
        </button>
        <button className="strong" disabled={!canKeep} onClick={onKeep}>
          Keep
        </button>
      </div>
    </section>
  )
}
