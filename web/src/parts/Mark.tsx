/** The mark of Inky Window: an opening, and something that climbs out. */
export function Mark({ className }: { className?: string }) {
  return (
    <svg viewBox="0 0 32 32" className={className} aria-hidden>
      <path d="M6 29V14a10 10 0 0 1 20 0v15Z" fill="var(--color-ink)" />
      <path d="M17 1c5 4 6 8 3.500 12.500s-1 7 2.500 9.500c-6 1-11-1-11-7 0-5 4-7 5-15Z" fill="var(--color-rose)" />
    </svg>
  )
}
