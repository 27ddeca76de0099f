/** What a token has to be allowed, by method and address below /api. */
import { endpoints, isOfOneChain, type Scope } from '@saltline/contract'

/** Addresses that give files or streams, and stand in no table. */
const files: Readonly<Record<string, Scope>> = {
  'GET /stations/:stationId/log.csv': 'read',
  'GET /stations/:stationId/log.json': 'read',
  'GET /stations/:stationId/file': 'read',
  'GET /stations/:stationId/calendar.ics': 'calendar',
  'GET /changes': 'read',
  'GET /openapi.json': 'read',
  'GET /schema/station.json': 'read',
  'GET /backup': 'own',
}

const patterns = [
  ...Object.entries(endpoints).map(([key, { scope }]) => [key, scope] as const),
  ...Object.entries(files),
].map(([key, scope]) => ({
  // Addresses are found whatever the case of their letters, and with a slash at their end.
  pattern: new RegExp(`^${key.replace(/:\w+/g, '[^/]+')}/?$`, 'i'),
  scope,
}))

/** An address that nobody has decided on asks for everything. */
export function scopeNeeded(method: string, path: string): Scope {
  const key = `${method === 'HEAD' ? 'GET' : method} ${path}`
  return patterns.find(({ pattern }) => pattern.test(key))?.scope ?? 'own'
}

/** Each scope with what it holds. */
const holds: Readonly<Record<Scope, readonly Scope[]>> = {
  live: ['live'],
  sweep: ['sweep'],
  calendar: ['calendar'],
  read: ['read', 'calendar'],
  enter: ['read', 'calendar', 'enter', 'live', 'sweep'],
  change: ['read', 'calendar', 'enter', 'live', 'sweep', 'change'],
  own: ['read', 'calendar', 'enter', 'live', 'sweep', 'change', 'own'],
}

/** What a token holds, and the one chain that it is for, if any. */
export interface Allowed {
  scope: Scope
  chainId?: string | undefined
}

/** Whether a token may do what an address asks for. */
export function allows({ scope, chainId }: Allowed, method: string, path: string): boolean {
  if (!holds[scope].includes(scopeNeeded(method, path))) return false
  if (!isOfOneChain(scope) || chainId === undefined) return true
  return /^\/(?:live|chains)\/([^/]+)\//i.exec(path)?.[1] === chainId
}

const words: Readonly<Record<Scope, string>> = {
  live: 'send live figures',
  sweep: 'send sweeps of an analyser',
  calendar: 'read the calendar of what is due',
  read: 'read',
  enter: 'read and enter readings',
  change: 'read and change the record',
  own: 'do everything',
}

/** Why not, in words. */
export const refusal = ({ scope, chainId }: Allowed, method: string, path: string): string =>
  `This token may only ${words[scope]}${chainId === undefined ? '' : ' of one chain'}; this asks for one that may ${words[scopeNeeded(method, path)]}.`
