import { call, patiently, Refused, sentenceOf } from '../../api/client'
import { say, useNotices } from '../../parts/notices'
import type { Bench } from '../../types/Bench'
import type { BenchChange } from '../../types/BenchChange'
import type { Edit } from '../../types/Edit'
import type { EditRequest } from '../../types/EditRequest'
import type { Sheet } from '../../types/Sheet'
import type { Similarity } from '../../types/Similarity'
import type { StepRequest } from '../../types/StepRequest'
import type { Tentative } from '../../types/Tentative'
import type { TentativeRequest } from '../../types/TentativeRequest'
import { amending } from './amend'
import { allForms } from '../opening/formTree'
import { bench } from './store'

/** Edits go out one after the other, each made for the revision that the one before it gave. */
let queue: Promise<unknown> = Promise.resolve()

function enqueue<T>(work: () => Promise<T>): Promise<T> {
  bench.set((s) => ({ waiting: s.waiting + 1 }))
  const result = queue.then(work)
  queue = result
    .catch(() => undefined)
    .finally(() => bench.set((s) => ({ waiting: s.waiting - 1 })))
  return result
}

/** What is left of several selected pieces. */
function stillThere(several: readonly string[], next: Bench): { several?: readonly string[]; selected?: string | null } {
  const left = several.filter((id) => next.sheet.pieces.some((p) => p.id === id))
  if (left.length === several.length) return {}
  return left.length > 1 ? { several: left } : { several: [], selected: left[0] ?? null }
}

/** Takes over a sheet as the server has it, unless ours is newer. */
export function takeOver(next: Bench) {
  bench.set((s) => {
    if (s.bench && s.bench.id === next.id && s.bench.revision > next.revision) return s
    const gone = s.selected !== null && !next.sheet.pieces.some((p) => p.id === s.selected)
    const lost = s.mode !== null && s.mode.piece !== null && !next.sheet.pieces.some((p) => p.id === s.mode?.piece)
    const window = next.sheet.pieces.find((p) => p.id === s.selected)?.kind
    const there = window?.kind === 'window' ? allForms(window.opening.forms).map((f) => f.id) : []
    const forms = s.forms.filter((f) => there.includes(f))
    return {
      bench: next,
      ...(forms.length < s.forms.length ? { forms, open: s.open === 'form' ? null : s.open } : {}),
      ...(gone ? { selected: null, open: null } : {}),
      ...stillThere(s.several, next),
      ...(s.inside !== null && !next.sheet.bundles?.some((b) => b.id === s.inside) ? { inside: null } : {}),
      ...(lost ? { mode: null } : {}),
    }
  })
}

/** The sheet as it is with a change put in its places; null if that was made for another revision. */
function changed(present: Bench | null, by: BenchChange): Bench | null {
  if (!present || present.id !== by.id || present.revision !== by.base) return null
  const documents = new Map(present.sheet.pieces.concat(by.pieces).map((p) => [p.id, p]))
  const views = new Map(present.scene.pieces.concat(by.views).map((v) => [v.piece, v]))
  const pieces = (by.order ?? present.sheet.pieces.map((p) => p.id)).flatMap((id) => documents.get(id) ?? [])
  return {
    id: by.id,
    revision: by.revision,
    undo: by.undo,
    redo: by.redo,
    sheet: { ...(by.sheet ?? present.sheet), pieces },
    scene: { page: by.page ?? present.scene.page, pieces: pieces.filter((p) => !p.hidden).flatMap((p) => views.get(p.id) ?? []) },
  }
}

/** Takes over what a change made of the sheet; fetches it whole if the change was made for another revision. */
async function takeOverChange(by: BenchChange) {
  const next = changed(bench.get().bench, by)
  if (next) takeOver(next)
  else await refresh(by.id)
}

/** Sends what `ask` makes of the present revision, and takes over what came of it. */
async function send(path: string, ask: (base: number, sheet: Sheet) => object) {
  const present = bench.get().bench
  if (!present) throw new Error('There is no sheet here.')
  const body = ask(present.revision, present.sheet)
  try {
    await takeOverChange(await patiently(() => call<BenchChange>('POST', `/sheets/${present.id}/${path}`, body), useNotices.getState().setAway))
  } catch (error) {
    if (error instanceof Refused && error.bench) takeOver(error.bench)
    throw error
  }
}

type Made = Edit | Edit[] | null

