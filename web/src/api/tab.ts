const KEY = 'inky-tab'

function known(): string {
  // it stays while the page is loaded again, and ends with the tab
  const kept = sessionStorage.getItem(KEY)
  if (kept) return kept
  const made = crypto.randomUUID()
  sessionStorage.setItem(KEY, made)
  return made
}

/** What this tab calls itself: undo takes back its own steps, and others see that it is there. */
export const TAB = known()
