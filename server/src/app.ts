import { existsSync } from 'node:fs'
import { resolve } from 'node:path'
import { stationFileSchema } from '@saltline/contract'
import express, { type Express, Router } from 'express'
import helmet from 'helmet'
import { pino } from 'pino'
import { type Options as HttpLogOptions, pinoHttp } from 'pino-http'
import { z } from 'zod'
import packageJson from '../package.json' with { type: 'json' }
import type { Database } from './db/open.ts'
import { guard } from './http/guard.ts'
import { openApi } from './http/openapi.ts'
import { noSuchRoute, problemHandler } from './http/problem.ts'
import { DEFAULT_BODY_LIMIT, mount } from './http/route.ts'
import { chainRoutes } from './routes/chains.ts'
import { fileRouter } from './routes/files.ts'
import { logRoutes } from './routes/log.ts'
import { solveRoutes } from './routes/solve.ts'
import { stationRoutes } from './routes/stations.ts'

const WEB = resolve(import.meta.dirname, '../../web/dist')

export interface AppOptions {
  /** Host names besides loopback that the server answers to. */
  allowedHosts?: readonly string[]
  logger?: NonNullable<HttpLogOptions['logger']>
}

/** The whole server: API under /api, the interface everywhere else. */
export function createApp(db: Database, options: AppOptions = {}): Express {
  const { version } = packageJson
  const routes = [
    ...stationRoutes(db),
    ...chainRoutes(db),
    ...logRoutes(db),
    ...solveRoutes(db, version),
  ]
  const app = express()
  app.disable('x-powered-by')
  app.use(requestLog(options.logger ?? pino({ level: 'silent' })))
  app.use(securityHeaders())
  app.use(guard(options.allowedHosts ?? []))

  const api = Router()
  api.use(fileRouter(db))
  // Routes that take files come first, with a limit of their own.
  for (const { path, bodyLimit } of routes)
    if (bodyLimit !== undefined) api.use(path, express.json({ limit: bodyLimit }))
  api.use(express.json({ limit: DEFAULT_BODY_LIMIT }))
  mount(api, routes)
  const description = openApi(routes, version)
  api.get('/openapi.json', (_req, res) => void res.json(description))
  const stationFile = z.toJSONSchema(stationFileSchema, { io: 'input' })
  api.get('/schema/station.json', (_req, res) => void res.json(stationFile))
  api.use(noSuchRoute)
  app.use('/api', api)

  if (existsSync(WEB)) {
    app.use('/assets', express.static(resolve(WEB, 'assets'), { immutable: true, maxAge: '1y' }))
    app.use(express.static(WEB, { maxAge: 0 }))
    // Every other address belongs to the interface, which reads it.
    app.get('/{*address}', (_req, res) => res.sendFile(resolve(WEB, 'index.html')))
  }
  app.use(problemHandler)
  return app
}

/** One line a request: method, address, status, milliseconds. Headers and bodies stay out of it. */
const requestLog = (logger: NonNullable<HttpLogOptions['logger']>) =>
  pinoHttp({
    logger,
    serializers: {
      req: ({ method, url }: { method: string; url: string }) => ({ method, url }),
      res: ({ statusCode }: { statusCode: number }) => ({ statusCode }),
    },
  })

/** Scripts, workers and fonts come from here alone; charts and dialogs set styles from script. */
const securityHeaders = () =>
  helmet({
    contentSecurityPolicy: {
      useDefaults: false,
      directives: {
        defaultSrc: ["'self'"],
        scriptSrc: ["'self'"],
        workerSrc: ["'self'"],
        styleSrc: ["'self'", "'unsafe-inline'"],
        imgSrc: ["'self'", 'data:', 'blob:'],
        fontSrc: ["'self'"],
        connectSrc: ["'self'"],
        objectSrc: ["'none'"],
        baseUri: ["'none'"],
        formAction: ["'self'"],
        frameAncestors: ["'none'"],
      },
    },
    // The server speaks plain HTTP on this machine; it must not promise more.
    strictTransportSecurity: false,
  })
