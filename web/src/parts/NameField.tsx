import { useState } from 'react'

interface Props {
  label: string
  name: string
  /** Whether the name can be taken away. */
  free?: boolean
  className?: string
  onChange: (name: string) => void
}

/** A name that is taken with Enter or when the field is left; Escape brings the old one back. */
export function NameField({ label, name, free = false, className = 'w-44', onChange }: Props) {
  const [draft, setDraft] = useState<string | null>(null)
  const take = () => {
    const next = draft?.trim()
    if (next !== undefined && next !== name && (free || next !== '')) onChange(next)
    setDraft(null)
  }
  return (
    <label className={`tag block ${className}`}>
      {label}
      <input
        className="field text-[15px]"
        value={draft ?? name}
        onChange={(e) => setDraft(e.target.value)}
        onBlur={take}
        onKeyDown={(e) => {
          if (e.key === 'Enter') take()
          else if (e.key === 'Escape') setDraft(null)
          e.stopPropagation()
        }}
      />
    </label>
  )
}
