import type { Edge } from './lineUp'

/** What can be lined up, with its name. */
export const EDGES: readonly (readonly [Edge, string])[] = [
  ['left', 'Left edges'],
  ['middle', 'Middles across'],
  ['right', 'Right edges'],
  ['top', 'Top edges'],
  ['centre', 'Middles down'],
  ['bottom', 'Bottom edges'],
]
