interface Props {
  label: string
  name: string
  onTake: (name: string) => void
  /** It is over, whether the name was taken or not. */
  onEnd: () => void
}

/** Names a line of the stack: Enter or leaving takes the name, Escape drops it. */
export function NameInput({ label, name, onTake, onEnd }: Props) {
  return (
    <input
      className="field mr-1 min-w-0 px-1 py-0.5 text-[13px]"
      aria-label={label}
      autoFocus
      defaultValue={name}
      onFocus={(e) => e.target.select()}
      onKeyDown={(e) => {
        if (e.key === 'Enter') e.currentTarget.blur()
        if (e.key === 'Escape') onEnd()
        e.stopPropagation()
      }}
      onBlur={(e) => {
        onEnd()
        if (e.target.value !== name) onTake(e.target.value)
      }}
    />
  )
}
