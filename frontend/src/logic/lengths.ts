export type Unit = 'mm' | 'cm' | 'in'
const MM_PER = { mm: 1, cm: 10, in: 25.4 } as const
const PLACES = { mm: 2, cm: 3, in: 4 } as const

/** A length in mm as a maker who works in `unit` could type it; the server reads it as it reads any other. */
export function asTyped(unit: Unit, mm: number): string {
  return String(Number((mm / MM_PER[unit]).toFixed(PLACES[unit])))
}
