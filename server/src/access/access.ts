/** The gate before the API where the server is open to the network, and the addresses that sign in and out. */
import { type AccessState, joinSchema, signInSchema, tokenBodySchema } from '@saltline/contract'
import express, { type Request, type RequestHandler, type Response, Router } from 'express'
import type { z } from 'zod'
import { readJson } from '../http/answer.ts'
import { invalidBody, notFound, ProblemError } from '../http/problem.ts'
import { JoinCodes } from './codes.ts'
import { Limiter } from './limiter.ts'
import { isPassphrase } from './passphrase.ts'
import { allows, scopeNeeded } from './scopes.ts'
import type { AccessStore } from './store.ts'

const COOKIE = 'saltline'

export interface AccessOptions {
  store: AccessStore
  /** Whether the server speaks TLS: cookies are then for it alone. */
  secure: boolean
  /** Addresses by which the network reaches this server, without a path. */
  addresses: () => readonly string[]
  /** One line for every sign-in, right or wrong. */
  audit: (line: { event: string; address: string }) => void
  /** The clock that who guesses waits by, ms. */
  now?: () => number
}

const signedOut = () =>
  new ProblemError({
    status: 401,
    title: 'Not signed in',
    detail: 'This Salt Line is open to the network, and asks for its passphrase or a token.',
  })

const cookieOf = (req: Request): string | null => {
  const own = (req.headers.cookie ?? '').split(/;\s*/).find((each) => each.startsWith(`${COOKIE}=`))
  return own ? own.slice(COOKIE.length + 1) : null
}

const bearerOf = (req: Request): string | null =>
  /^Bearer (\S+)$/.exec(req.headers.authorization ?? '')?.[1] ?? null

/** Everything below /api/access, and the gate for the rest of the API. */
export function accessGate({ store, secure, addresses, audit, now }: AccessOptions): Router {
  const router = Router()
  const limiter = new Limiter(now)
  const codes = new JoinCodes()
  const addressOf = (req: Request) => req.socket.remoteAddress ?? 'unknown'

  const hasSession = async (req: Request): Promise<boolean> => {
    const secret = cookieOf(req)
    return secret !== null && store.hasSession(secret)
  }
  const setCookie = (res: Response, value: string, maxAgeS: number) =>
    res.append(
      'set-cookie',
      `${COOKIE}=${value}; Path=/; Max-Age=${maxAgeS}; HttpOnly; SameSite=Strict${secure ? '; Secure' : ''}`,
    )
  const state = (signedIn: boolean): AccessState => ({ network: true, signedIn })

  /** Slows down whoever guesses, and lets in whoever knows. */
  const entering =
    (event: string, wrong: string, right: (req: Request) => Promise<boolean>): RequestHandler =>
    async (req, res) => {
      const address = addressOf(req)
      const wait = limiter.waitMs(address)
      if (wait > 0) {
        res.set('retry-after', String(Math.ceil(wait / 1000)))
        throw new ProblemError({
          status: 429,
          title: 'Too many attempts',
          detail: `Try again in ${Math.ceil(wait / 1000)} s.`,
        })
      }
      // Counted before it is looked at: many at once must not all be the first.
      limiter.failed(address)
      if (!(await right(req))) {
        audit({ event: `${event} refused`, address })
        throw new ProblemError({ status: 401, title: 'Not signed in', detail: wrong })
      }
      limiter.succeeded(address)
      const { secret, maxAgeS } = await store.signIn()
      setCookie(res, secret, maxAgeS)
      audit({ event, address })
      res.json(state(true))
    }

  const own = Router()
  own.use(express.raw({ type: 'application/json', limit: 4096 }))
  own.get('/', async (req, res) => void res.json(state(await hasSession(req))))
  own.post(
    '/sign-in',
    entering('sign-in', 'That is not the passphrase.', async (req) => {
      const { passphrase } = bodyOf(req, signInSchema)
      const kept = await store.passphrase()
      return kept !== null && isPassphrase(passphrase, kept)
    }),
  )
  own.post(
    '/join',
    entering(
      'joined by code',
      'That code is not good any more: it works once, for two minutes. Make another one.',
      (req) => Promise.resolve(codes.take(bodyOf(req, joinSchema).code)),
    ),
  )
  // From here on for devices that are signed in: a token may not make tokens.
  own.use(async (req, _res, next) => {
    if (!(await hasSession(req))) throw signedOut()
    next()
  })
  own.post('/sign-out', async (req, res) => {
    await store.signOut(cookieOf(req)!)
    setCookie(res, '', 0)
    res.json(state(false))
  })
  own.post('/sign-out-everywhere', async (req, res) => {
    await store.signOutEverywhere()
    setCookie(res, '', 0)
    audit({ event: 'signed out everywhere', address: addressOf(req) })
    res.json(state(false))
  })
  own.post('/codes', (_req, res) => {
    const made = codes.make()
    res.status(201).json({ ...made, links: addresses().map((base) => `${base}/join/${made.code}`) })
  })
  own.get('/tokens', async (_req, res) => void res.json(await store.tokens()))
  own.post('/tokens', async (req, res) => {
    const made = await store.makeToken(bodyOf(req, tokenBodySchema))
    if (!made)
      throw new ProblemError({
        status: 409,
        title: 'Too many tokens',
        detail: 'There are fifty already. Revoke one that is not used any more.',
      })
    audit({ event: `token made: ${made.scope}`, address: addressOf(req) })
    res.status(201).json(made)
  })
  own.delete('/tokens/:id', async (req, res) => {
    if (!(await store.revokeToken(req.params['id']))) throw notFound('token')
    audit({ event: 'token revoked', address: addressOf(req) })
    res.json(null)
  })
  own.use(() => {
    throw notFound('address in the API')
  })
  router.use('/access', own)

  router.use(async (req, res, next) => {
    if (await hasSession(req)) {
      res.locals['stillIn'] = () => hasSession(req)
      return next()
    }
    const token = bearerOf(req)
    const scope = token === null ? null : await store.scopeOf(token)
    if (scope === null) throw signedOut()
    const needed = scopeNeeded(req.method, req.path)
    if (!allows(scope, needed))
      throw new ProblemError({
        status: 403,
        title: 'Not allowed',
        detail: `This token may ${scope === 'read' ? 'only read' : 'read and enter readings'}; this asks for a token that may ${needed === 'enter' ? 'enter readings' : 'do everything'}.`,
      })
    res.locals['stillIn'] = async () => (await store.scopeOf(token!)) !== null
    next()
  })
  return router
}

/** On this machine alone nobody is asked. */
export function openAccessState(): Router {
  const router = Router()
  router.get('/access', (_req, res) => void res.json({ network: false, signedIn: true }))
  return router
}

function bodyOf<S extends z.ZodType>(req: Request, schema: S): z.output<S> {
  const parsed = schema.safeParse(readJson(Buffer.isBuffer(req.body) ? req.body : null))
  if (!parsed.success) throw invalidBody(parsed.error)
  return parsed.data
}
