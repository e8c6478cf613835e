import { beforeEach, describe, expect, it, vi } from 'vitest'
import { effectScope } from 'vue'
import { aJob, anEdge, aPanel, aPhoto, aShape } from '../testing/samples'
import { aServer, there } from '../testing/server'
import type { Job } from '../api/client'
import { beginGuide, useGuide } from './guide'
import { useJob } from './job'

vi.mock('../api/client', async () => (await import('../testing/server')).standIn)

/** The guide at a job as far as this. */
async function guide(more: Partial<Job>) {
  there.server.job = aJob({ photos: [], shape: null, panels: [], ...more })
  const state = effectScope().run(() => useJob(7))!
  await state.load()
  return effectScope().run(() => useGuide(state))!
}

describe('the guide through the first job', () => {
  beforeEach(async () => {
    there.server = aServer(aJob())
    await beginGuide()
  })

  it('takes in a job of its own', () => {
    expect(there.server.calls[0]).toMatchObject({ method: 'post', path: '/api/jobs', body: { unit: 'mm' } })
  })

  it('says what comes next by how far the job is', async () => {
    const bare = aPanel('tray', { rings: [[anEdge('a', { bare: true })]] })
    const ways: [Partial<Job>, number, string][] = [
      [{}, 1, 'shape'],
      [{ photos: [aPhoto(1, { status: 'working' })] }, 1, 'shape'],
      [{ photos: [aPhoto(1)], shape: aShape() }, 2, 'shape'],
      [{ shape: aShape({ steps: [{ words: 'Edge straightened', on: true, skip_reason: '' }] }) }, 3, 'draft'],
      [{ shape: aShape(), panels: [bare] }, 4, 'draft'],
      [{ shape: aShape(), panels: [aPanel('tray')] }, 5, 'make'],
    ]
    for (const [more, number, station] of ways) {
      const { step } = await guide(more)
      expect([step.value?.number, step.value?.station]).toEqual([number, station])
    }
  })

  it('offers its photo only while there is none', async () => {
    expect((await guide({})).step.value?.act?.title).toBe('Send the photo')
    expect((await guide({ photos: [aPhoto(1)] })).step.value?.act).toBeUndefined()
  })

  it('is of its own job alone, and is left for good', async () => {
    expect((await guide({ id: 8 })).step.value).toBeNull()
    const { step, leave } = await guide({})
    leave()
    expect(step.value).toBeNull()
  })
})
