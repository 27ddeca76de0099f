/** Where the server lies: it runs as it is written, from src, or built, from dist. */
import { join, resolve } from 'node:path'

const SERVER = resolve(import.meta.dirname, '..')

/** A file or folder of the server. */
export const inServer = (...path: string[]): string => join(SERVER, ...path)

/** A program that is built (server/build.mjs), for a thread or a process of its own. */
export const built = (name: 'worker.cjs' | 'inspectBackup.mjs' | 'hashWorker.cjs'): string =>
  inServer('dist', name)
