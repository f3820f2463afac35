/** What has the focus. */
const focused = (): HTMLElement | null => (document.activeElement instanceof HTMLElement && document.activeElement !== document.body ? document.activeElement : null)

/** Takes the focus away from a field or a button, so that keys go to the sheet again. */
export function giveKeysToSheet() {
  focused()?.blur()
}

/** Whether a text is being typed. */
export function isTyping(target: EventTarget | null): boolean {
  if (!(target instanceof HTMLElement)) return false
  const field = target.closest('input, textarea, select, [contenteditable]')
  return field !== null && !(field instanceof HTMLInputElement && ['checkbox', 'range', 'button'].includes(field.type))
}

/** Whether a control has the focus, in a mode that draws by Space and arrows wherever none has. */
export const isOnControl = (target: EventTarget | null) => target instanceof HTMLElement && target.closest('button, select, input, [role=radio]') !== null

const STEPS = ['ArrowLeft', 'ArrowRight', 'ArrowUp', 'ArrowDown', 'Home', 'End', 'PageUp', 'PageDown', '+', '-']

/** Whether what has the focus uses a key itself: a slider its arrows, a button Enter and the space bar. */
export function usesKey(target: EventTarget | null, key: string): boolean {
  if (!(target instanceof HTMLElement) || target === document.body) return false
  if (isTyping(target)) return true
  if (target.closest('[role="radio"], [role="tab"], [role="option"], [role="menuitem"], [role="slider"], [role="listbox"], input[type="range"]')) return STEPS.includes(key) || key === ' ' || key === 'Enter'
  return target.closest('button, a, summary, input, [role="button"]') !== null && (key === ' ' || key === 'Enter')
}
