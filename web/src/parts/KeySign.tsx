/** The key of a button that has a name of its own: to be seen, and no part of what the button says. */
export function KeySign({ sign, className = '' }: { sign: string; className?: string }) {
  return <span aria-hidden className={`key ${className}`} data-sign={sign} />
}
