import { useRef, type ReactNode } from 'react'
import { giveKeysToSheet } from './focus'

interface Props {
  label: ReactNode
  /** What the button is called, where that is not its text. */
  name?: string
  /** What the chooser itself is called. */
  chooser: string
  /** Kinds of files, as the `accept` attribute names them. */
  accept: string
  className: string
  title?: string
  onFile: (file: File) => void
  /** Takes several at once, where they may be. */
  onFiles?: (files: File[]) => void
}

/** A button that asks for a file. */
export function FileButton({ label, name, chooser, accept, className, title, onFile, onFiles }: Props) {
  const input = useRef<HTMLInputElement>(null)
  return (
    <>
      <input
        ref={input}
        type="file"
        className="hidden"
        aria-label={chooser}
        accept={accept}
        multiple={onFiles !== undefined}
        onChange={(e) => {
          const files = [...(e.target.files ?? [])]
          const file = files[0]
          // the same file can be chosen again
          e.target.value = ''
          if (!file) return
          giveKeysToSheet()
          if (onFiles) onFiles(files)
          else onFile(file)
        }}
      />
      <button className={className} title={title} aria-label={name} onClick={() => input.current?.click()}>
        {label}
      </button>
    </>
  )
}
