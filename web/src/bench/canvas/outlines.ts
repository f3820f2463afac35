/**
 * Busy outlines (prints of thousands of nodes) come in parts that lie apart, and are painted part by part: those that a drag leaves alone
 * cost nothing, and those that it only moves are moved together.
 */
import type { OutlineView } from '../../types/OutlineView'

interface Line {
  x: number
  y: number
  shape: string
}

/** Path data of outlines that come in parts: put together once. */
const whole = new WeakMap<OutlineView, string>()

/** The path data of an outline. */
export function pathOf(outline: OutlineView): string {
  if ('path' in outline) return outline.path
  let path = whole.get(outline)
  if (path === undefined) {
    path = outline.parts.map(dataOf).join('')
    whole.set(outline, path)
  }
  return path
}

type SeenPart = { outline: string; hidden?: boolean }

/** The path data of all that is seen of a piece: its outline, or its members or panes where they lie. */
export function seenPath({ outline, panes, members }: { outline: OutlineView; panes?: readonly SeenPart[]; members?: readonly SeenPart[] }): string {
  const parts = members ?? panes
  return parts ? parts.flatMap((p) => (p.hidden ? [] : p.outline)).join('') : pathOf(outline)
}

const dataOf = ([x, y, shape]: readonly [number, number, string]) => `M${x},${y}${shape}`

const linesOf = (outline: OutlineView): Line[] => ('path' in outline ? [] : outline.parts.map(([x, y, shape]) => ({ x, y, shape })))

/** Starts that lie nearer to one another than this are the same: each of them was rounded by itself. In millimetres. */
const SAME = 2.5e-4

interface Part {
  element: SVGPathElement
  x: number
  y: number
}

interface Painted {
  group: SVGGElement
  /** How far all parts are moved together. */
  by: readonly [number, number]
  /** By their shape; several may look alike. */
  parts: Map<string, Part[]>
}

const painted = new WeakMap<Element, Painted>()

/** Gives a path that says `data-outline` its outline; a `lively` one will soon be given another. */
export function fillIn(path: SVGPathElement, outline: OutlineView, lively: boolean) {
  const before = path.getAttribute('data-outline') ?? ''
  if (before === '' && path.parentElement instanceof SVGClipPathElement && limit(path.parentElement, path, outline, lively)) return
  // what limits a picture has to be one path: browsers take long over several
  const lines = before === '' && isPlain(path) && !path.closest('clipPath, mask') ? linesOf(outline) : []
  const old = painted.get(path)
  if (lines.length < 2) {
    old?.group.remove()
    painted.delete(path)
    const d = before + pathOf(outline)
    if (path.getAttribute('d') !== d) path.setAttribute('d', d)
    return
  }
  const present = old ?? start(path)
  // moved as a whole, a layer of its own needs no painting
  present.group.style.willChange = lively ? 'transform' : ''
  paint(present, lines)
}

/** A part of a lively clip path, and what it holds. */
interface Field {
  clip: SVGClipPathElement
  path: SVGPathElement
  d: string
}

/** What a clip path limits, once for each field of the outline while that changes with every move of the pointer. */
interface Fields {
  all: Field[]
  copies: Element[]
}

const divided = new WeakMap<Element, Fields>()

/** Fields across and down. */
const ACROSS = 4

/**
 * Divides a lively clip path: browsers go through all of it for every tile that they paint, so what it limits is drawn once for each field,
 * within the lines that start there. Lines lie apart, so nothing shows where fields meet. False where the outline is one line, or at rest.
 */
