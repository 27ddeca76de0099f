/** A real server on a real database file, spoken to over real HTTP. */
import type { ChainDocument } from '@saltline/contract'
import { brotliCompressSync } from 'node:zlib'
import { copyFileSync, mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs'
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
  // oxlint-disable-next-line typescript/no-explicit-any
  body: any
}

export const temporaryFolder = (): string => mkdtempSync(join(tmpdir(), 'saltline-'))

let template: Promise<string> | undefined

/** Puts a database with the demo station at a path: made once, copied from then on. */
export async function demoAt(file: string): Promise<void> {
  copyFileSync(await (template ??= makeTemplate()), file)
}

async function makeTemplate(): Promise<string> {
  const folder = temporaryFolder()
  process.once('exit', () => rmSync(folder, { recursive: true }))
  const file = join(folder, 'demo.sqlite')
  const db = await openDatabase(file, { create: true })
  await seedDemo(db)
  await db.settle()
  db.close()
  return file
}

/** Waits until something is so, however slow the machine is: the limit of the whole test ends it. */
export async function until<T>(look: () => T): Promise<NonNullable<T>> {
  for (;;) {
    const found = look()
    if (found) return found
    await new Promise((done) => setTimeout(done, 20))
  }
}

/** @param options workers: false where a test makes the connections fail that it has in its hands */
export async function startHarness(
  options: Pick<AppOptions, 'workers' | 'access' | 'heartbeatMs' | 'trustedProxies'> = {},
): Promise<Harness> {
  const folder = temporaryFolder()
  const file = join(folder, 'test.sqlite')
  await demoAt(file)
  const db = await openDatabase(file, { create: false })
  // An interface of its own: whether the real one is built makes no difference.
  const web = join(folder, 'web')
  mkdirSync(join(web, 'assets'), { recursive: true })
  writeFileSync(join(web, 'index.html'), '<title>Salt Line</title>')
  const script = 'export {}\n'.repeat(200)
  writeFileSync(join(web, 'assets', 'part-1a2b.js'), script)
  writeFileSync(join(web, 'assets', 'part-1a2b.js.br'), brotliCompressSync(script))
  const server: Server = createApp(db, { web, ...options }).listen(0, '127.0.0.1')
  // As the real one: on a slow machine a connection must not be closed while a request is on its way.
  server.keepAliveTimeout = 600_000
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

/** What plans the cables of a chain as long as a plan can take: three sections with a hundred and forty cables. */
export function hardPlanOf(document: ChainDocument): object {
  const lines = document.stages.filter((stage) => stage.kind === 'line')
  const candidates = Array.from({ length: 140 }, (_, i) => ({
    id: `c${i}`,
    cable: { ...lines[0]!.cable, name: `c${i}`, k1DbPer100m: 0.5 + i / 50, k2DbPer100m: 0.001 },
    costPerM: 1 + ((i * 37) % 140) / 20,
  }))
  return {
    document,
    sections: lines.slice(0, 3).map(({ id }) => ({ stageId: id, candidates })),
    counts: 'worst',
    costPerSection: 0,
  }
}
