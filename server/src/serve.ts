/** The server: read what was asked for, open the database, listen, keep copies, end in order. */
import { join, resolve } from 'node:path'
import { createInterface } from 'node:readline/promises'
import { Writable } from 'node:stream'
import { namesFor } from './access/addresses.ts'
import { ownCertificate } from './access/certificate.ts'
import {
  endHashing,
  isPassphrase,
  keepPassphrase,
  makePassphrase,
  weakness,
} from './access/passphrase.ts'
import { accessFileOf, openAccess } from './access/store.ts'
import { createApp } from './app.ts'
import { DamagedError, DatabaseError, openDatabase, standInFor } from './db/open.ts'
import { withdrawLeft } from './store/arrivals.ts'
import { adoptOlder, copiesFolder, keepCopy, listCopies } from './store/copies.ts'
import { addDemo, seedDemo } from './demo/seed.ts'
import { serverOf } from './http/listen.ts'
import { logFormats, loggerOf } from './http/logLines.ts'
import { removeLeftFolders } from './work/folder.ts'
import { copying } from './work/kinds.ts'
import { keepNightly } from './work/nightly.ts'
import { endWork, warmUp, work } from './work/pool.ts'
import {
  give,
  type Arguments,
  HELP,
  isLoopback,
  publicAddress,
  readArguments,
  readCertificate,
} from './arguments.ts'

/** So long after it listens the server has collected what its beginning left, ms. */
const BEGIN_MS = 5000

/** The one file is brought up to what was written so often. */
const SETTLE_MS = 600_000

/** The night that was missed is made up for when the server has begun, ms; later it looks every minute. */
const FIRST_COPY_MS = 10_000
const LOOK_MS = 60_000

/**
 * Starts the server; a mistake in what was typed ends the process with a sentence.
 *
 * @param argv what stands behind the name of the program
 * @param begun told once the server listens and its first thread is there
 */
export async function serve(argv: readonly string[], begun: () => void): Promise<void> {
  const args = readArguments(argv)
  if (args.help) return console.log(HELP)
  const port = /^\d{1,5}$/.test(args.port) ? Number(args.port) : NaN
  if (!(port <= 65_535))
    give(`“${args.port}” is not a port. Give a whole number from 1 to 65535 with --port.`)

  const log = logFormats.find((format) => format === args.log)
  if (log === undefined) give(`--log ${args.log}: give text or json.`)

  if (args.https && !args.network) give('--https is for the network: add --network.')
  const host = args.host ?? (args.network ? '0.0.0.0' : '127.0.0.1')
  if (!args.network && !isLoopback(host))
    give(`“${host}” is open to others: add --network, which asks them for a passphrase.`)

  const given = args.network ? process.env['SALTLINE_PASSPHRASE'] : undefined
  const wrong = given === undefined ? null : await weakness(given)
  if (wrong) give(`SALTLINE_PASSPHRASE: ${wrong}`)

  const file = resolve(args.db)
  // Threads look there too.
  if (args.backups !== undefined) process.env['SALTLINE_BACKUPS'] = resolve(args.backups)
  removeLeftFolders()
  const db = await openDatabase(file, {
    create: args.create,
    ...(args.demo && { fill: seedDemo }),
    beforeMigration: async (older) => {
      const { name } = await keepCopy(older, 'migration')
      console.log(
        `The database is of an older version and is brought along. A copy from before is ${join(copiesFolder(file), name)}`,
      )
    },
  }).catch((error: unknown) => {
    if (error instanceof DamagedError && listCopies(file).length > 0)
      return standInFor(file, error.damage)
    return give(error instanceof DatabaseError ? error.message : String(error))
  })
  if (db.damage !== null)
    console.error(
      `The database is damaged (${db.damage}). It can be read, and nothing is written to it. Restore a copy in the browser, or with “saltline restore”.`,
    )
  else {
    await withdrawLeft(db)
    adoptOlder(file)
    if (args.demo) await addDemo(db)
  }
  const basePath = args['base-path'].replace(/\/+$/, '')
  if (!/^(\/[\w.~-]+)*$/.test(basePath))
    give(`--base-path ${args['base-path']}: write it as /radio.`)
  const shown = publicAddress(args)
  const names = namesFor(host)
  const own = args.https ? await ownCertificate(file, names()) : undefined
  const certificate = own ?? readCertificate(args)

  const logger = loggerOf(log, args.quiet)
  const scheme = certificate ? 'https' : 'http'
  let bound = port
  const access = args.network
    ? {
        store: await openAccessStore(file, args),
        // A browser that came by HTTPS to the proxy keeps its cookie for HTTPS alone.
        secure: certificate !== undefined || shown?.protocol === 'https:',
        port: () => bound,
        fingerprint: own?.fingerprint,
        addresses: () =>
          (shown ? [shown.origin] : names().map((name) => `${scheme}://${name}:${bound}`)).map(
            (origin) => origin + basePath,
          ),
        // Written down whatever else is not.
        audit: (line: object) => logger.warn(line, 'access'),
      }
    : undefined
  const keeping = keepNightly(
    file,
    (why) => work('copy', { file, why }, copying),
    ({ copied, failed }) =>
      failed === undefined
        ? logger.info({ copied }, 'a copy of the database was kept')
        : logger.warn({ failed }, 'the database could not be copied'),
  )
  const app = createApp(db, {
    keeping,
    trustedProxies: args['trust-proxy'],
    allowedHosts: () => [
      host,
      ...(args.network ? names() : []),
      ...(shown ? [shown.hostname] : []),
      ...args['allow-host'],
    ],
    logger,
    again: () => again(),
    basePath,
    ...(access && { access }),
  })
  const server = serverOf(app, {
    certificate,
    gated: args.network,
    proxies: args['trust-proxy'],
  })
  server.once('error', (error) => giveListening(error, port, host))
  server.listen(port, host, () => {
    const address = server.address()
    bound = typeof address === 'object' && address ? address.port : port
    const here = ['0.0.0.0', '::'].includes(host) ? '127.0.0.1' : host
    console.log(`Salt Line is at ${scheme}://${here}:${bound}${basePath}/`)
    if (access)
      console.log(
        `On the network: ${access
          .addresses()
          .map((base) => `${base}/`)
          .join(' ')}`,
      )
    if (own)
      console.log(
        `Its certificate is its own. A browser warns once: compare the fingerprint (SHA-256) there, then go on.\n${own.fingerprint}`,
      )
    else if (access && !certificate)
      console.log(
        'The passphrase and all figures cross the network in the clear. With --https they do not.',
      )
    // What is asked before its threads have begun waits for them.
    warmUp()
      .catch((error: unknown) => logger.error(error, 'the threads did not begin'))
      .finally(() => setTimeout(begun, BEGIN_MS).unref())
  })
  const timers: NodeJS.Timeout[] = []
  if (db.damage === null) {
    timers.push(setTimeout(() => void keeping.look(), FIRST_COPY_MS))
    timers.push(setInterval(() => void keeping.look(), LOOK_MS))
  }
  // Should the disk be full, the log beside the file still has everything.
  const settle = () =>
    db.settle().catch((error: unknown) => logger.warn(error, 'the log stays beside the database'))
  timers.push(setInterval(() => void settle(), SETTLE_MS))
  for (const timer of timers) timer.unref()
  const stop = async () => {
    for (const timer of timers) clearInterval(timer)
    process.off('unhandledRejection', unheard).off('SIGINT', leave).off('SIGTERM', leave)
    const closed = new Promise((done) => server.close(done))
    server.closeAllConnections()
    await closed
    await endWork()
    if (db.damage === null) await settle()
    db.close()
    await access?.store.settle()
    access?.store.close()
    await endHashing()
  }
  const leave = () => void stop().then(() => process.exit(0))
  // The passphrase was asked for when this one began.
  const kept = argv.filter((word) => word !== '--set-passphrase')
  const again = () =>
    void stop().then(() => serve([...kept, '--port', String(bound)], () => undefined))
  // A promise that nobody listened to: it is written down, and everybody else is answered on.
  const unheard = (error: unknown) => logger.error({ err: error }, 'unhandled rejection')
  process.on('unhandledRejection', unheard).on('SIGINT', leave).on('SIGTERM', leave)
}

