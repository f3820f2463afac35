import { useEffect } from 'react'
import { isTyping, usesKey } from '../parts/focus'
import type { Grip } from '../types/Grip'
import { choosePhoto } from './AddShelf'
import { enterBrush } from './opening/BrushMode'
import { chosenBundle } from './bundle/bundles'
import { bundleChosen, stepIn, stepOut } from './bundle/bundling'
import { dissolveChosen } from './bundle/dissolving'
import { enterFreeDraw } from './opening/DrawMode'
import { copyAgain, nudge } from './canvas/drag'
import { step } from './state/edits'
import { nudgeForms } from './opening/formDrag'
import { backToNow, compare, lookFurther } from './history/past'
import { change, openForm } from './opening/forms'
import { takeGrip, takeHandling } from './canvas/handling'
import { hidePieces, removePieces } from './state/pieces'
import { deleteOnPanes } from './panes/split'
import { hideMember } from './repeat/repeats'
import { unitNow } from './state/unit'
import { chosen, selectEverything } from './state/selection'
import { sheetWayOf } from './canvas/keyMove'
import { showChosen, turnView } from './canvas/zoom'
import { enterTrace } from './opening/TraceMode'
import { bench, closeCard, noneOf, open, openGround, select, showRulers, type Handling } from './state/store'

const HANDLINGS: Record<string, Handling> = { s: 'scale', l: 'slant', p: 'pull', j: 'join' }
const GRIPS: Record<string, Grip> = { o: 'opening', f: 'fill', b: 'both' }
/** What is laid on the sheet from the shelf, and what lies beneath it all. */
const SHELF: Record<string, () => void> = {
  w: () => open('new-word'),
  d: () => enterFreeDraw(bench.get().figure),
  a: () => enterBrush(null, 'add'),
  t: () => enterTrace(null, 'add'),
  m: () => open('add-window'),
  i: choosePhoto,
  k: () => open('stock'),
  g: openGround,
  x: () => showRulers(!bench.get().rulers),
  v: () => bench.set((s) => ({ bare: !s.bare })),
}
/** How far a key turns the view, in degrees. */
const TURN = 15
/** A grip key held longer than this gives the former grip back. */
const HELD = 350

/** What a key does while the sheet is looked at as it was. */
function keyOnPast(key: string): boolean {
  if (key === 'Escape') backToNow()
  else if (key === 'ArrowLeft') void lookFurther('earlier')
  else if (key === 'ArrowRight') void lookFurther('later')
  else return false
  return true
}

