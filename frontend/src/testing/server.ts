import { vi } from 'vitest'
import type * as Client from '../api/client'
import type { Job } from '../api/client'

const client = await vi.importActual<typeof Client>('../api/client')

interface Call {
  method: string
  path: string
  body?: unknown
  headers?: Record<string, string>
}

/**
 * A stand-in for the server: it answers with `job`, which nothing mends, unless an answer was put in its way, and remembers what
 * it was asked.
 */
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
        throw new client.Refusal(sentence, status)
      }),
    ask: vi.fn(async (method: string, path: string, init: { body?: unknown; headers?: Record<string, string> } = {}) => {
      calls.push({ method, path, body: init.body, headers: init.headers })
      const answer = answers.shift()
      return answer ? answer() : path.endsWith('/mends') ? [] : server.job
    }),
  }
  return server
}

/** The server that a test talks to; it puts its own here before each. */
export const there = { server: undefined as unknown as ReturnType<typeof aServer> }

/** What stands in for `api/client`: `vi.mock('../api/client', async () => (await import('./server')).standIn)`. */
export const standIn = { ...client, ask: (...asked: Parameters<typeof there.server.ask>) => there.server.ask(...asked) }
