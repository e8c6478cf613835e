/** What a form asks: each field by the key of its value. */
export interface Field {
  key: string
  title: string
  /** Its title on a tag, where it is short of room. */
  short?: string
  kind?: 'length' | 'number' | 'percent' | 'text' | 'yes' | 'choice' | 'edge' | 'piece'
  choices?: readonly Choice[]
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
