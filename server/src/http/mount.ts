/** Routes put onto Express, and what becomes of their errors. */
import type { Problem } from '@saltline/contract'
import express, {
  type ErrorRequestHandler,
  type Request,
  type RequestHandler,
  type Response,
  type Router,
} from 'express'
import type { Work } from '../work/kinds.ts'
import { work } from '../work/pool.ts'
import { originOf } from './origin.ts'
import { received } from './received.ts'
import { MOST_OF_ONE } from '../work/turns.ts'
import { answerRoute, readJson } from './answer.ts'
import { holderOf } from './holder.ts'
import { notFound, ProblemError, problemOf } from './problem.ts'
import { DEFAULT_BODY_LIMIT, keyOf, type Route, workOf } from './route.ts'

/** @param file the database’s, for workers; without it, this thread answers everything */
export function mount(router: Router, routes: readonly Route[], file?: string): void {
  for (const r of routes) {
    const body = express.raw({ type: 'application/json', limit: r.bodyLimit ?? DEFAULT_BODY_LIMIT })
    const task = file === undefined ? undefined : workOf(r)
    const answer = task ? byWorker(r, file!, task) : here(r)
    router[r.method](r.path, ...(r.body && r.fileLimit === undefined ? [body] : []), answer)
  }
}

const bytesOf = (body: unknown): Uint8Array | null => (Buffer.isBuffer(body) ? body : null)

const here =
  (r: Route): RequestHandler =>
  async (req, res) => {
    const params = req.params as Record<string, string>
    const answer = async (body: unknown) =>
      send(res, r, await answerRoute(r, { params, query: req.query, body }))
    if (r.fileLimit === undefined) await answer(r.body && readJson(bytesOf(req.body)))
    else await received(req, r.fileLimit, answer)
  }

const byWorker =
  (r: Route, file: string, task: Work): RequestHandler =>
  async (req, res) => {
    const params = req.params as Record<string, string>
    waitFor(req, task)
    const answer = async (body: Uint8Array | string | null) => {
      const text = await work(
        'answer',
        { file, route: keyOf(r), params, query: { ...req.query }, body },
        task,
        {
          stop: gone(res),
          transfer: body instanceof Uint8Array ? wholeMemory(body) : [],
          who: whoOf(req, res),
        },
      )
      send(res, r, text)
    }
    if (r.fileLimit === undefined) await answer(bytesOf(req.body))
    else await received(req, r.fileLimit, answer)
  }

/** The memory of bytes that are all there is in it. */
const wholeMemory = ({ buffer, byteLength }: Uint8Array): ArrayBuffer[] =>
  buffer instanceof ArrayBuffer && buffer.byteLength === byteLength ? [buffer] : []

/** No byte goes either way while a worker is at it: the connection is not taken for an idle one. */
export const waitFor = (req: Request, { budgetMs, kind }: Work): void =>
  void req.setTimeout(budgetMs * (kind ? MOST_OF_ONE : 1) + 10_000)

/** Who asks: a device or a token where somebody was asked, else an address. */
export const whoOf = (req: Request, res: Response): string => holderOf(res)?.id ?? originOf(req.ip)

/** Says when the one who asked does not wait any longer. */
export function gone(res: Response): AbortSignal {
  const stop = new AbortController()
  res.once('close', () => stop.abort())
  return stop.signal
}

const send = (res: Response, r: Route, text: string) =>
  res
    .status(r.status ?? 200)
    .type('application/json')
    .send(text)

function sendProblem(res: Response, problem: Problem, retryAfterS?: number): void {
  const seconds = retryAfterS ?? (problem.status === 503 ? 5 : undefined)
  if (seconds !== undefined) res.set('retry-after', String(seconds))
  res.status(problem.status).type('application/problem+json').send(JSON.stringify(problem))
}

export const noSuchRoute: RequestHandler = () => {
  throw notFound('address in the API')
}

export const problemHandler: ErrorRequestHandler = (error: unknown, req, res, next) => {
  // Nobody is there to be told.
  if (res.destroyed) return
  // Half of the answer is gone already: the connection is cut.
  if (res.headersSent) return next(error)
  const changes = req.method !== 'GET' && req.method !== 'HEAD'
  sendProblem(
    res,
    problemOf(error, changes, (unexpected) =>
      req.log?.error({ err: unexpected }, 'unexpected error'),
    ),
    error instanceof ProblemError ? error.retryAfterS : undefined,
  )
}
