import type { Schemas } from '../api/client'

/** How a join is sewn, and what its lengths are meant to be. */
const SEAM_KINDS: readonly NonNullable<Schemas['SetJoin']['seam']>[] = [
  'any',
  'plain',
  'french',
  'felled',
  'lapped',
  'piped',
  'bound',
  'zip',
  'by_hand',
]
export const SEAMS = SEAM_KINDS.map((value) => ({
  value,
  title: value === 'any' ? 'as the edges are' : value.replace('_', ' '),
}))
export const MEANT: readonly { value: NonNullable<Schemas['SetJoin']['meant']>; title: string }[] = [
  { value: 'equal', title: 'equal' },
  { value: 'eased', title: 'one eased in' },
  { value: 'gathered', title: 'one gathered' },
]
export const PARTS = [
  { value: '', title: 'as they are' },
  { value: '2', title: 'in the middle' },
  { value: '3', title: 'at thirds' },
  { value: '4', title: 'at quarters' },
  { value: '8', title: 'at eighths' },
]
