/**
 * The interface's speed in the browser: bytes over the wire until a page stands, a changed figure to
 * its pixels, the change of a lens, and the longest task while one goes through the lenses.
 */
import { type Browser, chromium, type Page } from '@playwright/test'
import { startDemoServer } from '../../server/demoServer.ts'
import { countRenders, rendersSince } from '../renders.ts'
import { CHROMIUM } from '../setup.ts'

const CHAIN = '/station/merrow-point/chain/hf-long-run'
const LENSES = ['headroom', 'antenna', 'match', 'log', 'budget']
const PRESSES = 200
const ROUNDS = 8

const say = (what: string, figure: string) => console.log(`${what.padEnd(58)}${figure}`)

/** Quantiles of times, ms. */
function quantiles(times: number[]): string {
  const sorted = times.toSorted((a, b) => a - b)
  const at = (q: number) => sorted[Math.floor(q * (sorted.length - 1))]!.toFixed(1)
  return `${at(0.5)} ms median, ${at(0.95)} ms at 95 %`
}

interface Loaded {
  kB: number
  requests: number
}

/**
 * What comes over the wire, compressed as it is sent, until the answer stands: sentence, figures and spine; and what is
 * loaded after that. How far the page moves meanwhile.
 */
async function firstLoad(browser: Browser, address: string) {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
  const network = await page.context().newCDPSession(page)
  const loaded: Loaded = { kB: 0, requests: 0 }
  await network.send('Network.enable')
  network.on('Network.loadingFinished', ({ encodedDataLength }) => {
    loaded.kB += encodedDataLength / 1000
    loaded.requests++
  })
  await page.addInitScript(() => {
    // A stream of changes would keep the network busy for ever.
    Reflect.deleteProperty(window, 'EventSource')
    const moved = { by: 0 }
    Object.assign(window, { moved })
    new PerformanceObserver((list) =>
      (list.getEntries() as unknown as { value: number }[]).forEach(
        ({ value }) => (moved.by += value),
      ),
    ).observe({ type: 'layout-shift', buffered: true })
  })
  await page.goto(address)
  await page.locator('main p[role="status"]').first().waitFor()
  const answer = { ...loaded }
  await page.waitForLoadState('networkidle')
  await page.evaluate(() => new Promise((done) => setTimeout(done, 500)))
  const moved = await page.evaluate(() => (window as unknown as { moved: { by: number } }).moved.by)
  await page.close()
  return {
    answer,
    after: { kB: loaded.kB - answer.kB, requests: loaded.requests - answer.requests },
    moved,
  }
}

/** A key pressed in the length field until the figures that follow from it are laid out, ms. */
async function pressesToFigures(page: Page): Promise<number[]> {
  await page.getByLabel('Length').focus()
  return page.evaluate(async (presses) => {
    const field = document.activeElement as HTMLInputElement
    const sentence = document.querySelector('main p[role="status"]')!
    const measured: number[] = []
    for (let i = 0; i < presses + 20; i++) {
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
  }, PRESSES)
}

/** A tab pressed until the frame that shows its lens is painted, ms; its script is there already. */
async function lensSwitches(page: Page): Promise<Record<string, number[]>> {
  return page.evaluate(
    async ({ lenses, rounds }) => {
      const frame = () => new Promise((done) => requestAnimationFrame(done))
      const rest = (ms: number) => new Promise((done) => setTimeout(done, ms))
      const times: Record<string, number[]> = {}
      for (let round = -1; round < rounds; round++)
        for (const lens of lenses) {
          const tab = document.querySelector<HTMLAnchorElement>(`nav a[href*="/${lens}"]`)!
          const start = performance.now()
          tab.click()
          while (tab.getAttribute('aria-current') !== 'page') await frame()
          await frame()
          const took = performance.now() - start
          // The first time through, scripts are fetched.
          if (round >= 0) (times[lens] ??= []).push(took)
          await rest(round < 0 ? 1500 : 400)
        }
      return times
    },
    { lenses: LENSES, rounds: ROUNDS },
  )
}

const longTasks = (page: Page) =>
  page.evaluate(() => (window as unknown as { longTasks: number[] }).longTasks.splice(0))

const server = await startDemoServer()
const browser = await chromium.launch(CHROMIUM)
try {
  const written = ({ kB, requests }: Loaded) => `${kB.toFixed(0)} kB in ${requests} requests`
  for (const [name, path] of [
    ['Quick sum', '/quick'],
    ['Budget', `${CHAIN}/budget?channel=c8`],
    ['the board', '/station/merrow-point'],
  ] as const) {
    const { answer, after, moved } = await firstLoad(browser, server.url + path)
    say(
      `first load of ${name}, until its answer stands:`,
      `${written(answer)}; then ${written(after)}; moved by ${moved.toFixed(3)}`,
    )
  }

  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
  // The loader of this script marks functions with their names; the page has no such helper.
  await page.addInitScript('globalThis.__name = (named) => named')
  await page.addInitScript(() => {
    const tasks: number[] = []
    Object.assign(window, { longTasks: tasks })
    new PerformanceObserver((list) =>
      list.getEntries().forEach(({ duration }) => tasks.push(duration)),
    ).observe({ type: 'longtask' })
  })
  await countRenders(page)
  await page.goto(`${server.url}${CHAIN}/budget?channel=c8&select=stage:duct`)
  await page.getByRole('img', { name: /Watts at/ }).waitFor()
  await longTasks(page)
  say(
    'a changed length, key to laid-out figures:',
    `${quantiles(await pressesToFigures(page))} (aims: 10 and 16)`,
  )
  await rendersSince(page)
  const presses = 20
  for (let i = 0; i < presses; i++) {
    await page.getByLabel('Length').press(i % 2 ? 'ArrowDown' : 'ArrowUp')
    await page.evaluate(() => new Promise((done) => requestAnimationFrame(done)))
  }
  const { commits, components } = await rendersSince(page)
  const each = Object.values(components).reduce((sum, n) => sum + n, 0) / presses
  say(
    'a changed length, what React does:',
    `${each.toFixed(1)} components in ${(commits / presses).toFixed(2)} commits (aims: 40 and 1)`,
  )
  await longTasks(page)
  const switches = await lensSwitches(page)
  for (const [lens, times] of Object.entries(switches))
    say(`to ${lens}, tab to painted frame:`, `${quantiles(times)} (aim: 60)`)
  const tasks = await longTasks(page)
  say(
    'longest task of the main thread meanwhile:',
    `${Math.max(0, ...tasks).toFixed(0)} ms; over 100 ms: ${tasks.filter((ms) => ms > 100).length} of ${LENSES.length * (ROUNDS + 1)} changes (aim: 0)`,
  )
} finally {
  await browser.close()
  await server.stop()
}
