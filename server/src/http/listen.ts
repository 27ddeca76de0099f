import { createServer, type Server, type ServerResponse } from 'node:http'
import { createServer as createSecureServer } from 'node:https'
import type { Express } from 'express'

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

/**
 * A server that cuts connections which are too slow, so that they do not take the place of others; with a certificate it
 * speaks TLS alone.
 */
export function serverOf(app: Express, patience = usual, certificate?: Certificate): Server {
  const options = {
    headersTimeout: patience.head,
    requestTimeout: patience.request,
    connectionsCheckingInterval: Math.min(5000, patience.head),
    // Longer than any client keeps an idle connection: it must not be cut while a request is on its way.
    keepAliveTimeout: 75_000,
  }
  const server = certificate
    ? createSecureServer({ ...options, ...certificate, minVersion: 'TLSv1.2' }, app)
    : createServer(options, app)
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
