import { useEffect } from 'react'
import { Away, call, sentenceOf } from '../api/client'
import { say, useNotices } from '../parts/notices'
import { go } from '../route'
import { watchUnmatched } from './breakout/unmatched'
import type { Bench } from '../types/Bench'
import type { MembersView } from '../types/MembersView'
import type { JobCard } from '../types/JobCard'
import { AddShelf } from './AddShelf'
import { BreakoutBar } from './breakout/BreakoutBar'
import { BrushBar } from './opening/BrushMode'
import { CellsBar } from './opening/CellsMode'
import { useClipboard } from './clipboard/useClipboard'
import { DrawBar } from './opening/DrawMode'
import { takeOver } from './state/edits'
import { useFollowed } from './sheet/jobs'
import { PastBar } from './history/PastBar'
import { LookBar } from './sheet/LookBar'
import { useMembers } from './sheet/members'
import { useKeys } from './keys'
import { useNews } from './sheet/news'
import { PiecesBar } from './opening/PiecesMode'
import { Recipe } from './recipe/Recipe'
import { Sampler } from './fill/Sampler'
import { SheetView } from './canvas/SheetView'
import { Stack } from './stack/Stack'
import { SubjectBar } from './subject/SubjectBar'
import type { Mode } from './mode/modes'
import { bench, density, useBench } from './state/store'
import { TopLine } from './sheet/TopLine'
import { TraceBar } from './opening/TraceMode'

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
  const looking = useBench((s) => s.looking)
  const past = useBench((s) => s.past !== null)
  const rulers = useBench((s) => s.rulers)
  useKeys()
  useClipboard()

  useEffect(() => {
    document.title = name ? `${name} · Inky Window` : 'Inky Window'
  }, [name])

  useEffect(watchUnmatched, [])

  useEffect(() => {
    bench.reset()
    let gone = false
    const load = async () => {
      try {
        const [first, { role }] = await Promise.all([call<Bench>('GET', `/sheets/${id}`), call<MembersView>('GET', `/sheets/${id}/members`)])
        if (gone) return
        bench.set({ looking: role === 'look' })
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

  // somebody may be let in further, or not any more
  const role = useMembers(loaded ? id : null).data?.role
  useEffect(() => {
    if (role !== undefined) bench.set(role === 'look' ? { looking: true, selected: null, several: [], forms: [], open: null, mode: null, lookedBefore: true } : { looking: bench.get().past !== null, lookedBefore: false })
  }, [role])

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
        {!looking && <aside className={`pointer-events-none absolute bottom-3 flex ${rulers ? 'top-7 left-7' : 'top-3 left-3'} w-[84px] flex-col gap-2`}>
          <AddShelf />
        </aside>}
        {!looking && <Stack />}
      </div>
      {past ? <PastBar /> : looking ? <LookBar /> : mode === undefined ? <Recipe /> : <Bar mode={mode} />}
      <Sampler />
    </div>
  )
}
