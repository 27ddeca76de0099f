/** The server: read what was asked for, open the database, listen, keep copies, end in order. */
import { readFileSync } from 'node:fs'
import { isIP } from 'node:net'
import { join, resolve } from 'node:path'
import { createInterface } from 'node:readline/promises'
import { Writable } from 'node:stream'
import { createSecureContext } from 'node:tls'
import { parseArgs, type ParseArgsConfig } from 'node:util'
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
import { inServer } from './home.ts'
import { serverOf } from './http/listen.ts'
import { logFormats, loggerOf } from './http/logLines.ts'
import { removeLeftFolders } from './work/folder.ts'
import { copying } from './work/kinds.ts'
import { keepNightly } from './work/nightly.ts'
import { endWork, warmUp, work } from './work/pool.ts'

/** So long after it listens the server has collected what its beginning left, ms. */
const BEGIN_MS = 5000

/** The one file is brought up to what was written so often. */
const SETTLE_MS = 600_000

/** The night that was missed is made up for when the server has begun, ms; later it looks every minute. */
const FIRST_COPY_MS = 10_000
const LOOK_MS = 60_000

const HELP = `Salt Line server
  --port N          port to listen on (4173, or SALTLINE_PORT)
  --host NAME       address to listen on (127.0.0.1: this machine only)
  --network         open to the station's network, with a passphrase; --host then says on which address (all)
  --set-passphrase  ask for another passphrase first; every device signs in anew
  --https           speak HTTPS with a certificate of its own making
  --cert FILE       certificate, PEM: with --key the server speaks HTTPS
  --key FILE        its key, PEM
  --public-url URL  address under which a reverse proxy shows this server, as https://radio.example
  --base-path PATH  path that the proxy shows it under, as /radio; it is passed on unchanged
  --trust-proxy IP  address of that proxy, whose X-Forwarded headers are believed; may be given
                    more than once
  --allow-host NAME further host name to answer to; may be given more than once
  --db FILE         database file (data/saltline.sqlite, or SALTLINE_DB)
  --create          make the database where it is missing
  --backups DIR     folder of the copies that are made every night (beside the database,
                    or SALTLINE_BACKUPS); one on another disk outlives this one
  --demo            add the demo station where there is no station yet
  --quiet           log warnings and errors only
  --log FORMAT      text, for people, or json: one line of JSON for each event (text)`

const options = {
  port: { type: 'string', default: process.env['SALTLINE_PORT'] ?? '4173' },
  host: { type: 'string' },
  network: { type: 'boolean', default: false },
  'set-passphrase': { type: 'boolean', default: false },
  https: { type: 'boolean', default: false },
  cert: { type: 'string' },
  key: { type: 'string' },
  'public-url': { type: 'string' },
  'base-path': { type: 'string', default: '' },
  'trust-proxy': { type: 'string', multiple: true, default: [] },
  'allow-host': { type: 'string', multiple: true, default: [] },
  db: {
    type: 'string',
    default: process.env['SALTLINE_DB'] ?? inServer('../data/saltline.sqlite'),
  },
  backups: { type: 'string' },
  create: { type: 'boolean', default: false },
  demo: { type: 'boolean', default: false },
  quiet: { type: 'boolean', default: false },
  log: { type: 'string', default: 'text' },
  help: { type: 'boolean', default: false },
} as const satisfies ParseArgsConfig['options']

type Arguments = ReturnType<typeof readArguments>

function readArguments(argv: readonly string[]) {
  try {
    return parseArgs({ args: [...argv], options }).values
  } catch (error) {
    // “Unknown option '--prot'. To specify a positional argument …”: the first sentence says it.
    const [first] = (error as Error).message.split('. ')
    return give(`${first}.\n\n${HELP}`)
  }
}

/** Ends with a message for the person at the keyboard, without a stack. */
function give(message: string): never {
  console.error(`Salt Line cannot start.\n${message}`)
  process.exit(1)
}

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

const isLoopback = (host: string): boolean =>
  host === 'localhost' || host === '::1' || /^127(\.\d{1,3}){3}$/.test(host)

/** Where a reverse proxy shows the server; undefined without one. */
function publicAddress({ 'public-url': url, 'trust-proxy': proxies, network }: Arguments) {
  const wrong = proxies.find((address) => isIP(address) === 0)
  if (wrong !== undefined)
    give(`--trust-proxy ${wrong}: give the address of the proxy, as 127.0.0.1.`)
  if (url === undefined) {
    if (proxies.length > 0)
      give('--trust-proxy goes with --public-url: the address that the proxy shows.')
    return undefined
  }
  if (!URL.canParse(url) || !/^https?:$/.test(new URL(url).protocol))
    give(`--public-url ${url}: write it as https://radio.example.`)
  const address = new URL(url)
  if (address.pathname !== '/')
    give('--public-url: give the host alone, and the path on it with --base-path.')
  if (!network)
    give(
      '--public-url shows the server to others: add --network, which asks them for a passphrase.',
    )
  if (proxies.length === 0)
    give('--public-url goes with --trust-proxy: the address that the proxy comes from.')
  return address
}

/** Both or neither of --cert and --key, as files. */
function readCertificate({ https, cert, key }: Arguments) {
  if (https && (cert !== undefined || key !== undefined))
    give('--https makes a certificate of its own: leave --cert and --key out, or --https.')
  if (cert === undefined && key === undefined) return undefined
  if (cert === undefined || key === undefined) give('--cert and --key belong together: give both.')
  const read = (path: string, what: string) => {
    try {
      return readFileSync(path)
    } catch {
      return give(`The ${what} “${path}” could not be read.`)
    }
  }
  const pair = { cert: read(cert, 'certificate'), key: read(key, 'key') }
  try {
    createSecureContext(pair)
  } catch (error) {
    give(`Certificate and key do not fit: ${(error as Error).message}.`)
  }
  return pair
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
