import tailwind from '@tailwindcss/vite'
import react from '@vitejs/plugin-react'
import { appendFileSync, readFileSync } from 'node:fs'
import { resolve } from 'node:path'
import { defineConfig, type Plugin } from 'vite'
import { compression } from 'vite-plugin-compression2'
import { serviceWorker } from './serviceWorker/build.ts'
import { sharedWorker } from './sharedWorker.ts'

const api = `http://127.0.0.1:${process.env['SALTLINE_PORT'] ?? '4173'}`

const NOTICES = 'third-party-notices.md'

/** The font comes in by way of CSS, which the list of licences does not see. */
const fontLicence: Plugin = {
  name: 'font-licence',
  writeBundle: ({ dir }) =>
    appendFileSync(
      resolve(dir!, NOTICES),
      `\n## @fontsource/b612 (OFL-1.1)\n\n${readFileSync(resolve(import.meta.dirname, '../node_modules/@fontsource/b612/LICENSE'), 'utf8')}`,
    ),
}

/** The folders of the core, and those of them that every answer needs. */
const CORE = /[\\/]core[\\/]src[\\/](\w+)/
const ANSWERS =
  /[\\/]core[\\/]src[\\/](cables|chain|limits|line|load|measure|parts|source|stages|statistics|units)[\\/]|sweep[\\/]analyserErrors|bench[\\/]calibration/

/** What page and worker talk by, and what both of them say. */
const WORKER_TALK =
  /[\\/]comlink[\\/]|vite[\\/]preload-helper|[\\/]web[\\/]src[\\/]model[\\/](answers|headroomWords)\.ts/

/** A chain as it opens: its page, the spine, the lens that comes first. Dialogs come when they are asked for. */
const CHAIN =
  /[\\/]web[\\/]src[\\/](spine|editor|pages[\\/]chain(?![\\/](importing|History|Conflict))|lenses[\\/]budget)[\\/]/

/** What every page is made of. */
const INTERFACE =
  /node_modules[\\/](@radix-ui|radix-ui|@floating-ui|aria-hidden|react-remove-scroll|lucide-react)|[\\/]web[\\/]src[\\/](ui|platform|shell|compute|model[\\/](?!alongLine|lineSweeps|sweepFile))/

/**
 * What is loaded together stays together: a page asks for ten scripts, not for sixty. What only one page or lens needs
 * stays with it. The worker shares some of them; `sharedWorker` sees to it that nothing of the page comes along.
 */
const groups = [
  {
    name: 'libraries',
    test: /node_modules[\\/](react|react-dom|scheduler|react-router|@tanstack[\\/](query-core|react-query))[\\/]/,
  },
  {
    name: 'contract',
    test: /node_modules[\\/](zod|date-fns)[\\/]|[\\/]contract[\\/]src[\\/]/,
    minShareCount: 3,
  },
  {
    name: 'answers',
    test: new RegExp(`${ANSWERS.source}|${WORKER_TALK.source}`),
    minShareCount: 2,
  },
  {
    name: (file: string) => `core-${CORE.exec(file)?.[1]}`,
    debugName: 'core',
    test: CORE,
    minShareCount: 2,
  },
  { name: 'interface', test: INTERFACE, minShareCount: 6 },
  { name: 'chain', test: CHAIN },
]

export default defineConfig({
  plugins: [
    react(),
    tailwind(),
    fontLicence,
    // Compressed once here, so that the server need not.
    compression({ algorithms: ['gzip', 'brotliCompress'], include: /\.(js|css|html|svg)$/ }),
    sharedWorker(),
    serviceWorker(),
  ],
  server: { host: '127.0.0.1', proxy: { '/api': { target: api } } },
  // Scripts find each other wherever a proxy shows them; the server writes into the page where that is.
  experimental: {
    renderBuiltUrl: (_file, { hostType }) => (hostType === 'html' ? undefined : { relative: true }),
  },
  build: {
    target: 'es2023',
    chunkSizeWarningLimit: 700,
    // A worker has no document to put a preload into.
    modulePreload: {
      resolveDependencies: (_file, needed, { hostId }) => (/worker/.test(hostId) ? [] : needed),
    },
    rolldownOptions: { output: { codeSplitting: { groups } } },
    // Licences of everything that the browser is sent.
    license: { fileName: NOTICES },
  },
})
