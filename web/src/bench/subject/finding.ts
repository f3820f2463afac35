import { call, patiently, Refused, sentenceOf } from '../../api/client'
import { say, useNotices } from '../../parts/notices'
import type { DraftView } from '../../types/DraftView'
import type { Hints } from '../../types/Hints'
import type { PhotoView } from '../../types/PhotoView'
import { edit } from '../state/edits'
import { around } from '../geometry/boxes'
import { amendMode, enterMode, leaveMode, modeOf } from '../mode/mode'
import { fitted, NO_STACK } from '../canvas/viewport'
import { begin, cancel, stopFollowing, useFollowed } from '../sheet/jobs'
import type { Matrix } from '../geometry/matrix'
import type { SubjectMode } from '../mode/modes'
import { bench, viewOf, useBench } from '../state/store'

/** Opens the mode in which a subject of a photo is found; without one yet it is looked for by itself at once. */
export function enterSubjectMode(piece: string) {
  const s = bench.get()
  const found = s.bench?.sheet.pieces.find((p) => p.id === piece)
  const photos = found?.kind.kind === 'window' ? found.kind.fills.filter((f) => f.paint.kind === 'photo') : []
  // of several photos the one whose card was opened last, or the foremost
  const fill = photos.find((f) => f.id === s.fill) ?? photos.at(-1)
  const photo = fill?.paint.kind === 'photo' ? fill.paint.photo : undefined
  const view = viewOf(s, piece)?.photos.find((p) => p.fill === fill?.id)
  if (!s.bench || !fill || !photo || !view) return
  const first = s.bench.sheet.photos[photo]?.subjects?.[0]
  const width = Math.max(4, Math.round(Math.max(view.width, view.height) / 60))
  enterMode(
    {
      kind: 'subject',
      piece,
      fill: fill.id,
      photo,
      key: first?.key ?? 0,
      name: first?.name ?? 'Subject',
      hints: first?.hints ?? {},
      past: [],
      draft: null,
      kept: first?.matte ?? null,
      asking: false,
      problem: null,
      panel: 'find',
      tool: first ? 'keep' : null,
      width,
      hardness: 0.8,
      inside: true,
      box: null,
      stroke: null,
      paint: null,
      cursor: null,
      doubt: null,
      seen: 'photo',
    },
    { view: aroundPhoto(view), forms: s.forms },
  )
  if (!first) void ask({}, crypto.randomUUID())
}

/** The view in which all of a photo is seen. */
export function aroundPhoto({ corners }: PhotoView) {
  return fitted(around(corners), bench.get().port, bench.get().view.turn, NO_STACK)
}

/** Goes over to another subject of the photo; to a new one without a number. */
export function changeSubject(key: number | null) {
  const mode = subjectMode()
  const all = bench.get().bench?.sheet.photos[mode?.photo ?? '']?.subjects ?? []
  if (!mode) return
  const known = all.find((s) => s.key === key)
  const next = Math.max(-1, ...all.map((s) => s.key)) + 1
  bench.set({
    mode: {
      ...mode,
      key: known?.key ?? next,
      name: known?.name ?? `Subject ${all.length + 1}`,
      hints: known?.hints ?? {},
      past: [],
      draft: null,
      doubt: null,
      kept: known?.matte ?? null,
      problem: null,
      panel: 'find',
      // what stands out by itself is the first one already
      tool: known ? 'keep' : 'box',
    },
  })
}

/** Goes over to the shadow of the subject: found by the same, kept apart from it. */
export function addShadow() {
  const mode = subjectMode()
  const known = bench.get().bench?.sheet.photos[mode?.photo ?? '']?.subjects?.find((s) => s.key === mode?.key)
  if (!mode || !known) return
  changeSubject(null)
  amend({ name: known.name === 'Subject' ? 'Shadow' : `Shadow of ${known.name}`.slice(0, 120), panel: 'through', tool: 'shadow' })
  // what is painted on the subject, and how dense its glass is, says nothing of its shadow
  const { painted: _, density: __, ...hints } = known.hints
  void ask({ ...hints, shadow_alone: true }, crypto.randomUUID())
}

export const subjectMode = () => modeOf('subject')

export const amend = (change: Partial<SubjectMode>) => amendMode('subject', change)

/** Where the photo of the mode lies. */
export function photoOf(mode: SubjectMode): PhotoView | undefined {
  return viewOf(bench.get(), mode.piece)?.photos.find((p) => p.fill === mode.fill)
}

/** From the photo's pixels to the sheet, by the photo's own corners. */
export function toSheetOf({ corners: [a, b, , d], width, height }: PhotoView): Matrix {
  return [(b[0] - a[0]) / width, (b[1] - a[1]) / width, (d[0] - a[0]) / height, (d[1] - a[1]) / height, a[0], a[1]]
}

/** What was asked last; an answer to anything else is not wanted any more. */
let asked: AbortController | null = null

