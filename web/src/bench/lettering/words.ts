import { useRef, useState } from 'react'
import type { Lettering } from '../../types/Lettering'
import type { Edit } from '../../types/Edit'
import { edit } from '../state/edits'
import { formOf } from '../opening/forms'
import { bench, useBench } from '../state/store'
import { useFonts } from './fonts'

export const wordProblem = (sentence: string | null) => bench.set({ wordProblem: sentence })

/** Words that are being added: what is typed meanwhile waits for them, one letter after the other. */
const arriving = new Map<string, Promise<boolean>>()

/** Letterings with changes that are not acknowledged yet. */
const latest = new Map<string, Lettering>()

function lettering(piece: string, form: string): Lettering | undefined {
  const shape = formOf(bench.get(), piece, form)?.shape
  return shape?.kind === 'lettering' ? shape : undefined
}

/** Changes a word as it is by then: what was typed before has to have arrived. `fit` sets it as large as it has room. */
export async function amendWord(piece: string, form: string, change: Partial<Lettering>, gesture: string, fit: boolean) {
  const added = arriving.get(form)
  if (added && !(await added)) return
  const own = latest.get(form) ?? lettering(piece, form)
  if (!own) return
  const next = { ...own, ...change }
  latest.set(form, next)
  await edit({ edit: 'set_lettering', piece, form, lettering: next, fit }, gesture, wordProblem)
  if (latest.get(form) === next) latest.delete(form)
}

interface NewWord {
  piece: string
  form: string
  added: Promise<boolean>
}

/**
 * A word that is begun: its first letter makes it (`begin`, called with the form's identifier, the letter, the font, the gesture and what hears
 * of a refusal), the others change it.
 */
export function useNewWord(begin: (form: string, text: string, font: string, gesture: string, refused: (sentence: string) => void) => NewWord | null, fit: boolean) {
  const fonts = useFonts()
  const [font, setFont] = useState<string | null>(null)
  const [text, setText] = useState('')
  const problem = useBench((s) => s.wordProblem)
  const ids = useRef<{ piece: string; form: string; gesture: string } | null>(null)
  const chosen = font ?? fonts[0]?.id ?? ''
  const change = (next: string, nextFont: string) => {
    setText(next)
    wordProblem(null)
    const made = ids.current
    if (made) {
      void amendWord(made.piece, made.form, { text: next, font: nextFont }, made.gesture, fit)
    } else if (next.trim() !== '') {
      const gesture = crypto.randomUUID()
      const begun = begin(crypto.randomUUID(), next, nextFont, gesture, (sentence) => {
        ids.current = null
        wordProblem(sentence)
      })
      if (!begun) return
      const { piece, form, added } = begun
      ids.current = { piece, form, gesture }
      arriving.set(form, added)
      void added.then(() => arriving.delete(form))
    }
  }
  return {
    fonts,
    text,
    problem,
    font: chosen,
    type: (next: string) => change(next, chosen),
    /** The word in another font, to be seen before it is chosen. */
    tried: (next: string): Edit | null => {
      const made = ids.current
      const own = made && lettering(made.piece, made.form)
      return made && own ? { edit: 'set_lettering', piece: made.piece, form: made.form, lettering: { ...own, font: next }, fit } : null
    },
    set: (next: string) => {
      setFont(next)
      if (ids.current) change(text, next)
    },
  }
}
