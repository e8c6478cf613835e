import { describe, expect, it } from 'vitest'
import type { Job, JobAnswer } from '../api/client'
import { wholeJob } from './whole'

const shown = {
  revision: 1,
  shape: { width: '10' },
  panels: [{ name: 'a' }, { name: 'b' }, { name: 'c' }],
  pieces: [{ name: 'p' }],
} as unknown as Job
const answer = (more: object) => ({ revision: 2, shape: null, panels: [], pieces: [], ...more }) as unknown as JobAnswer

describe('the whole job of an answer', () => {
  it('takes what stayed from what is shown, wherever it comes to stand', () => {
    const whole = wholeJob(
      answer({ shape: { same: 0 }, panels: [{ same: 2 }, { name: 'new' }, { same: 0 }], pieces: [{ same: 0 }] }),
      shown,
    )
    expect(whole.panels.map((p) => p.name)).toEqual(['c', 'new', 'a'])
    expect(whole.panels[0]).toBe(shown.panels[2])
    expect(whole.shape).toBe(shown.shape)
    expect(whole.pieces).toEqual(shown.pieces)
    expect(whole.revision).toBe(2)
  })
  it('is the answer itself where all is told', () => {
    expect(wholeJob(answer({ panels: [{ name: 'x' }] }), null).panels).toEqual([{ name: 'x' }])
  })
  it('never makes up what it doesn’t know', () => {
    expect(() => wholeJob(answer({ panels: [{ same: 7 }] }), shown)).toThrow()
  })
})
