/** Addresses that give or take files other than JSON bodies. */
import { createReadStream } from 'node:fs'
import { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { restoredSchema } from '@saltline/contract'
import express, { type Response, Router } from 'express'
import type { Database } from '../db/open.ts'
import { ProblemError } from '../http/problem.ts'
import { backUp, restore } from '../store/backup.ts'
import { stationFileText } from '../store/stationFile.ts'
import { logAsCsv, logAsJson } from '../store/logFiles.ts'
import { readStation } from '../store/stations.ts'

const BACKUP_LIMIT = 512 * 1024 * 1024

const today = (): string => new Date().toISOString().slice(0, 10)

const plainName = (name: string): string =>
  name
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .slice(0, 60) || 'station'

const attach = (res: Response, type: string, name: string) =>
  res.type(type).set('content-disposition', `attachment; filename="${name}"`)

/** `/stations/:stationId/log.csv`, `.json` and `/file`; `/backup`, there and back. */
export function fileRouter(db: Database): Router {
  const router = Router()
  for (const [ending, type, write] of [
    ['csv', 'text/csv; charset=utf-8', logAsCsv],
    ['json', 'application/json', logAsJson],
  ] as const)
    router.get(`/stations/:stationId/log.${ending}`, async (req, res) => {
      const { name } = await readStation(db, req.params.stationId)
      attach(res, type, `${plainName(name)}-log-${today()}.${ending}`)
      await pipeline(Readable.from(write(db, req.params.stationId)), res)
    })
  router.get('/stations/:stationId/file', async (req, res) => {
    const { name } = await readStation(db, req.params.stationId)
    attach(res, 'application/json', `${plainName(name)}-${today()}.saltline.json`)
    await pipeline(Readable.from(stationFileText(db, req.params.stationId)), res)
  })
  router.get('/backup', (_req, res) =>
    backUp(db, async (file) => {
      attach(res, 'application/vnd.sqlite3', `saltline-${today()}.sqlite`)
      await pipeline(createReadStream(file), res)
    }),
  )
  router.post(
    '/backup/restore',
    express.raw({ type: () => true, limit: BACKUP_LIMIT }),
    async (req, res) => {
      if (!Buffer.isBuffer(req.body) || req.body.length === 0)
        throw new ProblemError({
          status: 422,
          title: 'Nothing to restore',
          detail: 'Send the SQLite file of a backup as the body.',
        })
      res.json(restoredSchema.parse(await restore(db, req.body)))
    },
  )
  return router
}
