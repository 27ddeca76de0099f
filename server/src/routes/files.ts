/** Addresses that give or take files other than JSON bodies. */
import { createReadStream, createWriteStream, statSync } from 'node:fs'
import { basename, join } from 'node:path'
import { pipeline } from 'node:stream/promises'
import {
  dutySchema,
  type KeptCopy,
  readingsQuerySchema,
  restoredSchema,
  zoneQuerySchema,
} from '@saltline/contract'
import { type Request, type Response, Router } from 'express'
import { z } from 'zod'
import type { Database } from '../db/open.ts'
import { calendarText } from '../duties/calendar.ts'
import { dayIn } from '../duties/due.ts'
import { gone, waitFor, whoOf } from '../http/mount.ts'
import { received } from '../http/received.ts'
import { invalidBody, ProblemError } from '../http/problem.ts'
import { keyOf } from '../http/route.ts'
import { type Copy, copyNamed, listCopies } from '../store/copies.ts'
import { holdsOf } from '../store/holds.ts'
import type { Chosen } from '../store/logTexts.ts'
import { replaceDamaged } from '../store/setAside.ts'
import { readStation } from '../store/stations.ts'
import { inFolder } from '../work/folder.ts'
import { briefly, exporting, restoring } from '../work/kinds.ts'
import type { Keeping } from '../work/nightly.ts'
import { work, worked } from '../work/pool.ts'
import type { Written } from '../work/worker.ts'

const BACKUP_LIMIT = 512 * 1024 * 1024

const today = (): string => new Date().toISOString().slice(0, 10)

const plainName = (name: string): string =>
  name
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .slice(0, 60) || 'station'

/** What is asked for of a log: as its list is filtered. */
function queryOf({ query }: Request): Chosen {
  const asked = readingsQuerySchema.safeParse({ ...query })
  if (!asked.success) throw invalidBody(asked.error)
  return asked.data
}

function zoneOf({ query }: Request): { zone: string } {
  const asked = zoneQuerySchema.safeParse({ zone: query['zone'] })
  if (!asked.success) throw invalidBody(asked.error)
  return asked.data
}

const shown = ({ madeMs: _, ...copy }: Copy): KeptCopy => copy

/**
 * `/stations/:stationId/log.csv`, `.json` and `/file`; `/backup`, there and back.
 *
 * @param again begins anew with the database that lies there now
 */
