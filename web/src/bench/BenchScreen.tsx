import { useEffect } from 'react'
import { Away, call, sentenceOf } from '../api/client'
import { say, useNotices } from '../parts/notices'
import { go } from '../route'
import { watchUnmatched } from './breakout/unmatched'
import type { Bench } from '../types/Bench'
import type { JobCard } from '../types/JobCard'
import { AddShelf } from './AddShelf'
import { BreakoutBar } from './breakout/BreakoutBar'
import { BrushBar } from './BrushMode'
import { CellsBar } from './CellsMode'
import { DrawBar } from './DrawMode'
import { takeOver } from './edits'
import { useFollowed } from './jobs'
import { useKeys } from './keys'
import { useNews } from './news'
import { PiecesBar } from './PiecesMode'
import { Recipe } from './recipe/Recipe'
import { Sampler } from './Sampler'
import { SheetView } from './SheetView'
import { Stack } from './Stack'
import { SubjectBar } from './subject/SubjectBar'
import { bench, density, useBench, type Mode } from './store'
import { TopLine } from './TopLine'
import { TraceBar } from './TraceMode'

function Bar({ mode }: { mode: Mode['kind'] }) {
  switch (mode) {
    case 'subject':
      return <SubjectBar />
    case 'breakout':
      return <BreakoutBar />
    case 'draw':
      return <DrawBar />
    case 'cells':
      return <CellsBar />
    case 'trace':
      return <TraceBar />
    case 'brush':
      return <BrushBar />
    case 'pieces':
      return <PiecesBar />
  }
}

/** One sheet and everything that is done with it. */
export function BenchScreen({ id }: { id: string }) {
  const loaded = useBench((s) => s.bench?.id === id)
  const mode = useBench((s) => s.mode?.kind)
  const name = useBench((s) => s.bench?.sheet.name)
  const waiting = useBench((s) => s.waiting)
  useKeys()

  useEffect(() => {
    document.title = name ? `${name} · Inky Window` : 'Inky Window'
  }, [name])

  useEffect(watchUnmatched, [])

  useEffect(() => {
    bench.reset()
    let gone = false
    const load = async () => {
      try {
        const first = await call<Bench>('GET', `/sheets/${id}`)
        if (gone) return
        useNotices.getState().setAway(null)
        takeOver(first)
        const open = await call<JobCard[]>('GET', `/sheets/${id}/jobs`)
        const deliver = open.find((j) => j.task.task === 'deliver')
        if (deliver && !gone) useFollowed.setState({ deliver: deliver.id })
      } catch (error) {
        if (gone) return
        if (error instanceof Away) {
          useNotices.getState().setAway(error.message)
          setTimeout(() => void load(), 1000)
        } else {
          say(sentenceOf(error))
          go('/')
        }
      }
    }
    void load()
    return () => {
      gone = true
      useFollowed.setState({ subject: null, deliver: null })
    }
  }, [id])

  useNews(loaded ? id : null)

  // pictures as sharp as the zoom asks for, once it stands still
  const zoom = useBench((s) => s.view.zoom)
  useEffect(() => {
    const timer = setTimeout(() => bench.set({ sharp: density() }), 250)
    return () => clearTimeout(timer)
  }, [zoom, loaded])

  useEffect(() => {
    if (waiting === 0) return
    const warn = (e: BeforeUnloadEvent) => e.preventDefault()
    window.addEventListener('beforeunload', warn)
    return () => window.removeEventListener('beforeunload', warn)
  }, [waiting])

  if (!loaded) return <p className="p-10 font-serif text-xl text-ink-soft">Laying out the sheet …</p>
  return (
    <div className="flex h-full flex-col select-none" data-density={density()}>
      <TopLine />
      <div className="relative min-h-0 grow">
        <SheetView />
        <aside className="pointer-events-none absolute top-3 bottom-3 left-3 flex w-[84px] flex-col gap-2">
          <AddShelf />
          <Stack />
        </aside>
      </div>
      {mode === undefined ? <Recipe /> : <Bar mode={mode} />}
      <Sampler />
    </div>
  )
}
