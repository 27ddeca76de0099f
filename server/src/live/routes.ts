/** Where meters send to, and where windows ask what came. */
import { idSchema, type PresenceBody } from '@saltline/contract'
import type { Database } from '../db/open.ts'
import { notFound, ProblemError } from '../http/problem.ts'
import { type Route, route } from '../http/route.ts'
import { readChain } from '../store/chains.ts'
import { type LiveMeters, MOST_A_SECOND } from './meters.ts'

/** How long it is remembered how many planes a chain has, ms. */
const KNOWN_MS = 5000
const MOST_KNOWN = 200

export function liveRoutes(
  db: Database,
  meters: LiveMeters,
  here: (chainId: string, window: string, presence: PresenceBody) => void,
): Route[] {
  const known = new Map<string, { planes: number; at: number }>()
  const planesOf = async (chainId: string): Promise<number> => {
    const before = known.get(chainId)
    if (before && Date.now() - before.at < KNOWN_MS) return before.planes
    const { document } = await readChain(db, chainId)
    const planes = document.stages.length + 1
    if (known.size >= MOST_KNOWN) known.clear()
    known.set(chainId, { planes, at: Date.now() })
    return planes
  }
  return [
    route('POST /live/:chainId/:plane', {
      summary: `A figure of a live meter, up to ${MOST_A_SECOND} a second; shown, not stored`,
      here: true,
      handle: async ({ chainId, plane: text }, body) => {
        const plane = /^\d{1,3}$/.test(text) ? Number(text) : NaN
        const planes = await planesOf(chainId)
        if (!(plane < planes)) throw notFound(`plane of this chain; it has 0 to ${planes - 1}`)
        if (!meters.take(chainId, plane, body))
          throw new ProblemError({
            status: 429,
            title: 'Too often',
            detail: `A meter may send ${MOST_A_SECOND} figures a second.`,
          })
        return null
      },
    }),
    route('PUT /live/:chainId/windows/:window', {
      summary:
        'Where a window reads, for those who read at the other end; forgotten when it closes',
      here: true,
      handle: async ({ chainId, window }, body) => {
        await planesOf(chainId)
        if (!idSchema.safeParse(window).success) throw notFound('window')
        here(chainId, window, body)
        return null
      },
    }),
    route('GET /live/:chainId', {
      summary: 'The live meters of a chain, and their last minutes',
      handle: async ({ chainId }) => {
        await planesOf(chainId)
        return meters.of(chainId)
      },
    }),
  ]
}
