/** Tells every window at once what another one has changed: server-sent events, in place of asking again and again. */
import type { LiveFigure, PresenceBody } from '@saltline/contract'
import type { Request, RequestHandler } from 'express'
import { Presences } from '../live/presence.ts'
import { holderOf } from './holder.ts'
import { ProblemError } from './problem.ts'

/** What changed: a chain itself, something of its record, or something of the station around it. */
export interface Change {
  what: 'chain' | 'log' | 'station'
  /** The chain, where it is one chain's. */
  chainId: string | null
}

/** A quiet connection says something this often, so that nobody on the way takes it for dead, ms. */
const HEARTBEAT_MS = 15_000
/** Windows that listen at once, of one device or token, and of all. */
const MOST_OF_ONE = 10
const MOST = 200
/** The header, or the word in the address, by which a window is left out of what it did itself. */
const WINDOW = 'x-saltline-window'

/** What computes, looks, or copies, and leaves the record as it is. */
const COMPUTES =
  /^\/(solve|plan|access|live)\b|^\/chains\/[^/]+\/readings\/already$|^\/backup\/(kept|preview)$/

/** What a request that went well has changed; null where it only computed. */
export function changeOf(method: string, path: string): Change | null {
  if (method === 'GET' || method === 'HEAD' || COMPUTES.test(path)) return null
  const [, first, id, rest] = path.split('/')
  if (first === 'chains')
    return { what: rest === undefined || rest === 'restore' ? 'chain' : 'log', chainId: id ?? null }
  // A thing changes the chains that it stands in.
  if (first === 'things' || rest === 'things') return { what: 'chain', chainId: null }
  if (first === 'readings' || first === 'rounds' || first === 'events')
    return { what: 'log', chainId: null }
  return { what: 'station', chainId: null }
}

interface Listener {
  window: string
  /** The device or token that listens; null on a machine of its own. */
  holder: string | null
  /** The chain whose live figures it wants; none unless it says. */
  chainId: string | null
  send: (text: string) => void
}

export function changeFeed(heartbeatMs = HEARTBEAT_MS): {
  /** Watches all requests go by. */
  watch: RequestHandler
  /** The stream itself. */
  stream: RequestHandler
  /** Live figures to those who look at their chain. */
  live: (chainId: string, figures: readonly LiveFigure[]) => void
  /** Where a window reads, to those who look at the same chain. */
  here: (chainId: string, window: string, where: PresenceBody) => void
} {
  const listeners = new Set<Listener>()
  const presences = new Presences()
  const tell = (chainId: string, event: string, data: unknown) => {
    const text = `event: ${event}\ndata: ${JSON.stringify(data)}\n\n`
    for (const listener of listeners) if (listener.chainId === chainId) listener.send(text)
  }
  const tellWhoIsHere = (chains: readonly string[]) => {
    for (const chainId of chains) tell(chainId, 'here', presences.of(chainId))
  }
  return {
    live: (chainId, figures) => tell(chainId, 'live', figures),
    here(chainId, window, where) {
      tellWhoIsHere(where ? presences.put(chainId, { ...where, window }) : presences.leave(window))
    },
    watch(req, res, next) {
      const change = changeOf(req.method, req.path)
      if (change) {
        const own = windowOf(req)
        res.once('finish', () => {
          if (res.statusCode >= 300) return
          const text = `data: ${JSON.stringify(change)}\n\n`
          for (const { window, send } of listeners) if (window !== own || own === '') send(text)
        })
      }
      next()
    },
    stream(req, res) {
      const holder = holderOf(res)
      const own = [...listeners].filter((each) => each.holder === (holder?.id ?? null)).length
      const most = holder && own >= MOST_OF_ONE ? MOST_OF_ONE : MOST
      if (listeners.size >= MOST || (holder && own >= MOST_OF_ONE))
        throw new ProblemError(
          {
            status: 429,
            title: 'Too many windows',
            detail: `More than ${most} windows are open${holder ? ' on this device or token' : ''}. This one looks again by itself every few seconds.`,
          },
          { retryAfterS: 5 },
        )
      res.set({
        'content-type': 'text/event-stream',
        'cache-control': 'no-store, no-transform',
        'x-accel-buffering': 'no',
      })
      res.flushHeaders()
      res.write('retry: 2000\n\n')
      const listener: Listener = {
        window: typeof req.query['window'] === 'string' ? req.query['window'] : '',
        holder: holder?.id ?? null,
        // A window that does not read any more is cut off rather than remembered for.
        chainId: typeof req.query['chain'] === 'string' ? req.query['chain'] : null,
        send: (text) => {
          if (res.writableLength > 65_536) res.destroy()
          else res.write(text)
        },
      }
      listeners.add(listener)
      if (listener.chainId !== null)
        listener.send(`event: here\ndata: ${JSON.stringify(presences.of(listener.chainId))}\n\n`)
      const timer = setInterval(() => {
        // Thirty days may be over while a window listens.
        if (holder && !holder.holds()) res.end()
        else res.write(': \n\n')
      }, heartbeatMs)
      // Who is signed out hears no more, from that moment on.
      const stop = holder?.onEnd(() => res.end())
      res.once('close', () => {
        clearInterval(timer)
        stop?.()
        listeners.delete(listener)
        // A window that opens its stream anew is still here.
        if (![...listeners].some(({ window }) => window === listener.window))
          tellWhoIsHere(presences.leave(listener.window))
      })
    },
  }
}

const windowOf = (req: Request): string => req.get(WINDOW) ?? ''
