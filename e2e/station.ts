/** A server with a database of its own for one test, on a port that is free, in the test's own process. */
import { createServer, type RequestListener, type Server } from 'node:http'
import { copyFileSync, mkdtempSync, rmSync } from 'node:fs'
import type { AddressInfo } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type * as InProcess from '../server/inProcess.ts'

// It is built (server/build.mjs): as it is written, each of its threads would have to read all of it first.
const built = '../server/dist/inProcess.mjs'
const { accessFileOf, createApp, keepPassphrase, openAccess, openDatabase, seedDemo, warmUp } =
  (await import(built)) as typeof InProcess

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

export interface TestStation {
  url: string
  /** Nobody is at its address any more, until `up`. */
  down: () => Promise<void>
  up: () => Promise<void>
  /** Makes the next change that is requested, and goes down before it has answered; resolves then. */
  dieUnanswered: () => Promise<void>
}

/**
 * One address of loopback for all tests of a process, behind which each has a station of its own: what a browser has
 * read and compiled from it once need not be read again.
 */
export class TestHost {
  #app: RequestListener | null = null
  #died: (() => void) | null = null
  #server: Server | null = null
  /** What is kept of passphrases: each hash takes half a second on purpose. */
  #kept = new Map<string, ReturnType<typeof keepPassphrase>>()
  url = ''

  /** Listens; the threads are begun, since a test must not wait for that while it waits for an answer. */
  static async start(): Promise<TestHost> {
    const host = new TestHost()
    await Promise.all([warmUp(), host.#listen(0)])
    host.url = `http://127.0.0.1:${(host.#server!.address() as AddressInfo).port}`
    return host
  }

  /**
   * Has a fresh copy of the demo station at its address while something is done.
   *
   * @param passphrase with one, the station is open to the network and asks for it
   */
  async serve(during: (station: TestStation) => Promise<void>, passphrase?: string): Promise<void> {
    const folder = mkdtempSync(join(tmpdir(), 'saltline-e2e-'))
    const file = join(folder, 'e2e.sqlite')
    copyFileSync(process.env[TEMPLATE]!, file)
    const db = await openDatabase(file, { create: false })
    const store = passphrase === undefined ? undefined : await openAccess(accessFileOf(file))
    if (passphrase !== undefined) await store!.setPassphrase(await this.#keep(passphrase))
    const access = store && {
      store,
      secure: false,
      port: () => Number(new URL(this.url).port),
      addresses: () => [this.url],
      audit: () => undefined,
    }
    this.#app = createApp(db, { ...(access && { access }) })
    try {
      await during({
        url: this.url,
        down: () => this.#down(),
        up: () => this.#up(),
        dieUnanswered: () => new Promise((done) => (this.#died = done)),
      })
    } finally {
      await this.#down()
      this.#app = this.#died = null
      db.close()
      store?.close()
      rmSync(folder, { recursive: true, force: true })
      await this.#up()
    }
  }

  stop(): Promise<void> {
    return this.#down()
  }

  #keep(passphrase: string): ReturnType<typeof keepPassphrase> {
    const kept = this.#kept.get(passphrase) ?? keepPassphrase(passphrase)
    this.#kept.set(passphrase, kept)
    return kept
  }

  async #listen(port: number): Promise<void> {
    const server = createServer((req, res) => this.#handle(req, res))
    // A test may be quiet for long, and then send on the connection that it has.
    server.keepAliveTimeout = 600_000
    this.#server = server.listen(port, '127.0.0.1')
    await new Promise((done) => server.once('listening', done))
  }

  async #up(): Promise<void> {
    if (!this.#server) await this.#listen(Number(new URL(this.url).port))
  }

  async #down(): Promise<void> {
    const server = this.#server
    if (!server) return
    this.#server = null
    server.closeAllConnections()
    await new Promise((done) => server.close(done))
  }

  #handle: RequestListener = (req, res) => {
    const tell = this.#died
    if (tell && req.method === 'PUT') {
      this.#died = null
      res.end = () => {
        void this.#down().then(tell)
        return res
      }
    }
    if (this.#app) this.#app(req, res)
    else res.destroy()
  }
}