function limit(clip: SVGClipPathElement, path: SVGPathElement, outline: OutlineView, lively: boolean): boolean {
  const read = lively ? linesOf(outline) : []
  let fields = divided.get(clip)
  if (read.length < ACROSS) {
    if (fields) {
      for (const copy of fields.copies) copy.remove()
      for (const field of fields.all) field.clip.remove()
      for (const whole of limitedBy(clip, clip.id)) whole.removeAttribute('display')
      divided.delete(clip)
    }
    return false
  }
  const [xs, ys] = [read.map((l) => l.x), read.map((l) => l.y)]
  const [left, top] = [Math.min(...xs), Math.min(...ys)]
  const [width, height] = [Math.max(...xs) - left || 1, Math.max(...ys) - top || 1]
  const place = (at: number) => Math.min(ACROSS - 1, Math.floor(at * ACROSS))
  const held: string[][] = Array.from({ length: ACROSS * ACROSS }, () => [])
  read.forEach(({ x, y, shape }) => held[place((y - top) / height) * ACROSS + place((x - left) / width)]?.push(dataOf([x, y, shape])))
  if (!fields) {
    const made: Fields = { all: [], copies: [] }
    const whole = limitedBy(clip, clip.id)
    held.forEach((_, k) => {
      const field = clip.cloneNode(true) as SVGClipPathElement
      field.id = `${clip.id}-${k}`
      const own = field.firstElementChild as SVGPathElement
      own.removeAttribute('data-outline')
      // a field in which no line starts shows nothing
      own.removeAttribute('d')
      clip.after(field)
      made.all.push({ clip: field, path: own, d: '' })
      for (const element of whole) {
        const copy = element.cloneNode(true) as Element
        copy.setAttribute('clip-path', `url(#${field.id})`)
        element.after(copy)
        made.copies.push(copy)
      }
    })
    for (const element of whole) element.setAttribute('display', 'none')
    path.removeAttribute('d')
    divided.set(clip, made)
    fields = made
  }
  held.forEach((now, k) => {
    const field = fields.all[k]
    const d = now.join('')
    if (!field || field.d === d) return
    field.path.setAttribute('d', d)
    field.d = d
  })
  return true
}

const limitedBy = (near: Element, id: string) => [...(near.closest('[data-piece], [data-piece-in]')?.querySelectorAll(`[clip-path="url(#${id})"]`) ?? [])]

/** Gradients and filters lie on a path as a whole. */
const isPlain = (path: SVGPathElement) => [...path.attributes].every((a) => !a.value.startsWith('url('))

function start(path: SVGPathElement): Painted {
  path.removeAttribute('d')
  const outer = document.createElementNS(path.namespaceURI, 'g') as SVGGElement
  for (const { name, value } of path.attributes) if (name !== 'data-outline') outer.setAttribute(name, value)
  const group = outer.appendChild(document.createElementNS(path.namespaceURI, 'g') as SVGGElement)
  path.after(outer)
  const present = { group, by: [0, 0] as const, parts: new Map<string, Part[]>() }
  painted.set(path, present)
  return present
}

function paint(present: Painted, lines: Line[]) {
  const spare = present.parts
  const parts = new Map<string, Part[]>()
  const add = (shape: string, part: Part) => {
    const alike = parts.get(shape)
    if (alike) alike.push(part)
    else parts.set(shape, [part])
  }
  const known: { part: Part; x: number; y: number }[] = []
  const others: Line[] = []
  for (const { x, y, shape } of lines) {
    const part = spare.get(shape)?.pop()
    if (part) {
      known.push({ part, x, y })
      add(shape, part)
    } else others.push({ shape, x, y })
  }
  const by = commonMove(known.map(({ part, x, y }) => [x - part.x, y - part.y] as const)) ?? present.by
  if (by[0] !== present.by[0] || by[1] !== present.by[1]) present.group.setAttribute('transform', `translate(${by[0]},${by[1]})`)
  present.by = by
  const lay = (part: Part, x: number, y: number) => {
    if (near([x, y], [part.x + by[0], part.y + by[1]])) return
    ;[part.x, part.y] = [x - by[0], y - by[1]]
    part.element.setAttribute('transform', `translate(${part.x},${part.y})`)
  }
  for (const { part, x, y } of known) lay(part, x, y)
  const left = [...spare.values()].flat()
  for (const { shape, x, y } of others) {
    const part = left.pop() ?? {
      element: present.group.appendChild(document.createElementNS(present.group.namespaceURI, 'path') as SVGPathElement),
      x: 0,
      y: 0,
    }
    part.element.setAttribute('d', `M0,0${shape}`)
    lay(part, x, y)
    add(shape, part)
  }
  for (const part of left) part.element.remove()
  present.parts = parts
}

const near = (a: readonly [number, number], b: readonly [number, number]) => Math.abs(a[0] - b[0]) < SAME && Math.abs(a[1] - b[1]) < SAME

/** The move that most parts make; none if there are no parts. */
function commonMove(moves: (readonly [number, number])[]) {
  const counts: { move: readonly [number, number]; count: number }[] = []
  for (const move of moves) {
    const there = counts.find((c) => near(c.move, move))
    if (there) there.count++
    // what moves every which way has no common move, and is not worth a long search
    else if (counts.length < 8) counts.push({ move, count: 1 })
  }
  return counts.sort((a, b) => b.count - a.count)[0]?.move
}
