/** The commands of `saltline` besides the server: its keeping, files, and the core at the shell. */
import { InputError } from '@saltline/core'
import yargs from 'yargs'
import { version } from '../src/version.ts'
import { StoreError } from '../src/store/errors.ts'
import { cables, loss, planned, solve, sweep } from './figures.ts'
import { Refusal } from './say.ts'

const json = { type: 'boolean', default: false, describe: 'print JSON' } as const
const text = (describe: string) => ({ type: 'string', describe, demandOption: true }) as const
/** A file, or `-` for standard input, which arrives here as nothing. */
const file = (describe: string) =>
  ({ ...text(describe), coerce: (name: string) => (name === '' ? '-' : name) }) as const
const list = (describe: string) =>
  ({ type: 'string', array: true, default: [] as string[], describe }) as const

/** A mistake is one sentence on standard error: 2 where the command was typed wrong, 1 for all else. */
function end(error: unknown): never {
  if (error instanceof StoreError || error instanceof Refusal || error instanceof InputError) {
    const detail = error instanceof StoreError ? `${error.title}. ${error.message}` : error.message
    console.error(`saltline: ${detail.trim()}`)
  } else console.error(error)
  process.exit(1)
}

/** What works on a database is much to read, and the figures need nothing of it. */
const keeping = () => import('./keeping.ts')
const files = () => import('./files.ts')
const importable = ['station', 'csv', 'json'] as const

/**
 * Reads a command and does it.
 *
 * @param argv what stands behind the name of the program
 * @param database where the database of an installed one lies
 */
export async function command(argv: readonly string[], database: string): Promise<void> {
  const [verb] = argv
  const db = { type: 'string', default: database, describe: 'database file' } as const
  const program = yargs([...argv])
    .scriptName('saltline')
    .locale('en')
    .usage('$0 <command>\n\nHow many watts reach the antenna, and who took the rest.')
    .command(
      'serve',
      'start the server; “serve --help” lists its options, “serve --service” prints a systemd unit',
      () => undefined,
    )
    .command('demo', 'start it with the demo station, in a database of its own', () => undefined)
    .command(
      'backup',
      'make a copy of the database now, and check it',
      { db, json },
      async (given) => (await keeping()).backup(given),
    )
    .command('backups', 'list the copies that are kept', { db, json }, async (given) =>
      (await keeping()).backups(given),
    )
    .command(
      'restore <name>',
      'put a copy in the place of everything; what is there is kept',
      (y) =>
        y.positional('name', text('a copy as “backups” names it, or a file')).options({ db, json }),
      async (given) => (await keeping()).restore(given),
    )
    .command(
      'check',
      'tell whether the database is sound, and what it holds',
      { db, json },
      async (given) => (await keeping()).check(given),
    )
    .command(
      'import <file>',
      'add a station file; or readings, as CSV or JSON, to the chains of a station',
      (y) =>
        y.positional('file', file('a file, or - for standard input')).options({
          db,
          format: {
            choices: importable,
            describe: 'what it is; seen by how it begins where this is not given',
          },
          station: { type: 'string', describe: 'whose chains readings go to' },
          chain: {
            type: 'string',
            describe: 'name or identity of the chain that readings go to where they name none',
          },
          'month-first': {
            type: 'boolean',
            default: false,
            describe: 'of dates in a table, as 4/18/2026',
          },
          json,
        }),
      async (given) => (await files()).imported(given),
    )
    .command(
      'export',
      'write a station, or its log, as a file',
      {
        db,
        station: { type: 'string', describe: 'its name, where there are several' },
        format: {
          choices: importable,
          default: 'station' as const,
          describe: 'what is written',
        },
        out: { type: 'string', describe: 'file; standard output without one' },
        json,
      },
      async (given) => (await files()).exported(given),
    )
    .command(
      'loss',
      'what a cable leaves of a power',
      {
        cable: text('class, marking or size: RG-213, "5 mm solid PE"'),
        length: text('34m, 100 ft'),
        frequency: text('8.3MHz'),
        power: { type: 'string', default: '100W', describe: '80W, 1.2kW, 46dBm' },
        swr: { type: 'string', default: '1', describe: 'SWR of the antenna' },
        json,
      },
      loss,
    )
    .command(
      'solve <file>',
      'every plane of a chain, on each of its channels',
      (y) =>
        y.positional('file', file('a chain as JSON, or - for standard input')).options({
          format: {
            choices: ['text', 'csv', 'json'],
            default: 'text',
            describe: 'what is printed',
          },
        }),
      (given) => solve(given),
    )
    .command(
      'sweep <file>',
      'carry a sweep through cables to the feed point',
      (y) =>
        y.positional('file', file('a Touchstone file (.s1p), or -')).options({
          through: list('a cable and its length, from the analyser outward: "5 mm solid PE:17m"'),
          out: { type: 'string', describe: 'file; standard output without one' },
        }),
      (given) => sweep(given),
    )
    .command(
      'plan <file>',
      'which cables are worth their price, or their weight',
      (y) =>
        y.positional('file', file('a chain as JSON, or -')).options({
          section: {
            type: 'string',
            array: true,
            demandOption: true,
            describe: 'name of a cable that may change',
          },
          by: {
            choices: ['price', 'weight'],
            default: 'weight',
            describe: 'what loss is held against',
          },
          price: list('of a metre of a cable: "RG-213=2.4"'),
          budget: { type: 'string', describe: 'at most' },
          json,
        }),
      (given) => planned(given),
    )
    .command(
      'cables',
      'list the classes of cable',
      { frequency: { type: 'string', default: '14.2MHz', describe: 'for their loss' }, json },
      cables,
    )
    .completion('completion', 'print completions for bash or zsh')
    .demandCommand(1, 'Name a command.')
    .strict()
    .recommendCommands()
    .version(version)
    .help()
    .wrap(Math.min(100, process.stdout.columns ?? 100))
    .fail((message, error: unknown) => {
      if (error) end(error)
      console.error(
        `saltline: ${message}\n“saltline ${verb && !verb.startsWith('-') ? `${verb} ` : ''}--help” says more.`,
      )
      process.exit(2)
    })
  // What a command throws comes here, whether at once or later.
  await Promise.resolve()
    .then(() => program.parseAsync())
    .catch(end)
}
