import { inject, type InjectionKey } from 'vue'
import type { JobState } from './job'

export const jobKey: InjectionKey<JobState> = Symbol('job')

export function useOpenJob(): JobState {
  const state = inject(jobKey)
  if (!state) throw new Error('a station stands outside of a job')
  return state
}
