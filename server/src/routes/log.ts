import {
  alertSchema,
  eventBodySchema,
  eventSchema,
  measurementBodySchema,
  measurementSchema,
  readingBodySchema,
  readingsBodySchema,
  readingSchema,
  readingsPageSchema,
  readingsQuerySchema,
  roundNoteSchema,
  roundSchema,
  roundWithReadingsSchema,
  meterUseSchema,
  yearRowSchema,
} from '@saltline/contract'
import { z } from 'zod'
import type { Database } from '../db/open.ts'
import { deletion, type Route, route } from '../http/route.ts'
import { stationAlerts } from '../store/alerts.ts'
import * as events from '../store/events.ts'
import * as log from '../store/log.ts'
import * as measurements from '../store/measurements.ts'
import * as store from '../store/readings.ts'
import * as rounds from '../store/rounds.ts'
import { meterUses, yearRows } from '../store/years.ts'
import { briefly, importing, solving } from '../work/kinds.ts'

/** Twenty thousand readings are some 8 MB. */
const READINGS_LIMIT = 16 * 1024 * 1024

export const logRoutes = (db: Database): Route[] => [
  route({
    method: 'post',
    path: '/chains/:chainId/readings',
    work: solving,
    summary: 'Keep a reading; without a round it joins the chain’s open one, or begins one',
    body: readingBodySchema,
    response: readingSchema,
    status: 201,
    handle: async ({ chainId }, body) => {
      const [id] = await store.addReadings(db, chainId!, [body], () => [])
      return store.readReading(db, id!)
    },
  }),
  route({
    method: 'post',
    path: '/chains/:chainId/readings/many',
    work: importing,
    summary: 'Keep many readings, all of them or none',
    body: readingsBodySchema,
    response: z.object({ added: z.int() }),
    status: 201,
    bodyLimit: READINGS_LIMIT,
    handle: async ({ chainId }, { readings }) => {
      return { added: (await store.addReadings(db, chainId!, readings)).length }
    },
  }),
  route({
    method: 'put',
    path: '/chains/:chainId/readings/:readingId',
    work: solving,
    summary: 'Keep a reading under an identity of the sender’s; sent again, it is kept once',
    body: readingBodySchema,
    response: readingSchema,
    handle: ({ chainId, readingId }, body) => store.keepReading(db, chainId!, readingId!, body),
  }),
  route({
    method: 'get',
    path: '/stations/:stationId/readings',
    work: briefly,
    summary: 'A page of a station’s readings, newest first',
    query: readingsQuerySchema,
    response: readingsPageSchema,
    handle: ({ stationId }, _, query) => log.listReadings(db, stationId!, query),
  }),
  route({
    method: 'put',
    path: '/readings/:readingId',
    work: solving,
    summary: 'Correct a reading; what was expected is computed anew',
    body: readingBodySchema,
    response: readingSchema,
    handle: ({ readingId }, body) => store.updateReading(db, readingId!, body),
  }),
  ...deletion('/readings/:readingId', 'a reading', ({ readingId }, deleted) =>
    store.setReadingDeleted(db, readingId!, deleted),
  ),
  route({
    method: 'get',
    path: '/chains/:chainId/rounds',
    summary: 'The rounds of readings of a chain, newest first',
    response: z.array(roundSchema),
    handle: ({ chainId }) => rounds.listRounds(db, chainId!),
  }),
  route({
    method: 'get',
    path: '/stations/:stationId/rounds/last',
    work: briefly,
    summary: 'The newest measurement session of each chain',
    response: z.array(roundSchema),
    handle: ({ stationId }) => rounds.lastRounds(db, stationId!),
  }),
  route({
    method: 'get',
    path: '/rounds/:roundId',
    work: briefly,
    summary: 'A round with its readings',
    response: roundWithReadingsSchema,
    handle: ({ roundId }) => rounds.readRound(db, roundId!),
  }),
  route({
    method: 'put',
    path: '/rounds/:roundId',
    summary: 'What there is to say about a round',
    body: roundNoteSchema,
    response: roundWithReadingsSchema,
    handle: ({ roundId }, { note }) => rounds.noteRound(db, roundId!, note),
  }),
  route({
    method: 'get',
    path: '/chains/:chainId/years/:channelId',
    work: briefly,
    summary: 'The means of every round at every place on one channel, oldest first',
    response: z.array(yearRowSchema),
    handle: ({ chainId, channelId }) => yearRows(db, chainId!, channelId!),
  }),
  route({
    method: 'get',
    path: '/chains/:chainId/meters/:channelId',
    work: briefly,
    summary: 'Which meters were read at which place on one channel, from when to when',
    response: z.array(meterUseSchema),
    handle: ({ chainId, channelId }) => meterUses(db, chainId!, channelId!),
  }),
  route({
    method: 'get',
    path: '/stations/:stationId/alerts',
    work: briefly,
    summary: 'What the record says should be looked at',
    response: z.array(alertSchema),
    handle: ({ stationId }) => stationAlerts(db, stationId!),
  }),
  route({
    method: 'get',
    path: '/chains/:chainId/events',
    work: briefly,
    summary: 'What happened to a chain',
    response: z.array(eventSchema),
    handle: ({ chainId }) => events.listEvents(db, chainId!),
  }),
  route({
    method: 'post',
    path: '/events',
    summary: 'Note something that happened to a chain',
    body: eventBodySchema,
    response: eventSchema,
    status: 201,
    handle: (_, body) => events.addEvent(db, body),
  }),
  ...deletion('/events/:eventId', 'an event', ({ eventId }, deleted) =>
    events.setEventDeleted(db, eventId!, deleted),
  ),
  route({
    method: 'get',
    path: '/stations/:stationId/measurements',
    work: briefly,
    summary: 'Bench sheets that were kept, newest first',
    response: z.array(measurementSchema),
    handle: ({ stationId }) => measurements.listMeasurements(db, stationId!),
  }),
  route({
    method: 'post',
    path: '/stations/:stationId/measurements',
    summary: 'Keep a bench sheet',
    body: measurementBodySchema,
    response: measurementSchema,
    status: 201,
    handle: ({ stationId }, body) => measurements.addMeasurement(db, stationId!, body),
  }),
  ...deletion('/measurements/:measurementId', 'a bench sheet', ({ measurementId }, deleted) =>
    measurements.setMeasurementDeleted(db, measurementId!, deleted),
  ),
]
