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

/** A number, or (`isLength`) a length in mm. */
interface Amount {
  value: number
  isLength: boolean
}

/**
 * Reads a length such as “12”, “1,5 cm”, “3 in”, or a sum with + − * / and brackets: “120mm/3”, “2 * (40 + 5 mm)”. A number without a unit is in
 * `unit`. The result is in mm; null where the text is none.
 */
export function readLength(text: string, unit: Unit, ppi: number): number | null {
  const tokens = text.match(/\d+(?:[.,]\d+)?|[.,]\d+|mm|cm|in|px|pt|[-−+*×/()]|\S/gi) ?? []
  let next = 0
  const take = (...signs: string[]) => (signs.includes(tokens[next] ?? '') ? tokens[next++] : undefined)
  const length = (a: Amount): number => (a.isLength ? a.value : a.value * inMm(unit, ppi))
  const single = (): Amount | null => {
    if (take('-', '−')) {
      const a = single()
      return a && { ...a, value: -a.value }
    }
    if (take('(')) {
      const a = sum()
      return a && take(')') ? a : null
    }
    const value = Number((tokens[next++] ?? '').replace(',', '.') || NaN)
    if (!Number.isFinite(value)) return null
    const given = tokens[next]?.toLowerCase()
    if (given !== 'pt' && !UNITS.some((u) => u === given)) return { value, isLength: false }
    next++
    return { value: given === 'pt' ? (value * MM_PER_INCH) / 72 : value * inMm(given as Unit, ppi), isLength: true }
  }
  const product = (): Amount | null => {
    let a = single()
    for (let sign = a && take('*', '×', '/'); a && sign; sign = take('*', '×', '/')) {
      const b = single()
      // an area, or one over a length, is no length
      if (!b || (b.isLength && (a.isLength || sign === '/'))) return null
      a = { value: sign === '/' ? a.value / b.value : a.value * b.value, isLength: a.isLength || b.isLength }
    }
    return a
  }
  const sum = (): Amount | null => {
    let a = product()
    for (let sign = a && take('+', '-', '−'); a && sign; sign = take('+', '-', '−')) {
      const b = product()
      if (!b) return null
      const by = sign === '+' ? 1 : -1
      a = a.isLength || b.isLength ? { value: length(a) + by * length(b), isLength: true } : { value: a.value + by * b.value, isLength: false }
    }
    return a
  }
  const all = sum()
  const mm = all && next === tokens.length ? length(all) : NaN
  return Number.isFinite(mm) ? mm : null
}
