import { call, sentenceOf } from '../../api/client'
import { say } from '../../parts/notices'
import type { Node } from '../../types/Node'
import type { PhotoEdge } from '../../types/PhotoEdge'
import type { PhotoView } from '../../types/PhotoView'
import { mapped } from './contour'
import { map, undone, type Matrix } from '../geometry/matrix'
import type { Point } from '../geometry/similarity'
import { bench, viewOf } from '../state/store'

/** The photo under two points of the sheet, the frontmost one. */
function photoUnder(a: Point, b: Point): { id: string; view: PhotoView; back: Matrix; on: Matrix } | null {
  const s = bench.get()
  const sheet = s.bench?.sheet
  for (const piece of [...(sheet?.pieces ?? [])].reverse()) {
    for (const view of viewOf(s, piece.id)?.photos ?? []) {
      const fill = piece.kind.fills.find((f) => f.id === view.fill)?.paint
      const id = fill?.kind === 'photo' ? fill.photo : undefined
      const [o, u, , v] = view.corners
      const on: Matrix = [(u[0] - o[0]) / view.width, (u[1] - o[1]) / view.width, (v[0] - o[0]) / view.height, (v[1] - o[1]) / view.height, o[0], o[1]]
      const back = undone(on)
      if (!id || !back) continue
      const inside = (p: Point) => {
        const [x, y] = map(back, p)
        return x >= 0 && y >= 0 && x <= view.width && y <= view.height
      }
      if (inside(a) && inside(b)) return { id, view, back, on }
    }
  }
  return null
}

/** The nodes after `a` along the strongest edge of the photo under both points, the last one close to `b`; sheet space. */
export async function edgeBetween(a: Point, b: Point): Promise<Node[]> {
  const straight: Node[] = [{ x: b[0], y: b[1] }]
  const photo = photoUnder(a, b)
  if (!photo) return straight
  try {
    const [from, to] = [map(photo.back, a), map(photo.back, b)]
    const edge = await call<PhotoEdge>('POST', `/photos/${photo.id}/edge`, { from, to })
    return edge.nodes.map((n) => mapped(photo.on, n))
  } catch (error) {
    say(sentenceOf(error))
    return straight
  }
}
