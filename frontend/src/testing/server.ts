import { vi } from 'vitest'
import { Refusal, type Job } from '../api/client'

interface Call {
  method: string
  path: string
  body?: unknown
  headers?: Record<string, string>
}

/** A stand-in for the server: it answers with `job` unless an answer was put in its way, and remembers what it was asked. */
export function aServer(job: Job) {
  const calls: Call[] = []
  const answers: (() => unknown)[] = []
  const server = {
    job,
    calls,
    /** What was asked to be changed, in order. */
    changes: () => calls.filter((c) => c.path.endsWith('/changes')).map((c) => c.body),
    /** Answer the next call otherwise. */
    next: (answer: () => unknown) => void answers.push(answer),
    refuse: (sentence: string, status = 422) =>
      answers.push(() => {
        throw new Refusal(sentence, status)
      }),
    ask: vi.fn(async (method: string, path: string, init: { body?: unknown; headers?: Record<string, string> } = {}) => {
      calls.push({ method, path, body: init.body, headers: init.headers })
      const answer = answers.shift()
      return answer ? answer() : server.job
    }),
  }
  return server
}