/** The access database, with a passphrase: asked for where somebody is at the keyboard, else made and shown once. */
async function openAccessStore(file: string, args: Arguments) {
  const store = await openAccess(accessFileOf(file))
  const given = process.env['SALTLINE_PASSPHRASE']
  const kept = store.passphrase()
  if (kept && !args['set-passphrase']) {
    if (given !== undefined && !(await isPassphrase(given, kept)))
      console.error(
        'SALTLINE_PASSPHRASE is not the passphrase that is kept, and is not used. Start once with --set-passphrase to take it.',
      )
    return store
  }
  const set = async (passphrase: string) => store.setPassphrase(await keepPassphrase(passphrase))
  if (given !== undefined) {
    await set(given)
    return store
  }
  if (!process.stdin.isTTY) {
    const made = makePassphrase()
    await set(made)
    console.log(`The passphrase of this station, shown this once: ${made}`)
    return store
  }
  for (;;) {
    const typed = await askHidden(
      'A passphrase for the network (12 characters or more; empty makes one): ',
    )
    const passphrase = typed.trim() === '' ? makePassphrase() : typed
    const wrong = await weakness(passphrase)
    if (wrong) {
      console.log(wrong)
      continue
    }
    await set(passphrase)
    if (passphrase !== typed) console.log(`The passphrase, shown this once: ${passphrase}`)
    return store
  }
}

/** A line from the keyboard that is not shown as it is typed. */
async function askHidden(question: string): Promise<string> {
  process.stdout.write(question)
  const silent = new Writable({ write: (_chunk, _encoding, done) => done() })
  const lines = createInterface({ input: process.stdin, output: silent, terminal: true })
  try {
    return await lines.question('')
  } finally {
    lines.close()
    process.stdout.write('\n')
  }
}

function giveListening(error: Error, port: number, host: string): never {
  const { code } = error as NodeJS.ErrnoException
  if (code === 'EADDRINUSE')
    give(
      `Port ${port} is taken, perhaps by another Salt Line. Stop that one or choose another with --port.`,
    )
  if (code === 'EACCES')
    give(`Port ${port} may not be used by this user. Choose one above 1023 with --port.`)
  if (code === 'EADDRNOTAVAIL')
    give(`This machine has no address “${host}”. Leave --host out for this machine only.`)
  give(error.message)
}
