/** Where meters send to, and where windows ask what came. */
import { idSchema, type PresenceBody } from '@saltline/contract'
import type { Database } from '../db/open.ts'
import { notFound, ProblemError } from '../http/problem.ts'
import { type Route, route } from '../http/route.ts'
import { readChain } from '../store/chains.ts'
import { invalid } from '../store/errors.ts'
import { readStation } from '../store/stations.ts'
import { type LiveMeters, MOST_A_SECOND } from './meters.ts'

/** What is remembered of a chain that meters send for. */
interface KnownChain {
  planes: number
  instruments: ReadonlySet<string>
  at: number
}

/** How long it is remembered, ms. */
const KNOWN_MS = 5000
const MOST_KNOWN = 200

export function liveRoutes(
  db: Database,
  meters: LiveMeters,
  here: (chainId: string, window: string, presence: PresenceBody) => void,
): Route[] {
  const known = new Map<string, KnownChain>()
  const knownOf = async (chainId: string): Promise<KnownChain> => {
    const before = known.get(chainId)
    if (before && Date.now() - before.at < KNOWN_MS) return before
    const { document, stationId } = await readChain(db, chainId)
    const { gear } = await readStation(db, stationId)
    const now = {
      planes: document.stages.length + 1,
      instruments: new Set(gear.filter(({ kind }) => kind === 'instrument').map(({ id }) => id)),
      at: Date.now(),
    }
    if (known.size >= MOST_KNOWN) known.clear()
    known.set(chainId, now)
    return now
  }
  return [
    route('POST /live/:chainId/:plane', {
      summary: `A figure of a live meter, up to ${MOST_A_SECOND} a second; shown, not stored`,
      here: true,
      handle: async ({ chainId, plane: text }, body) => {
        const plane = /^\d{1,3}$/.test(text) ? Number(text) : NaN
        const { planes, instruments } = await knownOf(chainId)
        if (!(plane < planes))
          throw new ProblemError({
            status: 404,
            title: 'No such plane',
            detail: `The planes of this chain are 0, at the transmitter, to ${planes - 1}, at the antenna.`,
          })
        if (body.instrumentId !== undefined && !instruments.has(body.instrumentId))
          throw invalid(
            ['instrumentId'],
            `The station has no instrument “${body.instrumentId}”. Leave it out, or take the id from the station’s gear.`,
          )
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
        await knownOf(chainId)
        if (!idSchema.safeParse(window).success) throw notFound('window')
        here(chainId, window, body)
        return null
      },
    }),
    route('GET /live/:chainId', {
      summary: 'The live meters of a chain, and their last minutes',
      handle: async ({ chainId }) => {
        await knownOf(chainId)
        return meters.of(chainId)
      },
    }),
  ]
}
