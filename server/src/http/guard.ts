import type { RequestHandler } from 'express'
import type { Refusal } from '../db/standing.ts'
import { changeOf } from './changes.ts'
import { ProblemError } from './problem.ts'

const LOOPBACK = ['localhost', '127.0.0.1', '[::1]']

const hostnameOf = (host: string): string => host.replace(/:\d+$/, '').toLowerCase()

/**
 * Only answers to its own names, so that a foreign page cannot reach it by pointing a name of its
 * own at this machine; and changes nothing for a page of another origin.
 *
 * @param allowed further host names that this server is meant to be reached by, as they are now: a machine may join its
 * network after the server has begun
 */
export function guard(allowed: () => readonly string[]): RequestHandler {
  const isOurs = (name: string) =>
    LOOPBACK.includes(name) || allowed().some((each) => each.toLowerCase() === name)
  return (req, _res, next) => {
    const host = req.headers.host ?? ''
    if (!isOurs(hostnameOf(host))) {
      throw new ProblemError({
        status: 421,
        title: 'Unknown host name',
        detail: `This server does not answer to “${hostnameOf(host)}”. Start it with --allow-host to add a name.`,
      })
    }
    const changes = req.method !== 'GET' && req.method !== 'HEAD'
    if (changes && req.headers['sec-fetch-site'] === 'cross-site')
      throw new ProblemError({
        status: 403,
        title: 'Wrong origin',
        detail: 'A page from elsewhere may not change anything here.',
      })
    const { origin } = req.headers
    if (origin !== undefined && changes) {
      const from = URL.canParse(origin) ? new URL(origin).host : ''
      if (from !== host.toLowerCase()) {
        throw new ProblemError({
          status: 403,
          title: 'Wrong origin',
          detail: `A page from ${origin} may not change anything here.`,
        })
      }
    }
    next()
  }
}

/** The way out of it. */
const RESTORES = /^\/backup\/kept\/[^/]+\/restore\/?$/i

/** Nothing is said to be kept that the database could lose; what only computes or reads goes on. */
export const refuseWhileLost =
  (why: () => Refusal | null): RequestHandler =>
  (req, _res, next) => {
    const stores =
      req.method !== 'GET' &&
      req.method !== 'HEAD' &&
      !RESTORES.test(req.path) &&
      changeOf(req.method, req.path)
    const refusal = stores && why()
    if (refusal) throw new ProblemError({ status: 503, ...refusal })
    next()
  }

/** Refuses an address that is no text, such as `%ff`, in our words: the reader of static files has others. */
export const readableAddress: RequestHandler = (req, _res, next) => {
  try {
    decodeURIComponent(req.path)
  } catch {
    throw new ProblemError({
      status: 400,
      title: 'Not readable',
      detail: 'The address of the request could not be read: it holds bytes that are no text.',
    })
  }
  next()
}
