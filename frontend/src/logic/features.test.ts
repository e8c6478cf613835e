import { describe, expect, it } from 'vitest'
import { FEATURE_FORMS, settingOf } from './features'

const form = (kind: string) => FEATURE_FORMS.find((f) => f.kind === kind)!

describe('the change that a form makes', () => {
  it('has the edge it stands on, what was typed, and nothing of empty fields', () => {
    const typed = { edge: 'e7', along: '5', intake: '3 cm', length: '100', lean: '', towards: 'end', cut: 'yes', corner: '' }
    expect(settingOf(form('dart'), 'p1', '', typed)).toEqual({
      kind: 'set_feature',
      panel: 'p1',
      feature: { kind: 'dart', id: '', edge: 'e7', along: '5', intake: '3 cm', length: '100', towards: 'end', cut: true },
    })
  })
  it('places an aperture by both of its distances or by neither', () => {
    const one = { shape: 'round', size_0: '30', from_0: 'e1', away_0: '100', from_1: '', away_1: '80' }
    expect(settingOf(form('aperture'), 'p1', 'f3', one)).toEqual({
      kind: 'set_feature',
      panel: 'p1',
      feature: { kind: 'aperture', id: 'f3', shape: 'round', size: ['30', ''], at: ['', ''] },
    })
    expect(settingOf(form('aperture'), 'p1', 'f3', { ...one, from_1: 'e4' })).toMatchObject({
      inside: [
        { edge: 'e1', by: '100' },
        { edge: 'e4', by: '80' },
      ],
    })
  })
  it('sends what is shown rounded as exactly as it is, unless it was typed anew', () => {
    const shown = { along: '≈ 1 31/32', intake: '≈ 1/2', size_0: '≈ 3', edge: 'e7' }
    const before = { values: shown, exact: { along: 50, intake: 12, size_0: 76 } }
    const dart = settingOf(form('dart'), 'p1', 'f1', { ...shown, intake: '1/2' }, before)
    expect(dart).toMatchObject({ feature: { along: 50, intake: '1/2' } })
    const hole = settingOf(form('aperture'), 'p1', 'f3', { ...shown, size_1: '2' }, before)
    expect(hole).toMatchObject({ feature: { size: [76, '2'] } })
  })
  it('says whose outline an aperture has', () => {
    const of = (outline_of: string) => settingOf(form('aperture'), 'p1', '', { shape: 'outline', outline_of })
    expect(of('p2')).toMatchObject({ outline_of: { what: 'panel', id: 'p2' } })
    expect(of('c5')).toMatchObject({ outline_of: { what: 'piece', id: 'c5' } })
  })
})
