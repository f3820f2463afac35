import { WORDS } from '../../parts/Radios'

/** The chips of a list with one chosen, and buttons that add to it. */
export function Chips({ names, at, onChoose, children }: { names: { name: string; off: boolean }[]; at: number; onChoose: (at: number) => void; children: React.ReactNode }) {
  return (
    <div className="mb-3 flex flex-wrap items-center gap-1.5">
      {names.map(({ name, off }, k) => (
        <button
          key={k}
          aria-pressed={k === at}
          className={`${WORDS} ${off ? 'line-through opacity-60' : ''}`}
          data-checked={k === at ? '' : undefined}
          onClick={() => onChoose(k)}
        >
          {name}
        </button>
      ))}
      {children}
    </div>
  )
}
