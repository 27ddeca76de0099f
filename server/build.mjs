// Builds the server into server/dist: the server itself, what its worker threads do, what looks into a backup, and a
// meter to try things with. Libraries stay in node_modules.
import { cpSync, rmSync } from 'node:fs'
import { createRequire } from 'node:module'
import { build, context } from 'esbuild'
import { dirname, join, resolve } from 'node:path'

const at = (path) => resolve(import.meta.dirname, path)

/**
 * What libraries bring along for others, replaced by what is used: the messages of our schemas are English, and JSON is
 * UTF-8. A megabyte less to read at every start.
 *
 * @type {import('esbuild').Plugin}
 */
const without = {
  name: 'without',
  setup(building) {
    building.onLoad({ filter: /zod\/v4\/locales\/index\.js$/ }, ({ path }) => ({
      contents: "export { default as en } from './en.js'",
      resolveDir: dirname(path),
    }))
    building.onLoad({ filter: /iconv-lite\/encodings\/index\.js$/ }, ({ path }) => ({
      contents: "module.exports = require('./internal')",
      resolveDir: dirname(path),
    }))
  },
}

/** @type {import('esbuild').BuildOptions} */
const shared = {
  outdir: at('dist'),
  bundle: true,
  // Half as much to read at every start; names stay, for what is told of an error.
  minifySyntax: true,
  minifyWhitespace: true,
  platform: 'node',
  target: 'node20',
  // Read in one piece a thread begins in half the time. What finds files of its own beside it stays in node_modules.
  external: ['@libsql/client', 'libsql', 'piscina', 'pino'],
  alias: {
    '@saltline/core': at('../core/src/index.ts'),
    '@saltline/contract/table': at('../contract/src/table/index.ts'),
    '@saltline/contract': at('../contract/src/index.ts'),
  },
  plugins: [without],
  sourcemap: true,
  logLevel: 'warning',
}

/** What is typed, and reads no more than it needs. */
const commands = {
  ...shared,
  entryPoints: {
    main: at('src/main.ts'),
    // `saltline`, the command.
    cli: at('cli/main.ts'),
    inspectBackup: at('src/store/inspectBackup.ts'),
    // What the browser tests begin a server with, in their own process.
    inProcess: at('inProcess.ts'),
  },
  outExtension: { '.js': '.mjs' },
  // What is rarely needed is read when it is.
  splitting: true,
  format: 'esm',
  banner: {
    js: "import { createRequire as requireFrom } from 'node:module'; const require = requireFrom(import.meta.url);",
  },
}

/** What is waited for: in one piece of CommonJS, Node 20 begins it a fifth of a second sooner than as modules. */
const waitedFor = {
  ...shared,
  entryPoints: {
    serve: at('src/serve.ts'),
    worker: at('src/work/worker.ts'),
    // Hashes of passphrases, in a thread of their own.
    hashWorker: at('src/access/hashWorker.ts'),
    // Certificates: half a megabyte, for the few starts that make one.
    selfsigned: 'selfsigned',
  },
  outExtension: { '.js': '.cjs' },
  format: 'cjs',
  // Held in memory as text for as long as it runs. The map beside it has the names of a logged error.
  minifyIdentifiers: true,
  define: { 'import.meta.dirname': '__dirname', 'import.meta.url': '__filename' },
  plugins: [...shared.plugins, beside('selfsigned')],
}

/** A library that lies beside what is built, and is read when it is asked for. */
function beside(library) {
  return {
    name: 'beside',
    setup(building) {
      building.onResolve({ filter: new RegExp(`^${library}$`) }, ({ kind }) =>
        kind === 'dynamic-import' ? { path: `./${library}.cjs`, external: true } : undefined,
      )
    },
  }
}

function buildServer() {
  // Parts of an earlier build are nobody's.
  rmSync(shared.outdir, { recursive: true, force: true })
  // The page that shows the API: a viewer from the registry, served from here.
  const page = join(shared.outdir, 'apiPage')
  cpSync(at('apiPage'), page, { recursive: true })
  const viewer = dirname(createRequire(import.meta.url).resolve('swagger-ui-dist/package.json'))
  for (const name of ['swagger-ui.css', 'swagger-ui-bundle.js', 'LICENSE'])
    cpSync(join(viewer, name), join(page, name))
  return Promise.all([commands, waitedFor].map((options) => build(options)))
}

/** What the tests begin with, where nobody has built it for them. */
export default async function setup() {
  if (!process.env.SALTLINE_BUILT) await buildServer()
}

if (process.argv[1] === import.meta.filename) {
  if (process.argv.includes('--watch'))
    for (const options of [commands, waitedFor]) await (await context(options)).watch()
  else await buildServer()
}
