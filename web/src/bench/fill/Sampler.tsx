import { useEffect, useRef, useState } from 'react'
import { sentenceOf } from '../../api/client'
import { say } from '../../parts/notices'
import { wayOf } from '../canvas/keyMove'
import { colourAt, pixelsOfScene, type Pixels } from './sampling'
import { bench, useBench } from '../state/store'

/** While a colour is sampled: a drop of what lies under the pointer (or where arrow keys take it); a click or Enter takes it, Escape does not. */
export function Sampler() {
  const sampling = useBench((s) => s.sampling)
  return sampling ? <Drop take={sampling.take} /> : null
}

/** Where the drop of the keyboard begins: in the middle of the sheet. */
function middle() {
  const r = document.querySelector('[data-testid=scene]')?.getBoundingClientRect()
  return r ? { x: r.left + r.width / 2, y: r.top + r.height / 2 } : { x: 0, y: 0 }
}

function Drop({ take }: { take: (colour: string) => void }) {
  const [pixels, setPixels] = useState<Pixels | null>(null)
  const [at, setAt] = useState<{ x: number; y: number } | null>(null)
  const picked = useRef(() => {})
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
      const way = wayOf(e.key)
      if (e.key === 'Escape') bench.set({ sampling: null })
      else if (e.key === 'Enter') picked.current()
      else if (way) {
        const step = e.shiftKey ? 20 : 2
        setAt((was) => {
          const from = was ?? middle()
          return { x: from.x + way[0] * step, y: from.y + way[1] * step }
        })
      } else return
      e.preventDefault()
      e.stopPropagation()
    }
    window.addEventListener('keydown', key, true)
    return () => {
      gone = true
      window.removeEventListener('keydown', key, true)
    }
  }, [])
  // at every drawing: the picture may be ready only after the pointer has come to rest
  const colour = at && pixels && colourAt(pixels, at.x, at.y)
  useEffect(() => {
    picked.current = () => {
      if (!pixels) return
      bench.set({ sampling: null })
      if (colour) take(colour)
    }
  }, [colour, pixels, take])
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
