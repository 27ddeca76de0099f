import { newId, STATION_FILE_VERSION, type Station, type StationFile } from '@saltline/contract'
import { REFERENCE_OHM } from '@saltline/core'
import type { Database } from '../db/open.ts'
import { antennas, chainRevisions, chains, gear, stations, sweeps } from '../db/schema.ts'
import { write } from '../db/writes.ts'
import { packPoints, readSweepById } from './antennas.ts'
import { readChain } from './chains.ts'
import { readStation } from './stations.ts'

/** A station with its gear, antennas and chains as they stand. Earlier revisions stay behind. */
export async function exportStation(db: Database, stationId: string): Promise<StationFile> {
  const station = await readStation(db, stationId)
  const { name, place, note, swrLimit } = station
  return {
    format: 'saltline-station',
    version: STATION_FILE_VERSION,
    station: { name, place, note, swrLimit },
    gear: station.gear,
    antennas: await Promise.all(
      station.antennas.map(async (antenna) => ({
        id: antenna.id,
        name: antenna.name,
        note: antenna.note,
        sweeps: await Promise.all(
          antenna.sweeps.map(async ({ id }) => {
            const { name: sweepName, frequencyHz, re, im, phaseKnown } = await readSweepById(db, id)
            return { id, name: sweepName, frequencyHz, re, im, phaseKnown }
          }),
        ),
      })),
    ),
    chains: await Promise.all(
      station.chains.map(async ({ id }) => (await readChain(db, id)).document),
    ),
  }
}

/**
 * Adds the station of a file beside those that are there, under new ids; all of it or nothing. It
 * replaces nothing, so deleting the new station undoes it.
 */
export async function importStation(db: Database, file: StationFile): Promise<Station> {
  const stationId = newId()
  const at = new Date().toISOString()
  const renamed = new Map<string, string>()
  const fresh = (old: string): string => {
    const known = renamed.get(old) ?? newId()
    renamed.set(old, known)
    return known
  }
  await write(db, async (tx) => {
    await tx.insert(stations).values({ id: stationId, ...file.station, createdAt: at })
    for (const { id, ...body } of file.gear)
      await tx.insert(gear).values({ id: fresh(`gear/${id}`), stationId, body })
    for (const { id, name, note, sweeps: swept } of file.antennas) {
      const antennaId = fresh(`antenna/${id}`)
      await tx.insert(antennas).values({ id: antennaId, stationId, name, note })
      for (const { id: sweepId, name: sweepName, frequencyHz, re, im, phaseKnown } of swept) {
        await tx.insert(sweeps).values({
          id: fresh(`sweep/${sweepId}`),
          antennaId,
          name: sweepName,
          addedAt: at,
          referenceOhm: REFERENCE_OHM,
          pointCount: frequencyHz.length,
          lowHz: frequencyHz[0]!,
          highHz: frequencyHz[frequencyHz.length - 1]!,
          phaseKnown,
          points: packPoints({ frequencyHz, re, im }),
        })
      }
    }
    for (const document of file.chains) {
      const id = newId()
      const { load } = document
      const own =
        load.kind === 'antenna'
          ? {
              ...load,
              antennaId: fresh(`antenna/${load.antennaId}`),
              sweepId: fresh(`sweep/${load.sweepId}`),
            }
          : load
      await tx.insert(chains).values({ id, stationId, revision: 1, createdAt: at })
      await tx.insert(chainRevisions).values({
        chainId: id,
        revision: 1,
        parent: null,
        document: { ...document, load: own },
        summary: 'imported',
        savedAt: at,
        aside: false,
      })
    }
  })
  return readStation(db, stationId)
}
