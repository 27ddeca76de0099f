import { existsSync, readFileSync } from 'node:fs'
import { resolve } from 'node:path'
import { stationFileSchema } from '@saltline/contract'
import compression from 'compression'
import express, { type Express, type RequestHandler, Router } from 'express'
import staticGzip from 'express-static-gzip'
import helmet from 'helmet'
import { pino } from 'pino'
import { type Options as HttpLogOptions, pinoHttp } from 'pino-http'
import { z } from 'zod'
import { accessGate, type AccessOptions, openAccessState } from './access/access.ts'
import type { Database } from './db/open.ts'
import { standingOf } from './db/standing.ts'
import { inServer } from './home.ts'
import { changeFeed } from './http/changes.ts'
import { guard, readableAddress, refuseWhileLost } from './http/guard.ts'
import { openApi } from './http/openapi.ts'
import { mount, noSuchRoute, problemHandler } from './http/mount.ts'
import { notFound } from './http/problem.ts'
import { LiveMeters } from './live/meters.ts'
import { liveRoutes } from './live/routes.ts'
import { fileRouter } from './routes/files.ts'
import { apiRoutes } from './routes/index.ts'
import { version } from './version.ts'
import { copying } from './work/kinds.ts'
import { type Keeping, keepNightly } from './work/nightly.ts'
import { work } from './work/pool.ts'

/** Live figures go out together this often, ms. */
const LIVE_MS = 100

/** Of an installed one inside of it; of a clone beside it. */
const INTERFACE = [inServer('web'), inServer('../web/dist')].find(existsSync) ?? ''

/** The reference of the core: in an installed one inside of it; in a clone where `npm run reference` has made it. */
const REFERENCE = [inServer('coreReference'), inServer('../core/reference')].find(existsSync)

/** The page that shows the API to people, made by the build. */
const API_PAGE = inServer('dist/apiPage')

export interface AppOptions {
  /** Host names besides loopback that the server answers to, as they are now. */
  allowedHosts?: () => readonly string[]
  logger?: NonNullable<HttpLogOptions['logger']>
  /** Folder of the built interface; where there is none, the server has the API alone. */
  web?: string
  /** Who may in where the server is open to the network; without it nobody is asked. */
  access?: AccessOptions
  /** Addresses of reverse proxies whose `X-Forwarded-*` headers are believed. */
  trustedProxies?: readonly string[]
  /** How often a stream of changes says that it is alive, ms. */
  heartbeatMs?: number
  /** Who keeps the copies of the database; without it they are made when somebody asks. */
  keeping?: Keeping
  /** Begins anew, with another database in the place of one that was damaged. */
  again?: () => void
  /** The path that a reverse proxy shows it under, as `/radio`; nothing for the root of a host. */
  basePath?: string
  /** False where this thread shall answer everything, on the connections of this one database. */
  workers?: boolean
}

/** The whole server: API under /api, the interface everywhere else; all of it below the base path. */
export function createApp(db: Database, options: AppOptions = {}): Express {
  const { basePath = '' } = options
  const app = appAtRoot(db, options)
  if (basePath === '') return app
  const host = express()
  host.disable('x-powered-by')
  host.set('trust proxy', options.trustedProxies ?? false)
  host.use(basePath, app)
  host.use(guard(options.allowedHosts ?? (() => [])))
  host.get('/', (_req, res) => res.redirect(`${basePath}/`))
  host.use(() => {
    throw notFound(`page: Salt Line lies below ${basePath}/`)
  })
  host.use(problemHandler)
  return host
}

