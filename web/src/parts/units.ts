import type { Unit } from '../types/Unit'

const MM_PER_INCH = 25.4

export const UNITS: Unit[] = ['mm', 'cm', 'in', 'px']

/** Millimetres in one of `unit`, on a sheet of `ppi` pixels per inch. */
export function inMm(unit: Unit, ppi: number): number {
  switch (unit) {
    case 'mm':
      return 1
    case 'cm':
      return 10
    case 'in':
      return MM_PER_INCH
    case 'px':
      return MM_PER_INCH / ppi
  }
}

const DIGITS: Record<Unit, number> = { mm: 1, cm: 2, in: 2, px: 0 }

/** A length in mm as people read it in `unit`. */
export function showLength(mm: number, unit: Unit, ppi: number): string {
  return String(Number((mm / inMm(unit, ppi)).toFixed(DIGITS[unit])))
}

/** Pixels of a whole sheet. */
export function pixels(widthMm: number, heightMm: number, ppi: number): [number, number] {
  return [Math.round((widthMm / MM_PER_INCH) * ppi), Math.round((heightMm / MM_PER_INCH) * ppi)]
}

/** Reads a size such as “1000 x 800 px”: width, height and their unit, if one is said. */
export function readSize(text: string): { width: string; height: string; unit: Unit | null } | null {
  const found = /^\s*([\d.,]+)\s*[x×*]\s*([\d.,]+)\s*(mm|cm|in|px)?\s*$/i.exec(text)
  if (!found?.[1] || !found[2]) return null
  return { width: found[1], height: found[2], unit: (found[3]?.toLowerCase() as Unit | undefined) ?? null }
}

/** Reads “12”, “12 mm”, “1,5 cm”, “3 in”; a number without a unit is in `unit`. The result is in mm. */
export function readLength(text: string, unit: Unit, ppi: number): number | null {
  const found = /^\s*(-?[\d.,]+)\s*(mm|cm|in|px|pt)?\s*$/i.exec(text)
  if (!found?.[1]) return null
  const value = Number(found[1].replace(',', '.'))
  if (!Number.isFinite(value)) return null
  const given = found[2]?.toLowerCase()
  if (given === 'pt') return (value * MM_PER_INCH) / 72
  return value * inMm((given as Unit | undefined) ?? unit, ppi)
}