/** Takes a step: what these hints give is looked at. Steps of one gesture are taken back together. */
export async function ask(hints: Hints, gesture: string) {
  const mode = subjectMode()
  if (!mode) return
  const goesOn = mode.past.at(-1)?.gesture === gesture
  const past = goesOn ? mode.past : [...mode.past, { hints: mode.hints, gesture }].slice(-200)
  amend({ hints, past, box: null, stroke: null, paint: null })
  await look()
}

async function look() {
  const mode = subjectMode()
  if (!mode) return
  asked?.abort()
  const mine = new AbortController()
  asked = mine
  amend({ asking: true, problem: null })
  try {
    const draft = await patiently(
      () => call<DraftView>('POST', `/photos/${mode.photo}/draft`, mode.hints, mine.signal),
      useNotices.getState().setAway,
    )
    if (asked !== mine) return
    const now = subjectMode()
    // with something found, strokes are what is wanted next
    // an answered doubt is none any more: the next one has its number
    const doubt = now && now.doubt !== null && now.doubt < draft.doubts.length ? now.doubt : null
    amend({ draft, doubt, asking: false, tool: now?.tool ?? (now?.panel === 'find' ? 'keep' : null) })
  } catch (error) {
    if (asked !== mine) return
    const now = subjectMode()
    const before = now?.past.at(-1)
    const problem = error instanceof Refused ? sentenceOf(error) : null
    if (problem === null) say(sentenceOf(error))
    // what led nowhere is taken back; with nothing found at all, a box is what helps
    if (now?.draft || now?.kept) amend({ asking: false, problem, ...(before ? { hints: before.hints, past: now.past.slice(0, -1) } : {}) })
    else if (mode.hints.shadow_alone) amend({ asking: false, problem })
    else amend({ asking: false, problem, tool: 'box', panel: 'find', ...(before ? { hints: before.hints, past: now?.past.slice(0, -1) ?? [] } : {}) })
  }
}

/** Ends a search that takes too long. */
export function stopLooking() {
  asked?.abort()
  asked = null
  const mode = subjectMode()
  const before = mode?.past.at(-1)
  amend({ asking: false, tool: mode?.draft || mode?.kept ? (mode.tool ?? 'keep') : 'box', ...(before && mode ? { hints: before.hints, past: mode.past.slice(0, -1) } : {}) })
}

export function stepBack() {
  const mode = subjectMode()
  const before = mode?.past.at(-1)
  if (!mode || !before) return
  const past = mode.past.slice(0, -1)
  // at the beginning stands what is kept
  if (past.length === 0 && mode.kept) {
    asked?.abort()
    asked = null
    amend({ hints: before.hints, past, draft: null, asking: false, problem: null })
    return
  }
  amend({ hints: before.hints, past, ...(past.length === 0 ? { draft: null } : {}) })
  if (past.length > 0) void look()
}

/** A contour, traced over the photo, that belongs to the subject. */
export function takeContour(data: string) {
  const mode = subjectMode()
  if (!mode) return
  // where nothing was found yet, the contour is all of it
  const nothing = mode.draft === null && mode.kept === null
  void ask({ ...mode.hints, ...(nothing ? { start: 'nothing' as const } : {}), traced: [...(mode.hints.traced ?? []), data] }, crypto.randomUUID())
}

/** Brings the draft to the full size of the photo: a job, whose end `SubjectBar` hears of. */
export async function finish() {
  const { bench: present } = bench.get()
  const mode = subjectMode()
  if (!mode?.draft || !present) return
  const running = useFollowed.getState().subject
  stopFollowing('subject')
  if (running) void cancel(running)
  await begin(present.id, 'subject', { task: 'find_subject', photo: mode.photo, ...mode.hints })
}

/** Keeps what the job made. */
export async function keepSubject(matte: string) {
  const mode = subjectMode()
  if (!mode) return
  const { key, name, hints } = mode
  if (await edit({ edit: 'set_subject', photo: mode.photo, subject: { key, name, matte, hints } })) leave()
}

export async function removeSubject() {
  const mode = subjectMode()
  if (!mode?.kept) return
  if (await edit({ edit: 'remove_subject', photo: mode.photo, key: mode.key })) leave()
}

export async function nameSubject(name: string) {
  const mode = subjectMode()
  if (!mode || name.trim() === '' || name === mode.name) return
  amend({ name: name.trim() })
  if (mode.kept) await edit({ edit: 'name_subject', photo: mode.photo, key: mode.key, name })
}

export function leave() {
  const s = bench.get()
  const sheet = s.bench?.sheet
  asked?.abort()
  asked = null
  leaveMode(sheet ? { view: fitted([0, 0, sheet.width, sheet.height], s.port, s.view.turn) } : {})
  stopFollowing('subject')
}

/** The subjects that the photo of the mode has on the sheet. */
export function useSubjects(mode: SubjectMode | null) {
  return useBench((s) => s.bench?.sheet.photos[mode?.photo ?? '']?.subjects)
}
