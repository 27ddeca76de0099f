/** What a token has to be allowed, by method and address below /api. */
import type { Scope } from '@saltline/contract'

/** What readings, runs and attempts are entered by. */
const ENTERING: readonly [method: string, path: RegExp][] = [
  ['POST', /^\/chains\/[^/]+\/readings(\/many)?$/],
  ['PUT', /^\/chains\/[^/]+\/(readings|runs)\/[^/]+$/],
  ['POST', /^\/live\/[^/]+\/[^/]+$/],
  ['PUT', /^\/live\/[^/]+\/windows\/[^/]+$/],
  ['PUT', /^\/stations\/[^/]+\/attempts\/[^/]+$/],
]

/** What computes and changes nothing. */
const COMPUTING = /^\/(solve|plan)$/

/** A backup holds everything, the bin too. */
const WHOLE = /^\/backup(\/|$)/

export function scopeNeeded(method: string, address: string): Scope {
  // Addresses are found whatever the case of their letters.
  const path = address.toLowerCase()
  if (WHOLE.test(path)) return 'everything'
  if (method === 'GET' || method === 'HEAD') return 'read'
  if (COMPUTING.test(path)) return 'read'
  return ENTERING.some(([own, entry]) => own === method && entry.test(path))
    ? 'enter'
    : 'everything'
}

const ORDER: readonly Scope[] = ['read', 'enter', 'everything']

export const allows = (has: Scope, needed: Scope): boolean =>
  ORDER.indexOf(has) >= ORDER.indexOf(needed)
