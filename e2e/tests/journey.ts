import { type ChainDocument, type ChainState } from '@saltline/contract'
import { expect, type Locator, type Page, test as base } from '@playwright/test'
import { startStation, type TestStation } from '../station.ts'

/**
 * A test with a chain of its own: a copy of the demo's HF long run, so that tests can edit at will
 * beside each other. Without its tuner, unless a test asks for it: most look at the mismatch itself.
 */
export const test = base.extend<{
  /** A server and a database of this test's own. */
  station: TestStation
  /** The demo chain to copy. */
  source: string
  keepTuner: boolean
  chain: ChainState
  open: (query?: string) => Promise<void>
}>({
  // eslint-disable-next-line no-empty-pattern
  station: async ({}, use) => {
    const station = await startStation()
    await use(station)
    await station.stop()
  },
  baseURL: async ({ station }, use) => use(station.url),
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

export { expect }
