/**
 * How much work a changed number costs in the browser: presses an arrow key in the length field of
 * the demo chain and measures from the key to the finished layout of the new figures. The aim is
 * one frame, 16 ms. Also prints the compressed script that the Budget view loads before its chart.
 */
import { readdirSync, readFileSync } from 'node:fs'
import { join, resolve } from 'node:path'
import { gzipSync } from 'node:zlib'
import { chromium } from '@playwright/test'
import { startDemoServer } from '../../server/demoServer.ts'
import { CHROMIUM } from '../setup.ts'

const ASSETS = resolve(import.meta.dirname, '../../web/dist/assets')

const server = await startDemoServer()
const browser = await chromium.launch(CHROMIUM)
try {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
  await page.goto(
    `${server.url}/station/merrow-point/chain/hf-long-run/budget?channel=c8&select=stage:duct`,
  )
  await page.getByRole('region', { name: 'Ledger' }).waitFor()
  const loaded = await page.evaluate(() =>
    performance.getEntriesByType('resource').map(({ name }) => name.split('/').at(-1)!),
  )
  const size = loaded
    .filter((name) => readdirSync(ASSETS).includes(name) && name.endsWith('.js'))
    .reduce((sum, name) => sum + gzipSync(readFileSync(join(ASSETS, name))).length, 0)
  console.log(
    `script loaded when the ledger stands, compressed: ${(size / 1000).toFixed(0)} kB (limit: 350)`,
  )
  await page.getByRole('img', { name: /Watts at/ }).waitFor()
  await page.getByLabel('Length').focus()
  const times = await page.evaluate(async () => {
    const field = document.activeElement as HTMLInputElement
    const sentence = document.querySelector('main p[role="status"]')!
    const measured: number[] = []
    for (let i = 0; i < 220; i++) {
      await new Promise((done) => requestAnimationFrame(done))
      const before = sentence.textContent
      const start = performance.now()
      field.dispatchEvent(
        new KeyboardEvent('keydown', {
          key: i % 2 ? 'ArrowDown' : 'ArrowUp',
          bubbles: true,
          cancelable: true,
        }),
      )
      // React flushes a key press in a microtask; reading the layout forces it to be done too.
      await Promise.resolve()
      document.body.getBoundingClientRect()
      measured.push(performance.now() - start)
      if (sentence.textContent === before) throw new Error('the figure did not follow the key')
    }
    return measured.slice(20)
  })
  times.sort((a, b) => a - b)
  const at = (q: number) => times[Math.floor(q * (times.length - 1))]!.toFixed(1)
  console.log(
    `a changed length, key to laid-out figures:       ${at(0.5)} ms median, ${at(0.95)} ms at 95 % (aim: under 16)`,
  )
} finally {
  await browser.close()
  await server.stop()
}
