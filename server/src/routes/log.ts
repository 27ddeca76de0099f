import type { Database } from '../db/open.ts'
import { deletion, type Route, route } from '../http/route.ts'
import { stationAlerts } from '../store/alerts.ts'
import * as events from '../store/events.ts'
import * as log from '../store/log.ts'
import * as measurements from '../store/measurements.ts'
import { alreadyHere } from '../store/already.ts'
import * as store from '../store/readings.ts'
import * as rounds from '../store/rounds.ts'
import { meterUses, yearRows } from '../store/years.ts'
import { briefly, importing } from '../work/kinds.ts'

/** Twenty thousand readings are some 8 MB. */
const READINGS_LIMIT = 16 * 1024 * 1024

export const logRoutes = (db: Database): Route[] => [
  route('POST /chains/:chainId/readings', {
    summary: 'Keep a reading; without a round it joins the chain’s open one, or begins one',
    status: 201,
    handle: async ({ chainId }, body) => {
      const [id] = await store.addReadings(db, chainId, [body], () => [])
      return store.readReading(db, id!)
    },
  }),
  route('POST /chains/:chainId/readings/already', {
    work: importing,
    summary: 'Which of these readings are in the log already, by their place in the list',
    bodyLimit: READINGS_LIMIT,
    handle: async ({ chainId }, { readings }) => ({
      already: await alreadyHere(db, chainId, readings),
    }),
  }),
  route('POST /chains/:chainId/readings/delete', {
    work: importing,
    summary: 'Delete readings together; each can be taken back',
    bodyLimit: READINGS_LIMIT,
    handle: async ({ chainId }, { ids }) => ({
      deleted: await store.deleteReadings(db, chainId, ids),
    }),
  }),
  route('POST /chains/:chainId/readings/many', {
    work: importing,
    summary: 'Keep many readings, all of them or none',
    status: 201,
    bodyLimit: READINGS_LIMIT,
    handle: async ({ chainId }, { readings }) => {
      const ids = await store.addReadings(db, chainId, readings)
      return { added: ids.length, ids }
    },
  }),
  route('PUT /chains/:chainId/readings/:readingId', {
    summary: 'Keep a reading under an identity of the sender’s; sent again, it is kept once',
    handle: ({ chainId, readingId }, body) => store.keepReading(db, chainId, readingId, body),
  }),
  route('GET /stations/:stationId/readings', {
    work: briefly,
    summary: 'A page of a station’s readings, newest first',
    handle: ({ stationId }, _, query) => log.listReadings(db, stationId, query),
  }),
  route('PUT /readings/:readingId', {
    summary: 'Correct a reading; what was expected is computed anew',
    handle: ({ readingId }, body) => store.updateReading(db, readingId, body),
  }),
  ...deletion('/readings/:readingId', 'a reading', ({ readingId }, deleted) =>
    store.setReadingDeleted(db, readingId, deleted),
  ),
  route('GET /chains/:chainId/rounds', {
    summary: 'The rounds of readings of a chain, newest first',
    handle: ({ chainId }) => rounds.listRounds(db, chainId),
  }),
  route('GET /stations/:stationId/rounds/last', {
    work: briefly,
    summary: 'The newest measurement session of each chain',
    handle: ({ stationId }) => rounds.lastRounds(db, stationId),
  }),
  route('GET /rounds/:roundId', {
    work: briefly,
    summary: 'A round with its readings',
    handle: ({ roundId }) => rounds.readRound(db, roundId),
  }),
  route('PUT /rounds/:roundId', {
    summary: 'What there is to say about a round',
    handle: ({ roundId }, { note }) => rounds.noteRound(db, roundId, note),
  }),
  route('GET /chains/:chainId/years/:channelId', {
    work: briefly,
    summary: 'The means of every round at every place on one channel, oldest first',
    handle: ({ chainId, channelId }) => yearRows(db, chainId, channelId),
  }),
  route('GET /chains/:chainId/meters/:channelId', {
    work: briefly,
    summary: 'Which meters were read at which place on one channel, from when to when',
    handle: ({ chainId, channelId }) => meterUses(db, chainId, channelId),
  }),
  route('GET /stations/:stationId/alerts', {
    work: briefly,
    summary: 'What the record says should be looked at',
    handle: ({ stationId }) => stationAlerts(db, stationId),
  }),
  route('GET /chains/:chainId/events', {
    work: briefly,
    summary: 'What happened to a chain',
    handle: ({ chainId }) => events.listEvents(db, chainId),
  }),
  route('POST /events', {
    summary: 'Note something that happened to a chain',
    status: 201,
    handle: (_, body) => events.addEvent(db, body),
  }),
  ...deletion('/events/:eventId', 'an event', ({ eventId }, deleted) =>
    events.setEventDeleted(db, eventId, deleted),
  ),
  route('GET /stations/:stationId/measurements', {
    work: briefly,
    summary: 'Bench sheets that were kept, newest first',
    handle: ({ stationId }) => measurements.listMeasurements(db, stationId),
  }),
  route('POST /stations/:stationId/measurements', {
    summary: 'Keep a bench sheet',
    status: 201,
    handle: ({ stationId }, body) => measurements.addMeasurement(db, stationId, body),
  }),
  ...deletion('/measurements/:measurementId', 'a bench sheet', ({ measurementId }, deleted) =>
    measurements.setMeasurementDeleted(db, measurementId, deleted),
  ),
]
