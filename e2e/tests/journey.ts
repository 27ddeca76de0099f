import { type ChainDocument, type ChainState } from '@saltline/contract'
import {
  type Browser,
  type BrowserContext,
  expect,
  type Locator,
  type Page,
  test as base,
} from '@playwright/test'
import { PHONE, WINDOW } from '../setup.ts'
import { TestHost, type TestStation } from '../station.ts'

/** What all tests of a process share: an address, and two browsers that have read the interface from it. */
interface Shared {
  host: TestHost
  warm: BrowserContext
  warmOther: BrowserContext
}

/** A test with a station of its own, and a window in which nothing is left of the test before. */
export const stationTest = base.extend<
  {
    passphrase: string | undefined
    station: TestStation
    /** A page in the browser of somebody else, with nothing in it: a phone, unless it is made larger. */
    other: Page
  },
  Shared
>({
  host: [
    // oxlint-disable-next-line no-empty-pattern
    async ({}, use) => {
      const host = await TestHost.start()
      await use(host)
      await host.stop()
    },
    { scope: 'worker' },
  ],
  warm: [async ({ browser, host }, use) => warmed(browser, host, use), { scope: 'worker' }],
  warmOther: [async ({ browser, host }, use) => warmed(browser, host, use), { scope: 'worker' }],
  passphrase: [undefined, { option: true }],
  station: [
    async ({ host, passphrase }, use) => host.serve(use, passphrase),
    // Also where a test does not ask for it: whatever is opened is its own.
    { auto: true },
  ],
  baseURL: async ({ host }, use) => use(host.url),
  context: async ({ browser, warm, host, viewport, hasTouch, serviceWorkers }, use) => {
    const own = hasTouch || serviceWorkers !== WINDOW.serviceWorkers
    const context = own
      ? await browser.newContext({
          ...WINDOW,
          ...{ baseURL: host.url, viewport, hasTouch, serviceWorkers },
        })
      : warm
    await use(context)
    if (own) return context.close()
    await emptied(context, host)
  },
  other: async ({ warmOther, host }, use) => {
    const page = await openedBy(warmOther.pages()[0]!)
    await page.setViewportSize(PHONE)
    await use(page)
    await emptied(warmOther, host)
  },
  page: async ({ context, viewport }, use) => {
    const [first] = context.pages()
    const page = first ? await openedBy(first) : await context.newPage()
    await page.setViewportSize(viewport!)
    await use(page)
  },
})

/** A browser window for many tests. */
async function warmed(
  browser: Browser,
  host: TestHost,
  use: (context: BrowserContext) => Promise<void>,
): Promise<void> {
  const context = await browser.newContext({ ...WINDOW, baseURL: host.url })
  await (await context.newPage()).goto('/theme.js')
  await use(context)
  await context.close()
}

/** Leaves the first page of a window, and nothing that a test has stored. */
async function emptied(context: BrowserContext, { url }: TestHost): Promise<void> {
  const [first, ...others] = context.pages()
  for (const page of others) await page.close()
  await forget(first!, url)
}

/** A page in the process of another one: what that has compiled is there. */
async function openedBy(page: Page): Promise<Page> {
  const [opened] = await Promise.all([
    page.waitForEvent('popup'),
    page.evaluate(() => void window.open('about:blank')),
  ])
  return opened
}

/**
 * All that the window of a page has stored for an address: by the page itself, since the process that it shares with the
 * others may have written more than the browser knows of yet, and by the browser.
 */
async function forget(page: Page, origin: string): Promise<void> {
  await page.evaluate(() => localStorage.clear())
  const devtools = await page.context().newCDPSession(page)
  await devtools.send('Storage.clearDataForOrigin', {
    origin,
    storageTypes: 'cookies,local_storage,indexeddb,cache_storage,service_workers,file_systems',
  })
}

/**
 * A test with a chain of its own: a copy of the demo's HF long run, so that it can be edited at will. Without its tuner,
 * unless a test asks for it: most look at the mismatch itself.
 */
export const test = stationTest.extend<{
  /** The demo chain to copy. */
  source: string
  keepTuner: boolean
  chain: ChainState
  open: (query?: string) => Promise<void>
}>({
  source: ['hf-long-run', { option: true }],
  keepTuner: [false, { option: true }],
  chain: async ({ request, source, keepTuner }, use) => {
    const { document } = (await (await request.get(`/api/chains/${source}`)).json()) as ChainState
    const stages = document.stages.filter(({ kind }) => keepTuner || kind !== 'tuner')
    const data = { ...document, stages }
    const made = await request.post('/api/stations/merrow-point/chains', { data })
    const chain = (await made.json()) as ChainState
    await use(chain)
  },
  open: async ({ page, chain }, use) => {
    await use(async (query = 'channel=c8') => {
      await page.goto(`/station/merrow-point/chain/${chain.id}/budget?${query}`)
      await expect(page.getByRole('region', { name: 'Ledger' })).toBeVisible()
    })
  },
})

export const item = (page: Page, name: string): Locator => page.locator(`[data-item="${name}"]`)

/** The big number of the sentence, W. */
export async function wattsAtAntenna(page: Page): Promise<number> {
  const text = await sentence(page).locator('b').innerText()
  return Number(/[\d.]+/.exec(text)![0])
}

/** The answer in words. */
export const sentence = (page: Page): Locator => page.locator('main p[role="status"]')

export const stageNames = (page: Page): Promise<string[]> =>
  page
    .locator('[data-item^="stage:"]')
    .evaluateAll((buttons) =>
      buttons.map((button) => button.getAttribute('data-item')!.slice('stage:'.length)),
    )

/** Waits until nothing is unsaved; at a revision, where the number of saves is certain. */
export const saved = (page: Page, revision?: number): Promise<void> =>
  expect(page.getByRole('banner').getByRole('status')).toHaveText(
    revision === undefined ? /^saved/ : `saved, revision ${revision}`,
  )

export const documentOf = async (page: Page, chain: ChainState): Promise<ChainDocument> =>
  ((await (await page.request.get(`/api/chains/${chain.id}`)).json()) as ChainState).document

/** Takes back what a message at the foot of the window says; others may lie behind it. */
export const takeBack = (page: Page, said: string): Promise<void> =>
  page.getByRole('listitem').filter({ hasText: said }).getByRole('button', { name: 'Undo' }).click()

/** Goes to an address within the application, as a link does: it need not be read and begun anew. */
export const goWithin = (page: Page, path: string): Promise<void> =>
  page.evaluate((to) => {
    history.pushState(null, '', to)
    dispatchEvent(new PopStateEvent('popstate', { state: null }))
  }, path)

/** Nobody who works by keyboard is put at the top of the page. */
export const focusStays = (page: Page, when: string): Promise<void> =>
  expect
    .poll(() => page.evaluate(() => document.activeElement?.tagName ?? 'BODY'), {
      message: `what has the focus when ${when}`,
    })
    .not.toBe('BODY')

export { expect }
