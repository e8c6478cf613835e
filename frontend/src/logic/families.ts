import type { Change, Schemas } from '../api/client'
import { rowsIn, type Choice, type Field } from '../ui/fields'
import { exactly, type Shown } from './exact'

/** The forms of families of covers: what is asked comes from the server; here it becomes fields, and what was typed a cover.
 * Values go by `part.name`, those of rows by `part.name.number.name`. */
export type Family = Schemas['FamilyView']
export type Asked = Family['asks'][number]
type Values = Readonly<Record<string, string>>
type DraftCover = Extract<Change, { kind: 'draft_cover' }>

const SIMPLE = { length: undefined, number: 'number', percent: 'percent', yes: 'yes', choice: 'choice' } as const
const words = (name: string) => name.replaceAll('_', ' ')
export const keyOf = (a: Asked) => `${a.part}.${a.name}`

/** What is asked once, as fields of a form. */
export const fieldsOf = (asks: readonly Asked[], before = ''): Field[] =>
  asks
    .filter((a) => a.kind !== 'rows')
    .map((a) => ({
      key: before + (before ? a.name : keyOf(a)),
      title: a.title,
      kind: a.kind === 'outline' ? 'piece' : a.kind in SIMPLE ? SIMPLE[a.kind as keyof typeof SIMPLE] : 'text',
      ...(a.kind === 'choice' ? { choices: a.choices.map((value) => ({ value, title: words(value) })) } : {}),
    }))

/** What stands in a form that nobody has typed in: what is usual, but for lengths that are nothing. */
export function usualOf(family: Family): Record<string, string> {
  const told = family.asks.filter((a) => a.usual && Number.parseFloat(a.usual) !== 0)
  return Object.fromEntries(told.map((a) => [keyOf(a), a.usual]))
}

/** What the brief suggests, as it stands in the form. */
export const suggestedOf = (family: Family): Record<string, string> =>
  Object.fromEntries(family.suggested.map((s) => [`${s.part}.${s.name}`, s.value]))

/** Captured pieces, each as a row where a family asks for rows of outlines. */
export function rowsOfPieces(family: Family, pieces: readonly { value: string; title: string }[]): Record<string, string> {
  const rows = family.asks.filter((a) => a.kind === 'rows' && a.rows.some((f) => f.kind === 'outline'))
  return Object.fromEntries(
    rows.flatMap((a) =>
      pieces.flatMap((piece, k) => [
        [`${keyOf(a)}.${k}.outline`, piece.value],
        ...(a.rows.some((f) => f.name === 'name') ? [[`${keyOf(a)}.${k}.name`, piece.title]] : []),
      ]),
    ),
  )
}

/** The columns of a value of rows; outlines are chosen among the captured `pieces`. */
export const columnsOf = (rows: Asked, pieces: readonly Choice[]): Field[] =>
  rows.rows
    .filter((a) => a.kind !== 'points')
    .map((a) => ({
      key: a.name,
      title: a.title,
      kind: a.kind === 'length' || a.kind === 'place' ? a.kind : 'text',
      usual: a.usual,
      ...(a.kind === 'outline' ? { choices: [{ value: '', title: '—' }, ...pieces] } : {}),
      ...(a.kind === 'choice' ? { choices: a.choices.map((value) => ({ value, title: words(value) })) } : {}),
    }))

/** The change that drafts a cover from what was typed, again where `before` is one of the job’s covers. What stands as it is
 * usual isn’t told: shown in inches it may be rounded. */
export function draftOf(family: Family, values: Values, before?: Schemas['CoverView'] | null): Change {
  const parts: Record<string, Record<string, unknown>> = { measures: {}, shapes: {}, choices: {} }
  const traces: { shape: string; piece: string }[] = []
  for (const a of family.asks) {
    const key = keyOf(a)
    const own = parts[a.part]
    if (!own) continue
    if (a.kind === 'rows') {
      const rows = Array.from({ length: rowsIn(values, key) }, (_, k) => rowOf(a, values, `${key}.${k}.`, before))
      if (rows.length) own[a.name] = rows
      rows.forEach((_, k) => {
        const piece = values[`${key}.${k}.outline`]
        if (piece) traces.push({ shape: `${a.name}.${k}.outline`, piece })
      })
    } else if (a.kind === 'outline') {
      if (values[key]) traces.push({ shape: a.name, piece: values[key] })
    } else {
      const typed = values[key] ?? ''
      const value = !before && !a.needed && typed === a.usual ? undefined : valueOf(a, typed, key, before)
      if (value !== undefined) own[a.name] = value
    }
  }
  const cover = { family: family.family, ...parts } as unknown as DraftCover['cover']
  return { kind: 'draft_cover', cover, of: before?.id ?? '', traces }
}

function rowOf(rows: Asked, values: Values, start: string, before?: Shown | null): Record<string, unknown> {
  const told = rows.rows.map((a) => [a.name, valueOf(a, values[start + a.name] ?? '', start + a.name, before)] as const)
  return Object.fromEntries(told.filter(([, value]) => value !== undefined))
}

/** A value as the server reads it; nothing where nothing was typed. */
function valueOf(a: Asked, typed: string, key: string, before?: Shown | null): unknown {
  if (a.kind === 'outline') return undefined
  if (a.kind === 'yes') return typed === 'yes'
  if (!typed.trim()) return undefined
  return a.kind === 'place' ? typed.split(';').map((t) => t.trim()) : exactly(key, typed, before)
}
