import { describe, expect, it } from 'vitest'
import { FEATURE_FORMS, settingOf } from './features'

const form = (change: string) => FEATURE_FORMS.find((f) => f.change === change)!

describe('the change that a form makes', () => {
  it('has the edge it stands on, what was typed, and nothing of empty fields', () => {
    const typed = { edge: '2', intake: '3 cm', length: '100', lean: '', towards: 'end', cut: 'yes', corner: '' }
    expect(settingOf(form('set_dart'), 1, null, typed)).toEqual({
      kind: 'set_dart',
      panel: 1,
      index: null,
      edge: 2,
      intake: '3 cm',
      length: '100',
      towards: 'end',
      cut: true,
    })
  })
  it('places an aperture by both of its distances or by neither', () => {
    const one = { shape: 'round', across: '30', from_0: '0', away_0: '100', from_1: '', away_1: '80' }
    expect(settingOf(form('set_aperture'), 0, 3, one)).toEqual({ kind: 'set_aperture', panel: 0, index: 3, shape: 'round', across: '30' })
    const both = { ...one, from_1: '3' }
    expect(settingOf(form('set_aperture'), 0, 3, both)).toMatchObject({
      inside: [
        { edge: 0, by: '100' },
        { edge: 3, by: '80' },
      ],
    })
  })
  it('says whose outline an aperture has', () => {
    const of = (outline_of: string) => settingOf(form('set_aperture'), 0, null, { shape: 'outline', outline_of })
    expect(of('panel 2')).toMatchObject({ outline_of: { what: 'panel', at: 2 } })
    expect(of('1')).toMatchObject({ outline_of: { what: 'piece', at: 1 } })
  })
})
