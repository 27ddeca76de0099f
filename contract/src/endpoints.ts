/** Every address of the API that takes and gives JSON: server and web read this one table. */
import { z } from 'zod'
import {
  accessStateSchema,
  codeSchema,
  devicesSchema,
  joinSchema,
  newPassphraseSchema,
  newTokenSchema,
  type Scope,
  signInSchema,
  signOutEverywhereSchema,
  tokenBodySchema,
  tokenSchema,
} from './access.ts'
import {
  chainStateSchema,
  revisionSummarySchema,
  saveChainSchema,
  solveRequestSchema,
  solveResponseSchema,
  stepSchema,
} from './api.ts'
import { attemptBodySchema, attemptSchema } from './attempt.ts'
import { backupPreviewSchema, backupStateSchema, keptCopySchema, restoredSchema } from './backup.ts'
import { chainDocumentSchema } from './chain.ts'
import {
  dutyBodySchema,
  dutyMarkBodySchema,
  dutySchema,
  offeredDutySchema,
  zoneQuerySchema,
} from './duty.ts'
import { lineSweepBodySchema, lineSweepSchema, lineSweepSummarySchema } from './lineSweep.ts'
import { liveBodySchema, liveMeterSchema } from './live.ts'
import {
  alertSchema,
  eventBodySchema,
  eventSchema,
  measurementBodySchema,
  measurementSchema,
  meterUseSchema,
  readingsPageSchema,
  readingsQuerySchema,
  roundNoteSchema,
  roundSchema,
  roundWithReadingsSchema,
  yearRowSchema,
} from './log.ts'
import {
  alreadyHereSchema,
  readingBodySchema,
  readingIdsSchema,
  readingsBodySchema,
  readingSchema,
} from './reading.ts'
import { planRequestSchema, planSchema } from './plan.ts'
import { presenceBodySchema } from './presence.ts'
import { runSaveSchema, runSchema } from './run.ts'
import {
  antennaBodySchema,
  antennaSchema,
  binEntrySchema,
  deletedStationSchema,
  gearBodySchema,
  gearSchema,
  stationBodySchema,
  stationListSchema,
  stationSchema,
  sweepSchema,
} from './station.ts'
import { idSchema } from './ids.ts'
import { newStationSchema } from './newStation.ts'
import { stationFileSchema } from './stationFile.ts'
import {
  newThingSchema,
  offeredThingSchema,
  suspectSchema,
  thingBodySchema,
  thingHistorySchema,
  thingNoteBodySchema,
  thingPlaceSchema,
  thingSchema,
  unmarkedThingSchema,
} from './thing.ts'

const nothing = z.null().describe('nothing')

/** What an address takes and gives, and what a token must be allowed for it. */
interface Endpoint {
  scope: Scope
  body?: z.ZodType
  /** What may stand behind the question mark. */
  query?: z.ZodObject
  response: z.ZodType
}