export function fileRouter(db: Database, keeping: Keeping, again: () => void): Router {
  const router = Router()
  const { file } = db

  const give = (
    res: Response,
    { type, name, ...what }: Omit<Written, 'file'> & { type: string; name: string },
  ) =>
    inFolder(async (folder) => {
      waitFor(res.req, exporting)
      const parts = await writtenParts({ file, ...what }, folder, {
        stop: gone(res),
        who: whoOf(res.req, res),
      })
      res.type(type).set('content-disposition', `attachment; filename="${name}"`)
      const bytes = parts.reduce((sum, part) => sum + statSync(part).size, 0)
      res.set('content-length', String(bytes))
      await pipeline(oneAfterTheOther(parts), res)
    })

  for (const [path, what, type, ending] of [
    ['log.csv', 'csv', 'text/csv; charset=utf-8', '-log-#.csv'],
    ['log.json', 'json', 'application/json', '-log-#.json'],
    ['file', 'station', 'application/json', '-#.saltline.json'],
  ] as const)
    router.get(`/stations/:stationId/${path}`, async (req, res) => {
      const { stationId } = req.params
      const { name } = await readStation(db, stationId)
      await give(res, {
        what,
        stationId,
        ...(what !== 'station' && { query: queryOf(req) }),
        type,
        name: plainName(name) + ending.replace('#', today()),
      })
    })
  router.get('/stations/:stationId/calendar.ics', async (req, res) => {
    const { stationId } = req.params
    const { zone } = zoneOf(req)
    const { id, name } = await readStation(db, stationId)
    const now = new Date()
    const duties = await work(
      'answer',
      {
        file,
        route: keyOf({ method: 'get', path: '/stations/:stationId/duties' }),
        params: { stationId },
        query: { zone },
        body: null,
      },
      briefly,
      { stop: gone(res), who: whoOf(req, res) },
    )
    const base = `${req.protocol}://${req.get('host')}${req.baseUrl.replace(/\/api$/, '')}`
    res.type('text/calendar; charset=utf-8')
    res.set('content-disposition', `inline; filename="${plainName(name)}.ics"`)
    res.send(
      calendarText({ id, name }, z.array(dutySchema).parse(JSON.parse(duties)), {
        today: dayIn(zone, now),
        now,
        page: `${base}/station/${id}/due`,
      }),
    )
  })
  router.get('/backup', (_req, res) =>
    give(res, {
      what: 'backup',
      stationId: '',
      type: 'application/vnd.sqlite3',
      name: `saltline-${today()}.sqlite`,
    }),
  )
  router.post('/backup/preview', (req, res) =>
    backup(req, async (from) => {
      const holds = await work('preview', { from }, restoring, {
        stop: gone(res),
        who: whoOf(req, res),
      })
      res.json({ file: holds, here: await holdsOf(db) })
    }),
  )
  // From here on the one who asked may go: what was begun is done to its end.
  router.post('/backup/restore', (req, res) =>
    backup(req, async (from) => {
      res.json(
        restoredSchema.parse(
          await work('restore', { file, from }, restoring, { who: whoOf(req, res) }),
        ),
      )
    }),
  )
  router.get('/backup/kept', (_req, res) => void res.json(listCopies(file).map(shown)))
  router.post('/backup/kept', async (_req, res) => {
    res.json(shown(await keeping.make('asked')))
  })
  router.get('/backup/kept/:name', async (req, res) => {
    const kept = copyNamed(file, req.params.name)
    res.type('application/vnd.sqlite3')
    res.set('content-disposition', `attachment; filename="${req.params.name}"`)
    res.set('content-length', String(statSync(kept).size))
    await pipeline(createReadStream(kept), res)
  })
  router.get('/backup/state', (_req, res) => void res.json(keeping.state()))
  router.post('/backup/kept/:name/restore', async (req, res) => {
    const kept = copyNamed(file, req.params.name)
    waitFor(req, restoring)
    await inFolder(async (folder) => {
      // A restore changes the file it is given.
      const from = join(folder, 'restore.sqlite')
      await pipeline(createReadStream(kept), createWriteStream(from))
      if (db.damage !== null) {
        const { aside, ...holds } = await replaceDamaged(file, from)
        const name = aside && basename(aside)
        res
          .once('finish', again)
          .json(restoredSchema.parse({ ...holds, keptAs: null, aside: name }))
        return
      }
      res.json(
        restoredSchema.parse(
          await work('restore', { file, from }, restoring, { who: whoOf(req, res) }),
        ),
      )
    })
  })
  return router
}

/** The files that make up what was asked for; two threads write a long log. */
const writtenParts = (
  what: Written,
  folder: string,
  asked: { stop: AbortSignal; who: string },
): Promise<string[]> =>
  worked(exporting, asked, async (one) => {
    const middle = what.what === 'csv' ? await one('middle', what) : null
    const parts = middle ? [{ upTo: middle }, { after: middle }] : [{}]
    const written = await Promise.allSettled(
      parts.map(async (part, i) => {
        const to = join(folder, `part${i}`)
        await one('writeFile', { ...what, part, to })
        return to
      }),
    )
    return written.map((each) => {
      if (each.status === 'rejected') throw each.reason
      return each.value
    })
  })

async function* oneAfterTheOther(files: readonly string[]): AsyncGenerator<Uint8Array> {
  for (const file of files) yield* createReadStream(file, { highWaterMark: 1024 * 1024 })
}

/** Does something with the backup that a request brings. */
const backup = (req: Request, run: (file: string) => Promise<void>) => {
  waitFor(req, restoring)
  return received(req, BACKUP_LIMIT, async (file) => {
    if (statSync(file).size === 0)
      throw new ProblemError({
        status: 422,
        title: 'Nothing to restore',
        detail: 'Send the SQLite file of a backup as the body.',
      })
    await run(file)
  })
}
