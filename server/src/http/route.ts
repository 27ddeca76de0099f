/** How an address of the API is declared. */
import {
  type BodyOf,
  type EndpointKey,
  type Endpoints,
  endpoints,
  type ParamsOf,
  type QueryOf,
  type ResponseOf,
} from '@saltline/contract'
import type { z } from 'zod'
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
  /** The body may be as long as this, bytes: it is written to a file, whose path is what the handler gets. */
  fileLimit?: number
  /**
   * Given where it can take long: a worker does it then, and how long it may take. What changes something is always a
   * worker's, since a disk can take long over anything.
   */
  work?: Work
  /** Changes nothing that is stored: this thread answers, though it is no `get`. */
  here?: boolean
  handle: (params: Record<string, string>, body: unknown, query: unknown) => Promise<unknown>
}

/** Declares what answers at an address of the table; parameters, body, query and answer have its types. */
export function route<K extends EndpointKey>(
  key: K,
  r: Omit<Route, 'method' | 'path' | 'body' | 'query' | 'response' | 'handle'> & {
    handle: (
      params: ParamsOf<K>,
      body: z.output<BodyOf<K>>,
      query: z.output<QueryOf<K>>,
    ) => Promise<z.input<ResponseOf<K>>>
  },
): Route {
  const [method, path] = key.split(' ') as [string, string]
  return { method: method.toLowerCase(), path, ...endpoints[key], ...r } as unknown as Route
}

/** The same for an address that takes a long file: it is written to a disk as it comes in, and the handler reads it there. */
export const fileRoute = <K extends EndpointKey>(
  key: K,
  r: Omit<Parameters<typeof route<K>>[1], 'handle'> & {
    fileLimit: number
    handle: (params: ParamsOf<K>, path: string) => Promise<z.input<ResponseOf<K>>>
  },
): Route => route(key, r as unknown as Parameters<typeof route<K>>[1])

/** What a worker is told of a route; nothing where the server's own thread answers it. */
export const workOf = (r: Route): Work | undefined =>
  r.work ?? (r.method === 'get' || r.here ? undefined : saving)

/** Which route it is, told to a worker. */
export const keyOf = ({ method, path }: Pick<Route, 'method' | 'path'>): string =>
  `${method} ${path}`

export const DEFAULT_BODY_LIMIT = 1024 * 1024

type Deletable = {
  [K in EndpointKey]: K extends `DELETE ${infer Path}`
    ? `POST ${Path}/restore` extends EndpointKey
      ? Endpoints[`POST ${Path}/restore`]['response'] extends z.ZodNull
        ? Path
        : never
      : never
    : never
}[EndpointKey]

/** A deletion and the way back from it. */
export function deletion<P extends Deletable>(
  path: P,
  what: string,
  set: (params: ParamsOf<`DELETE ${P}`>, deleted: boolean) => Promise<void>,
): Route[] {
  const to = (deleted: boolean) => async (params: unknown) => {
    await set(params as ParamsOf<`DELETE ${P}`>, deleted)
    return null
  }
  return [
    route(`DELETE ${path}` as EndpointKey, {
      summary: `Delete ${what}; it can be taken back`,
      handle: to(true),
    }),
    route(`POST ${path}/restore` as EndpointKey, {
      summary: `Take the deletion of ${what} back`,
      handle: to(false),
    }),
  ]
}
