const LEAST = 0.05
const MOST = 5

/** A slider's place, 0 to 100, as a tolerance in mm: each step is the same share more, to two figures. */
export function toTolerance(place: number): number {
  return Number((LEAST * (MOST / LEAST) ** (Math.min(Math.max(place, 0), 100) / 100)).toPrecision(2))
}

/** Where a tolerance in mm stands on the slider. */
export function toSlider(mm: number): number {
  return Math.round((100 * Math.log(Math.min(Math.max(mm, LEAST), MOST) / LEAST)) / Math.log(MOST / LEAST))
}
