import createClient, { type MaybeOptionalInit } from 'openapi-fetch'
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
export type StationKey = Schemas['StationView']['key']

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

const client = createClient<paths>({ baseUrl: '/' })
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
type Method = 'get' | 'post' | 'put' | 'delete'
type PathsWith<M extends Method> = { [P in keyof paths]: paths[P] extends Record<M, { responses: unknown }> ? P : never }[keyof paths]
type Asked<M extends Method, P extends keyof paths> = MaybeOptionalInit<paths[P], M>
// the schema's own type: the client's mapped one turns pairs of numbers into lists
type Said<M extends Method, P extends keyof paths> =
  paths[P] extends Record<M, { responses: { 200: { content: { 'application/json': infer A } } } }> ? A : void

/** What the server answers to one of its operations, or a Refusal with its sentence. */
export async function ask<M extends Method, P extends PathsWith<M>>(
  method: M,
  path: P,
  ...init: undefined extends Asked<M, P> ? [init?: Asked<M, P>] : [init: Asked<M, P>]
): Promise<Said<M, P>> {
  // what is asked has been checked against the schema by this function's own types
  const asked = [method, path, ...init] as unknown as Parameters<typeof client.request>
  return (await settled(client.request(...asked))) as Said<M, P>
}

/** A file that the server makes, and what it calls it; or a Refusal with its sentence. */
export async function askForFile(href: string): Promise<{ blob: Blob; name: string }> {
  const call = fetch(href).then(async (response): Promise<Answer> => {
    if (!response.ok) return { response, error: await response.json().catch(() => null) }
    const name = /filename="([^"]+)"/.exec(response.headers.get('Content-Disposition') ?? '')?.[1] ?? 'pattern'
    return { response, data: { blob: await response.blob(), name } }
  })
  return (await settled(call)) as { blob: Blob; name: string }
}

async function settled(call: Promise<Answer>): Promise<unknown> {
  let answer: Answer
  try {
    answer = await call
  } catch {
    throw new Refusal(UNREACHABLE, 0)
  }
  if (answer.response.ok) return answer.data
  if (answer.response.status === 401) window.location.assign(`/sign-in/?next=${encodeURIComponent(location.pathname)}`)
  throw new Refusal(told(answer.error, 'sentence') ?? UNREACHABLE, answer.response.status, told(answer.error, 'reason'))
}

function told(error: unknown, what: 'sentence' | 'reason'): string | undefined {
  const said: unknown = typeof error === 'object' && error !== null && what in error ? Reflect.get(error, what) : undefined
  return typeof said === 'string' ? said : undefined
}

/** Send files as a form with other `fields`, telling how much has gone out (0 to 1). */
export function sendFiles<P extends PathsWith<'post'>>(
  path: P,
  of: Record<string, string | number>,
  form: { field: string; files: readonly File[]; fields?: Record<string, string> },
  how: { headers?: Record<string, string>; progress?: (share: number) => void } = {},
) {
  return new Promise<Said<'post', P>>((resolve, reject) => {
    const request = new XMLHttpRequest()
    request.open(
      'POST',
      path.replace(/\{(\w+)\}/g, (_, name: string) => encodeURIComponent(of[name] ?? '')),
    )
    request.responseType = 'json'
    request.setRequestHeader('X-CSRFToken', csrf())
    for (const [name, value] of Object.entries(how.headers ?? {})) request.setRequestHeader(name, value)
    request.upload.onprogress = (e) => e.lengthComputable && how.progress?.(e.loaded / e.total)
    request.onerror = () => reject(new Refusal(UNREACHABLE, 0))
    request.onload = () => {
      if (request.status < 300) resolve(request.response as Said<'post', P>)
      else
        reject(
          new Refusal(
            told(request.response, 'sentence') ?? 'The file could not be taken in; it may be too large.',
            request.status,
            told(request.response, 'reason'),
          ),
        )
    }
    const data = new FormData()
    for (const file of form.files) data.append(form.field, file)
    for (const [name, value] of Object.entries(form.fields ?? {})) data.append(name, value)
    request.send(data)
  })
}
