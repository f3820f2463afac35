/** Two screens: the desk at `/`, the bench at `/sheet/ID`. */

export function currentSheet(): string | null {
  return /^\/sheet\/([0-9a-f-]{36})$/.exec(window.location.pathname)?.[1] ?? null
}

const listeners = new Set<() => void>()

export function onNavigate(listener: () => void): () => void {
  listeners.add(listener)
  window.addEventListener('popstate', listener)
  return () => {
    listeners.delete(listener)
    window.removeEventListener('popstate', listener)
  }
}

export function go(path: string) {
  window.history.pushState(null, '', path)
  for (const listener of listeners) listener()
}
