import {
  type AntennaBody,
  type BinEntry,
  type ChainDocument,
  type GearBody,
  type StationBody,
} from '@saltline/contract'
import type { SweepLoad } from '@saltline/core'
import { QueryClient, queryOptions } from '@tanstack/react-query'
import { everySave, onSave, savesOf } from './saves.ts'
import { asBody, call, send } from './client.ts'

export const queryClient = new QueryClient({
  defaultOptions: {
    // The server may be on this very machine: what the browser thinks of its network says nothing.
    queries: { staleTime: 5_000, retry: 1, networkMode: 'always' },
  },
})

/** What tells of chains: asked for again by the next page that shows it, once an edit of this window is saved. */
onSave(() => {
  for (const queryKey of [['station'], ['stations'], ['things'], ['chain-read']])
    void queryClient.invalidateQueries({ queryKey, refetchType: 'none' })
})

export const stationsQuery = queryOptions({
  queryKey: ['stations'],
  queryFn: async () => {
    await everySave()
    return call('GET /stations')
  },
})

export const stationQuery = (stationId: string) =>
  queryOptions({
    queryKey: ['station', stationId],
    queryFn: async () => {
      await everySave()
      return call('GET /stations/:stationId', { params: { stationId } })
    },
  })

export const chainQuery = (chainId: string) =>
  queryOptions({
    queryKey: ['chain', chainId],
    queryFn: async () => {
      // A page that opens right behind an edit shows that edit.
      await savesOf(chainId)
      return call('GET /chains/:chainId', { params: { chainId } })
    },
    // The editor holds the chain from here on; it looks again when the window comes to the front.
    staleTime: Infinity,
    gcTime: 0,
  })

/** The chain as the server has it now, for pages that print it: never what another page held. */
export const chainOnPaperQuery = (chainId: string) =>
  queryOptions({ ...chainQuery(chainId), queryKey: ['chain on paper', chainId], staleTime: 0 })

/** A sweep never changes: a new measurement is a new sweep. */
export const sweepQuery = (sweepId: string | undefined) =>
  queryOptions({
    queryKey: ['sweep', sweepId],
    queryFn: async (): Promise<SweepLoad> => {
      const { frequencyHz, re, im, phaseKnown } = await call('GET /sweeps/:sweepId', {
        params: { sweepId: sweepId! },
      })
      return {
        kind: 'sweep',
        frequencyHz: Float64Array.from(frequencyHz),
        re: Float64Array.from(re),
        im: Float64Array.from(im),
        phaseUnknown: !phaseKnown,
      }
    },
    enabled: sweepId !== undefined,
    staleTime: Infinity,
  })

export const revisionsQuery = (chainId: string, current: number) =>
  queryOptions({
    queryKey: ['revisions', chainId, current],
    queryFn: () => call('GET /chains/:chainId/revisions', { params: { chainId } }),
  })

/** A chain as it was; a revision never changes. */
export const revisionQuery = (chainId: string, revision: number | null) =>
  queryOptions({
    queryKey: ['revision', chainId, revision],
    queryFn: () => readRevision(chainId, revision!),
    enabled: revision !== null,
    staleTime: Infinity,
  })

export const readRevision = (chainId: string, revision: number): Promise<ChainDocument> =>
  call('GET /chains/:chainId/revisions/:revision', {
    params: { chainId, revision: String(revision) },
  })

const afterListsChange = () =>
  queryClient.invalidateQueries({
    predicate: ({ queryKey }) => /^(stations?|bin)$/.test(String(queryKey[0])),
  })

export async function createChain(stationId: string, document: ChainDocument) {
  const chain = await call('POST /stations/:stationId/chains', {
    params: { stationId },
    body: document,
  })
  await afterListsChange()
  return chain
}

export async function deleteChain(chainId: string) {
  await call('DELETE /chains/:chainId', { params: { chainId } })
  await afterListsChange()
}

export async function restoreChain(chainId: string) {
  const chain = await call('POST /chains/:chainId/restore', { params: { chainId } })
  await afterListsChange()
  return chain
}

/** A station, and the chain that it begins with: both or neither. */
export async function createStation(
  body: Partial<StationBody> & { name: string; chain?: ChainDocument },
) {
  const station = await call('POST /stations', { body })
  await afterListsChange()
  return station
}

/** @param file the station file as it lies on the disk: it is sent piece by piece */
export async function importStation(file: Blob) {
  const station = await call('POST /station-files', { init: asBody(file, 'application/json') })
  await afterListsChange()
  return station
}

export async function deleteStation(stationId: string) {
  await call('DELETE /stations/:stationId', { params: { stationId } })
  await afterListsChange()
}

export async function updateStation(stationId: string, body: StationBody) {
  await call('PUT /stations/:stationId', { params: { stationId }, body })
  await afterListsChange()
}

export async function restoreStation(stationId: string) {
  await call('POST /stations/:stationId/restore', { params: { stationId } })
  await afterListsChange()
}

export const binQuery = (stationId: string) =>
  queryOptions({
    queryKey: ['bin', stationId],
    queryFn: () => call('GET /stations/:stationId/bin', { params: { stationId } }),
  })

export const deletedStationsQuery = queryOptions({
  queryKey: ['bin'],
  queryFn: () => call('GET /bin'),
})

export async function emptyBin(stationId: string) {
  await call('DELETE /stations/:stationId/bin', { params: { stationId } })
  await afterListsChange()
}

export async function emptyStationBin() {
  await call('DELETE /bin')
  await afterListsChange()
}

const binPaths: Record<BinEntry['kind'], string> = {
  chain: 'chains',
  reading: 'readings',
  gear: 'gear',
  event: 'events',
  'bench sheet': 'measurements',
  duty: 'duties',
  thing: 'things',
  sweep: 'line-sweeps',
}

export async function restoreFromBin({ kind, id }: BinEntry) {
  await send('POST', `/${binPaths[kind]}/${id}/restore`)
  await afterListsChange()
  await queryClient.invalidateQueries({ queryKey: ['log'] })
}

export async function addGear(stationId: string, body: GearBody) {
  const gear = await call('POST /stations/:stationId/gear', { params: { stationId }, body })
  await afterListsChange()
  return gear
}

export async function updateGear(gearId: string, body: GearBody) {
  await call('PUT /gear/:gearId', { params: { gearId }, body })
  await afterListsChange()
}

export async function deleteGear(gearId: string) {
  await call('DELETE /gear/:gearId', { params: { gearId } })
  await afterListsChange()
}

export async function restoreGear(gearId: string) {
  await call('POST /gear/:gearId/restore', { params: { gearId } })
  await afterListsChange()
}

export async function addAntenna(stationId: string, body: AntennaBody) {
  const antenna = await call('POST /stations/:stationId/antennas', { params: { stationId }, body })
  await afterListsChange()
  return antenna
}
