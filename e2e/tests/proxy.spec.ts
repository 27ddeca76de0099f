import { type ChildProcess, spawn } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { createServer, request, type Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import { expect, test } from '@playwright/test'
import { createProxyServer } from 'httpxy'
import { WINDOW } from '../setup.ts'

const PASSPHRASE = 'four quiet herons wading'
const BASE = '/radio'

/** A reverse proxy that shows Salt Line below a path of its host, and something else beside it. */
let front: Server
let salt: ChildProcess
let folder: string
let origin: string

test.beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'saltline-proxy-'))
  const proxy = createProxyServer({ xfwd: true })
  let target = ''
  front = createServer((req, res) => {
    if (req.url === BASE || req.url?.startsWith(`${BASE}/`))
      proxy.web(req, res, { target }).catch(() => res.destroy())
    else res.writeHead(200, { 'content-type': 'text/plain' }).end('something else')
  })
  await new Promise<void>((done) => front.listen(0, '0.0.0.0', done))
  origin = `http://127.0.0.1:${(front.address() as AddressInfo).port}`
  salt = spawn(
    process.execPath,
    [
      ...['server/dist/main.mjs', '--create', '--demo', '--quiet', '--port', '0'],
      ...['--db', join(folder, 'proxy.sqlite'), '--network', '--host', '127.0.0.1'],
      ...['--public-url', origin, '--trust-proxy', '127.0.0.1', '--base-path', BASE],
    ],
    {
      cwd: resolve(import.meta.dirname, '../..'),
      env: { ...process.env, SALTLINE_PASSPHRASE: PASSPHRASE },
      stdio: ['ignore', 'pipe', 'ignore'],
    },
  )
  target = await new Promise((done) => {
    let said = ''
    salt.stdout!.on('data', (part) => {
      said += String(part)
      const found = /is at (http:\/\/127\.0\.0\.1:\d+)\/radio\//.exec(said)
      if (found) done(found[1]!)
    })
  })
})

test.afterAll(() => {
  salt.kill('SIGKILL')
  front.closeAllConnections()
  front.close()
  rmSync(folder, { recursive: true, force: true })
})

test('behind a proxy, below a path: pages, edits, streams, files and what is kept offline', async ({
  browser,
}) => {
  const context = await browser.newContext({ ...WINDOW, baseURL: origin, serviceWorkers: 'allow' })
  const page = await context.newPage()
  const strays: string[] = []
  page.on('request', (asked) => {
    const { origin: of, pathname } = new URL(asked.url())
    if (of === origin && !pathname.startsWith(`${BASE}/`)) strays.push(pathname)
  })
  await page.goto(`${BASE}/station/merrow-point/chain/hf-long-run/budget?channel=c8`)
  await page.getByLabel('Passphrase of the station').fill(PASSPHRASE)
  await page.keyboard.press('Enter')
  await expect(page.getByRole('region', { name: 'Ledger' })).toBeVisible()
  expect(new URL(page.url()).pathname).toBe(`${BASE}/station/merrow-point/chain/hf-long-run/budget`)

  // Another window hears of an edit by its stream.
  const other = await context.newPage()
  await other.goto(
    `${BASE}/station/merrow-point/chain/hf-long-run/budget?channel=c8&select=channel`,
  )
  await expect(other.getByLabel('Set power, PEP')).toHaveValue('125')
  await page.goto(`${BASE}/station/merrow-point/chain/hf-long-run/budget?channel=c8&select=channel`)
  await page.getByLabel('Set power, PEP').fill('90')
  await page.getByLabel('Set power, PEP').press('Enter')
  await expect(page.getByRole('banner').getByRole('status')).toHaveText(/^saved/)
  await expect(other.getByLabel('Set power, PEP')).toHaveValue('90')
  await other.close()

  await page.getByRole('link', { name: 'Station', exact: true }).click()
  await expect(page).toHaveURL(`${origin}${BASE}/station/merrow-point`)
  const download = page.waitForEvent('download')
  await page.getByRole('link', { name: 'Back up' }).click()
  expect((await download).suggestedFilename()).toMatch(/^saltline-.*\.sqlite$/)

  await page.evaluate(() => navigator.serviceWorker.ready)
  expect(
    await page.evaluate(async () => (await navigator.serviceWorker.getRegistration())?.scope),
  ).toBe(`${origin}${BASE}/`)
  await page.goto(`${BASE}/api`)
  await expect(page.getByText('/api/stations', { exact: true }).first()).toBeVisible()
  expect(strays).toEqual([])
  await context.close()
})

test('guesses are counted by the client that the proxy names', async () => {
  const guess = (from: string) =>
    new Promise<number>((done, fail) => {
      const sent = request(
        `${origin}${BASE}/api/access/sign-in`,
        { method: 'POST', localAddress: from, headers: { 'content-type': 'application/json' } },
        (answer) => {
          answer.resume()
          done(answer.statusCode!)
        },
      )
      sent.on('error', fail)
      sent.end(JSON.stringify({ passphrase: 'not the right one at all' }))
    })
  const first = await Promise.all(Array.from({ length: 12 }, () => guess('127.0.0.2')))
  expect(first).toContain(401)
  expect(first).toContain(429)
  // The proxy’s own address is that of nobody who guesses.
  expect(await guess('127.0.0.3')).toBe(401)
})
