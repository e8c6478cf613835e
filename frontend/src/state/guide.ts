import { useLocalStorage } from '@vueuse/core'
import { computed, type ComputedRef } from 'vue'
import { ask, type StationKey } from '../api/client'
import { bareEdges } from '../logic/steps'
import type { JobState } from './job'
import { NOTHING_SAID } from './job'
import { sayWrong } from './notice'

const PHOTO = '/static/guide/splash-tray.jpg'
/** The job that the guide leads through, by its id; 0 for none. */
const guided = useLocalStorage('guided-job', 0)

/** Take in a job that the guide leads through; its id. */
export async function beginGuide(): Promise<number> {
  const job = await ask('post', '/api/jobs', { body: { name: 'First job: a splash tray', unit: 'mm' } })
  return (guided.value = job.id)
}

export interface GuideStep {
  /** From 1 to 5; 6 when all is done. */
  number: number
  says: string
  station: StationKey
  /** What the guide can do by itself. */
  act?: { title: string; does: () => unknown }
}

/** The step of the first job that comes next, by how far the job is; null in any other job. */
export function useGuide(state: JobState): { step: ComputedRef<GuideStep | null>; leave: () => void } {
  const step = computed<GuideStep | null>(() => {
    const job = state.job.value
    if (!job || guided.value !== job.id) return null
    if (!job.photos.length && !job.shape)
      return {
        number: 1,
        station: 'shape',
        says: 'A photo of the piece among four reference sheets becomes its outline. One comes along.',
        act: { title: 'Send the photo', does: () => sendSample(state) },
      }
    if (!job.shape)
      return { number: 1, station: 'shape', says: 'The photo is being measured: the lens, the sheets, then the edge of the piece.' }
    if (!job.panels.length && !job.shape.steps.length)
      return {
        number: 2,
        station: 'shape',
        says: 'This is its outline, ± how far it may be off. Point at the straight edge at its foot and make it “Straight”.',
      }
    if (!job.panels.length) return { number: 3, station: 'draft', says: 'Go to Draft: name the panel and make it.' }
    if (bareEdges(job.panels))
      return { number: 4, station: 'draft', says: 'Its edges need allowances. Press a for all of them, type 12, then Enter.' }
    return {
      number: 5,
      station: 'make',
      says: 'Look at Check, then go to Make and get the PDF. Printed at 100 %, its marks measure true. That is the first job done.',
    }
  })
  return { step, leave: () => (guided.value = 0) }
}

async function sendSample(state: JobState) {
  try {
    const photo = await (await fetch(PHOTO)).blob()
    await state.sendPhotos([new File([photo], 'splash-tray.jpg', { type: 'image/jpeg' })], NOTHING_SAID)
  } catch (e) {
    sayWrong(e)
  }
}