/**
 * Makes an edit for good, or several that are one step: all of them or none. Edits with one `gesture` are undone together. One that changes a part of something is asked for when its turn comes, so
 * that it keeps what edits before it made of the rest; null where there is nothing to change any more.
 * False, and a sentence on the screen (or for `refused`), if it is not taken.
 */
export async function edit(change: Edit | Edit[] | (() => Made), gesture: string | null = null, refused: (sentence: string) => void = say): Promise<boolean> {
  const made = typeof change === 'function' ? change : () => change
  try {
    return await enqueue(async () => {
      const edits = [made() ?? []].flat()
      if (edits.length === 0) return false
      await send('edits', (base, sheet): EditRequest => ({ base, request: crypto.randomUUID(), gesture, edits: amending(edits, sheet) }))
      return true
    })
  } catch (error) {
    // somebody else changed the same thing: what was meant is not lost
    if (error instanceof Refused && error.bench && refused === say) say(error.message, { label: 'Make it anyway', run: () => void edit(change, gesture) })
    else refused(sentenceOf(error))
    return false
  } finally {
    if (!bench.get().drag && !bench.get().trying && bench.get().mode === null) bench.set({ tried: {}, triedOrder: null, triedPage: null })
  }
}

/** Takes over what others did, once what is on its way from here has arrived. */
export function catchUp(id: string, revision: number) {
  const isNews = () => {
    const present = bench.get().bench
    return present?.id === id && present.revision < revision ? present : null
  }
  if (!isNews()) return
  void enqueue(async () => {
    const present = isNews()
    if (present) await takeOverChange(await call<BenchChange>('GET', `/sheets/${id}/changes?since=${present.revision}`))
  }).catch(() => undefined)
}

export async function step(way: 'undo' | 'redo') {
  try {
    await enqueue(() => send(way, (base): StepRequest => ({ base, request: crypto.randomUUID() })))
  } catch (error) {
    say(sentenceOf(error))
  }
}

/** Makes the sheet what it was after a step: one more step. */
export async function goBackTo(seq: number) {
  try {
    await enqueue(() => send(`steps/${seq}`, (base): StepRequest => ({ base, request: crypto.randomUUID() })))
  } catch (error) {
    say(sentenceOf(error))
  }
}

/** One request at a time; what is asked meanwhile replaces what was asked before it. */
let asking = false
let next: { edits: Edit[]; by: Similarity | null; refused: ((sentence: string) => void) | null } | null = null

/**
 * Shows what edits would give, without making them. `by` is the move that a drag shows already by itself; `refused` hears why they could not be made.
 */
export function attempt(edits: Edit[], by: Similarity | null = null, refused: ((sentence: string) => void) | null = null) {
  next = { edits, by, refused }
  bench.set({ trying: true })
  if (!asking) void ask()
}

/** Forgets what was tried. */
export function forget() {
  next = null
  bench.set({ tried: {}, triedOrder: null, triedPage: null, trying: false })
}

async function ask() {
  asking = true
  while (next) {
    const { edits, by, refused } = next
    const asked = next
    next = null
    const present = bench.get().bench
    if (!present) break
    const body: TentativeRequest = { base: present.revision, edits: amending(edits, present.sheet) }
    try {
      const answer = await call<Tentative>('POST', `/sheets/${present.id}/tentative`, body)
      if (answer.tried === 'newer') takeOver(answer.bench)
      // while dragging, the next answer or the edit itself will tell
      else if (answer.tried === 'refused' && refused && next === null) refused(answer.sentence)
      if (answer.tried !== 'gives') {
        if (next === asked) break
        continue
      }
      const { views, order, page } = answer
      const wanted = bench.get().trying || bench.get().drag !== null || bench.get().mode !== null
      if (wanted && bench.get().bench?.revision === present.revision) {
        bench.set({ tried: Object.fromEntries(views.map((pieceView) => [pieceView.piece, { pieceView, by }])), triedOrder: order ?? null, triedPage: page ? { page, by } : null })
        // what came is painted before more is asked for: server and painting share the processor
        await new Promise(requestAnimationFrame)
      }
    } catch (error) {
      // nothing is lost: the edit itself will tell
      if (!(error instanceof Refused) && next === asked) break
    }
  }
  asking = false
}

/** Fetches the sheet as it is now. */
export async function refresh(id: string) {
  takeOver(await call<Bench>('GET', `/sheets/${id}`))
}
