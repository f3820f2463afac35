import { Radio, RadioGroup } from '@headlessui/react'
import type { ReactNode } from 'react'
import { giveKeysToSheet } from './focus'

interface Option<T> {
  value: T
  /** What is seen. */
  face: ReactNode
  /** What it is called, where that is not its text. */
  name?: string
  title?: string
  className?: string
  onPointerDown?: (e: React.PointerEvent) => void
}

interface Props<T> {
  label: string
  options: readonly Option<T>[]
  value: T | null
  onChange: (value: T) => void
  className?: string
  style?: React.CSSProperties
  /** Classes of every option; `data-checked:` is for the chosen one. */
  optionClass: string
  onPointerDown?: (e: React.PointerEvent) => void
  onDoubleClick?: (e: React.MouseEvent) => void
  /** Hears which one is pointed at, so that it can be seen before it is chosen; null when none is any more. */
  onTry?: (value: T | null) => void
  /** A press of the mouse leaves the keys with the sheet. */
  onSheet?: boolean
}

/** One of several: by a press, or by arrow keys while it has the focus. */
export function Radios<T extends string | number>({ label, options, value, onChange, className, style, optionClass, onPointerDown, onDoubleClick, onTry, onSheet }: Props<T>) {
  return (
    <RadioGroup
      onClick={(e: React.MouseEvent) => onSheet && e.detail > 0 && giveKeysToSheet()}
      aria-label={label}
      className={className}
      style={style}
      value={value}
      onChange={(v: T | null) => v !== null && onChange(v)}
      onPointerDown={onPointerDown}
      onDoubleClick={onDoubleClick}
    >
      {options.map((o) => (
        <Radio
          key={o.value}
          as="button"
          type="button"
          value={o.value}
          aria-label={o.name}
          title={o.title}
          className={`${optionClass} ${o.className ?? ''}`}
          onPointerDown={o.onPointerDown}
          {...(onTry ? { onPointerEnter: () => onTry(o.value), onPointerLeave: () => onTry(null) } : {})}
        >
          {o.face}
        </Radio>
      ))}
    </RadioGroup>
  )
}

/** The look of a row of words of which one is chosen. */
export const WORDS = 'rounded-md border-[1.5px] px-2.5 py-0.5 text-[13.5px] border-edge bg-leaf hover:border-ink data-checked:border-ink data-checked:bg-ink data-checked:text-leaf'
