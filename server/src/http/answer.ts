/** From a request to what is sent back, without the server around it: in its own thread or in a worker. */
import type { Route } from './route.ts'
import { AnswerError, invalidJson } from './problem.ts'
import { checked } from './shape.ts'

export interface Request {
  params: Record<string, string>
  query: unknown
  body: unknown
}

/** JSON has no infinities: they travel as null, as the schemas say. */
const asJson = (value: unknown): unknown => JSON.parse(JSON.stringify(value ?? null))

/** The text of the answer to a request. */
export async function answerRoute(r: Route, { params, query, body }: Request): Promise<string> {
  // What lies in a file is checked by whoever reads it.
  const own = r.fileLimit === undefined ? r.body && checked(r.body, body) : body
  const asked = r.query && checked(r.query, query)
  const result = await r.handle(params, own, asked)
  try {
    return JSON.stringify(r.response.parse(asJson(result)))
  } catch (error) {
    throw new AnswerError('what was done cannot be told', { cause: error })
  }
}

/** A body as it came, read. */
export function readJson(bytes: Uint8Array | null): unknown {
  if (bytes === null || bytes.length === 0) return undefined
  try {
    return JSON.parse(new TextDecoder('utf-8').decode(bytes))
  } catch (error) {
    throw invalidJson(error as Error)
  }
}
