import {
  type BodyOf,
  type EndpointKey,
  endpoints,
  newId,
  type ParamsOf,
  type Problem,
  problemSchema,
  type ResponseOf,
} from '@saltline/contract'
import type { z } from 'zod'
import { FORGET, KEPT_HEADER, SEEN } from '../seen.ts'
import { address, BASE } from '../base.ts'
import { noteServerDate } from '../clock.ts'
import { browserStore } from '../storage.ts'
import { noteDamage } from './damaged.ts'
import { noteInterface } from './newer.ts'
import { noteReach } from './reach.ts'
import { noteFirst } from './firstVisit.ts'

/** What the server refused, with its problem details. */
export class ApiError extends Error {
  override readonly name = 'ApiError'
  constructor(readonly problem: Problem) {
    super(problem.detail ?? problem.title)
  }
}

/** The server did not answer at all. */
export class OfflineError extends Error {
  override readonly name = 'OfflineError'
  constructor() {
    super('The server does not answer. Check that Salt Line is still running.')
  }
}

/** Pages for those who are not in yet. */
const atTheGate = (): boolean => /^(sign-in|join)(\/|$)/.test(location.pathname.slice(BASE.length))

let leaving = false

/**
 * Somebody has to sign in, and then goes on where they were. What was typed is kept by its own drafts. Many requests may
 * be refused at once: the page leaves for the first.
 */
function toTheGate(): void {
  if (leaving || atTheGate()) return
  leaving = true
  // Somebody may stay, because of what is not sent yet.
  setTimeout(() => (leaving = false), 5000)
  location.replace(
    address(`/sign-in?to=${encodeURIComponent(location.pathname + location.search)}`),
  )
}

const OWED = 'saltline.signOut'

/** Somebody signed out while the server did not answer: it is told before anything else is asked of it. */
export const owesSignOut = {
  get: (): boolean => browserStore().getItem(OWED) !== null,
  set(owed: boolean): void {
    try {
      if (owed) browserStore().setItem(OWED, 'owed')
      else browserStore().removeItem(OWED)
    } catch {
      // Closed storage: nothing was kept here either.
    }
  },
}

/** Forgets what was kept of the station: who is signed out must not find it here. */
export async function forgetSeen(): Promise<void> {
  navigator.serviceWorker?.controller?.postMessage(FORGET)
  // Not given to pages of plain HTTP, which have nothing kept either.
  if ('caches' in globalThis) await caches.delete(SEEN)
}

/** Keeps what a save came to as though it had been asked for since: nobody finds an older state without the server. */
export function keepSeen(path: string, data: unknown): void {
  if (!('caches' in globalThis) || !navigator.serviceWorker?.controller) return
  const headers = { 'content-type': 'application/json', date: new Date().toUTCString() }
  const answer = new Response(JSON.stringify(data), { headers })
  void caches
    .open(SEEN)
    .then((seen) => seen.put(address(`/api${path}`), answer))
    .catch(() => undefined)
}

/** This window, so that it is not told of what it did itself. */
export const windowId = newId()
const ownWindow = { 'x-saltline-window': windowId }

/** A file as the body of a request. */
export const asBody = (file: Blob, type: string): RequestInit => ({
  body: file,
  headers: { 'content-type': type, ...ownWindow },
})

interface Sent<K extends EndpointKey> {
  params?: ParamsOf<K>
  query?: URLSearchParams | undefined
  body?: z.input<BodyOf<K>>
  /** Of a request whose body is a file, one that may be given up, or one that the server itself must answer. */
  init?: RequestInit
}

/** The address below /api with its parameters in place. */
const pathOf = <K extends EndpointKey>(key: K, params: ParamsOf<K>): string =>
  key
    .slice(key.indexOf(' ') + 1)
    .replace(/:(\w+)/g, (_, name: string) =>
      encodeURIComponent((params as Record<string, string>)[name]!),
    )

/**
 * The one way to talk to the server: an address of the table, what it takes, and what comes back, checked.
 *
 * @throws ApiError where the server refuses; OfflineError where it does not answer
 */
export async function call<K extends EndpointKey>(
  key: K,
  { params, query, body, init }: Sent<K> = {},
): Promise<z.output<ResponseOf<K>>> {
  const search = query ? `?${query}` : ''
  const path = pathOf(key, (params ?? {}) as ParamsOf<K>) + search
  const data = await send(key.slice(0, key.indexOf(' ')), path, body, init)
  return endpoints[key].response.parse(data) as z.output<ResponseOf<K>>
}

/** Sends JSON to an address below /api; what comes back is not looked at. */
export async function send(
  method: string,
  path: string,
  body?: unknown,
  init: RequestInit = {},
): Promise<unknown> {
  let answer: Response
  try {
    answer = await fetch(address(`/api${path}`), {
      method,
      ...(body === undefined && method !== 'GET' && { headers: ownWindow }),
      ...(body !== undefined && {
        headers: { 'content-type': 'application/json', ...ownWindow },
        body: JSON.stringify(body),
      }),
      ...init,
    })
  } catch {
    noteReach(false)
    throw new OfflineError()
  }
  // The service worker gives what was seen before, and says when, where the server does not answer.
  const kept = answer.headers.get(KEPT_HEADER)
  noteReach(kept === null, kept)
  if (kept === null) {
    noteServerDate(answer.headers.get('date'))
    noteInterface(answer.headers.get('x-saltline-interface'))
    noteDamage(answer.headers.get('x-saltline-damaged'))
  }
  const data: unknown = await answer.json().catch(() => null)
  if (answer.ok) {
    if (method === 'GET') noteFirst(address(`/api${path}`))
    return data
  }
  const problem = problemSchema.safeParse(data)
  if (answer.status === 401) {
    void forgetSeen()
    toTheGate()
  }
  throw problem.success
    ? new ApiError(problem.data)
    : new ApiError({
        type: 'about:blank',
        title: `The server answered ${answer.status}`,
        status: answer.status,
      })
}
