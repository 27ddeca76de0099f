import { type ChildProcess, spawn, spawnSync } from 'node:child_process'
import {
  cpSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs'
import { tmpdir } from 'node:os'
import { basename, join, resolve } from 'node:path'
import { expect, test } from '@playwright/test'
import { WINDOW } from '../setup.ts'

/** This version, as it is built; and the next one, made of its sources, with a migration of its own. */
const here = resolve(import.meta.dirname, '../..')
const NEXT = '9.0.0'

let folder: string
let next: string
let running: ChildProcess | undefined

const json = <T>(path: string): T => JSON.parse(readFileSync(path, 'utf8')) as T

test.beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'saltline-update-'))
  next = join(folder, 'next')
  mkdirSync(next)
  const built = /node_modules|[\\/](dist|reference|results|screenshots|test)$/
  for (const part of [
    'core',
    'contract',
    'server',
    'web',
    'docs',
    'package.json',
    'tsconfig.base.json',
  ])
    cpSync(join(here, part), join(next, part), {
      recursive: true,
      filter: (path) => !built.test(path.slice(here.length)),
    })
  // Libraries are those of this clone; its workspaces are the copies.
  mkdirSync(join(next, 'node_modules'))
  for (const name of readdirSync(join(here, 'node_modules')))
    if (name !== '@saltline' && !/^\.(vite|cache)/.test(name))
      symlinkSync(join(here, 'node_modules', name), join(next, 'node_modules', name))
  mkdirSync(join(next, 'node_modules/@saltline'))
  for (const part of ['core', 'contract', 'server', 'web'])
    symlinkSync(join(next, part), join(next, 'node_modules/@saltline', part))
  for (const part of ['server', 'web'])
    if (existsSync(join(here, part, 'node_modules')))
      symlinkSync(join(here, part, 'node_modules'), join(next, part, 'node_modules'))

  const own = join(next, 'server/package.json')
  writeFileSync(own, JSON.stringify({ ...json<object>(own), version: NEXT }))
  writeFileSync(
    join(next, 'web/src/main.tsx'),
    `${readFileSync(join(here, 'web/src/main.tsx'), 'utf8')}\ndocument.documentElement.dataset.build = '${NEXT}'\n`,
  )
  const journal = join(next, 'server/migrations/meta/_journal.json')
  const written = json<{ entries: { idx: number; when: number; tag: string }[] }>(journal)
  const last = written.entries.at(-1)!
  const entry = { ...last, idx: last.idx + 1, when: last.when + 1000, tag: '9999_next' }
  writeFileSync(journal, JSON.stringify({ ...written, entries: [...written.entries, entry] }))
  writeFileSync(join(next, 'server/migrations/9999_next.sql'), 'CREATE TABLE next (id text);')
  for (const part of ['web', 'server']) {
    const { status, stderr } = spawnSync('npm', ['run', 'build', '--silent'], {
      cwd: join(next, part),
      encoding: 'utf8',
    })
    expect(status, stderr.slice(0, 2000)).toBe(0)
  }
})

test.afterAll(() => {
  running?.kill('SIGKILL')
  rmSync(folder, { recursive: true, force: true })
})

async function start(root: string, file: string, port = '0') {
  const child = spawn(
    process.execPath,
    ['server/dist/main.mjs', '--create', '--demo', '--quiet', '--db', file, '--port', port],
    { cwd: root, stdio: ['ignore', 'pipe', 'pipe'] },
  )
  running = child
  let said = ''
  const ended = new Promise<number | null>((done) => child.once('exit', done))
  const address = new Promise<string>((done) => {
    const hear = (part: unknown) => {
      said += String(part)
      const found = /at (http:\/\/127\.0\.0\.1:\d+)\//.exec(said)
      if (found) done(found[1]!)
    }
    child.stdout.on('data', hear)
    child.stderr.on('data', hear)
  })
  const url = await Promise.race([address, ended.then(() => '')])
  return {
    url,
    said: () => said,
    stop: async () => {
      child.kill('SIGTERM')
      expect(await ended).toBe(0)
    },
  }
}

test('an update takes the database along after a copy; an open page notices, keeps what is typed and loads anew; there is no way back', async ({
  browser,
}) => {
  const file = join(folder, 'station.sqlite')
  const older = await start(here, file)
  const context = await browser.newContext({
    ...WINDOW,
    baseURL: older.url,
    serviceWorkers: 'allow',
  })
  const page = await context.newPage()
  await page.goto('/station/merrow-point/chain/hf-long-run/log?channel=c8')
  await page.getByLabel(/^Forward/).fill('98')
  await page.evaluate(() => navigator.serviceWorker.ready)
  expect(await page.evaluate(() => document.documentElement.dataset['build'])).toBeUndefined()
  await older.stop()

  const newer = await start(next, file, new URL(older.url).port)
  expect(newer.said()).toContain('of an older version and is brought along')
  const copies = (await (await page.request.get('/api/backup/kept')).json()) as { why: string }[]
  expect(copies.map(({ why }) => why)).toEqual(['migration'])
  const health = (await (await page.request.get('/api/health')).json()) as object
  expect(health).toMatchObject({ ready: true, version: NEXT })

  const notice = page.getByRole('status').filter({ hasText: 'was updated on the server' })
  await page.getByRole('link', { name: 'Station', exact: true }).click()
  await expect(notice).toBeVisible()
  await page.goBack()
  await notice.getByRole('button', { name: 'Load the new version' }).click()
  await expect(page.locator(`html[data-build="${NEXT}"]`)).toBeAttached()
  await expect(page.getByLabel(/^Forward/)).toHaveValue('98')
  await expect(notice).toHaveCount(0)
  await newer.stop()
  await context.close()

  const bytes = readFileSync(file)
  const again = await start(here, file)
  expect(again.said()).toContain('was written by a newer version of Salt Line')
  expect(readFileSync(file).equals(bytes)).toBe(true)
  expect(readdirSync(folder)).toContain(`${basename(file, '.sqlite')}-backups`)
})
