import type { Database } from '../db/open.ts'
import { notFound } from '../http/problem.ts'
import { type Route, route } from '../http/route.ts'
import * as store from '../store/chains.ts'
import { readStation } from '../store/stations.ts'

export const chainRoutes = (db: Database): Route[] => [
  route('POST /stations/:stationId/chains', {
    summary: 'Add a chain to a station',
    status: 201,
    handle: async ({ stationId }, document) => {
      await readStation(db, stationId)
      return store.createChain(db, stationId, document)
    },
  }),
  route('GET /chains/:chainId', {
    summary: 'A chain as it stands, with its revision',
    handle: ({ chainId }) => store.readChain(db, chainId),
  }),
  route('PUT /chains/:chainId', {
    summary: 'Save an edit as a new revision; a conflict keeps it aside and answers with both',
    handle: ({ chainId }, edit) => store.saveChain(db, chainId, edit),
  }),
  ...(['undo', 'redo'] as const).map((direction) =>
    route(`POST /chains/:chainId/${direction}`, {
      summary:
        direction === 'undo' ? 'Go back one edit' : 'Go forward again to the newest edit made here',
      handle: ({ chainId }, base) => store.stepChain(db, chainId, base, direction),
    }),
  ),
  route('GET /chains/:chainId/revisions', {
    summary: 'The newest 500 revisions of a chain',
    handle: ({ chainId }) => store.listRevisions(db, chainId),
  }),
  route('GET /chains/:chainId/revisions/:revision', {
    summary: 'The document of one revision',
    handle: async ({ chainId, revision }) => {
      const number = Number(revision)
      if (!Number.isInteger(number)) throw notFound('revision')
      return (await store.readRevision(db, chainId, number)).document
    },
  }),
  route('DELETE /chains/:chainId', {
    summary: 'Delete a chain; it can be taken back',
    handle: async ({ chainId }) => {
      await store.setChainDeleted(db, chainId, true)
      return null
    },
  }),
  route('POST /chains/:chainId/restore', {
    summary: 'Take a deletion back',
    handle: async ({ chainId }) => {
      await store.setChainDeleted(db, chainId, false)
      return store.readChain(db, chainId)
    },
  }),
]
