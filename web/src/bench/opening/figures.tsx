import type { ReactNode } from 'react'
import type { Figure } from '../../types/Figure'

const fill = (d: string, even = false) => <path d={d} fill="currentColor" {...(even ? { fillRule: 'evenodd' as const } : {})} />

/** The basic shapes as they are first drawn, with small pictures. */
export const FIGURES: { figure: Figure; sign: ReactNode }[] = [
  { figure: { figure: 'ellipse' }, sign: fill('M4 20a16 12 0 0 1 32 0a16 12 0 0 1-32 0Z') },
  { figure: { figure: 'box', corners: [0, 0, 0, 0] }, sign: fill('M5 9h30v22H5Z') },
  { figure: { figure: 'triangle', lean: 0.5, rounding: 0 }, sign: fill('M20 6l17 28H3Z') },
  { figure: { figure: 'ring', hole: 0.6 }, sign: fill('M4 20a16 16 0 0 1 32 0a16 16 0 0 1-32 0Zm6 0a10 10 0 0 0 20 0a10 10 0 0 0-20 0Z', true) },
  { figure: { figure: 'sector', from: 0, sweep: 120 }, sign: fill('M12 28V6a22 22 0 0 1 19 33Z') },
  { figure: { figure: 'polygon', sides: 6, rounding: 0, fitted: true }, sign: fill('M20 4l14 8v16l-14 8l-14-8V12Z') },
  { figure: { figure: 'star', points: 5, depth: 0.5, rounding: 0, fitted: true }, sign: fill('M20 3l5 11l12 2l-9 8l3 12l-11-6l-11 6l3-12l-9-8l12-2Z') },
  { figure: { figure: 'heart' }, sign: fill('M20 36C8 26 4 20 4 13a8 8 0 0 1 16-2a8 8 0 0 1 16 2c0 7-4 13-16 23Z') },
  { figure: { figure: 'arch', rise: 0.5 }, sign: fill('M7 36V18a13 13 0 0 1 26 0v18Z') },
  { figure: { figure: 'drop' }, sign: fill('M20 3c5 9 11 14 11 22a11 11 0 0 1-22 0c0-8 6-13 11-22Z') },
  { figure: { figure: 'cross', arm: 0.34 }, sign: fill('M15 4h10v11h11v10H25v11H15V25H4V15h11Z') },
  { figure: { figure: 'arrow', head: 0.4, shaft: 0.5 }, sign: fill('M4 15h18V7l14 13l-14 13v-8H4Z') },
  { figure: { figure: 'zigzag', teeth: 5, depth: 0.5 }, sign: fill('M3 26l6-10l6 8l6-8l6 8l6-8l4 6v8l-4-6l-6 8l-6-8l-6 8l-6-8l-6 8Z') },
  { figure: { figure: 'cloud', bumps: 9 }, sign: fill('M10 31a8 8 0 0 1-1-15a10 10 0 0 1 19-3a8 8 0 0 1 6 14a6 6 0 0 1-5 4Z') },
  { figure: { figure: 'blot', seed: 7, roughness: 0.5 }, sign: fill('M19 5c5-2 5 5 10 5s7 4 4 9s4 8-1 11s-7-1-11 4s-9-1-9-5s-7-3-8-8s5-6 5-10s5-4 10-6Z') },
  { figure: { figure: 'line', ends: 'flat' }, sign: fill('M3 18h34v4H3Z') },
]
