/** A server with a database of its own for one test, on a port that is free, in the test's own process. */
import { createServer, type RequestListener, type Server } from 'node:http'
import { copyFileSync, mkdtempSync, rmSync } from 'node:fs'
import type { AddressInfo } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { accessFileOf, openAccess } from '../server/src/access/store.ts'
import { createApp } from '../server/src/app.ts'
import { openDatabase } from '../server/src/db/open.ts'
import { seedDemo } from '../server/src/demo/seed.ts'
import { warmUp } from '../server/src/work/pool.ts'

/** Where the demo's database waits to be copied; made once a run. */
export const TEMPLATE = 'SALTLINE_E2E_TEMPLATE'

/** Makes the demo's database once, since every test begins with a copy of it. */
export async function makeTemplate(): Promise<{ file: string; remove: () => void }> {
  const folder = mkdtempSync(join(tmpdir(), 'saltline-template-'))
  const file = join(folder, 'demo.sqlite')
  const db = await openDatabase(file, { create: true })
  await seedDemo(db)
  // All of it in the one file that is copied.
  await db.$client.execute('PRAGMA wal_checkpoint(TRUNCATE)')
  db.close()
  return { file, remove: () => rmSync(folder, { recursive: true, force: true }) }
}

/** Once a process: a test must not wait for threads to begin while it waits for an answer. */
let warm: Promise<unknown> | undefined

export interface TestStation {
  url: string
  stop: () => Promise<void>
  /** Nobody is at its address any more, until `up`. */
  down: () => Promise<void>
  up: () => Promise<void>
  /** Does what it is asked to change next, and goes down before it has answered; resolves then. */
  dieUnanswered: () => Promise<void>
}

/** @param passphrase with one, the station is open to the network and asks for it */
export async function startStation(passphrase?: string): Promise<TestStation> {
  const folder = mkdtempSync(join(tmpdir(), 'saltline-e2e-'))
  const file = join(folder, 'e2e.sqlite')
  copyFileSync(process.env[TEMPLATE]!, file)
  await (warm ??= warmUp())
  const db = await openDatabase(file, { create: false })
  const store = passphrase === undefined ? undefined : await openAccess(accessFileOf(file))
  if (passphrase !== undefined) await store!.setPassphrase(passphrase)
  let url = ''
  const access = store && { store, secure: false, addresses: () => [url], audit: () => undefined }
  const app = createApp(db, { ...(access && { access }) })
  let died: (() => void) | null = null
  const handle: RequestListener = (req, res) => {
    if (died && req.method === 'PUT') {
      const tell = died
      died = null
      res.end = () => {
        void down().then(tell)
        return res
      }
    }
    app(req, res)
  }
  let server: Server
  const up = async (port = Number(new URL(url).port)) => {
    server = createServer(handle).listen(port, '127.0.0.1')
    await new Promise((done) => server.once('listening', done))
  }
  const down = async () => {
    server.closeAllConnections()
    await new Promise((done) => server.close(done))
  }
  await up(0)
  url = `http://127.0.0.1:${(server!.address() as AddressInfo).port}`
  return {
    url,
    down,
    up: () => up(),
    dieUnanswered: () => new Promise((done) => (died = done)),
    stop: async () => {
      await down()
      db.close()
      store?.close()
      rmSync(folder, { recursive: true, force: true })
    },
  }
}
