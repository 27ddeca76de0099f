// Builds the server into server/dist: the server itself, what its worker threads do, what looks into a backup, and a
// meter to try things with. Libraries stay in node_modules.
import { cpSync, rmSync } from 'node:fs'
import { createRequire } from 'node:module'
import { build, context } from 'esbuild'
import { dirname, join, resolve } from 'node:path'

const at = (path) => resolve(import.meta.dirname, path)

/** @type {import('esbuild').BuildOptions} */
const options = {
  entryPoints: {
    main: at('src/main.ts'),
    // `saltline`, the command.
    cli: at('cli/main.ts'),
    worker: at('src/work/worker.ts'),
    inspectBackup: at('src/store/inspectBackup.ts'),
    // Hashes of passphrases, in a thread of their own.
    hashWorker: at('src/access/hashWorker.ts'),
    // What the browser tests begin a server with, in their own process.
    inProcess: at('inProcess.ts'),
  },
  outdir: at('dist'),
  outExtension: { '.js': '.mjs' },
  bundle: true,
  // What is rarely needed is read when it is.
  splitting: true,
  // Half as much to read at every start; names stay, for what is told of an error.
  minifySyntax: true,
  minifyWhitespace: true,
  format: 'esm',
  platform: 'node',
  target: 'node20',
  // Read in one piece a thread begins in half the time. What finds files of its own beside it stays in node_modules.
  external: ['@libsql/client', 'libsql', 'piscina', 'pino'],
  banner: {
    js: "import { createRequire as requireFrom } from 'node:module'; const require = requireFrom(import.meta.url);",
  },
  alias: {
    '@saltline/core': at('../core/src/index.ts'),
    '@saltline/contract/table': at('../contract/src/table/index.ts'),
    '@saltline/contract': at('../contract/src/index.ts'),
  },
  sourcemap: true,
  logLevel: 'warning',
}

function buildServer() {
  // Parts of an earlier build are nobody's.
  rmSync(options.outdir, { recursive: true, force: true })
  // The page that shows the API: a viewer from the registry, served from here.
  const page = join(options.outdir, 'apiPage')
  cpSync(at('apiPage'), page, { recursive: true })
  const viewer = dirname(createRequire(import.meta.url).resolve('swagger-ui-dist/package.json'))
  for (const name of ['swagger-ui.css', 'swagger-ui-bundle.js', 'LICENSE'])
    cpSync(join(viewer, name), join(page, name))
  return build(options)
}

/** What the tests begin with, where nobody has built it for them. */
export default async function setup() {
  if (!process.env.SALTLINE_BUILT) await buildServer()
}

if (process.argv[1] === import.meta.filename) {
  if (process.argv.includes('--watch')) await (await context(options)).watch()
  else await buildServer()
}