/** By method and path below /api; a part that begins with a colon is a parameter. */
export const endpoints = {
  // Stations
  'GET /stations': { scope: 'read', response: stationListSchema },
  'POST /stations': { scope: 'change', body: newStationSchema, response: stationSchema },
  'GET /stations/:stationId': { scope: 'read', response: stationSchema },
  'PUT /stations/:stationId': { scope: 'change', body: stationBodySchema, response: stationSchema },
  'DELETE /stations/:stationId': { scope: 'change', response: nothing },
  'POST /stations/:stationId/restore': { scope: 'change', response: stationSchema },
  'POST /station-files': { scope: 'change', body: stationFileSchema, response: stationSchema },
  'POST /stations/:stationId/gear': { scope: 'change', body: gearBodySchema, response: gearSchema },
  'PUT /gear/:gearId': { scope: 'change', body: gearBodySchema, response: gearSchema },
  'DELETE /gear/:gearId': { scope: 'change', response: nothing },
  'POST /gear/:gearId/restore': { scope: 'change', response: nothing },
  'POST /stations/:stationId/antennas': {
    scope: 'change',
    body: antennaBodySchema,
    response: antennaSchema,
  },
  'GET /sweeps/:sweepId': { scope: 'read', response: sweepSchema },

  // What was deleted
  'GET /stations/:stationId/bin': { scope: 'read', response: z.array(binEntrySchema) },
  'DELETE /stations/:stationId/bin': { scope: 'own', response: nothing },
  'GET /bin': { scope: 'read', response: z.array(deletedStationSchema) },
  'DELETE /bin': { scope: 'own', response: nothing },

  // Chains
  'POST /stations/:stationId/chains': {
    scope: 'change',
    body: chainDocumentSchema,
    response: chainStateSchema,
  },
  'GET /chains/:chainId': { scope: 'read', response: chainStateSchema },
  'PUT /chains/:chainId': { scope: 'change', body: saveChainSchema, response: chainStateSchema },
  'POST /chains/:chainId/undo': { scope: 'change', body: stepSchema, response: chainStateSchema },
  'POST /chains/:chainId/redo': { scope: 'change', body: stepSchema, response: chainStateSchema },
  'GET /chains/:chainId/revisions': { scope: 'read', response: z.array(revisionSummarySchema) },
  'GET /chains/:chainId/revisions/:revision': { scope: 'read', response: chainDocumentSchema },
  'DELETE /chains/:chainId': { scope: 'change', response: nothing },
  'POST /chains/:chainId/restore': { scope: 'change', response: chainStateSchema },

  // The log
  'POST /chains/:chainId/readings': {
    scope: 'enter',
    body: readingBodySchema,
    response: readingSchema,
  },
  'POST /chains/:chainId/readings/many': {
    scope: 'enter',
    body: readingsBodySchema,
    response: z.object({ added: z.int(), ids: z.array(idSchema) }),
  },
  'POST /chains/:chainId/readings/already': {
    scope: 'read',
    body: readingsBodySchema,
    response: alreadyHereSchema,
  },
  'POST /chains/:chainId/readings/delete': {
    scope: 'change',
    body: readingIdsSchema,
    response: z.object({ deleted: z.int() }),
  },
  'PUT /chains/:chainId/readings/:readingId': {
    scope: 'enter',
    body: readingBodySchema,
    response: readingSchema,
  },
  'GET /stations/:stationId/readings': {
    scope: 'read',
    query: readingsQuerySchema,
    response: readingsPageSchema,
  },
  'PUT /readings/:readingId': { scope: 'change', body: readingBodySchema, response: readingSchema },
  'DELETE /readings/:readingId': { scope: 'change', response: nothing },
  'POST /readings/:readingId/restore': { scope: 'change', response: nothing },
  'GET /chains/:chainId/rounds': { scope: 'read', response: z.array(roundSchema) },
  'GET /stations/:stationId/rounds/last': { scope: 'read', response: z.array(roundSchema) },
  'GET /rounds/:roundId': { scope: 'read', response: roundWithReadingsSchema },
  'PUT /rounds/:roundId': {
    scope: 'change',
    body: roundNoteSchema,
    response: roundWithReadingsSchema,
  },
  'GET /chains/:chainId/years/:channelId': { scope: 'read', response: z.array(yearRowSchema) },
  'GET /chains/:chainId/meters/:channelId': { scope: 'read', response: z.array(meterUseSchema) },
  'GET /stations/:stationId/alerts': { scope: 'read', response: z.array(alertSchema) },
  'GET /chains/:chainId/events': { scope: 'read', response: z.array(eventSchema) },
  'POST /events': { scope: 'change', body: eventBodySchema, response: eventSchema },
  'DELETE /events/:eventId': { scope: 'change', response: nothing },
  'POST /events/:eventId/restore': { scope: 'change', response: nothing },
  'GET /stations/:stationId/measurements': { scope: 'read', response: z.array(measurementSchema) },
  'POST /stations/:stationId/measurements': {
    scope: 'change',
    body: measurementBodySchema,
    response: measurementSchema,
  },
  'DELETE /measurements/:measurementId': { scope: 'change', response: nothing },
  'POST /measurements/:measurementId/restore': { scope: 'change', response: nothing },

  // Sweeps along a line
  'GET /chains/:chainId/line-sweeps': { scope: 'read', response: z.array(lineSweepSummarySchema) },
  'POST /chains/:chainId/line-sweeps': {
    scope: 'sweep',
    body: lineSweepBodySchema,
    response: lineSweepSummarySchema,
  },
  'PUT /chains/:chainId/line-sweeps/:sweepId': {
    scope: 'sweep',
    body: lineSweepBodySchema,
    response: lineSweepSummarySchema,
  },
  'GET /line-sweeps/:sweepId': { scope: 'read', response: lineSweepSchema },
  'DELETE /line-sweeps/:sweepId': { scope: 'change', response: nothing },
  'POST /line-sweeps/:sweepId/restore': { scope: 'change', response: nothing },

  // What the station owns
  'GET /stations/:stationId/things': { scope: 'read', response: z.array(thingSchema) },
  'GET /stations/:stationId/things/offered': {
    scope: 'read',
    response: z.array(offeredThingSchema),
  },
  'GET /stations/:stationId/things/unmarked': {
    scope: 'read',
    response: z.array(unmarkedThingSchema),
  },
  'POST /stations/:stationId/things': {
    scope: 'change',
    body: newThingSchema,
    response: thingSchema,
  },
  'PUT /things/:thingId': { scope: 'change', body: thingBodySchema, response: thingSchema },
  'DELETE /things/:thingId': { scope: 'change', response: nothing },
  'POST /things/:thingId/restore': { scope: 'change', response: nothing },
  'POST /things/:thingId/places': {
    scope: 'change',
    body: thingPlaceSchema,
    response: thingSchema,
  },
  'DELETE /things/:thingId/places/:chainId': { scope: 'change', response: thingSchema },
  'GET /things/:thingId/history': { scope: 'read', response: thingHistorySchema },
  'PUT /things/:thingId/notes/:noteId': {
    scope: 'enter',
    body: thingNoteBodySchema,
    response: thingSchema,
  },
  'DELETE /things/:thingId/notes/:noteId': { scope: 'enter', response: thingSchema },
  'GET /chains/:chainId/suspects': { scope: 'read', response: z.array(suspectSchema) },

  // What is due
  'GET /stations/:stationId/duties': {
    scope: 'read',
    query: zoneQuerySchema,
    response: z.array(dutySchema),
  },
  'GET /stations/:stationId/duties/offered': {
    scope: 'read',
    query: zoneQuerySchema,
    response: z.array(offeredDutySchema),
  },
  'POST /stations/:stationId/duties': {
    scope: 'change',
    body: dutyBodySchema,
    response: z.object({ id: idSchema }),
  },
  'POST /stations/:stationId/duties/declined': {
    scope: 'change',
    body: z.object({ shipped: z.string().min(1).max(80) }),
    response: nothing,
  },
  'PUT /duties/:dutyId': {
    scope: 'change',
    body: dutyBodySchema,
    response: z.object({ id: idSchema }),
  },
  'DELETE /duties/:dutyId': { scope: 'change', response: nothing },
  'POST /duties/:dutyId/restore': { scope: 'change', response: nothing },
  'PUT /duties/:dutyId/marks/:markId': {
    scope: 'enter',
    body: dutyMarkBodySchema,
    response: z.object({ id: idSchema }),
  },
  'DELETE /duties/:dutyId/marks/:markId': { scope: 'enter', response: nothing },

  // Runs of sheets, attempts at drills
  'GET /chains/:chainId/runs': { scope: 'read', response: z.array(runSchema) },
  'GET /runs/:runId': { scope: 'read', response: runSchema },
  'PUT /chains/:chainId/runs/:runId': { scope: 'enter', body: runSaveSchema, response: runSchema },
  'GET /stations/:stationId/attempts': { scope: 'read', response: z.array(attemptSchema) },
  'PUT /stations/:stationId/attempts/:attemptId': {
    scope: 'enter',
    body: attemptBodySchema,
    response: attemptSchema,
  },

  // Live meters, and who reads where
  'POST /live/:chainId/:plane': { scope: 'live', body: liveBodySchema, response: nothing },
  'PUT /live/:chainId/windows/:window': {
    scope: 'enter',
    body: presenceBodySchema,
    response: nothing,
  },
  'GET /live/:chainId': { scope: 'read', response: z.array(liveMeterSchema) },

  // Computing
  'POST /solve': { scope: 'read', body: solveRequestSchema, response: solveResponseSchema },
  'POST /plan': { scope: 'read', body: planRequestSchema, response: planSchema },

  // Backups: their bodies are files
  'POST /backup/preview': { scope: 'own', response: backupPreviewSchema },
  'POST /backup/restore': { scope: 'own', response: restoredSchema },
  'GET /backup/kept': { scope: 'own', response: z.array(keptCopySchema) },
  'POST /backup/kept': { scope: 'own', response: keptCopySchema },
  'GET /backup/state': { scope: 'read', response: backupStateSchema },
  'POST /backup/kept/:name/restore': { scope: 'own', response: restoredSchema },

  // Who may come in: of these a token may none.
  'GET /access': { scope: 'own', response: accessStateSchema },
  'POST /access/sign-in': { scope: 'own', body: signInSchema, response: accessStateSchema },
  'POST /access/join': { scope: 'own', body: joinSchema, response: accessStateSchema },
  'POST /access/sign-out': { scope: 'own', response: accessStateSchema },
  'POST /access/sign-out-everywhere': {
    scope: 'own',
    body: signOutEverywhereSchema,
    response: accessStateSchema,
  },
  'PUT /access/passphrase': {
    scope: 'own',
    body: newPassphraseSchema,
    response: accessStateSchema,
  },
  'GET /access/devices': { scope: 'own', response: devicesSchema },
  'DELETE /access/devices/:id': { scope: 'own', response: nothing },
  'POST /access/codes': { scope: 'own', response: codeSchema },
  'GET /access/tokens': { scope: 'own', response: z.array(tokenSchema) },
  'POST /access/tokens': { scope: 'own', body: tokenBodySchema, response: newTokenSchema },
  'DELETE /access/tokens/:id': { scope: 'own', response: nothing },
} as const satisfies Record<`${'GET' | 'POST' | 'PUT' | 'DELETE'} /${string}`, Endpoint>

export type Endpoints = typeof endpoints
export type EndpointKey = keyof Endpoints

type NamesOf<Path extends string> = Path extends `${string}:${infer Name}/${infer Rest}`
  ? Name | NamesOf<`/${Rest}`>
  : Path extends `${string}:${infer Name}`
    ? Name
    : never

/** The parameters of an address, each a text. */
export type ParamsOf<K extends EndpointKey> = Record<NamesOf<K>, string>
type PartOf<K extends EndpointKey, P extends 'body' | 'query'> = Endpoints[K] extends {
  [Q in P]: infer S extends z.ZodType
}
  ? S
  : z.ZodUndefined
export type BodyOf<K extends EndpointKey> = PartOf<K, 'body'>
export type QueryOf<K extends EndpointKey> = PartOf<K, 'query'>
export type ResponseOf<K extends EndpointKey> = Endpoints[K]['response']

/** The keys of endpoints without a body. */
export type Bodyless = {
  [K in EndpointKey]: Endpoints[K] extends { body: z.ZodType } ? never : K
}[EndpointKey]
