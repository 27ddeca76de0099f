/** Builds the service worker behind the interface, with the list of the files that it keeps. */
import { createHash } from 'node:crypto'
import { readdirSync, readFileSync } from 'node:fs'
import { join, relative } from 'node:path'
import { build, type Plugin } from 'vite'

const OMITTED = /\.(br|gz|map|md)$|^serviceWorker\.js$/

export function serviceWorker(): Plugin {
  let out = ''
  return {
    name: 'service-worker',
    apply: 'build',
    configResolved: (config) => void (out = config.build.outDir),
    async closeBundle() {
      const folder = join(import.meta.dirname, '..', relative(join(import.meta.dirname, '..'), out))
      await build({
        configFile: false,
        root: join(import.meta.dirname, '..'),
        publicDir: false,
        logLevel: 'warn',
        define: {
          FILES: JSON.stringify(filesOf(folder)),
          'process.env.NODE_ENV': '"production"',
        },
        build: {
          outDir: folder,
          emptyOutDir: false,
          copyPublicDir: false,
          license: { fileName: 'third-party-notices-service-worker.md' },
          lib: {
            entry: join(import.meta.dirname, 'serviceWorker.ts'),
            formats: ['iife'],
            name: 'saltline',
            fileName: () => 'serviceWorker.js',
          },
        },
      })
    },
  }
}

/** Every file of the interface; those whose name tells what is in them need no revision. */
function filesOf(folder: string): { url: string; revision: string | null }[] {
  return readdirSync(folder, { recursive: true, withFileTypes: true })
    .filter((entry) => entry.isFile() && !OMITTED.test(entry.name))
    .map((entry) => relative(folder, join(entry.parentPath, entry.name)))
    .sort()
    .map((file) => ({
      // Beside the worker, wherever that lies.
      url: file,
      revision: file.startsWith('assets/')
        ? null
        : createHash('sha256')
            .update(readFileSync(join(folder, file)))
            .digest('hex')
            .slice(0, 16),
    }))
}
