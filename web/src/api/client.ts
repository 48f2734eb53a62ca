import createClient from 'openapi-fetch'
import type { components, paths } from './schema'

export type Schemas = components['schemas']
export type PenItem = Schemas['PenItem']
export type Recipe = PenItem['recipe']
export type SheetItem = Schemas['SheetItem']
export type HandItem = Schemas['HandItem']
export type DeviceItem = Schemas['DeviceItem']
export type Box = [number, number, number, number]

export const api = createClient<paths>({ baseUrl: window.location.origin })

/** What went wrong, in the server's words where it had any. */
export class Refusal extends Error {
  constructor(
    message: string,
    readonly status: number,
    readonly field?: string,
  ) {
    super(message)
  }
}

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
    throw new Refusal('The server does not answer. Your ink is kept in this browser and is sent when it is back.', 0)
  }
  if (answer.data !== undefined && answer.response.ok) return answer.data
  const told = (answer.error as { error?: { message?: string; field?: string } } | undefined)?.error
  throw new Refusal(
    told?.message ?? 'The server could not do that. Nothing you kept is lost; try again.',
    answer.response.status,
    told?.field,
  )
}
