import createClient from 'openapi-fetch'
import type { components, paths } from './schema'

export type Schemas = components['schemas']
/** A job as the server answers: after a change, what it left alone is named by its place. */
export type JobAnswer = Schemas['JobView']
/** A job as a window shows it. */
export type Job = Omit<JobAnswer, 'shape' | 'panels' | 'pieces'> & {
  shape: Shape | null
  panels: Panel[]
  pieces: Schemas['PieceTab'][]
}
export type Panel = Schemas['PanelView']
export type SeamEdge = Schemas['SeamEdgeView']
export type Ticket = Schemas['TicketView']
export type Photo = Schemas['PhotoView']
export type Shape = Schemas['ShapeView']
/** What a maker does to a job, as a value. */
export type Change = Schemas['Change']
export type StationKey = Schemas['Station']['key']

/** What the server said when it refused: a sentence for the maker. */
export class Refusal extends Error {
  constructor(
    sentence: string,
    readonly status: number,
    readonly reason = '',
  ) {
    super(sentence)
  }
}

const UNREACHABLE = 'The workshop’s server can’t be reached. What you see is kept; try again in a moment.'

/** Django's token against forged requests, from the cookie that the page says is its own. */
export function csrf(): string {
  const name = document.querySelector<HTMLMetaElement>('meta[name="csrf-cookie"]')?.content
  const own = document.cookie.split('; ').find((c) => c.startsWith(`${name}=`))
  return own?.slice((name?.length ?? 0) + 1) ?? ''
}

export const client = createClient<paths>({ baseUrl: '/' })
client.use({
  onRequest({ request }) {
    if (request.method !== 'GET') request.headers.set('X-CSRFToken', csrf())
    return request
  },
})

interface Answer {
  data?: unknown
  error?: unknown
  response: Response
}

/**
 * The data of a call, or a Refusal with the server's sentence. The type is the schema's own: the client's
 * mapped one turns pairs of numbers into lists.
 */
export async function answered<T>(call: Promise<Answer>): Promise<T> {
  let answer: Answer
  try {
    answer = await call
  } catch {
    throw new Refusal(UNREACHABLE, 0)
  }
  if (answer.response.ok) return answer.data as T
  if (answer.response.status === 401) window.location.assign(`/sign-in/?next=${encodeURIComponent(location.pathname)}`)
  throw new Refusal(told(answer.error, 'sentence') ?? UNREACHABLE, answer.response.status, told(answer.error, 'reason'))
}

function told(error: unknown, what: 'sentence' | 'reason'): string | undefined {
  const said: unknown = typeof error === 'object' && error !== null && what in error ? Reflect.get(error, what) : undefined
  return typeof said === 'string' ? said : undefined
}

/** Send files as a form with other `fields`, telling how much has gone out (0 to 1). */
export function sendFiles<T>(
  url: string,
  field: string,
  files: readonly File[],
  fields: Record<string, string>,
  headers: Record<string, string>,
  progress?: (share: number) => void,
) {
  return new Promise<T>((resolve, reject) => {
    const request = new XMLHttpRequest()
    request.open('POST', url)
    request.responseType = 'json'
    request.setRequestHeader('X-CSRFToken', csrf())
    for (const [name, value] of Object.entries(headers)) request.setRequestHeader(name, value)
    request.upload.onprogress = (e) => e.lengthComputable && progress?.(e.loaded / e.total)
    request.onerror = () => reject(new Refusal(UNREACHABLE, 0))
    request.onload = () => {
      if (request.status < 300) resolve(request.response as T)
      else
        reject(
          new Refusal(
            told(request.response, 'sentence') ?? 'The file could not be taken in; it may be too large.',
            request.status,
            told(request.response, 'reason'),
          ),
        )
    }
    const form = new FormData()
    for (const file of files) form.append(field, file)
    for (const [name, value] of Object.entries(fields)) form.append(name, value)
    request.send(form)
  })
}
