/** How an address of the API is declared. */
import { z } from 'zod'
import { saving, type Work } from '../work/kinds.ts'

type Method = 'get' | 'post' | 'put' | 'delete'

/** One address of the API: the same lines make the route, its checks both ways, and its description. */
export interface Route {
  method: Method
  /** Express path below /api, e.g. `/chains/:chainId`. */
  path: string
  summary: string
  body?: z.ZodType
  /** What may stand behind the question mark. */
  query?: z.ZodObject
  response: z.ZodType
  status?: number
  /** Limit of the body, bytes; 1 MiB unless given. */
  bodyLimit?: number
  /**
   * Given where it can take long: a worker does it then, and how long it may take. What changes something is always a
   * worker's, since a disk can take long over anything.
   */
  work?: Work
  /** Changes nothing that is stored: this thread answers, though it is no `get`. */
  here?: boolean
  handle: (params: Record<string, string>, body: unknown, query: unknown) => Promise<unknown>
}

/** Declares a route with its body's type inferred from its schema. */
export function route<B extends z.ZodType, Q extends z.ZodObject, R extends z.ZodType>(
  r: Omit<Route, 'handle' | 'body' | 'query' | 'response'> & {
    body?: B
    query?: Q
    response: R
    handle: (
      params: Record<string, string>,
      body: z.output<B>,
      query: z.output<Q>,
    ) => Promise<z.input<R>>
  },
): Route {
  return r as Route
}

/** What a worker is told of a route; nothing where the server's own thread answers it. */
export const workOf = (r: Route): Work | undefined =>
  r.work ?? (r.method === 'get' || r.here ? undefined : saving)

/** Which route it is, told to a worker. */
export const keyOf = ({ method, path }: Pick<Route, 'method' | 'path'>): string =>
  `${method} ${path}`

export const DEFAULT_BODY_LIMIT = 1024 * 1024

export const nothing = z.null().describe('nothing')

/** A deletion and the way back from it. */
export function deletion(
  path: string,
  what: string,
  set: (params: Record<string, string>, deleted: boolean) => Promise<void>,
): Route[] {
  const to = (deleted: boolean) => async (params: Record<string, string>) => {
    await set(params, deleted)
    return null
  }
  return [
    route({
      method: 'delete',
      path,
      summary: `Delete ${what}; it can be taken back`,
      response: nothing,
      handle: to(true),
    }),
    route({
      method: 'post',
      path: `${path}/restore`,
      summary: `Take the deletion of ${what} back`,
      response: nothing,
      handle: to(false),
    }),
  ]
}
