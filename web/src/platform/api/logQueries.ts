/** The record: readings, rounds, events, bench sheets, alerts. */
import {
  type EventBody,
  type ImportedReading,
  type MeasurementBody,
  type ReadingBody,
  type ReadingsQuery,
} from '@saltline/contract'
import { keepPreviousData, queryOptions } from '@tanstack/react-query'
import { errorText } from '../errorText.ts'
import { call, send } from './client.ts'
import { lookAgain } from './changes.ts'
import { queryClient } from './queries.ts'

export const roundsQuery = (chainId: string) =>
  queryOptions({
    queryKey: ['log', 'rounds', chainId],
    queryFn: () => call('GET /chains/:chainId/rounds', { params: { chainId } }),
    refetchInterval: lookAgain,
  })

/** The newest measurement session of each chain of a station. */
export const lastRoundsQuery = (stationId: string) =>
  queryOptions({
    queryKey: ['log', 'last rounds', stationId],
    queryFn: () => call('GET /stations/:stationId/rounds/last', { params: { stationId } }),
  })

export const roundQuery = (roundId: string | undefined) =>
  queryOptions({
    queryKey: ['log', 'round', roundId],
    queryFn: () => call('GET /rounds/:roundId', { params: { roundId: roundId! } }),
    enabled: roundId !== undefined,
    refetchInterval: lookAgain,
  })

export const readingsQuery = (stationId: string, query: ReadingsQuery) => {
  const filled = Object.entries(query).filter(([, value]) => value !== undefined && value !== '')
  const search = new URLSearchParams(filled.map(([key, value]) => [key, String(value)]))
  return queryOptions({
    queryKey: ['log', 'page', stationId, search.toString()],
    queryFn: () =>
      call('GET /stations/:stationId/readings', { params: { stationId }, query: search }),
    placeholderData: keepPreviousData,
  })
}

export const yearsQuery = (chainId: string, channelId: string) =>
  queryOptions({
    queryKey: ['log', 'years', chainId, channelId],
    queryFn: () =>
      call('GET /chains/:chainId/years/:channelId', { params: { chainId, channelId } }),
  })

export const meterUsesQuery = (chainId: string, channelId: string) =>
  queryOptions({
    queryKey: ['log', 'meters', chainId, channelId],
    queryFn: () =>
      call('GET /chains/:chainId/meters/:channelId', { params: { chainId, channelId } }),
  })

export const eventsQuery = (chainId: string) =>
  queryOptions({
    queryKey: ['log', 'events', chainId],
    queryFn: () => call('GET /chains/:chainId/events', { params: { chainId } }),
  })

export const alertsQuery = (stationId: string) =>
  queryOptions({
    queryKey: ['log', 'alerts', stationId],
    queryFn: () => call('GET /stations/:stationId/alerts', { params: { stationId } }),
  })

export const measurementsQuery = (stationId: string) =>
  queryOptions({
    queryKey: ['log', 'measurements', stationId],
    queryFn: () => call('GET /stations/:stationId/measurements', { params: { stationId } }),
  })

/** Marks everything of the log as out of date; what is shown is fetched again in the background. */
function afterLogChanges(): void {
  void queryClient.invalidateQueries({ queryKey: ['log'] })
  void queryClient.invalidateQueries({ queryKey: ['bin'] })
}

export async function correctReading(id: string, body: ReadingBody) {
  const reading = await call('PUT /readings/:readingId', { params: { readingId: id }, body })
  afterLogChanges()
  return reading
}

/** Readings of one chain on their way in or out. */
export interface OfChain<T> {
  chainId: string
  items: T[]
}

/** How many readings go in one request. */
const PART = 5000

const parts = <T>(groups: readonly OfChain<T>[]): OfChain<T>[] =>
  groups.flatMap(({ chainId, items }) =>
    Array.from({ length: Math.ceil(items.length / PART) }, (_, i) => ({
      chainId,
      items: items.slice(i * PART, (i + 1) * PART),
    })),
  )

/**
 * Keeps readings of one or several chains: all of them or none.
 *
 * @param onProgress how many are kept so far
 * @returns their ids, by chain
 */
export async function addReadings(
  groups: readonly OfChain<ImportedReading>[],
  onProgress: (count: number) => void = () => undefined,
): Promise<OfChain<string>[]> {
  const added: OfChain<string>[] = []
  let count = 0
  try {
    for (const { chainId, items } of parts(groups)) {
      const { ids } = await call('POST /chains/:chainId/readings/many', {
        params: { chainId },
        body: { readings: items },
      })
      added.push({ chainId, items: ids })
      onProgress((count += ids.length))
    }
  } catch (error) {
    await takenBack(added, count, error)
    throw error
  }
  afterLogChanges()
  return added
}

/** @throws Error that says what stays, where the server does not take it back either */
async function takenBack(added: readonly OfChain<string>[], count: number, why: unknown) {
  try {
    await deleteReadings(added)
  } catch {
    throw new Error(
      `${errorText(why)} ${count} of them were saved and could not be taken back. Import the same table again later: those are skipped.`,
      { cause: why },
    )
  }
}

/** Of each reading whether the log has it already, by chain and in order. */
export async function alreadyHere(
  groups: readonly OfChain<ImportedReading>[],
): Promise<Map<string, Set<number>>> {
  const found = new Map<string, Set<number>>()
  const before = new Map<string, number>()
  for (const { chainId, items } of parts(groups)) {
    const { already } = await call('POST /chains/:chainId/readings/already', {
      params: { chainId },
      body: { readings: items },
    })
    const from = before.get(chainId) ?? 0
    before.set(chainId, from + items.length)
    const own = found.get(chainId) ?? new Set()
    already.forEach((i) => own.add(from + i))
    found.set(chainId, own)
  }
  return found
}

export async function deleteReadings(groups: readonly OfChain<string>[]) {
  for (const { chainId, items } of parts(groups))
    await call('POST /chains/:chainId/readings/delete', {
      params: { chainId },
      body: { ids: items },
    })
  afterLogChanges()
}

export type Deletable = 'readings' | 'events' | 'measurements'

export async function removeFromLog(kind: Deletable, id: string) {
  await send('DELETE', `/${kind}/${id}`)
  afterLogChanges()
}

export async function putBackIntoLog(kind: Deletable, id: string) {
  await send('POST', `/${kind}/${id}/restore`)
  afterLogChanges()
}

export async function noteRound(roundId: string, note: string) {
  await call('PUT /rounds/:roundId', { params: { roundId }, body: { note } })
  afterLogChanges()
}

export async function addEvent(body: EventBody) {
  await call('POST /events', { body })
  afterLogChanges()
}

export async function keepMeasurement(stationId: string, body: MeasurementBody) {
  const kept = await call('POST /stations/:stationId/measurements', { params: { stationId }, body })
  afterLogChanges()
  return kept
}
