import { computed, ref, shallowRef } from 'vue'
import { ask, Refusal, sendFiles, type Change, type Job, type JobAnswer, type Photo, type Schemas } from '../api/client'
import { asTyped } from '../logic/lengths'
import { wholeJob } from '../logic/whole'
import { hush, say, sayWrong } from './notice'
import { isUnderWay, usePolling } from './work'

const QUESTIONS = new Set(['unknown_size', 'hidden_layers'])

/** One job: what the server last said of it, and the ways to change it. Changes wait for each other. */
export function useJob(id: number) {
  const job = shallowRef<Job | null>(null)
  const busy = ref(0)
  const sending = ref<{ name: string; share: number } | null>(null)
  let queue: Promise<unknown> = Promise.resolve()
  const asking = new Map<string, Promise<boolean>>()
  const keeping = new Map<string, Promise<Refusal | null>>()

  const path = { job_id: id }
  const headers = () => ({ 'X-Revision': String(job.value?.revision ?? '') })
  const measuring = computed(() => job.value?.photos.find(isUnderWay) ?? null)

  /** A length in mm as it could be typed in the job's unit. */
  const typed = (mm: number) => asTyped(job.value?.unit ?? 'mm', mm)

  async function load() {
    job.value = wholeJob(await ask('get', '/api/jobs/{job_id}', { params: { path } }), null)
  }

  /** Make a call whose answer is the job as it is now, after those before it. False when it was refused. */
  function send(call: () => Promise<JobAnswer>, tell: (why: Refusal) => void = sayWrong): Promise<boolean> {
    const run = async () => {
      busy.value++
      hush()
      try {
        // the answer is about the job as it is shown now, whatever is shown when it comes
        const shown = job.value
        job.value = wholeJob(await call(), shown)
        return true
      } catch (e) {
        if (e instanceof Refusal) tell(e)
        else sayWrong(e)
        // what is shown is no longer what the server has
        if (!(e instanceof Refusal) || e.status === 409) await load().catch(sayWrong)
        return false
      } finally {
        busy.value--
      }
    }
    const next = queue.then(run, run)
    queue = next
    return next
  }

  /** Ask what another window made of it meanwhile; while the server is away, what is shown stays. */
  function refresh(): Promise<unknown> {
    queue = queue.then(load).catch(() => undefined)
    return queue
  }

  const changing = (change: Change) => () =>
    ask('post', '/api/jobs/{job_id}/changes', { params: { path }, headers: headers(), body: change })
  /** What is asked for again before it is answered is made once. */
  function once<T>(underway: Map<string, Promise<T>>, change: Change, make: () => Promise<T>): Promise<T> {
    const key = JSON.stringify(change)
    const asked = underway.get(key) ?? make().finally(() => underway.delete(key))
    underway.set(key, asked)
    return asked
  }
  /** Make a change. False when it was refused. */
  const make = (change: Change) => once(asking, change, () => send(changing(change)))
  /** Make a change; why it was refused is for the field to say, where it was typed. */
  function keep(change: Change): Promise<Refusal | null> {
    let refused: Refusal | null = null
    return once(keeping, change, () => send(changing(change), (why) => (refused = why)).then(() => refused))
  }
  const undo = () => send(() => ask('post', '/api/jobs/{job_id}/undo', { params: { path }, headers: headers() }))
  const redo = () => send(() => ask('post', '/api/jobs/{job_id}/redo', { params: { path }, headers: headers() }))

  /** Send photos of one scene, to be measured together. */
  async function sendPhotos(files: readonly File[], wanted: Schemas['WantedIn']) {
    if (!files.length) return
    hush()
    sending.value = { name: files.length === 1 ? (files[0]?.name ?? '') : `${files.length} photos`, share: 0 }
    try {
      const form = { field: 'photo', files, fields: fieldsOf(wanted) }
      const progress = (share: number) => {
        if (sending.value) sending.value = { ...sending.value, share }
      }
      const photo = await sendFiles('/api/jobs/{job_id}/photos', path, form, { progress })
      if (job.value) job.value = { ...job.value, photos: [...job.value.photos, photo] }
    } catch (e) {
      sayWrong(e)
    } finally {
      sending.value = null
    }
  }

  async function measureAgain(photo: number, wanted: Schemas['WantedIn']) {
    try {
      replacePhoto(await ask('put', '/api/photos/{photo_id}/wanted', { params: { path: { photo_id: photo } }, body: wanted }))
    } catch (e) {
      sayWrong(e)
    }
  }

  /** Stop measuring a photo. */
  async function stopMeasuring(photo: number) {
    try {
      replacePhoto(await ask('post', '/api/photos/{photo_id}/stop', { params: { path: { photo_id: photo } } }))
      say('Measuring is stopped; what was here stays.')
    } catch (e) {
      sayWrong(e)
    }
    await load().catch(sayWrong)
  }

  /** Read panels out of a drawing; a refusal that asks for an answer comes back instead of being said. */
  async function readFile(file: File, answers: Record<string, string>): Promise<boolean | Refusal> {
    let question: Refusal | null = null
    const sent = await send(async () => {
      try {
        return await sendFiles('/api/jobs/{job_id}/read', path, { field: 'file', files: [file], fields: answers }, { headers: headers() })
      } catch (e) {
        if (!(e instanceof Refusal && QUESTIONS.has(e.reason)) || !job.value) throw e
        question = e
        return job.value
      }
    })
    return question ?? sent
  }

  async function choosePieces(photo: number, names: string[]) {
    try {
      replacePhoto(await ask('post', '/api/photos/{photo_id}/pieces', { params: { path: { photo_id: photo } }, body: { names } }))
    } catch (e) {
      sayWrong(e)
    }
  }

  /** Measure a photo again, knowing places that are piece and places that aren't. */
  async function pointAt(photo: number, taps: Schemas['TapsIn']) {
    try {
      replacePhoto(await ask('post', '/api/photos/{photo_id}/taps', { params: { path: { photo_id: photo } }, body: taps }))
    } catch (e) {
      sayWrong(e)
    }
  }

  function replacePhoto(photo: Photo) {
    if (job.value) job.value = { ...job.value, photos: job.value.photos.map((p) => (p.id === photo.id ? photo : p)) }
  }

  usePolling(
    async () => {
      if (!measuring.value) return
      const photo = await ask('get', '/api/photos/{photo_id}', { params: { path: { photo_id: measuring.value.id } } })
      replacePhoto(photo)
      if (!isUnderWay(photo)) await load()
    },
    () => measuring.value !== null,
  )

  return {
    id,
    job,
    busy,
    sending,
    measuring,
    path,
    headers,
    typed,
    load,
    refresh,
    do: make,
    keep,
    send,
    undo,
    redo,
    sendPhotos,
    measureAgain,
    stopMeasuring,
    readFile,
    choosePieces,
    pointAt,
  }
}

/** What is looked for where a maker says nothing: a piece among sheets. */
export const NOTHING_SAID: Schemas['WantedIn'] = {
  kind: 'piece',
  side: 'centre',
  height: '',
  dpi: '',
  small_girth: '',
  large_girth: '',
  by_profile: true,
}

/** What is looked for in a photo. */
export const wantedOf = (p: Photo): Schemas['WantedIn'] => ({
  kind: p.kind,
  side: p.side,
  height: p.height,
  dpi: p.dpi,
  small_girth: p.small_girth,
  large_girth: p.large_girth,
  by_profile: p.by_profile,
})

function fieldsOf(wanted: Schemas['WantedIn']): Record<string, string> {
  return Object.fromEntries(Object.entries(wanted).map(([name, value]) => [name, String(value)]))
}

export type JobState = ReturnType<typeof useJob>
