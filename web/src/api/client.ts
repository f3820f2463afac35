import { shutDoor } from '../door/door'
import type { Bench } from '../types/Bench'
import type { Sentence } from '../types/Sentence'
import { TAB } from './tab'

/** The server said no, with one sentence for a person. */
export class Refused extends Error {
  constructor(
    sentence: string,
    readonly status: number,
    /** The newer sheet, if that is the reason. */
    readonly bench?: Bench,
  ) {
    super(sentence)
  }
}

/** Nobody answered, or the database did not: worth trying again. */
export class Away extends Error {}

export const AWAY = 'The server does not answer at the moment. Nothing is lost; this is tried again by itself.'

async function refusal(response: Response): Promise<Refused | Away> {
  let said: Sentence | null = null
  try {
    said = (await response.json()) as Sentence
  } catch {
    // an answer that is not ours, from something between
  }
  if (response.status === 401) {
    shutDoor()
    return new Away(said?.sentence ?? AWAY)
  }
  if (response.status === 503 || response.status === 502) return new Away(said?.sentence ?? AWAY)
  return new Refused(said?.sentence ?? `The server answered ${response.status}.`, response.status, said?.bench)
}

export async function call<T>(method: 'GET' | 'POST' | 'DELETE', path: string, body?: unknown, signal?: AbortSignal, request?: string): Promise<T> {
  const isFile = body instanceof Blob
  let response: Response
  try {
    response = await fetch(`/api${path}`, {
      method,
      ...(signal ? { signal } : {}),
      ...(body === undefined ? {} : { body: isFile ? body : JSON.stringify(body) }),
      headers: { 'x-tab': TAB, ...(request ? { 'x-request': request } : {}), ...(body === undefined || isFile ? {} : { 'content-type': 'application/json' }) },
    })
  } catch {
    // ended from here: nobody is away
    if (signal?.aborted) throw new Refused('This was ended.', 0)
    throw new Away(AWAY)
  }
  if (!response.ok) throw await refusal(response)
  return (response.status === 204 ? undefined : await response.json()) as T
}

/** Goes on trying while nobody answers; `waiting` hears of it. */
export async function patiently<T>(work: () => Promise<T>, waiting: (why: string | null) => void): Promise<T> {
  for (;;) {
    try {
      const result = await work()
      waiting(null)
      return result
    } catch (error) {
      if (!(error instanceof Away)) {
        waiting(null)
        throw error
      }
      waiting(error.message)
      await new Promise((next) => setTimeout(next, 1000))
    }
  }
}

/** Makes something on the server, and goes on trying: what is asked for again after a lost answer is made once. */
export function make<T>(path: string, body: unknown, waiting: (why: string | null) => void): Promise<T> {
  const request = crypto.randomUUID()
  return patiently(() => call<T>('POST', path, body, undefined, request), waiting)
}

export function sentenceOf(error: unknown): string {
  return error instanceof Error ? error.message : String(error)
}
