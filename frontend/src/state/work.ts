import { useTimeoutPoll } from '@vueuse/core'
import { watch } from 'vue'
import { Refusal } from '../api/client'
import { sayWrong } from './notice'

const POLL_MS = 500

/** Whether long work waits for its turn or is being done. */
export const isUnderWay = (work: { status: string } | null | undefined) => work?.status === 'waiting' || work?.status === 'working'

/** Looks every so often how far long work is, while any is under way, until this scope ends. */
export function usePolling(look: () => Promise<void>, anyUnderWay: () => boolean, everyMs = POLL_MS) {
  const asking = async () => {
    try {
      await look()
    } catch (e) {
      // a server that is away is said; what it refuses is asked for again
      if (e instanceof Refusal && e.status === 0) sayWrong(e)
    }
  }
  const { resume, pause } = useTimeoutPoll(asking, everyMs, { immediate: false })
  watch(anyUnderWay, (is) => (is ? resume() : pause()), { immediate: true, flush: 'sync' })
}
