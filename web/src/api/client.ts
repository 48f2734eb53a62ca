import createClient from 'openapi-fetch'
import { ref } from 'vue'
import type { components, paths } from './schema'

export type Schemas = components['schemas']
export type PenItem = Schemas['Pen']
export type Recipe = Schemas['Recipe']
export type SheetItem = Schemas['Sheet']
export type HandItem = Schemas['HandItem']
export type DeviceItem = Schemas['DeviceItem']
export type Box = [number, number, number, number]

const MOST_TIMES = 8
let asking = 0
/** Whether an answer is still on its way. */
export const isAsking = () => asking > 0
/** The last answer did not come, or was one that this browser had kept: the server is not reached. */
export const away = ref(false)
/** Ask the server. The document tells how many answers are on their way, so that others can see when it rests. */
async function ask(input: RequestInfo | URL, init?: RequestInit): Promise<Response> {
  document.documentElement.dataset.asking = String(++asking)
  try {
    // too much at once is asked again when the server says; a request's body can be sent once only, so of a copy
    for (let times = 1; ; times++) {
      const answer = await fetch(input instanceof Request ? input.clone() : input, init).catch((error: unknown) => {
        away.value = true
        throw error
      })
      away.value = answer.headers.has('X-Kept')
      const later = Number(answer.headers.get('Retry-After'))
      if (answer.status !== 429 || !later || times === MOST_TIMES) return answer
      await new Promise((done) => setTimeout(done, later * 1000 * (0.5 + Math.random())))
    }
  } finally {
    document.documentElement.dataset.asking = String(--asking)
  }
}

export const api = createClient<paths>({ baseUrl: window.location.origin, fetch: ask })

/** What went wrong, in the server's words where it had any; `code` tells which refusal it is, whatever the words. */
export class Refusal extends Error {
  constructor(
    message: string,
    readonly status: number,
    readonly code: string,
    readonly field?: string,
  ) {
    super(message)
  }
}

/** Whether something was refused because nothing is written yet. */
export const isNoInk = (error: unknown) => error instanceof Refusal && error.code === 'no_ink'

interface Answer<T> {
  data?: T
  error?: unknown
  response: Response
}

/** The data of an answer, or a Refusal that says what to do. */
export async function take<T>(asked: Promise<Answer<T>>): Promise<T> {
  let answer: Answer<T>
  try {
    answer = await asked
  } catch {
    throw new Refusal(
      'The server does not answer. Your ink is kept in this browser and is sent when it is back.',
      0,
      'away',
    )
  }
  if (answer.data !== undefined && answer.response.ok) return answer.data
  const told = (answer.error as Partial<Schemas['ErrorReply']> | undefined)?.error
  throw new Refusal(
    told?.message ?? 'The server could not do that. Nothing you kept is lost; try again.',
    answer.response.status,
    told?.code ?? 'failed',
    told?.field ?? undefined,
  )
}

/** The bytes of a file the server makes, or a Refusal. */
export async function takeFile(path: string, body?: object): Promise<Blob> {
  const headers = { 'Content-Type': 'application/json' }
  return take(
    ask(path, body && { method: 'POST', headers, body: JSON.stringify(body) }).then(async (response) =>
      response.ok
        ? { data: await response.blob(), response }
        : { error: await response.json().catch(() => undefined), response },
    ),
  )
}
