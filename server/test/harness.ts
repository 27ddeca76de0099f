/** A real server on a real database file, spoken to over real HTTP. */
import { brotliCompressSync } from 'node:zlib'
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import type { Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { type AppOptions, createApp } from '../src/app.ts'
import { type Database, openDatabase } from '../src/db/open.ts'
import { seedDemo } from '../src/demo/seed.ts'

export interface Harness {
  base: string
  db: Database
  file: string
  call: (
    method: string,
    path: string,
    body?: unknown,
    headers?: Record<string, string>,
  ) => Promise<Answer>
  close: () => Promise<void>
}

export interface Answer {
  status: number
  type: string
  headers: Headers
  // Tests look into bodies of every shape.
  // eslint-disable-next-line @typescript-eslint/no-explicit-any
  body: any
}

export const temporaryFolder = (): string => mkdtempSync(join(tmpdir(), 'saltline-'))

/** @param options workers: false where a test makes the connections fail that it has in its hands */
export async function startHarness(
  options: Pick<AppOptions, 'workers' | 'access' | 'heartbeatMs'> = {},
): Promise<Harness> {
  const folder = temporaryFolder()
  const file = join(folder, 'test.sqlite')
  const db = await openDatabase(file, { create: true })
  await seedDemo(db)
  // An interface of its own: whether the real one is built makes no difference.
  const web = join(folder, 'web')
  mkdirSync(join(web, 'assets'), { recursive: true })
  writeFileSync(join(web, 'index.html'), '<title>Salt Line</title>')
  const script = 'export {}\n'.repeat(200)
  writeFileSync(join(web, 'assets', 'part-1a2b.js'), script)
  writeFileSync(join(web, 'assets', 'part-1a2b.js.br'), brotliCompressSync(script))
  const server: Server = createApp(db, { web, ...options }).listen(0, '127.0.0.1')
  await new Promise((done) => server.once('listening', done))
  const base = `http://127.0.0.1:${(server.address() as AddressInfo).port}`
  return {
    base,
    db,
    file,
    call: (method, path, body, headers) => callAt(base, method, path, body, headers),
    close: async () => {
      server.closeAllConnections()
      await new Promise((done) => server.close(done))
      db.close()
      rmSync(folder, { recursive: true })
    },
  }
}

export async function callAt(
  base: string,
  method: string,
  path: string,
  body?: unknown,
  headers: Record<string, string> = {},
): Promise<Answer> {
  const response = await fetch(base + path, {
    method,
    headers: { ...(body !== undefined && { 'content-type': 'application/json' }), ...headers },
    ...(body !== undefined && { body: typeof body === 'string' ? body : JSON.stringify(body) }),
  })
  const text = await response.text()
  const type = response.headers.get('content-type') ?? ''
  return {
    status: response.status,
    type,
    headers: response.headers,
    body: type.includes('json') ? (JSON.parse(text) as unknown) : text,
  }
}
