import type { Database } from '../db/open.ts'
import { deletion, type Route, route } from '../http/route.ts'
import { suspectsOf, thingHistory } from '../store/thingHistory.ts'
import { keepThingNote, removeThingNote } from '../store/thingNotes.ts'
import { offeredThings, unmarkedThings } from '../store/thingOffers.ts'
import * as store from '../store/things.ts'
import { briefly } from '../work/kinds.ts'

export const thingRoutes = (db: Database): Route[] => [
  route('GET /stations/:stationId/things', {
    work: briefly,
    summary: 'What the station owns, and the stages of chains that are it',
    handle: ({ stationId }) => store.listThings(db, stationId),
  }),
  route('GET /stations/:stationId/things/offered', {
    work: briefly,
    summary: 'Equal stages of several chains, which may be one thing',
    handle: ({ stationId }) => offeredThings(db, stationId),
  }),
  route('GET /stations/:stationId/things/unmarked', {
    work: briefly,
    summary: 'Entries of Gear and antennas that are no thing of the register yet',
    handle: ({ stationId }) => unmarkedThings(db, stationId),
  }),
  route('POST /stations/:stationId/things', {
    summary: 'Add a thing; the stages that are it take its figures, all of them or none',
    status: 201,
    handle: ({ stationId }, body) => store.addThing(db, stationId, body),
  }),
  route('PUT /things/:thingId', {
    summary: 'Change a thing, in all chains that have it as it was, or in none',
    handle: ({ thingId }, body) => store.changeThing(db, thingId, body),
  }),
  ...deletion('/things/:thingId', 'a thing', ({ thingId }, deleted) =>
    store.setThingDeleted(db, thingId, deleted),
  ),
  route('POST /things/:thingId/places', {
    summary: 'Say that a stage is this thing: it takes its figures',
    status: 201,
    handle: ({ thingId }, place) => store.placeThing(db, thingId, place),
  }),
  route('DELETE /things/:thingId/places/:chainId', {
    summary: 'Say that the stage of a chain is this thing no more; its figures stay',
    handle: ({ thingId, chainId }) => store.unplaceThing(db, thingId, chainId),
  }),
  route('GET /things/:thingId/history', {
    work: briefly,
    summary: 'Where a thing was, what it lost there by readings, and its bench sheets',
    handle: ({ thingId }) => thingHistory(db, thingId),
  }),
  route('PUT /things/:thingId/notes/:noteId', {
    summary:
      'Note a repair, a calibration, or something else that happened to a thing; sent again, it changes nothing',
    handle: ({ thingId, noteId }, note) => keepThingNote(db, thingId, noteId, note),
  }),
  route('DELETE /things/:thingId/notes/:noteId', {
    summary: 'Take a note back',
    handle: ({ thingId, noteId }) => removeThingNote(db, thingId, noteId),
  }),
  route('GET /chains/:chainId/suspects', {
    work: briefly,
    summary: 'Stages whose thing loses more than expected where it stands in another chain',
    handle: ({ chainId }) => suspectsOf(db, chainId),
  }),
]
