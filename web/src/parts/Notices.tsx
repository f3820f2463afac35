import { useNotices } from './notices'

/** Sentences that concern no single place on the screen. */
export function Notices() {
  const { notices, away, dismiss } = useNotices()
  return (
    <div className="pointer-events-none fixed inset-x-0 top-14 z-50 flex flex-col items-center gap-2" aria-live="polite">
      {away && (
        <p role="status" className="pointer-events-auto max-w-xl rounded-md bg-ink px-4 py-2 text-leaf shadow-sheet">
          {away}
        </p>
      )}
      {notices.map((n) => (
        <div
          key={n.id}
          role="alert"
          className="pointer-events-auto flex max-w-2xl items-center gap-3 rounded-md border-[1.5px] border-ink bg-leaf py-2 pr-2 pl-4 shadow-sheet"
        >
          <p>{n.sentence}</p>
          {n.action && (
            <button
              className="outlined whitespace-nowrap"
              onClick={() => {
                n.action?.run()
                dismiss(n.id)
              }}
            >
              {n.action.label}
            </button>
          )}
          <button className="plain" aria-label="Close this message" onClick={() => dismiss(n.id)}>
            ✕
          </button>
        </div>
      ))}
    </div>
  )
}
