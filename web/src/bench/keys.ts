import { useEffect } from 'react'
import type { Grip } from '../types/Grip'
import { nudge } from './drag'
import { edit, step } from './edits'
import { bench, open, pieceOf, select } from './store'

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
        if (s.open) bench.set({ open: null })
        else select(null)
        return
      }
      const grip = GRIPS[key]
      if (s.mode || s.selected === null) return
      if (grip && !e.repeat) {
        held = { key, before: s.grip, since: performance.now() }
        bench.set({ grip })
        return
      }
      const piece = s.selected
      const far = e.shiftKey ? 10 : 1
      const move = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[e.key]
      const onButton = e.target instanceof HTMLElement && e.target.closest('button, a, [role="button"]') !== null
      if (move) nudge(piece, 'move', (move[0] ?? 0) * far, (move[1] ?? 0) * far)
      else if (e.key === '+' || e.key === '=') nudge(piece, 'scale', 1 + 0.01 * far, 0)
      else if (e.key === '-' || e.key === '_') nudge(piece, 'scale', 1 / (1 + 0.01 * far), 0)
      else if (e.key === ',' || e.key === '<') nudge(piece, 'turn', -far, 0)
      else if (e.key === '.' || e.key === '>') nudge(piece, 'turn', far, 0)
      else if (e.key === 'Delete' || e.key === 'Backspace') void edit({ edit: 'remove_piece', piece })
      else if (e.key === 'Enter' && !onButton && pieceOf(s, piece)?.kind.kind === 'window') open('lettering')
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
