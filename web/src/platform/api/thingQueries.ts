/** The register of what the station owns. */
import type { PlaceOfThing, ThingBody } from '@saltline/contract'
import { queryOptions } from '@tanstack/react-query'
import { call } from './client.ts'
import { chainsChanged } from './changes.ts'
import { queryClient } from './queries.ts'
import { everySave } from './saves.ts'

export const thingsQuery = (stationId: string) =>
  queryOptions({
    queryKey: ['things', stationId],
    queryFn: async () => {
      await everySave()
      return call('GET /stations/:stationId/things', { params: { stationId } })
    },
    // Any edit of a chain may have made it differ.
    staleTime: 0,
  })

export const offeredThingsQuery = (stationId: string) =>
  queryOptions({
    queryKey: ['things', 'offered', stationId],
    queryFn: async () => {
      await everySave()
      return call('GET /stations/:stationId/things/offered', { params: { stationId } })
    },
    staleTime: 0,
  })

export const unmarkedThingsQuery = (stationId: string) =>
  queryOptions({
    queryKey: ['things', 'unmarked', stationId],
    queryFn: async () => {
      await everySave()
      return call('GET /stations/:stationId/things/unmarked', { params: { stationId } })
    },
    staleTime: 0,
  })

/** Of the log: a reading or a bench sheet adds to it. */
export const thingHistoryQuery = (thingId: string) =>
  queryOptions({
    queryKey: ['log', 'thing', thingId],
    queryFn: () => call('GET /things/:thingId/history', { params: { thingId } }),
  })

/** Stages whose thing lost more than it should in another chain. */
export const suspectsQuery = (chainId: string) =>
  queryOptions({
    queryKey: ['log', 'suspects', chainId],
    queryFn: () => call('GET /chains/:chainId/suspects', { params: { chainId } }),
  })

async function afterThingsChange(): Promise<void> {
  await queryClient.invalidateQueries({ queryKey: ['things'] })
  await queryClient.invalidateQueries({ queryKey: ['bin'] })
  // Duties name things, and wait in the bin with theirs.
  await queryClient.invalidateQueries({ queryKey: ['log'] })
}

/** The chains that it stands in have another revision too. */
async function afterChainsChange(): Promise<void> {
  chainsChanged()
  await afterThingsChange()
}

export async function addThing(
  stationId: string,
  body: ThingBody & { places: PlaceOfThing[] },
): Promise<string> {
  const { id } = await call('POST /stations/:stationId/things', { params: { stationId }, body })
  await (body.places.length > 0 ? afterChainsChange() : afterThingsChange())
  return id
}

export async function changeThing(thingId: string, body: ThingBody): Promise<void> {
  await call('PUT /things/:thingId', { params: { thingId }, body })
  await afterChainsChange()
}

export async function deleteThing(thingId: string): Promise<void> {
  await call('DELETE /things/:thingId', { params: { thingId } })
  await afterThingsChange()
}

export async function restoreThing(thingId: string): Promise<void> {
  await call('POST /things/:thingId/restore', { params: { thingId } })
  await afterThingsChange()
}

/** @param moved it is gone from every other chain */
export async function placeThing(
  thingId: string,
  place: PlaceOfThing,
  moved = false,
): Promise<void> {
  await call('POST /things/:thingId/places', { params: { thingId }, body: { ...place, moved } })
  await afterChainsChange()
}

export async function unplaceThing(thingId: string, chainId: string): Promise<void> {
  await call('DELETE /things/:thingId/places/:chainId', { params: { thingId, chainId } })
  await afterChainsChange()
}

export async function removeNoteOnThing(thingId: string, noteId: string): Promise<void> {
  await call('DELETE /things/:thingId/notes/:noteId', { params: { thingId, noteId } })
  await afterThingsChange()
}
