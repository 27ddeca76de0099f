import {
  chainDocumentSchema,
  chainStateSchema,
  revisionSummarySchema,
  saveChainSchema,
  stepSchema,
} from '@saltline/contract'
import { z } from 'zod'
import type { Database } from '../db/open.ts'
import { notFound } from '../http/problem.ts'
import { nothing, type Route, route } from '../http/route.ts'
import * as store from '../store/chains.ts'
import { readStation } from '../store/stations.ts'

export const chainRoutes = (db: Database): Route[] => [
  route({
    method: 'post',
    path: '/stations/:stationId/chains',
    summary: 'Add a chain to a station',
    body: chainDocumentSchema,
    response: chainStateSchema,
    status: 201,
    handle: async ({ stationId }, document) => {
      await readStation(db, stationId!)
      return store.createChain(db, stationId!, document)
    },
  }),
  route({
    method: 'get',
    path: '/chains/:chainId',
    summary: 'A chain as it stands, with its revision',
    response: chainStateSchema,
    handle: ({ chainId }) => store.readChain(db, chainId!),
  }),
  route({
    method: 'put',
    path: '/chains/:chainId',
    summary: 'Save an edit as a new revision; a conflict keeps it aside and answers with both',
    body: saveChainSchema,
    response: chainStateSchema,
    handle: ({ chainId }, edit) => store.saveChain(db, chainId!, edit),
  }),
  ...(['undo', 'redo'] as const).map((direction) =>
    route({
      method: 'post',
      path: `/chains/:chainId/${direction}`,
      summary:
        direction === 'undo' ? 'Go back one edit' : 'Go forward again to the newest edit made here',
      body: stepSchema,
      response: chainStateSchema,
      handle: ({ chainId }, base) => store.stepChain(db, chainId!, base, direction),
    }),
  ),
  route({
    method: 'get',
    path: '/chains/:chainId/revisions',
    summary: 'The newest 500 revisions of a chain',
    response: z.array(revisionSummarySchema),
    handle: ({ chainId }) => store.listRevisions(db, chainId!),
  }),
  route({
    method: 'get',
    path: '/chains/:chainId/revisions/:revision',
    summary: 'The document of one revision',
    response: chainDocumentSchema,
    handle: async ({ chainId, revision }) => {
      const number = Number(revision)
      if (!Number.isInteger(number)) throw notFound('revision')
      return (await store.readRevision(db, chainId!, number)).document
    },
  }),
  route({
    method: 'delete',
    path: '/chains/:chainId',
    summary: 'Delete a chain; it can be taken back',
    response: nothing,
    handle: async ({ chainId }) => {
      await store.setChainDeleted(db, chainId!, true)
      return null
    },
  }),
  route({
    method: 'post',
    path: '/chains/:chainId/restore',
    summary: 'Take a deletion back',
    response: chainStateSchema,
    handle: async ({ chainId }) => {
      await store.setChainDeleted(db, chainId!, false)
      return store.readChain(db, chainId!)
    },
  }),
]
