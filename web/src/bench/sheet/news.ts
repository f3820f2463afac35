import { useEffect } from 'react'
import { Away, call, Refused } from '../../api/client'
import { TAB } from '../../api/tab'
import { say, useNotices } from '../../parts/notices'
import { go } from '../../route'
import type { News } from '../../types/News'
import { catchUp } from '../state/edits'
import { bench, useBench, type BenchState } from '../state/store'

/** How often is asked where nothing tells by itself, and while nobody looks, in milliseconds. */
const ASK = 1500
const ASK_UNSEEN = 10_000

function hear(id: string, news: News) {
  if (bench.get().bench?.id !== id) return
  useNotices.getState().setAway(null)
  bench.set({ newest: news.revision, others: news.others })
}

async function ask(id: string) {
  try {
    hear(id, await call<News>('GET', `/sheets/${id}/news`))
  } catch (error) {
    if (error instanceof Away) useNotices.getState().setAway(error.message)
    if (error instanceof Refused && error.status === 404) {
      say(error.message)
      go('/')
    }
  }
}

/** Not while something is in the hand: it would move beneath it. */
const isIdle = (s: BenchState) => s.drag === null && !s.trying

/** Hears what others do to the sheet: told by the server while this tab is looked at, else asked for. */
export function useNews(id: string | null) {
  useEffect(() => {
    if (id === null) return
    let stream: EventSource | null = null
    let timer = 0
    const told = () => stream?.readyState === EventSource.OPEN
    // a browser keeps few connections to one server: a tab that nobody sees holds none
    const listen = () => {
      stream?.close()
      stream = null
      if (document.hidden) return
      stream = new EventSource(`/api/sheets/${id}/events?tab=${TAB}`)
      stream.onmessage = (e: MessageEvent<string>) => hear(id, JSON.parse(e.data) as News)
    }
    const round = async () => {
      if (!told()) await ask(id)
      // what could not be fetched before
      if (isIdle(bench.get())) catchUp(id, bench.get().newest)
      timer = window.setTimeout(() => void round(), document.hidden ? ASK_UNSEEN : ASK)
    }
    listen()
    timer = window.setTimeout(() => void round(), ASK)
    document.addEventListener('visibilitychange', listen)
    return () => {
      document.removeEventListener('visibilitychange', listen)
      window.clearTimeout(timer)
      stream?.close()
      bench.set({ others: [] })
    }
  }, [id])

  const newest = useBench((s) => s.newest)
  const idle = useBench(isIdle)
  useEffect(() => {
    if (id !== null && idle) catchUp(id, newest)
  }, [id, idle, newest])

  // what is selected here, for the others to see
  const selected = useBench((s) => s.selected)
  const alone = useBench((s) => s.others.length === 0)
  useEffect(() => {
    if (id === null || alone) return
    void call('POST', `/sheets/${id}/presence`, { selected }).catch(() => undefined)
  }, [id, alone, selected])
}
