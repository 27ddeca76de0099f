/** Opens the interface where the server does not answer, with what this browser has seen of the record. */
import type { WorkboxPlugin } from 'workbox-core'
import { ExpirationPlugin } from 'workbox-expiration'
import { cleanupOutdatedCaches, matchPrecache, precache } from 'workbox-precaching'
import { NavigationRoute, registerRoute } from 'workbox-routing'
import { CacheFirst, NetworkFirst } from 'workbox-strategies'
import { FORGET, KEPT_HEADER, SEEN } from '../src/platform/seen.ts'
import { Forgetting } from './forgetting.ts'

declare const self: ServiceWorkerGlobalScope
/** The files of the interface, written in when it is built. */
declare const FILES: { url: string; revision: string | null }[]

/** So many answers are kept, for so long. */
const MOST = 400
const MOST_S = 30 * 86_400
/** A network that does not answer by then is taken for none, s. */
const PATIENCE_S = 4

/** What is never kept: streams, files, who may in, the whole database. */
const NEVER = /^\/api\/(changes|live|access|backup|health|openapi|schema)|\.\w+$|\/file$/

/** Its callbacks are optional in a way that the types of plugins do not know. */
const atMost = (limits: { maxEntries: number; maxAgeSeconds?: number }): WorkboxPlugin =>
  new ExpirationPlugin(limits) as WorkboxPlugin

/** The path that all of Salt Line lies below, with a slash at its end. */
const base = new URL('.', self.location.href).pathname
/** A path below it, as it is on a host of its own. */
const within = ({ pathname }: URL): string => `/${pathname.slice(base.length)}`

void self.skipWaiting()
self.addEventListener('activate', (event) => event.waitUntil(self.clients.claim()))
precache(FILES)
cleanupOutdatedCaches()

// The names of assets change with what is in them.
registerRoute(
  ({ url, sameOrigin }) => sameOrigin && within(url).startsWith('/assets/'),
  async ({ request, event }) =>
    (await matchPrecache(request.url)) ??
    new CacheFirst({
      cacheName: 'saltline-assets',
      plugins: [atMost({ maxEntries: 200 })],
    }).handle({ request, event: event }),
)
registerRoute(
  ({ url, sameOrigin }) => sameOrigin && /^\/(theme\.js|mark\.svg|manifest)/.test(within(url)),
  async ({ request }) => {
    try {
      return await fetch(request)
    } catch {
      return (await matchPrecache(request.url)) ?? Response.error()
    }
  },
)

// A page of the server, which is never older than its API, before one that was kept.
const pageOfServer = new NetworkFirst({
  cacheName: 'saltline-page',
  networkTimeoutSeconds: PATIENCE_S,
  // Every address has the same page.
  plugins: [{ cacheKeyWillBeUsed: () => Promise.resolve(`${base}index.html`) }],
})
registerRoute(
  new NavigationRoute(
    async (options) => {
      try {
        return await pageOfServer.handle(options)
      } catch {
        return (await matchPrecache('index.html')) ?? Response.error()
      }
    },
    // Of the server itself, not of the interface.
    { denylist: [new RegExp(`^${base}(api|docs)/`)] },
  ),
)

const forgetting = new Forgetting()
self.addEventListener('message', ({ data }) => {
  if (data === FORGET) forgetting.forget()
})

registerRoute(
  ({ url, sameOrigin, request }) =>
    sameOrigin &&
    within(url).startsWith('/api/') &&
    !NEVER.test(within(url)) &&
    request.cache !== 'no-store',
  new NetworkFirst({
    cacheName: SEEN,
    networkTimeoutSeconds: PATIENCE_S,
    plugins: [
      forgetting.plugin,
      atMost({ maxEntries: MOST, maxAgeSeconds: MOST_S }),
      {
        cachedResponseWillBeUsed: ({ cachedResponse }) => Promise.resolve(dated(cachedResponse)),
      },
    ],
  }),
)

/** A kept answer says when it was fetched, so that it is not taken for a new one. */
function dated(kept: Response | undefined): Response | null {
  if (!kept) return null
  const headers = new Headers(kept.headers)
  const at = new Date(kept.headers.get('date') ?? 0)
  headers.set(KEPT_HEADER, at.toISOString())
  return new Response(kept.body, { status: kept.status, headers })
}
