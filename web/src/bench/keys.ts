import { useEffect } from 'react'
import type { Grip } from '../types/Grip'
import { nudge } from './drag'
import { edit, step } from './edits'
import { nudgeForms } from './formDrag'
import { change, openForm } from './forms'
import { bench, closeCard, select, type Handling } from './store'

const HANDLINGS: Record<string, Handling> = { s: 'scale', l: 'slant', p: 'pull' }
const GRIPS: Record<string, Grip> = { o: 'opening', f: 'fill', b: 'both' }
/** A grip key held longer than this gives the former grip back. */
const HELD = 350

function isTyping(target: EventTarget | null): boolean {
  return target instanceof HTMLElement && target.closest('input, textarea, select, [contenteditable]') !== null
}

/** The keys of the bench. */
export function useKeys() {
  useEffect(() => {
    let held: { key: string; before: Grip; since: number } | null = null

    const down = (e: KeyboardEvent) => {
      const typing = isTyping(e.target)
      const key = e.key.toLowerCase()
      if ((e.ctrlKey || e.metaKey) && !e.altKey) {
        const way = key === 'z' ? (e.shiftKey ? 'redo' : 'undo') : key === 'y' ? 'redo' : null
        if (!way || typing || bench.get().mode) return
        e.preventDefault()
        void step(way)
        return
      }
      if (typing || e.altKey || document.querySelector('[role="dialog"]')) return
      const s = bench.get()
      if (e.key === 'Escape' && !s.mode) {
        if (s.open) closeCard()
        else if (s.forms.length > 0) bench.set({ forms: [] })
        else select(null)
        return
      }
      const grip = GRIPS[key]
      if (s.mode || s.selected === null) return
      if (grip && !e.repeat) {
        held = { key, before: s.grip, since: performance.now() }
        // the grip is about the whole window: forms are let go of
        bench.set({ grip, forms: [] })
        return
      }
      const handling = HANDLINGS[key]
      if (handling && s.forms.length > 0) {
        bench.set({ handling })
        return
      }
      const piece = s.selected
      const withForms = s.forms.length > 0
      const far = e.shiftKey ? 10 : 1
      const move = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[e.key]
      const onButton = e.target instanceof HTMLElement && e.target.closest('button, a, [role="button"]') !== null
      const nudged: typeof nudge = withForms ? nudgeForms : nudge
      if (move) nudged(piece, 'move', (move[0] ?? 0) * far, (move[1] ?? 0) * far)
      else if (e.key === '+' || e.key === '=') nudged(piece, 'scale', 1 + 0.01 * far, 0)
      else if (e.key === '-' || e.key === '_') nudged(piece, 'scale', 1 / (1 + 0.01 * far), 0)
      else if (e.key === ',' || e.key === '<') nudged(piece, 'turn', -far, 0)
      else if (e.key === '.' || e.key === '>') nudged(piece, 'turn', far, 0)
      else if ((e.key === 'Delete' || e.key === 'Backspace') && withForms) void change(piece, { change: 'remove_forms', forms: s.forms })
      else if (e.key === 'Delete' || e.key === 'Backspace') void edit({ edit: 'remove_piece', piece })
      else if (e.key === 'Enter' && !onButton && openForm(piece)) bench.set({ open: 'form' })
      else return
      e.preventDefault()
    }
    const up = (e: KeyboardEvent) => {
      if (held && e.key.toLowerCase() === held.key) {
        if (performance.now() - held.since > HELD) bench.set({ grip: held.before })
        held = null
      }
    }
    window.addEventListener('keydown', down)
    window.addEventListener('keyup', up)
    return () => {
      window.removeEventListener('keydown', down)
      window.removeEventListener('keyup', up)
    }
  }, [])
}
