import type { RequestHandler, Router } from 'express'
import { z } from 'zod'
import { invalidBody } from './problem.ts'

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

/** JSON has no infinities: they travel as null, as the schemas say. */
const asJson = (value: unknown): unknown => JSON.parse(JSON.stringify(value ?? null))

function checked(schema: z.ZodType, value: unknown): unknown {
  const parsed = schema.safeParse(value)
  if (!parsed.success) throw invalidBody(parsed.error)
  return parsed.data
}

const handlerOf =
  (r: Route): RequestHandler =>
  async (req, res) => {
    const body = r.body && checked(r.body, req.body)
    const query = r.query && checked(r.query, req.query)
    const result = await r.handle(req.params as Record<string, string>, body, query)
    res.status(r.status ?? 200).json(r.response.parse(asJson(result)))
  }

export function mount(router: Router, routes: readonly Route[]): void {
  for (const r of routes) router[r.method](r.path, handlerOf(r))
}
