/** Every address of the API that takes and gives JSON: server and web read this one table. */
import { z } from 'zod'
import {
  accessStateSchema,
  codeSchema,
  joinSchema,
  newTokenSchema,
  signInSchema,
  tokenBodySchema,
  tokenSchema,
} from './access.ts'
import {
  chainStateSchema,
  healthSchema,
  revisionSummarySchema,
  saveChainSchema,
  solveRequestSchema,
  solveResponseSchema,
  stepSchema,
} from './api.ts'
import { attemptBodySchema, attemptSchema } from './attempt.ts'
import { backupPreviewSchema, keptCopySchema, restoredSchema } from './backup.ts'
import { chainDocumentSchema } from './chain.ts'
import { liveBodySchema, liveMeterSchema } from './live.ts'
import {
  alertSchema,
  eventBodySchema,
  eventSchema,
  measurementBodySchema,
  measurementSchema,
  meterUseSchema,
  readingBodySchema,
  readingSchema,
  readingsBodySchema,
  readingsPageSchema,
  readingsQuerySchema,
  roundNoteSchema,
  roundSchema,
  roundWithReadingsSchema,
  yearRowSchema,
} from './log.ts'
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
import { stationFileSchema } from './stationFile.ts'

const nothing = z.null().describe('nothing')

/** What an address takes and gives. */
interface Endpoint {
  body?: z.ZodType
  /** What may stand behind the question mark. */
  query?: z.ZodObject
  response: z.ZodType
}

/** By method and path below /api; a part that begins with a colon is a parameter. */
export const endpoints = {
  // Stations
  'GET /stations': { response: stationListSchema },
  'POST /stations': { body: stationBodySchema, response: stationSchema },
  'GET /stations/:stationId': { response: stationSchema },
  'PUT /stations/:stationId': { body: stationBodySchema, response: stationSchema },
  'DELETE /stations/:stationId': { response: nothing },
  'POST /stations/:stationId/restore': { response: stationSchema },
  'POST /station-files': { body: stationFileSchema, response: stationSchema },
  'POST /stations/:stationId/gear': { body: gearBodySchema, response: gearSchema },
  'PUT /gear/:gearId': { body: gearBodySchema, response: gearSchema },
  'DELETE /gear/:gearId': { response: nothing },
  'POST /gear/:gearId/restore': { response: nothing },
  'POST /stations/:stationId/antennas': { body: antennaBodySchema, response: antennaSchema },
  'GET /sweeps/:sweepId': { response: sweepSchema },

  // What was deleted
  'GET /stations/:stationId/bin': { response: z.array(binEntrySchema) },
  'DELETE /stations/:stationId/bin': { response: nothing },
  'GET /bin': { response: z.array(deletedStationSchema) },
  'DELETE /bin': { response: nothing },

  // Chains
  'POST /stations/:stationId/chains': { body: chainDocumentSchema, response: chainStateSchema },
  'GET /chains/:chainId': { response: chainStateSchema },
  'PUT /chains/:chainId': { body: saveChainSchema, response: chainStateSchema },
  'POST /chains/:chainId/undo': { body: stepSchema, response: chainStateSchema },
  'POST /chains/:chainId/redo': { body: stepSchema, response: chainStateSchema },
  'GET /chains/:chainId/revisions': { response: z.array(revisionSummarySchema) },
  'GET /chains/:chainId/revisions/:revision': { response: chainDocumentSchema },
  'DELETE /chains/:chainId': { response: nothing },
  'POST /chains/:chainId/restore': { response: chainStateSchema },

  // The log
  'POST /chains/:chainId/readings': { body: readingBodySchema, response: readingSchema },
  'POST /chains/:chainId/readings/many': {
    body: readingsBodySchema,
    response: z.object({ added: z.int() }),
  },
  'PUT /chains/:chainId/readings/:readingId': { body: readingBodySchema, response: readingSchema },
  'GET /stations/:stationId/readings': { query: readingsQuerySchema, response: readingsPageSchema },
  'PUT /readings/:readingId': { body: readingBodySchema, response: readingSchema },
  'DELETE /readings/:readingId': { response: nothing },
  'POST /readings/:readingId/restore': { response: nothing },
  'GET /chains/:chainId/rounds': { response: z.array(roundSchema) },
  'GET /stations/:stationId/rounds/last': { response: z.array(roundSchema) },
  'GET /rounds/:roundId': { response: roundWithReadingsSchema },
  'PUT /rounds/:roundId': { body: roundNoteSchema, response: roundWithReadingsSchema },
  'GET /chains/:chainId/years/:channelId': { response: z.array(yearRowSchema) },
  'GET /chains/:chainId/meters/:channelId': { response: z.array(meterUseSchema) },
  'GET /stations/:stationId/alerts': { response: z.array(alertSchema) },
  'GET /chains/:chainId/events': { response: z.array(eventSchema) },
  'POST /events': { body: eventBodySchema, response: eventSchema },
  'DELETE /events/:eventId': { response: nothing },
  'POST /events/:eventId/restore': { response: nothing },
  'GET /stations/:stationId/measurements': { response: z.array(measurementSchema) },
  'POST /stations/:stationId/measurements': {
    body: measurementBodySchema,
    response: measurementSchema,
  },
  'DELETE /measurements/:measurementId': { response: nothing },
  'POST /measurements/:measurementId/restore': { response: nothing },

  // Runs of sheets, attempts at drills
  'GET /chains/:chainId/runs': { response: z.array(runSchema) },
  'GET /runs/:runId': { response: runSchema },
  'PUT /chains/:chainId/runs/:runId': { body: runSaveSchema, response: runSchema },
  'GET /stations/:stationId/attempts': { response: z.array(attemptSchema) },
  'PUT /stations/:stationId/attempts/:attemptId': {
    body: attemptBodySchema,
    response: attemptSchema,
  },

  // Live meters, and who reads where
  'POST /live/:chainId/:plane': { body: liveBodySchema, response: nothing },
  'PUT /live/:chainId/windows/:window': { body: presenceBodySchema, response: nothing },
  'GET /live/:chainId': { response: z.array(liveMeterSchema) },

  // Computing
  'POST /solve': { body: solveRequestSchema, response: solveResponseSchema },
  'POST /plan': { body: planRequestSchema, response: planSchema },
  'GET /health': { response: healthSchema },

  // Backups: their bodies are files
  'POST /backup/preview': { response: backupPreviewSchema },
  'POST /backup/restore': { response: restoredSchema },
  'GET /backup/kept': { response: z.array(keptCopySchema) },
  'POST /backup/kept/:name/restore': { response: restoredSchema },

  // Who may come in
  'GET /access': { response: accessStateSchema },
  'POST /access/sign-in': { body: signInSchema, response: accessStateSchema },
  'POST /access/join': { body: joinSchema, response: accessStateSchema },
  'POST /access/sign-out': { response: accessStateSchema },
  'POST /access/sign-out-everywhere': { response: accessStateSchema },
  'POST /access/codes': { response: codeSchema },
  'GET /access/tokens': { response: z.array(tokenSchema) },
  'POST /access/tokens': { body: tokenBodySchema, response: newTokenSchema },
  'DELETE /access/tokens/:id': { response: nothing },
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
