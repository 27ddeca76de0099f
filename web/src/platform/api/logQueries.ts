/** The record: readings, rounds, events, bench sheets, alerts. */
import {
  type EventBody,
  type MeasurementBody,
  type ReadingBody,
  type ReadingsQuery,
} from '@saltline/contract'
import { keepPreviousData, queryOptions } from '@tanstack/react-query'
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

export async function addReadings(chainId: string, readings: readonly ReadingBody[]) {
  const { ids } = await call('POST /chains/:chainId/readings/many', {
    params: { chainId },
    body: { readings: [...readings] },
  })
  afterLogChanges()
  return ids
}

export async function deleteReadings(chainId: string, ids: string[]) {
  await call('POST /chains/:chainId/readings/delete', { params: { chainId }, body: { ids } })
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
