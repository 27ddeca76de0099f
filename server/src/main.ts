import { resolve } from 'node:path'
import { parseArgs, type ParseArgsConfig } from 'node:util'
import { pino } from 'pino'
import { createApp } from './app.ts'
import { DatabaseError, openDatabase } from './db/open.ts'
import { addDemo, seedDemo } from './demo/seed.ts'
import { serverOf } from './http/listen.ts'
import { removeLeftFolders } from './work/folder.ts'
import { endWork, warmUp } from './work/pool.ts'

/** The one file is brought up to what was written so often. */
const SETTLE_MS = 600_000

const HELP = `Salt Line server
  --port N          port to listen on (4173, or SALTLINE_PORT)
  --host NAME       address to listen on (127.0.0.1: this machine only)
  --allow-host NAME further host name to answer to; may be given more than once
  --db FILE         database file (data/saltline.sqlite, or SALTLINE_DB)
  --create          make the database where it is missing
  --demo            add the demo station where there is no station yet
  --quiet           log warnings and errors only`

const options = {
  port: { type: 'string', default: process.env['SALTLINE_PORT'] ?? '4173' },
  host: { type: 'string', default: '127.0.0.1' },
  'allow-host': { type: 'string', multiple: true, default: [] },
  db: {
    type: 'string',
    default:
      process.env['SALTLINE_DB'] ?? resolve(import.meta.dirname, '../../data/saltline.sqlite'),
  },
  create: { type: 'boolean', default: false },
  demo: { type: 'boolean', default: false },
  quiet: { type: 'boolean', default: false },
  help: { type: 'boolean', default: false },
} as const satisfies ParseArgsConfig['options']

const args = readArguments()

function readArguments() {
  try {
    return parseArgs({ options }).values
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

async function main(): Promise<void> {
  if (args.help) return console.log(HELP)
  const port = /^\d{1,5}$/.test(args.port) ? Number(args.port) : NaN
  if (!(port <= 65_535))
    give(`“${args.port}” is not a port. Give a whole number from 1 to 65535 with --port.`)

  const file = resolve(args.db)
  removeLeftFolders()
  const db = await openDatabase(file, {
    create: args.create,
    ...(args.demo && { fill: seedDemo }),
  }).catch((error: unknown) => give(error instanceof DatabaseError ? error.message : String(error)))
  if (args.demo) await addDemo(db)
  await warmUp()

  const logger = pino({ level: args.quiet ? 'warn' : 'info' }, pino.destination(2))
  const app = createApp(db, { allowedHosts: [args.host, ...args['allow-host']], logger })
  const server = serverOf(app)
  server.once('error', (error) => giveListening(error, port))
  server.listen(port, args.host, () => {
    const address = server.address()
    const bound = typeof address === 'object' && address ? address.port : port
    console.log(`Salt Line is at http://${args.host}:${bound}/`)
  })
  // Should the disk be full, the log beside the file still has everything.
  const settle = () =>
    db.settle().catch((error: unknown) => logger.warn(error, 'the log stays beside the database'))
  setInterval(() => void settle(), SETTLE_MS).unref()
  const stop = () => {
    server.close(async () => {
      await endWork()
      await settle()
      db.close()
      process.exit(0)
    })
    server.closeAllConnections()
  }
  process.on('SIGINT', stop)
  process.on('SIGTERM', stop)
}

function giveListening(error: Error, port: number): never {
  const { code } = error as NodeJS.ErrnoException
  if (code === 'EADDRINUSE')
    give(
      `Port ${port} is taken, perhaps by another Salt Line. Stop that one or choose another with --port.`,
    )
  if (code === 'EACCES')
    give(`Port ${port} may not be used by this user. Choose one above 1023 with --port.`)
  if (code === 'EADDRNOTAVAIL')
    give(`This machine has no address “${args.host}”. Leave --host out for this machine only.`)
  give(error.message)
}

await main()
