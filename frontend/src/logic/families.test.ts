import { describe, expect, it } from 'vitest'
import { rowsIn } from '../ui/fields'
import type { Schemas } from '../api/client'
import { draftOf, fieldsOf, rowsOfPieces, usualOf, type Asked, type Family } from './families'
import { FAMILY_PICTURES } from './familyPictures'

const asked = (part: Asked['part'], name: string, kind: Asked['kind'], more: Partial<Asked> = {}): Asked => ({
  part,
  name,
  kind,
  title: name.replaceAll('_', ' '),
  needed: false,
  usual: '',
  choices: [],
  rows: [],
  ...more,
})
const SLIP: Family = {
  family: 'fitted_slip',
  title: 'Fitted slip',
  suggested: [],
  makes: '',
  asks: [
    asked('measures', 'areas', 'rows', { rows: [asked('measures', 'name', 'text'), asked('measures', 'width', 'length')] }),
    asked('measures', 'margin', 'length', { usual: '80.0' }),
    asked('measures', 'ease', 'length', { usual: '0.0' }),
    asked('shapes', 'plan', 'outline'),
    asked('choices', 'piping', 'yes', { usual: 'yes' }),
    asked('choices', 'face', 'choice', { choices: ['wrong_side_out', 'outward'], usual: 'outward' }),
  ],
}

const REDRAFTED = {
  id: 'k1',
  values: { 'measures.margin': '≈ 3 5/32', 'measures.areas.0.width': '≈ 15 3/4' },
  exact: { 'measures.margin': 80, 'measures.areas.0.width': 400 },
} as unknown as Schemas['CoverView']

describe('a form of a family', () => {
  it('asks once what is asked once, in words', () => {
    const fields = fieldsOf(SLIP.asks)
    expect(fields.map((f) => f.key)).toEqual(['measures.margin', 'measures.ease', 'shapes.plan', 'choices.piping', 'choices.face'])
    expect(fields.at(-1)?.choices?.[0]).toEqual({ value: 'wrong_side_out', title: 'wrong side out' })
    expect(fields[2]?.kind).toBe('piece')
  })

  it('has a row for each captured piece where it asks for rows of outlines', () => {
    const pieces = asked('shapes', 'pieces', 'rows', { rows: [asked('shapes', 'name', 'text'), asked('shapes', 'outline', 'outline')] })
    const captured = [
      { value: 'c1', title: 'seat' },
      { value: 'c2', title: 'back' },
    ]
    const rows = rowsOfPieces({ ...SLIP, asks: [...SLIP.asks, pieces] }, captured)
    expect(rows).toEqual({
      'shapes.pieces.0.outline': 'c1',
      'shapes.pieces.0.name': 'seat',
      'shapes.pieces.1.outline': 'c2',
      'shapes.pieces.1.name': 'back',
    })
    expect(rowsOfPieces(SLIP, captured)).toEqual({})
  })

  it('begins with what is usual, but for lengths that are nothing', () => {
    expect(usualOf(SLIP)).toEqual({ 'measures.margin': '80.0', 'choices.piping': 'yes', 'choices.face': 'outward' })
  })

  it('leaves what is usual, and what is shown rounded, as exact as it is', () => {
    const usual = { 'measures.margin': '80.0', 'choices.piping': 'yes', 'choices.face': 'outward' }
    expect(draftOf(SLIP, usual)).toMatchObject({ cover: { measures: {}, choices: {} } })
    const shown = { ...REDRAFTED.values, 'measures.areas.1.width': '≈ 15 3/4' }
    const measures = { margin: 80, areas: [{ width: 400 }, { width: '≈ 15 3/4' }] }
    expect(draftOf(SLIP, shown, REDRAFTED)).toMatchObject({ cover: { measures } })
  })

  it('becomes a cover of what was typed', () => {
    const values = {
      'measures.areas.0.name': 'seat',
      'measures.areas.0.width': '1/2 m',
      'measures.areas.1.name': 'back',
      'shapes.plan': 'c3',
    }
    expect(rowsIn(values, 'measures.areas')).toBe(2)
    expect(draftOf(SLIP, values, REDRAFTED)).toEqual({
      kind: 'draft_cover',
      of: 'k1',
      traces: [{ shape: 'plan', piece: 'c3' }],
      cover: {
        family: 'fitted_slip',
        measures: { areas: [{ name: 'seat', width: '1/2 m' }, { name: 'back' }] },
        shapes: {},
        choices: { piping: false },
      },
    })
  })
})

it('draws every family that there is', () => {
  expect(Object.keys(FAMILY_PICTURES)).toHaveLength(16)
  for (const picture of Object.values(FAMILY_PICTURES)) expect(Object.keys(picture.measures).length).toBeGreaterThan(1)
})
