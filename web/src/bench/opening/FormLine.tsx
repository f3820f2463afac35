import { useRef, useState } from 'react'
import type { Form } from '../../types/Form'
import { change, formLabel, formView, holdForm, kindOf } from './forms'
import { around } from '../geometry/boxes'
import { follow, leaving } from '../canvas/pointer'
import { bench, useBench } from '../state/store'
import { JoinSign } from './JoinSign'

/** Where a dragged card would go: between others, or together with one. */
type Target = { kind: 'between'; to: number } | { kind: 'with'; form: string }

/** The forms of an opening (or of a list in it) with their joins. Cards are dragged to another place, or onto each other. */
export function FormLine({ piece, forms, list, locked }: { piece: string; forms: Form[]; list: string | null; locked: boolean }) {
  const line = useRef<HTMLDivElement>(null)
  const [dragged, setDragged] = useState<string | null>(null)
  const [target, setTarget] = useState<Target | null>(null)

  const targetAt = (x: number, own: string): Target | null => {
    const cards = [...(line.current?.querySelectorAll<HTMLElement>('[data-form]') ?? [])]
    for (const [i, card] of cards.entries()) {
      const box = card.getBoundingClientRect()
      const id = card.dataset.form
      if (x > box.right + 24 || id === undefined) continue
      if (id === own) return null
      const share = (x - box.left) / box.width
      if (share < 0.3) return { kind: 'between', to: i }
      if (share > 0.7) return { kind: 'between', to: i + 1 }
      return { kind: 'with', form: id }
    }
    return { kind: 'between', to: cards.length }
  }

  const start = (e: React.PointerEvent, form: Form) => {
    if (e.button !== 0 || locked) return
    const left = leaving(e)
    let at: Target | null = null
    const stop = () => {
      setDragged(null)
      setTarget(null)
    }
    follow({
      move: (m) => {
        if (!left(m)) return
        setDragged(form.id)
        at = targetAt(m.clientX, form.id)
        setTarget(at)
      },
      up: () => {
        stop()
        if (at) drop(form, at)
      },
      drop: stop,
    })
  }
  const drop = (form: Form, at: Target) => {
    const from = forms.findIndex((f) => f.id === form.id)
    if (at.kind === 'between') {
      const to = at.to > from ? at.to - 1 : at.to
      if (to !== from) void change(piece, { change: 'order_form', form: form.id, into: list, to })
      return
    }
    const other = forms.find((f) => f.id === at.form)
    if (other?.shape.kind === 'list') {
      void change(piece, { change: 'order_form', form: form.id, into: other.id, to: other.shape.forms.length })
    } else {
      void gather(piece, [at.form, form.id])
    }
  }

  return (
    <div ref={line} className="flex shrink-0 items-center gap-1.5" role="group" aria-label={list === null ? 'Forms' : 'Forms of the list'}>
      {forms.map((form, i) => (
        <div key={form.id} className="flex shrink-0 items-center gap-1.5">
          {i > 0 && !locked && <JoinSign piece={piece} form={form} />}
          {target?.kind === 'between' && target.to === i && <Here />}
          <FormCard
            piece={piece}
            form={form}
            faded={dragged === form.id}
            marked={target?.kind === 'with' && target.form === form.id}
            onPointerDown={(e) => start(e, form)}
            onOrder={(by) => {
              const to = i + by
              if (to >= 0 && to < forms.length) void change(piece, { change: 'order_form', form: form.id, into: list, to })
            }}
          />
          {target?.kind === 'between' && target.to === forms.length && i === forms.length - 1 && <Here />}
        </div>
      ))}
    </div>
  )
}

/** Gathers forms into a list, which is taken hold of. */
export async function gather(piece: string, forms: string[]) {
  const list = crypto.randomUUID()
  if (await change(piece, { change: 'gather', forms, list })) bench.set({ forms: [list] })
}

const Here = () => <span className="h-[86px] w-1 shrink-0 rounded-full bg-sea" aria-hidden />

interface CardProps {
  piece: string
  form: Form
  faded: boolean
  marked: boolean
  onPointerDown: (e: React.PointerEvent) => void
  onOrder: (by: number) => void
}

function FormCard({ piece, form, faded, marked, onPointerDown, onOrder }: CardProps) {
  const held = useBench((s) => s.forms.includes(form.id))
  const isOpen = useBench((s) => s.open === 'form' && s.forms.at(-1) === form.id)
  const label = form.shape.kind === 'lettering' ? 'Lettering' : kindOf(form.shape)
  const caption = formLabel(form)
  const name = form.shape.kind === 'lettering' ? `Lettering: ${caption}` : label
  const look = isOpen ? 'bg-ink text-leaf' : held ? 'bg-paper ring-2 ring-rose' : 'bg-paper hover:bg-edge/60'
  return (
    <button
      data-form={form.id}
      aria-expanded={isOpen}
      aria-label={form.off ? `${name} (switched off)` : name}
      title={`${name}. Drag it to another place, or onto another card to nest both. Alt with an arrow key moves it too.`}
      onPointerDown={onPointerDown}
      onClick={(e) => {
        if (e.shiftKey || e.ctrlKey || e.metaKey) {
          holdForm(form.id, true)
          return
        }
        const shut = isOpen
        holdForm(form.id)
        bench.set({ open: shut ? null : 'form', typesInto: e.detail === 0, wordProblem: null })
      }}
      onKeyDown={(e) => {
        const by = e.key === 'ArrowLeft' ? -1 : e.key === 'ArrowRight' ? 1 : 0
        if (!e.altKey || by === 0) return
        e.preventDefault()
        e.stopPropagation()
        onOrder(by)
      }}
      className={`flex h-[86px] w-[84px] shrink-0 touch-none flex-col items-center justify-between rounded-lg px-1.5 pt-2 pb-1 transition-colors select-none ${look} ${
        faded ? 'opacity-40' : ''
      } ${marked ? 'outline-3 outline-sea' : ''}`}
    >
      <span className={`flex h-12 w-full items-center justify-center overflow-hidden ${form.off ? 'opacity-25' : ''}`}>
        <FormPicture piece={piece} form={form.id} />
      </span>
      <span className={`w-full truncate text-center text-[12px] font-medium ${form.off ? 'line-through opacity-60' : ''}`}>{caption}</span>
    </button>
  )
}

/** The outline of a form, in ink. */
export function FormPicture({ piece, form }: { piece: string; form: string }) {
  const view = useBench((s) => formView(s, piece, form))
  if (!view) return <span className="text-[12px] italic">not drawn</span>
  const [l, t, r, b] = around(view.corners)
  const m = Math.max(r - l, b - t, 0.1) * 0.05
  return (
    <svg aria-hidden viewBox={`${l - m} ${t - m} ${r - l + 2 * m} ${b - t + 2 * m}`} className="h-full w-full">
      {view.outline ? <path d={view.outline} fill="currentColor" /> : <polygon points={view.corners.map((c) => c.join(',')).join(' ')} fill="currentColor" opacity={0.5} />}
    </svg>
  )
}
