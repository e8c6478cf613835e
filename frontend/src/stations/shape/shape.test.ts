import { beforeEach, describe, expect, it, vi } from 'vitest'
import { aJob, aPhoto, aShape } from '../../testing/samples'
import { mounted } from '../../testing/mounted'
import { aServer, there } from '../../testing/server'
import { notice } from '../../state/notice'
import OldCoverSlip from './OldCoverSlip.vue'
import OutlineDrawing from './OutlineDrawing.vue'
import PhotoSlip from './PhotoSlip.vue'
import StepList from './StepList.vue'
import TapeList from './TapeList.vue'
import WorkProgress from '../../ui/WorkProgress.vue'

vi.mock('../../api/client', async () => (await import('../../testing/server')).standIn)
beforeEach(() => {
  document.body.innerHTML = ''
  notice.value = null
  there.server = aServer(aJob())
})
const changed = () => vi.waitFor(() => expect(there.server.changes()).toHaveLength(1)).then(() => there.server.changes()[0])
const TAPE = {
  id: 'measure1',
  name: 'A – C',
  outline: '360.6',
  tape: '358.0',
  apart: '+2.6',
  close: false,
  ends: [],
  at: [0, 0] as [number, number],
}

describe('the tape list', () => {
  it('keeps what is typed where it is refused, with the reason beneath', async () => {
    there.server.job = aJob({ shape: aShape({ tape: [TAPE] }) })
    const { page } = await mounted(TapeList)
    expect(page.text()).toContain('▲ +2.6')
    const field = page.get<HTMLInputElement>('[aria-label="Tape says, A – C"]')
    there.server.refuse('“wide” can’t be read as a length.')
    await field.setValue('wide')
    expect(await changed()).toEqual({ kind: 'set_measure', measure: 'measure1', tape: 'wide' })
    await vi.waitFor(() => expect(page.get('[role="alert"]').text()).toContain('can’t be read'))
    expect(field.element.value).toBe('wide')
    expect(notice.value).toBeNull()
  })

  it('takes a measure off, and says how to begin where there is none', async () => {
    there.server.job = aJob({ shape: aShape({ tape: [TAPE] }) })
    const { page } = await mounted(TapeList)
    there.server.job = aJob({ revision: 5 })
    await page.get('[aria-label="Remove A – C from the list"]').trigger('click')
    expect(await changed()).toEqual({ kind: 'remove_measure', measure: 'measure1' })
    await vi.waitFor(() => expect(page.find('table').exists()).toBe(false))
  })
})

describe('the list of steps', () => {
  it('switches a step off, and says why one is skipped', async () => {
    const steps = [
      { words: 'Corner B moved', on: true, skip_reason: '' },
      { words: 'Corner B removed', on: true, skip_reason: 'The corner is gone.' },
    ]
    there.server.job = aJob({ shape: aShape({ steps }) })
    const { page } = await mounted(StepList)
    expect(page.text()).toContain('2 steps, 1 off')
    expect(page.text()).toContain('Skipped: The corner is gone.')
    await page.get('input').trigger('change')
    expect(await changed()).toEqual({ kind: 'switch_step', step: 0, counts: false })
  })
})

describe('an old cover', () => {
  it('takes its allowances off, edge by edge', async () => {
    const { page, bench } = await mounted(OldCoverSlip)
    await page.get('input').setValue('12')
    bench.table.pickEdge(0, 1, 0, 0)
    await page.vm.$nextTick()
    await page
      .findAll('button')
      .find((b) => b.text() === 'cut away')!
      .trigger('click')
    await page.get('[aria-label="Edge BC by"]').setValue('4')
    await page
      .findAll('button')
      .find((b) => b.text() === 'Draw its seam line')!
      .trigger('click')
    expect(await changed()).toEqual({ kind: 'old_cover', edges: [{ edge: 1, was: 'cut away', by: '4' }], rest: '12' })
  })
})

describe('the outline', () => {
  it('has corners and edges that are named and pressed by keys', async () => {
    const { page, bench } = await mounted(OutlineDrawing, { px: 1, over: false, light: false, placed: null, place: () => ({ x: 0, y: 0 }) })
    const edge = page.get('[aria-label="Edge BC, line, 300.0 mm"]')
    await edge.trigger('keydown', { key: 'Enter' })
    expect(bench.table.chosen.value).toEqual({ ring: 0, edge: 1 })
    expect(edge.attributes('aria-pressed')).toBe('true')
    const corner = page.get('[aria-label="Corner D"]')
    await corner.trigger('keydown', { key: ' ' })
    expect([corner.attributes('aria-pressed'), edge.attributes('aria-pressed')]).toEqual(['true', 'false'])
  })
})

describe('long work', () => {
  it('says what is being done and how far it is, and can be stopped', async () => {
    const stop = vi.fn()
    const { page } = await mounted(WorkProgress, { work: { stage: 'following its edge', share: 0.6 }, canStop: true, onStop: stop })
    expect(page.get('[role="status"]').text()).toContain('following its edge …')
    expect(page.get('[role="progressbar"]').attributes('aria-valuenow')).toBe('60')
    await page.get('button').trigger('click')
    expect(stop).toHaveBeenCalledOnce()
  })

  it('waits for its turn before it is begun', async () => {
    const { page } = await mounted(WorkProgress, { work: { stage: '', share: 0 } })
    expect(page.text()).toContain('waiting for its turn')
    expect(page.findAll('button')).toEqual([])
  })
})

describe('what came of a photo', () => {
  it('is measured again once it was stopped', async () => {
    there.server.job = aJob({ photos: [aPhoto(3, { status: 'stopped', sentence: 'It was stopped.' })] })
    const { page } = await mounted(PhotoSlip)
    expect(page.text()).toContain('It was stopped.')
    await page
      .findAll('button')
      .find((b) => b.text() === 'Measure it again')!
      .trigger('click')
    expect(there.server.calls.at(-1)).toMatchObject({ method: 'put', path: '/api/photos/{photo_id}/wanted', body: { kind: 'piece' } })
  })

  it('asks for the marks that a maker’s rule can measure', async () => {
    there.server.job = aJob({ unit: 'in', test_mark: '4 in', photos: [aPhoto(3)] })
    const { page } = await mounted(PhotoSlip)
    expect(page.text()).toContain('Measure the 4 in marks')
    await page.get('[aria-label="4 in mark across measures"]').setValue('4')
    await page.get('[aria-label="4 in mark up measures"]').setValue('4 1/64')
    await page
      .findAll('form')
      .find((f) => f.find('[aria-label="4 in mark up measures"]').exists())!
      .trigger('submit')
    expect(await changed()).toEqual({ kind: 'set_sheet_scale', across: '4', up: '4 1/64' })
  })
})
