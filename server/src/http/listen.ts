import { createServer, type Server, type ServerResponse } from 'node:http'
import { createServer as createSecureServer } from 'node:https'
import type { Socket } from 'node:net'
import type { Express } from 'express'
import { originOf } from './origin.ts'

/** How long a connection may take, ms. */
export interface Patience {
  /** Until the head of a request is there. */
  head: number
  /** Until all of it is there: a backup of half a gigabyte over a slow network. */
  request: number
  /** Without a byte in either direction, unless a whole request waits for its answer. */
  idle: number
}

const usual: Patience = { head: 15_000, request: 300_000, idle: 90_000 }

/** Certificate and key, PEM. */
export interface Certificate {
  cert: Buffer
  key: Buffer
}

/** Connections of one address that nobody has signed in on. A browser opens six. */
const MOST_STRANGERS = 30
/** How long a stranger may take for a whole request, and rest between two, ms. */
const STRANGER_MS = 10_000

/** One connection, the same for its bare and its encrypted end. */
const peerOf = ({ remoteAddress, remotePort, localPort }: Socket): string =>
  `${remoteAddress} ${remotePort} ${localPort}`

/** Connections of those nobody knows yet: each may be cut, by the peer it is of. */
const strangers = new Map<string, { rest: () => void; busy: () => void; end: () => void }>()

/** Somebody has signed in on a connection: there is more patience from here on. */
export const trust = (socket: Socket): void => strangers.get(peerOf(socket))?.end()

/**
 * Keeps those who are not signed in from taking the connections of those who are: of one address there are only so many,
 * the one that is open longest makes room, and none may trickle.
 */
function watchStrangers(server: Server, proxies: readonly string[]): void {
  const byAddress = new Map<string, Set<Socket>>()
  server.on('connection', (socket) => {
    const peer = peerOf(socket)
    const address = originOf(socket.remoteAddress)
    // Behind a proxy there are many people, whose connections are its own business.
    if (proxies.includes(address)) return
    const own = byAddress.get(address) ?? new Set()
    byAddress.set(address, own)
    own.add(socket)
    if (own.size > MOST_STRANGERS) {
      const [oldest] = own
      oldest!.destroy()
    }
    let timer: NodeJS.Timeout | undefined
    const busy = () => clearTimeout(timer)
    const rest = () => {
      busy()
      timer = setTimeout(() => socket.destroy(), STRANGER_MS)
    }
    const end = () => {
      busy()
      strangers.delete(peer)
      own.delete(socket)
      if (own.size === 0) byAddress.delete(address)
    }
    strangers.set(peer, { rest, busy, end })
    socket.once('close', end)
    rest()
  })
  server.on('request', (req, res) => {
    const known = () => strangers.get(peerOf(req.socket))
    // All of it is there: from now on it is we who are waited for.
    req.once('end', () => known()?.busy())
    res.once('close', () => known()?.rest())
  })
}

export interface Listening {
  patience?: Patience
  certificate?: Certificate | undefined
  /** Whether there is a gate, and people before it who are not known. */
  gated?: boolean
  /** Addresses of reverse proxies that are trusted. */
  proxies?: readonly string[]
}

/**
 * A server that cuts connections which are too slow, so that they do not take the place of others; with a certificate it
 * speaks TLS alone.
 */
export function serverOf(
  app: Express,
  { patience = usual, certificate, gated = false, proxies = [] }: Listening = {},
): Server {
  const options = {
    headersTimeout: patience.head,
    requestTimeout: patience.request,
    connectionsCheckingInterval: Math.min(5000, patience.head),
    // Longer than any client keeps an idle connection: it must not be cut while a request is on its way.
    keepAliveTimeout: 75_000,
  }
  const server = certificate
    ? createSecureServer(
        { ...options, ...certificate, minVersion: 'TLSv1.2', handshakeTimeout: STRANGER_MS },
        app,
      )
    : createServer(options, app)
  if (gated) watchStrangers(server, proxies)
  // Who is slow is cut, not who waits for us.
  const answers = new WeakMap<object, ServerResponse>()
  server.on('request', (req, res) => answers.set(req.socket, res))
  server.setTimeout(patience.idle, (socket) => {
    const answer = answers.get(socket)
    const awaited = answer?.req.complete && !answer.headersSent
    if (!awaited) socket.destroy()
  })
  server.maxConnections = 1000
  return server
}
