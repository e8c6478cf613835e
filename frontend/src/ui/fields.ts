/** What a form asks: each field by the key of its value. */
export interface Field {
  key: string
  title: string
  /** Its title on a tag, where it is short of room. */
  short?: string
  kind?: 'length' | 'number' | 'percent' | 'text' | 'place' | 'yes' | 'choice' | 'edge' | 'piece'
  choices?: readonly Choice[]
  /** What it is where nothing is typed. */
  usual?: string
  /** What it is asked with, apart from the others, where that is opened. */
  part?: string
  /** Only asked while another field has one of these values. */
  when?: { key: string; is: readonly string[] }
}
export interface Choice {
  value: string
  title: string
}

/** The fields that are asked while the others have these values. */
export const asked = (fields: readonly Field[], values: Readonly<Record<string, string>>) =>
  fields.filter((f) => !f.when || f.when.is.includes(values[f.when.key] ?? ''))

const rowOf = (key: string, of: string) => Number(key.slice(of.length + 1).split('.')[0])

/** How many rows of a table are filled, by the numbers in the keys of what was typed: `of.number.field`. */
export function rowsIn(values: Readonly<Record<string, string>>, of: string): number {
  const keys = Object.keys(values).filter((key) => key.startsWith(`${of}.`) && values[key]?.trim())
  return Math.max(0, ...keys.map((key) => rowOf(key, of) + 1))
}

/** Take a row out of a table; those below it move up. */
export function withoutRow(values: Record<string, string>, of: string, row: number) {
  const later = Object.entries(values).filter(([key]) => key.startsWith(`${of}.`) && rowOf(key, of) >= row)
  for (const [key] of later) delete values[key]
  for (const [key, value] of later) {
    const at = rowOf(key, of)
    if (at > row) values[`${of}.${at - 1}${key.slice(`${of}.${at}`.length)}`] = value
  }
}
