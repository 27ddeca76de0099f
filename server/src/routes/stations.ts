import type { Database } from '../db/open.ts'
import { deletion, fileRoute, type Route, route } from '../http/route.ts'
import { addAntenna, readSweepById } from '../store/antennas.ts'
import { emptyBin, emptyStationBin, listBin, listDeletedStations } from '../store/bin.ts'
import { readStationFile } from '../http/readStationFile.ts'
import { importStation } from '../store/stationFile.ts'
import * as store from '../store/stations.ts'
import { briefly, bringing, importing } from '../work/kinds.ts'

/** A sweep of a hundred thousand points is some 8 MB of text. */
const SWEEP_FILE_LIMIT = 32 * 1024 * 1024
/** A million readings are some 700 MB. */
const STATION_FILE_LIMIT = 2048 * 1024 * 1024

export const stationRoutes = (db: Database): Route[] => [
  route('GET /stations', {
    summary: 'All stations with their chains',
    handle: () => store.listStations(db),
  }),
  route('POST /stations', {
    summary: 'Add a station',
    status: 201,
    handle: (_, body) => store.createStation(db, body),
  }),
  route('GET /stations/:stationId', {
    summary: 'A station with its chains, gear and antennas',
    handle: ({ stationId }) => store.readStation(db, stationId),
  }),
  route('PUT /stations/:stationId', {
    summary: 'Change what is said about a station',
    handle: ({ stationId }, body) => store.updateStation(db, stationId, body),
  }),
  route('DELETE /stations/:stationId', {
    summary: 'Delete a station; it can be taken back',
    handle: async ({ stationId }) => {
      await store.setStationDeleted(db, stationId, true)
      return null
    },
  }),
  route('GET /stations/:stationId/bin', {
    work: briefly,
    summary: 'What was deleted from a station and can be taken back',
    handle: ({ stationId }) => listBin(db, stationId),
  }),
  route('DELETE /stations/:stationId/bin', {
    summary: 'Empty a station’s bin for good',
    handle: async ({ stationId }) => {
      await emptyBin(db, stationId)
      return null
    },
  }),
  route('GET /bin', {
    summary: 'The stations that were deleted',
    handle: () => listDeletedStations(db),
  }),
  route('DELETE /bin', {
    summary: 'Remove the deleted stations for good',
    handle: async () => {
      await emptyStationBin(db)
      return null
    },
  }),
  fileRoute('POST /station-files', {
    work: bringing,
    summary: 'Add the station of a file beside those that are there; nothing is replaced',
    status: 201,
    fileLimit: STATION_FILE_LIMIT,
    handle: async (_, path) => importStation(db, await readStationFile(path)),
  }),
  route('POST /stations/:stationId/restore', {
    summary: 'Take a deletion back',
    handle: async ({ stationId }) => {
      await store.setStationDeleted(db, stationId, false)
      return store.readStation(db, stationId)
    },
  }),
  route('POST /stations/:stationId/gear', {
    summary: 'Add a cable or transmitter of the station’s own',
    status: 201,
    handle: ({ stationId }, body) => store.addGear(db, stationId, body),
  }),
  route('PUT /gear/:gearId', {
    summary: 'Change a piece of gear; chains keep the copy they took',
    handle: async ({ gearId }, body) => {
      await store.updateGear(db, gearId, { body })
      return { id: gearId, ...body }
    },
  }),
  ...deletion('/gear/:gearId', 'a piece of gear', ({ gearId }, deleted) =>
    store.updateGear(db, gearId, { deleted }),
  ),
  route('POST /stations/:stationId/antennas', {
    work: importing,
    summary: 'Add an antenna with a sweep from a Touchstone one-port file',
    status: 201,
    bodyLimit: SWEEP_FILE_LIMIT,
    handle: async ({ stationId }, body) => {
      await store.readStation(db, stationId)
      return addAntenna(db, stationId, body)
    },
  }),
  route('GET /sweeps/:sweepId', {
    work: briefly,
    summary: 'The points of a sweep: complex reflection on its reference',
    handle: ({ sweepId }) => readSweepById(db, sweepId),
  }),
]
