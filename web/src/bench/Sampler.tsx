import { useEffect, useState } from 'react'
import { sentenceOf } from '../api/client'
import { say } from '../parts/notices'
import { colourAt, pixelsOfScene, type Pixels } from './sampling'
import { bench, useBench } from './store'

/** While a colour is sampled: a drop of what lies under the pointer; a click takes it, Escape does not. */
export function Sampler() {
  const sampling = useBench((s) => s.sampling)
  return sampling ? <Drop take={sampling.take} /> : null
}

function Drop({ take }: { take: (colour: string) => void }) {
  const [pixels, setPixels] = useState<Pixels | null>(null)
  const [at, setAt] = useState<{ x: number; y: number } | null>(null)
  useEffect(() => {
    let gone = false
    pixelsOfScene().then(
      (made) => !gone && setPixels(made),
      (error: unknown) => {
        say(sentenceOf(error))
        bench.set({ sampling: null })
      },
    )
    const key = (e: KeyboardEvent) => {
      if (e.key !== 'Escape') return
      e.preventDefault()
      e.stopPropagation()
      bench.set({ sampling: null })
    }
    window.addEventListener('keydown', key, true)
    return () => {
      gone = true
      window.removeEventListener('keydown', key, true)
    }
  }, [])
  // at every drawing: the picture may be ready only after the pointer has come to rest
  const colour = at && pixels && colourAt(pixels, at.x, at.y)
  return (
    <div
      data-testid="sampler"
      className="fixed inset-0 z-50 cursor-crosshair"
      onPointerMove={(e) => setAt({ x: e.clientX, y: e.clientY })}
      onPointerDown={(e) => {
        e.preventDefault()
        e.stopPropagation()
        if (!pixels) return
        const under = colourAt(pixels, e.clientX, e.clientY)
        bench.set({ sampling: null })
        if (under) take(under)
      }}
    >
      {at && (
        <div className="pointer-events-none absolute flex items-center gap-2 rounded-full bg-leaf py-1 pr-3 pl-1 text-[13px] font-medium tabular-nums shadow-sheet" style={{ left: at.x + 14, top: at.y + 14 }}>
          <span className="block h-7 w-7 rounded-full border border-ink/30" style={{ background: colour ?? 'transparent' }} />
          {colour ?? (pixels ? 'beside the sheet' : 'looking …')}
        </div>
      )}
    </div>
  )
}
