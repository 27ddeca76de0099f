import type { Database } from '../db/open.ts'
import { dayIn } from '../duties/due.ts'
import { listDuties, offeredDuties } from '../duties/list.ts'
import { deletion, type Route, route } from '../http/route.ts'
import * as store from '../store/duties.ts'
import { briefly } from '../work/kinds.ts'

export const dutyRoutes = (db: Database): Route[] => [
  route('GET /stations/:stationId/duties', {
    work: briefly,
    summary:
      'What has to be done again and again, with when it is due, what is due first at the top',
    handle: ({ stationId }, _, query) => listDuties(db, stationId, query),
  }),
  route('GET /stations/:stationId/duties/offered', {
    work: briefly,
    summary: 'Duties that ship, fit, and were neither taken nor declined',
    handle: ({ stationId }, _, query) => offeredDuties(db, stationId, query),
  }),
  route('POST /stations/:stationId/duties', {
    summary: 'Add a duty',
    status: 201,
    handle: async ({ stationId }, body) => ({ id: await store.addDuty(db, stationId, body) }),
  }),
  route('POST /stations/:stationId/duties/declined', {
    summary: 'Decline a duty that ships: it is not offered again',
    handle: async ({ stationId }, { shipped }) => {
      await store.declineDuty(db, stationId, shipped, dayIn('UTC', new Date()))
      return null
    },
  }),
  route('PUT /duties/:dutyId', {
    summary: 'Change a duty',
    handle: async ({ dutyId }, body) => {
      await store.changeDuty(db, dutyId, { body })
      return { id: dutyId }
    },
  }),
  ...deletion('/duties/:dutyId', 'a duty', ({ dutyId }, deleted) =>
    store.changeDuty(db, dutyId, { deleted }),
  ),
  route('PUT /duties/:dutyId/marks/:markId', {
    summary:
      'Say that a duty was done on a day, or is put off until one; said again, it changes nothing',
    handle: async ({ dutyId, markId }, body) => {
      await store.keepMark(db, dutyId, markId, body)
      return { id: markId }
    },
  }),
  route('DELETE /duties/:dutyId/marks/:markId', {
    summary: 'Take back what was said of a duty',
    handle: async ({ dutyId, markId }) => {
      await store.removeMark(db, dutyId, markId)
      return null
    },
  }),
]
