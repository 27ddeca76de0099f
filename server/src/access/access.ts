/** The gate before the API where the server is open to the network, and the addresses that sign in and out. */
import {
  type AccessState,
  joinSchema,
  newPassphraseSchema,
  signInSchema,
  signOutEverywhereSchema,
  tokenBodySchema,
} from '@saltline/contract'
import express, { type Request, type Response, Router } from 'express'
import type { z } from 'zod'
import { readJson } from '../http/answer.ts'
import { setHolder } from '../http/holder.ts'
import { trust } from '../http/listen.ts'
import { originOf } from '../http/origin.ts'
import { notFound, ProblemError } from '../http/problem.ts'
import { checked } from '../http/shape.ts'
import { JoinCodes } from './codes.ts'
import { Limiter } from './limiter.ts'
import { isCrowded, isPassphrase, keepPassphrase, weakness } from './passphrase.ts'
import { allows, refusal } from './scopes.ts'
import type { AccessStore } from './store.ts'

export interface AccessOptions {
  store: AccessStore
  /** Whether the server speaks TLS: cookies are then for it alone. */
  secure: boolean
  /** SHA-256 of a certificate that the server made itself. */
  fingerprint?: string | undefined
  /** The port it listens on: two on one machine must not sign each other out. */
  port: () => number
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

const tooMany = (detail: string, seconds: number) =>
  new ProblemError(
    { status: 429, title: 'Too many attempts', detail },
    { retryAfterS: Math.ceil(seconds) },
  )

const bearerOf = (req: Request): string | null =>
  /^Bearer (\S+)$/.exec(req.headers.authorization ?? '')?.[1] ?? null

/** Everything below /api/access, and the gate for the rest of the API. */
export function accessGate(options: AccessOptions): Router {
  const { store, secure, fingerprint, port, addresses, audit, now } = options
  const router = Router()
  const limiter = new Limiter(now)
  const codes = new JoinCodes()
  const addressOf = (req: Request) => req.ip ?? 'unknown'
  const note = (event: string, req: Request) => {
    const address = addressOf(req)
    audit({ event, address })
    store.note(event, address)
  }

  // The prefix binds a cookie to this host and to HTTPS; the port tells two Salt Lines on one host apart.
  const cookieName = () => `${secure ? '__Host-' : ''}saltline-${port()}`
  const cookieOf = (req: Request): string | null => {
    const begin = `${cookieName()}=`
    const own = (req.headers.cookie ?? '').split(/;\s*/).find((each) => each.startsWith(begin))
    return own ? own.slice(begin.length) : null
  }
  const setCookie = (res: Response, value: string, maxAgeS: number) =>
    res.append(
      'set-cookie',
      `${cookieName()}=${value}; Path=/; Max-Age=${maxAgeS}; HttpOnly; SameSite=Strict${secure ? '; Secure' : ''}`,
    )
  const sessionOf = (req: Request) => {
    const secret = cookieOf(req)
    return secret === null ? null : store.holderOfSession(secret)
  }
  /** Programs that read calendars can send no header: a token for the calendar alone may stand in its address. */
  const calendarHolder = (req: Request) => {
    const { key } = req.query
    if (typeof key !== 'string' || !req.path.endsWith('/calendar.ics')) return null
    const holder = store.holderOfToken(key)
    return holder?.allowed?.scope === 'calendar' ? holder : null
  }
  const state = (signedIn: boolean): AccessState => ({
    network: true,
    signedIn,
    ...(fingerprint !== undefined && { fingerprint }),
  })

  /** Counts an attempt at a secret as wrong until it is known to be right, and slows down whoever guesses. */
  async function attempt(req: Request, right: () => Promise<boolean>): Promise<boolean> {
    const origin = originOf(req.ip)
    const wait = limiter.waitMs(origin)
    if (wait > 0) throw tooMany(`Try again in ${Math.ceil(wait / 1000)} s.`, wait / 1000)
    // Before it is looked at: many at once must not all be the first.
    limiter.failed(origin)
    try {
      if (!(await right())) return false
    } catch (error) {
      if (isCrowded(error)) throw tooMany('Others are trying too. Try again in a moment.', 1)
      throw error
    }
    limiter.succeeded(origin)
    return true
  }
  const isKept = async (passphrase: string) => {
    const kept = store.passphrase()
    return kept !== null && isPassphrase(passphrase, kept)
  }
  /** @throws ProblemError unless the passphrase is right */
  async function provePassphrase(req: Request, passphrase: string, pointer: string) {
    if (await attempt(req, () => isKept(passphrase))) return
    note('passphrase asked again: refused', req)
    const message = 'That is not the passphrase.'
    throw new ProblemError({
      status: 403,
      title: 'Not the passphrase',
      detail: message,
      errors: [{ pointer, message }],
    })
  }

  async function enter(
    req: Request,
    res: Response,
    { event, wrong, device, right }: Entering,
  ): Promise<void> {
    if (!(await attempt(req, right))) {
      note(`${event}: refused`, req)
      throw new ProblemError({ status: 401, title: 'Not signed in', detail: wrong })
    }
    const { secret, maxAgeS } = store.signIn(device ?? 'a device', addressOf(req))
    setCookie(res, secret, maxAgeS)
    note(event, req)
    res.json(state(true))
  }

  const own = Router()
  own.use(express.raw({ type: 'application/json', limit: 4096 }))
  own.get('/', (req, res) => void res.json(state(sessionOf(req) !== null)))
  own.post('/sign-in', async (req, res) => {
    const { passphrase, device } = bodyOf(req, signInSchema)
    await enter(req, res, {
      event: 'signed in',
      wrong: 'That is not the passphrase.',
      device,
      right: () => isKept(passphrase),
    })
  })
  own.post('/join', async (req, res) => {
    const { code, device } = bodyOf(req, joinSchema)
    await enter(req, res, {
      event: 'joined by a code',
      wrong: 'That code is not good any more: it works once, for two minutes. Make another one.',
      device,
      right: () => Promise.resolve(codes.take(code)),
    })
  })
  // From here on for devices that are signed in: a token may not make tokens.
  own.use((req, _res, next) => {
    if (!sessionOf(req)) throw signedOut()
    trust(req.socket)
    next()
  })
  own.post('/sign-out', (req, res) => {
    store.signOut(cookieOf(req)!)
    setCookie(res, '', 0)
    res.json(state(false))
  })
  own.post('/sign-out-everywhere', (req, res) => {
    const { tokens } = bodyOf(req, signOutEverywhereSchema)
    store.signOutEverywhere(tokens)
    setCookie(res, '', 0)
    note(tokens ? 'signed out everywhere, tokens too' : 'signed out everywhere', req)
    res.json(state(false))
  })
  own.put('/passphrase', async (req, res) => {
    const { present, next, tokens } = bodyOf(req, newPassphraseSchema)
    await provePassphrase(req, present, '/present')
    const weak = await weakness(next)
    if (weak !== null)
      throw new ProblemError({
        status: 422,
        title: 'Another passphrase is needed',
        detail: weak,
        errors: [{ pointer: '/next', message: weak }],
      })
    await store.setPassphrase(await keepPassphrase(next), { but: cookieOf(req)!, tokens })
    note('passphrase changed', req)
    res.json(state(true))
  })
  own.get('/devices', (req, res) => {
    res.json({ devices: store.devices(cookieOf(req)!), events: store.events() })
  })
  own.delete('/devices/:id', (req, res) => {
    if (!store.endDevice(req.params.id)) throw notFound('device')
    note('a device was signed out', req)
    res.json(null)
  })
  own.post('/codes', (_req, res) => {
    const made = codes.make()
    res.status(201).json({ ...made, links: addresses().map((base) => `${base}/join/${made.code}`) })
  })
  own.get('/tokens', (_req, res) => void res.json(store.tokens()))
  own.post('/tokens', async (req, res) => {
    const { passphrase, ...asked } = bodyOf(req, tokenBodySchema)
    await provePassphrase(req, passphrase, '/passphrase')
    const made = await store.makeToken(asked)
    if (!made)
      throw new ProblemError({
        status: 409,
        title: 'Too many tokens',
        detail: 'There are fifty already. Revoke one that is not used any more.',
      })
    note(`a token was made: ${made.scope}`, req)
    res.status(201).json(made)
  })
  own.delete('/tokens/:id', (req, res) => {
    if (!store.revokeToken(req.params.id)) throw notFound('token')
    note('a token was revoked', req)
    res.json(null)
  })
  own.use(() => {
    throw notFound('address in the API')
  })
  router.use('/access', own)

  router.use((req, res, next) => {
    const token = bearerOf(req)
    const holder =
      sessionOf(req) ?? (token === null ? calendarHolder(req) : store.holderOfToken(token))
    if (!holder) throw signedOut()
    if (holder.allowed && !allows(holder.allowed, req.method, req.path))
      throw new ProblemError({
        status: 403,
        title: 'Not allowed',
        detail: refusal(holder.allowed, req.method, req.path),
      })
    trust(req.socket)
    const { id } = holder
    setHolder(res, { id, holds: () => store.holds(id), onEnd: (hear) => store.onEnd(id, hear) })
    next()
  })
  return router
}

interface Entering {
  event: string
  wrong: string
  device: string | undefined
  right: () => Promise<boolean>
}

/** On this machine alone nobody is asked. */
export function openAccessState(): Router {
  const router = Router()
  router.get('/access', (_req, res) => void res.json({ network: false, signedIn: true }))
  return router
}

function bodyOf<S extends z.ZodType>(req: Request, schema: S): z.output<S> {
  return checked(schema, readJson(Buffer.isBuffer(req.body) ? req.body : null) ?? {})
}
