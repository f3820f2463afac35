interface Props {
  label: string
  text: string
  problem: string | null
  onChange: (text: string) => void
  onFocus?: () => void
  onBlur?: () => void
}

/** Where a word is typed, as large as it can be read. */
export function WordField({ label, text, problem, onChange, onFocus, onBlur }: Props) {
  return (
    <label className="tag block">
      {label}
      <textarea
        data-first
        className="field mt-0.5 resize-none text-[20px] leading-tight font-semibold"
        rows={2}
        spellCheck={false}
        aria-invalid={problem !== null}
        value={text}
        onFocus={(e) => {
          e.target.select()
          onFocus?.()
        }}
        onBlur={onBlur}
        onChange={(e) => onChange(e.target.value)}
        onKeyDown={(e) => {
          if (e.key === 'Escape') e.currentTarget.blur()
        }}
      />
      {problem && (
        <span role="alert" className="block text-[13px] leading-snug font-medium text-rose">
          {problem}
        </span>
      )}
    </label>
  )
}