function appAtRoot(db: Database, options: AppOptions): Express {
  const meters = new LiveMeters()
  const changes = changeFeed(options.heartbeatMs)
  const routes = [...apiRoutes(db), ...liveRoutes(db, meters, changes.here)]
  const keeping =
    options.keeping ?? keepNightly(db.file, (why) => work('copy', { file: db.file, why }, copying))
  const app = express()
  app.disable('x-powered-by')
  // What a proxy says of the client counts from these addresses alone: req.ip, and whether it speaks HTTPS.
  app.set('trust proxy', options.trustedProxies ?? false)
  app.use(requestLog(options.logger ?? pino({ level: 'silent' })))
  app.use(securityHeaders(options.access?.secure ?? false))
  app.use(guard(options.allowedHosts ?? (() => [])))

  // Before the gate: whoever watches over the computer has no passphrase. It says nothing of what is kept.
  const standing = standingOf(db)
  app.get('/api/health', (_req, res) => {
    const refusal = standing()
    const { lastAt, overdue, problem } = keeping.state()
    res
      .status(refusal ? 503 : 200)
      .set('cache-control', 'no-store')
      .json({
        ready: refusal === null,
        version,
        database: refusal?.title ?? 'sound',
        backup: { lastAt, overdue, failed: problem !== null },
      })
  })

  const web = options.web ?? INTERFACE
  const build = buildOf(web)
  const api = Router()
  // A record changes under the one who looks at it: nothing of it is kept on the way.
  api.use((_req, res, next) => {
    res.set('cache-control', 'no-store')
    // A page that was open before an update learns by it that it is older than its server.
    if (build !== null) res.set('x-saltline-interface', build)
    if (db.damage !== null) res.set('x-saltline-damaged', 'yes')
    next()
  })
  // Sweeps shrink to a third; what is small is not worth the time.
  api.use(compression({ threshold: 4096, level: 3 }))
  api.use(options.access ? accessGate(options.access) : openAccessState())
  api.use(changes.watch)
  api.use(refuseWhileLost(standing))
  setInterval(() => {
    for (const [chainId, figures] of meters.takeFresh()) changes.live(chainId, figures)
  }, LIVE_MS).unref()
  api.get('/changes', changes.stream)
  api.use(fileRouter(db, keeping, options.again ?? (() => undefined)))
  mount(api, routes, options.workers === false ? undefined : db.file)
  // Made when they are first asked for: a start waits for neither.
  const description = once(() => openApi(routes, version))
  api.get('/openapi.json', (_req, res) => void res.json(description()))
  const stationFile = once(() => z.toJSONSchema(stationFileSchema, { io: 'input' }))
  api.get('/schema/station.json', (_req, res) => void res.json(stationFile()))
  if (existsSync(API_PAGE)) {
    api.use('/page', express.static(API_PAGE, { maxAge: '1h' }))
    api.get('/', pageOf(resolve(API_PAGE, 'index.html'), options.basePath))
  }
  api.use(noSuchRoute)
  app.use('/api', api)

  if (REFERENCE) app.use('/docs/core', express.static(REFERENCE))
  if (existsSync(web)) {
    // The names of assets change with what is in them.
    const assets = { immutable: true, maxAge: '1y', fallthrough: true } as const
    app.use(readableAddress)
    const page = pageOf(resolve(web, 'index.html'), options.basePath)
    if (options.basePath) app.get(['/', '/index.html'], page)
    app.use('/assets', staticGzip(resolve(web, 'assets'), { ...compressed, serveStatic: assets }))
    app.use(staticGzip(web, { ...compressed, serveStatic: { maxAge: 0 } }))
    // What looks like a file and is none is missing; every other address belongs to the interface, which reads it.
    app.get('/{*address}', (req, res, next) =>
      /^\/assets\/|\.\w+$/.test(req.path) ? next(notFound('file')) : page(req, res, next),
    )
  }
  app.use(problemHandler)
  return app
}

/** What is made at the first call and kept. */
function once<T extends object>(make: () => T): () => T {
  let made: T | undefined
  return () => (made ??= make())
}

/** A page of ours, whose addresses from the root are written below the base path. */
function pageOf(file: string, basePath = ''): RequestHandler {
  if (basePath === '') return (_req, res) => res.sendFile(file)
  const text = readFileSync(file, 'utf8').replace(/\b(src|href)="\//g, `$1="${basePath}/`)
  return (_req, res) => void res.type('html').send(text)
}

/** The build of an interface, by the name of its entry script, which changes with what is in it. */
function buildOf(web: string): string | null {
  const page = resolve(web, 'index.html')
  if (!existsSync(page)) return null
  return /\/assets\/(index-[\w-]+)\.js/.exec(readFileSync(page, 'utf8'))?.[1] ?? null
}

/** Files lie beside their compressed forms, made when the interface was built. */
const compressed = { enableBrotli: true, orderPreference: ['br', 'gz'] } satisfies Parameters<
  typeof staticGzip
>[1]

/** One line a request: method, address, status, milliseconds. Headers and bodies stay out of it. */
const requestLog = (logger: NonNullable<HttpLogOptions['logger']>) =>
  pinoHttp({
    logger,
    serializers: {
      // A key in the address of a calendar is nobody's to read in a log.
      req: ({ method, url }: { method: string; url: string }) => ({
        method,
        url: url.replace(/([?&]key=)[^&]*/g, '$1…'),
      }),
      res: ({ statusCode }: { statusCode: number }) => ({ statusCode }),
    },
  })

/** Scripts, workers and fonts come from here alone; charts and dialogs set styles from script. */
const securityHeaders = (tls: boolean) =>
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
    // Over plain HTTP it must not promise more.
    strictTransportSecurity: tls,
  })
