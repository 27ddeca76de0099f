import {
  antennaBodySchema,
  antennaSchema,
  binEntrySchema,
  deletedStationSchema,
  gearBodySchema,
  gearSchema,
  stationBodySchema,
  stationFileSchema,
  stationListSchema,
  stationSchema,
  sweepSchema,
} from '@saltline/contract'
import { z } from 'zod'
import type { Database } from '../db/open.ts'
import { deletion, nothing, type Route, route } from '../http/route.ts'
import { addAntenna, readSweepById } from '../store/antennas.ts'
import { emptyBin, emptyStationBin, listBin, listDeletedStations } from '../store/bin.ts'
import { importStation } from '../store/stationFile.ts'
import * as store from '../store/stations.ts'
import { briefly, importing } from '../work/kinds.ts'

/** A sweep of a hundred thousand points is some 8 MB of text. */
const SWEEP_FILE_LIMIT = 32 * 1024 * 1024
const STATION_FILE_LIMIT = 64 * 1024 * 1024

export const stationRoutes = (db: Database): Route[] => [
  route({
    method: 'get',
    path: '/stations',
    summary: 'All stations with their chains',
    response: stationListSchema,
    handle: () => store.listStations(db),
  }),
  route({
    method: 'post',
    path: '/stations',
    summary: 'Add a station',
    body: stationBodySchema,
    response: stationSchema,
    status: 201,
    handle: (_, body) => store.createStation(db, body),
  }),
  route({
    method: 'get',
    path: '/stations/:stationId',
    summary: 'A station with its chains, gear and antennas',
    response: stationSchema,
    handle: ({ stationId }) => store.readStation(db, stationId!),
  }),
  route({
    method: 'put',
    path: '/stations/:stationId',
    summary: 'Change what is said about a station',
    body: stationBodySchema,
    response: stationSchema,
    handle: ({ stationId }, body) => store.updateStation(db, stationId!, body),
  }),
  route({
    method: 'delete',
    path: '/stations/:stationId',
    summary: 'Delete a station; it can be taken back',
    response: nothing,
    handle: async ({ stationId }) => {
      await store.setStationDeleted(db, stationId!, true)
      return null
    },
  }),
  route({
    method: 'get',
    path: '/stations/:stationId/bin',
    work: briefly,
    summary: 'What was deleted from a station and can be taken back',
    response: z.array(binEntrySchema),
    handle: ({ stationId }) => listBin(db, stationId!),
  }),
  route({
    method: 'delete',
    path: '/stations/:stationId/bin',
    summary: 'Empty a station’s bin for good',
    response: nothing,
    handle: async ({ stationId }) => {
      await emptyBin(db, stationId!)
      return null
    },
  }),
  route({
    method: 'get',
    path: '/bin',
    summary: 'The stations that were deleted',
    response: z.array(deletedStationSchema),
    handle: () => listDeletedStations(db),
  }),
  route({
    method: 'delete',
    path: '/bin',
    summary: 'Remove the deleted stations for good',
    response: nothing,
    handle: async () => {
      await emptyStationBin(db)
      return null
    },
  }),
  route({
    method: 'post',
    path: '/station-files',
    work: importing,
    summary: 'Add the station of a file beside those that are there; nothing is replaced',
    body: stationFileSchema,
    response: stationSchema,
    status: 201,
    bodyLimit: STATION_FILE_LIMIT,
    handle: (_, file) => importStation(db, file),
  }),
  route({
    method: 'post',
    path: '/stations/:stationId/restore',
    summary: 'Take a deletion back',
    response: stationSchema,
    handle: async ({ stationId }) => {
      await store.setStationDeleted(db, stationId!, false)
      return store.readStation(db, stationId!)
    },
  }),
  route({
    method: 'post',
    path: '/stations/:stationId/gear',
    summary: 'Add a cable or transmitter of the station’s own',
    body: gearBodySchema,
    response: gearSchema,
    status: 201,
    handle: ({ stationId }, body) => store.addGear(db, stationId!, body),
  }),
  route({
    method: 'put',
    path: '/gear/:gearId',
    summary: 'Change a piece of gear; chains keep the copy they took',
    body: gearBodySchema,
    response: gearSchema,
    handle: async ({ gearId }, body) => {
      await store.updateGear(db, gearId!, { body })
      return { id: gearId!, ...body }
    },
  }),
  ...deletion('/gear/:gearId', 'a piece of gear', ({ gearId }, deleted) =>
    store.updateGear(db, gearId!, { deleted }),
  ),
  route({
    method: 'post',
    path: '/stations/:stationId/antennas',
    work: importing,
    summary: 'Add an antenna with a sweep from a Touchstone one-port file',
    body: antennaBodySchema,
    response: antennaSchema,
    status: 201,
    bodyLimit: SWEEP_FILE_LIMIT,
    handle: async ({ stationId }, body) => {
      await store.readStation(db, stationId!)
      return addAntenna(db, stationId!, body)
    },
  }),
  route({
    method: 'get',
    path: '/sweeps/:sweepId',
    work: briefly,
    summary: 'The points of a sweep: complex reflection on its reference',
    response: sweepSchema,
    handle: ({ sweepId }) => readSweepById(db, sweepId!),
  }),
]