/** The keys of the bench. */
export function useKeys() {
  useEffect(() => {
    let held: { key: string; before: Grip; since: number } | null = null

    const down = (e: KeyboardEvent) => {
      // a field may have given the keys back while it heard of this one
      const target = document.activeElement ?? e.target
      const typing = isTyping(target)
      const key = e.key.toLowerCase()
      if ((e.ctrlKey || e.metaKey) && !e.altKey && key === 'a') {
        if (typing || bench.get().mode || bench.get().looking || document.querySelector('[role="dialog"]')) return
        e.preventDefault()
        selectEverything()
        return
      }
      if ((e.ctrlKey || e.metaKey) && !e.altKey) {
        const way = key === 'z' ? (e.shiftKey ? 'redo' : 'undo') : key === 'y' ? 'redo' : null
        if (!way || typing || bench.get().mode || bench.get().looking) return
        e.preventDefault()
        void step(way)
        return
      }
      // keys belong to what has the focus
      if (typing || usesKey(target, e.key) || e.altKey || document.querySelector('[role="dialog"]')) return
      const s = bench.get()
      if (key === 'c' && !e.repeat && !e.ctrlKey && !e.metaKey && !s.mode) void compare(true)
      if (s.past && keyOnPast(e.key)) e.preventDefault()
      if (e.key === '(' || e.key === ')') {
        e.preventDefault()
        turnView(s.view.turn + (e.key === ')' ? TURN : -TURN))
        return
      }
      if (s.looking) return
      if (e.key === 'Escape' && !s.mode) {
        if (s.open === 'repeat' && (s.member !== null || s.along.drawing)) bench.set({ member: null, along: { drawing: false, drawn: null } })
        else if (s.open === 'panes' && (s.panes.drawing || s.panes.at || s.panes.line)) bench.set({ panes: noneOf(s.panes) })
        else if (s.open) closeCard()
        else if (s.handling === 'join') bench.set({ handling: 'scale' })
        else if (s.forms.length > 0) bench.set({ forms: [] })
        else if (!stepOut()) select(null)
        return
      }
      if (s.mode || e.ctrlKey || e.metaKey) return
      const shelf = SHELF[key]
      if (shelf && !e.repeat) {
        e.preventDefault()
        shelf()
        return
      }
      const grip = GRIPS[key]
      const now = chosen(s)
      if (now.length === 0) return
      if (grip && !e.repeat) {
        held = { key, before: s.grip, since: e.timeStamp }
        // the grip is about the whole window: forms are let go of
        takeGrip(grip)
        return
      }
      const handling = HANDLINGS[key]
      if (handling && takeHandling(handling)) return
      const piece = s.selected
      const unit = unitNow(s)
      const withForms = piece !== null && s.forms.length > 0
      const far = e.shiftKey ? 10 : 1
      const move = sheetWayOf(e.key)
      const nudged: typeof nudge = withForms ? (kind, x, y) => nudgeForms(piece, kind, x, y) : nudge
      if (move) nudged('move', move[0] * far, move[1] * far)
      else if (e.key === '+' || e.key === '=') nudged('scale', 1 + 0.01 * far, 0)
      else if (e.key === '-' || e.key === '_') nudged('scale', 1 / (1 + 0.01 * far), 0)
      else if (e.key === ',' || e.key === '<') nudged('turn', -far, 0)
      else if (e.key === '.' || e.key === '>') nudged('turn', far, 0)
      else if ((e.key === 'Delete' || e.key === 'Backspace') && unit !== null && (deleteOnPanes(unit) || hideMember(unit))) e.preventDefault()
      else if ((e.key === 'Delete' || e.key === 'Backspace') && withForms) void change(piece, { change: 'remove_forms', forms: s.forms })
      else if (e.key === 'Delete' || e.key === 'Backspace') void removePieces(now)
      else if (key === 'r' && !e.repeat) open('arrange')
      else if (key === 'q' && !e.repeat && chosenBundle(s) !== null) open('as-one')
      else if (key === 'e' && !e.repeat && unit !== null) open('repeat')
      else if (key === 'z' && !e.repeat) showChosen()
      else if (key === 'y' && !e.repeat && unit !== null) open('panes')
      else if (key === 'n' && !e.repeat) void copyAgain()
      else if (key === 'u' && !e.repeat) void (e.shiftKey ? dissolveChosen() : bundleChosen())
      else if (e.key === 'Enter' && stepIn()) e.preventDefault()
      else if (key === 'h' && !e.repeat) void hidePieces(now)
      else if (e.key === 'Enter' && piece !== null && openForm(piece)) bench.set({ open: 'form', typesInto: true })
      else return
      e.preventDefault()
    }
    const noLonger = () => bench.get().comparing && void compare(false)
    const up = (e: KeyboardEvent) => {
      if (e.key.toLowerCase() === 'c') noLonger()
      if (held && e.key.toLowerCase() === held.key) {
        if (e.timeStamp - held.since > HELD) bench.set({ grip: held.before })
        held = null
      }
    }
    window.addEventListener('keydown', down)
    window.addEventListener('keyup', up)
    window.addEventListener('blur', noLonger)
    return () => {
      window.removeEventListener('blur', noLonger)
      window.removeEventListener('keydown', down)
      window.removeEventListener('keyup', up)
    }
  }, [])
}
