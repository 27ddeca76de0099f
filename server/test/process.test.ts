/** The server as a process of its own: started, refused, killed. */
import { type ChildProcess, spawn } from 'node:child_process'
import { copyFileSync, rmSync, writeFileSync } from 'node:fs'
import { createServer } from 'node:net'
import { join, resolve } from 'node:path'
import { afterEach, beforeEach, expect, test } from 'vitest'
import { callAt, temporaryFolder } from './harness.ts'

const ROOT = resolve(import.meta.dirname, '../..')

let folder: string
let running: ChildProcess[]
beforeEach(() => {
  folder = temporaryFolder()
  running = []
})
afterEach(() => {
  for (const child of running) child.kill('SIGKILL')
  rmSync(folder, { recursive: true, force: true })
})

/** Node itself runs the server, so that a kill reaches it and not a wrapper. */
function launch(...args: string[]) {
  const child = spawn(
    process.execPath,
    ['--import', 'tsx', 'server/src/main.ts', '--quiet', ...args],
    {
      cwd: ROOT,
      stdio: ['ignore', 'pipe', 'pipe'],
    },
  )
  running.push(child)
  let output = ''
  child.stdout.on('data', (chunk) => (output += String(chunk)))
  child.stderr.on('data', (chunk) => (output += String(chunk)))
  const exited = new Promise<number | null>((done) => child.once('exit', done))
  const address = new Promise<string>((done, fail) => {
    child.stdout.on('data', () => {
      const found = /http:\/\/127\.0\.0\.1:\d+/.exec(output)
      if (found) done(found[0])
    })
    void exited.then(() => fail(new Error(output)))
  })
  address.catch(() => undefined)
  return { child, address, exited, output: () => output }
}

test(
  'kill -9 in the middle of saving loses nothing that was acknowledged',
  { timeout: 60_000 },
  async () => {
    const db = join(folder, 'kill.sqlite')
    const first = launch('--create', '--demo', '--db', db, '--port', '0')
    const base = await first.address
    const { document } = (await callAt(base, 'GET', '/api/chains/hf-long-run')).body

    let acknowledged = 1
    const saving = (async () => {
      for (;;) {
        const edit = {
          baseRevision: acknowledged,
          document: { ...document, note: `edit ${acknowledged + 1}` },
        }
        const { body } = await callAt(base, 'PUT', '/api/chains/hf-long-run', edit)
        acknowledged = body.revision
        if (acknowledged === 40) first.child.kill('SIGKILL')
      }
    })()
    await expect(saving).rejects.toThrow()
    await first.exited

    const second = launch('--db', db, '--port', '0')
    const after = (await callAt(await second.address, 'GET', '/api/chains/hf-long-run')).body
    // One more may have been written and not yet answered.
    expect(after.revision).toBeGreaterThanOrEqual(acknowledged)
    expect(after.document.note).toBe(`edit ${after.revision}`)
    const list = (await callAt(await second.address, 'GET', '/api/chains/hf-long-run/revisions'))
      .body
    expect(list).toHaveLength(after.revision)
  },
)

test('after an orderly stop the one file holds everything', { timeout: 60_000 }, async () => {
  const db = join(folder, 'stop.sqlite')
  const server = launch('--create', '--demo', '--db', db, '--port', '0')
  await callAt(await server.address, 'POST', '/api/stations', { name: 'Tern Sands' })
  server.child.kill('SIGTERM')
  expect(await server.exited).toBe(0)
  const copy = join(folder, 'copied.sqlite')
  copyFileSync(db, copy)
  const second = launch('--db', copy, '--port', '0')
  const { body } = await callAt(await second.address, 'GET', '/api/stations')
  expect((body as { name: string }[]).map(({ name }) => name)).toContain('Tern Sands')
})

test('a taken port is named, with the cure', { timeout: 30_000 }, async () => {
  const other = createServer().listen(0, '127.0.0.1')
  await new Promise((done) => other.once('listening', done))
  const { port } = other.address() as { port: number }
  const started = launch('--create', '--db', join(folder, 'x.sqlite'), '--port', String(port))
  expect(await started.exited).toBe(1)
  expect(started.output()).toContain(`Port ${port} is taken`)
  expect(started.output()).not.toContain('    at ')
  other.close()
})

test.each([
  ['a missing database', () => [], /no database at .*missing\.sqlite/],
  [
    'a file that is none',
    (file: string) => (writeFileSync(file, 'x'.repeat(5000)), []),
    /cannot be read/,
  ],
  ['a strange port', () => ['--create', '--port', 'http'], /“http” is not a port/],
])('%s ends with words, not with a stack', { timeout: 30_000 }, async (_, prepare, words) => {
  const file = join(folder, 'missing.sqlite')
  const started = launch('--db', file, ...prepare(file))
  expect(await started.exited).toBe(1)
  expect(started.output()).toMatch(words)
  expect(started.output()).not.toContain('    at ')
})
