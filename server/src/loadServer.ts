/** The server as it is built, for the programs that start it. */
import { createRequire } from 'node:module'
import { inServer } from './home.ts'
import type * as Serve from './serve.ts'

export const loadServer = (): typeof Serve =>
  createRequire(import.meta.url)(inServer('dist', 'serve.cjs')) as typeof Serve
