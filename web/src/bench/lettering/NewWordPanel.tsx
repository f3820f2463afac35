import { useState } from 'react'
import { edit } from '../state/edits'
import { change as changeOpening, isPicture, windowOf } from '../opening/forms'
import { bench, pieceOf } from '../state/store'
import { FontList } from './FontList'
import { WordField } from './WordField'
import { amendWord, useNewWord } from './words'

/** The picture that is selected, if it may be changed. */
function selectedPicture(): string | null {
  const piece = pieceOf(bench.get(), bench.get().selected)
  return piece && !piece.locked && isPicture(piece) ? piece.id : null
}

/** A word that is begun: the first letter makes the opening. */
export function NewWordPanel() {
  // typed on a picture, the picture shows through it; taken to a window, it takes the place of its forms
  const [masked] = useState(() => bench.get().wordOn ?? selectedPicture())
  const [others] = useState(() => windowOf(bench.get(), masked)?.opening.forms.map((f) => f.id) ?? [])
  const word = useNewWord((form, text, font, gesture, refused) => {
    const piece = masked ?? crypto.randomUUID()
    const added = masked
      ? edit({ edit: 'opening', piece, change: 'add_word', form, text, font, join: 'add' }, gesture, refused)
      : edit({ edit: 'add_lettering', piece, form, fill: crypto.randomUUID(), text, font }, gesture, refused)
    void added.then((made) => {
      if (made) bench.set({ selected: piece })
      // as large as the picture has room for
      if (made && masked) {
        if (others.length > 0) void changeOpening(masked, { change: 'remove_forms', forms: others }, gesture)
        void amendWord(piece, form, {}, gesture, true)
      }
    })
    return { piece, form, added }
  }, true)
  return (
    <div className="grid w-[680px] grid-cols-[250px_1fr] gap-5">
      <div>
        <WordField label="Type a word" text={word.text} onChange={word.type} problem={word.problem} />
        <p className="mt-3 text-[13px] leading-snug text-ink-soft">
          {masked ? 'What is selected shows through it.' : 'It grows with what you type, as large as the sheet allows.'} Enter starts a second line.
        </p>
      </div>
      <FontList fonts={word.fonts} chosen={word.font} sample={word.text} onChoose={word.set} tried={word.tried} />
    </div>
  )
}
