import { beforeEach, describe, expect, it, vi } from 'vitest'
import { effectScope } from 'vue'
import { aJob, aPhoto } from '../testing/samples'
import { aServer, there } from '../testing/server'
import { useJob } from './job'
import { notice } from './notice'

vi.mock('../api/client', async () => (await import('../testing/server')).standIn)

const REMOVE = { kind: 'remove_panel', panel: 'lid' } as const

describe('an open job', () => {
  beforeEach(() => {
    there.server = aServer(aJob())
    notice.value = null
  })
  const opened = async () => {
    const state = effectScope().run(() => useJob(7))!
    await state.load()
    return state
  }

  it('says which state a change starts from, the newest each time', async () => {
    const state = await opened()
    there.server.job = aJob({ revision: 5 })
    await Promise.all([state.do(REMOVE), state.do({ ...REMOVE, panel: 'wall' })])
    expect(there.server.calls.slice(1).map((c) => c.headers?.['X-Revision'])).toEqual(['4', '5'])
    expect(state.job.value?.revision).toBe(5)
  })

  it('shows what another window made of it, after its own changes', async () => {
    const state = await opened()
    const own = state.do(REMOVE)
    await state.refresh()
    expect(await own).toBe(true)
    there.server.job = aJob({ revision: 9 })
    await state.refresh()
    expect(state.job.value?.revision).toBe(9)
  })

  it('makes what is asked for twice at once once, and again after it was answered', async () => {
    const state = await opened()
    expect(await Promise.all([state.do(REMOVE), state.do(REMOVE)])).toEqual([true, true])
    expect(there.server.changes()).toHaveLength(1)
    await state.do(REMOVE)
    expect(there.server.changes()).toHaveLength(2)
  })

  it('waits with a change until the one before is answered', async () => {
    const state = await opened()
    let answer!: () => void
    there.server.next(() => new Promise((settle) => (answer = () => settle(aJob({ revision: 5 })))))
    const first = state.do(REMOVE)
    const second = state.undo()
    await vi.waitFor(() => expect(there.server.calls).toHaveLength(2))
    expect(state.busy.value).toBe(1)
    answer()
    expect(await first).toBe(true)
    await second
    expect(there.server.calls.at(-1)?.path).toBe('/api/jobs/{job_id}/undo')
  })

  it('says why something was refused, and goes on with what is shown', async () => {
    const state = await opened()
    there.server.refuse('A panel is missing.')
    expect(await state.do(REMOVE)).toBe(false)
    expect(notice.value?.text).toBe('A panel is missing.')
    expect(there.server.calls).toHaveLength(2)
    expect(await state.do(REMOVE)).toBe(true)
  })

  it('shows the job afresh where somebody else was faster', async () => {
    const state = await opened()
    there.server.job = aJob({ revision: 9, name: 'Theirs' })
    there.server.refuse('The job was changed meanwhile.', 409)
    expect(await state.do(REMOVE)).toBe(false)
    expect(state.job.value?.name).toBe('Theirs')
  })

  it('keeps what a change left alone', async () => {
    const state = await opened()
    const before = state.job.value!
    there.server.next(() => ({ ...aJob({ revision: 5 }), panels: [{ same: 1 }], shape: { same: 0 } }))
    await state.do(REMOVE)
    expect(state.job.value?.panels).toEqual([before.panels[1]])
    expect(state.job.value?.shape).toEqual(before.shape)
  })

  it('asks after a photo until it is measured, then for what came of it', async () => {
    vi.useFakeTimers()
    there.server.job = aJob({ photos: [aPhoto(1, { status: 'working', stage: 'looking for the sheets', share: 0.2 })] })
    const state = await opened()
    expect(state.measuring.value?.stage).toBe('looking for the sheets')
    there.server.next(() => aPhoto(1, { status: 'working', stage: 'judging the error', share: 0.9 }))
    await vi.advanceTimersByTimeAsync(500)
    expect(state.measuring.value?.share).toBe(0.9)
    there.server.next(() => aPhoto(1))
    there.server.job = aJob({ revision: 5, photos: [aPhoto(1)] })
    await vi.advanceTimersByTimeAsync(500)
    expect([state.measuring.value, state.job.value?.revision]).toEqual([null, 5])
    const count = there.server.calls.length
    await vi.advanceTimersByTimeAsync(5000)
    expect(there.server.calls).toHaveLength(count)
    vi.useRealTimers()
  })

  it('stops measuring a photo', async () => {
    there.server.job = aJob({ photos: [aPhoto(1, { status: 'working' })] })
    const state = await opened()
    there.server.next(() => aPhoto(1, { status: 'stopped' }))
    there.server.job = aJob({ photos: [aPhoto(1, { status: 'stopped' })] })
    await state.stopMeasuring(1)
    expect(there.server.calls[1]).toMatchObject({ method: 'post', path: '/api/photos/{photo_id}/stop' })
    expect([state.measuring.value, notice.value?.text]).toEqual([null, 'Measuring is stopped; what was here stays.'])
  })

  it('writes a length as it could be typed in the job’s unit', async () => {
    there.server.job = aJob({ unit: 'in' })
    expect((await opened()).typed(12.7)).toBe('0.5')
  })
})
