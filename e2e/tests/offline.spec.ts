/** A phone whose network goes and comes: nothing that was entered is lost, nothing is kept twice. */
import type { Reading, Run } from '@saltline/contract'
import type { APIRequestContext, Page } from '@playwright/test'
import { expect, saved, test } from './journey.ts'

test.use({ serviceWorkers: 'allow', viewport: { width: 390, height: 844 } })

const log = (chainId: string) => `/station/merrow-point/chain/${chainId}/log?channel=c8`

async function enter(page: Page, forward: string): Promise<void> {
  await page.getByLabel(/^Forward/).fill(forward)
  await page.getByRole('button', { name: 'Save the reading' }).click()
}

const readingsOf = async (request: APIRequestContext, chainId: string): Promise<Reading[]> => {
  const address = `/api/stations/merrow-point/readings?chain=${chainId}&limit=500`
  return ((await (await request.get(address)).json()) as { readings: Reading[] }).readings
}

/** The interface, and what was looked at, are kept in this browser. */
async function seen(page: Page, address: string): Promise<void> {
  await page.goto(address)
  await expect(page.getByRole('button', { name: 'Save the reading' })).toBeVisible()
  await page.evaluate(() => navigator.serviceWorker.ready.then(() => undefined))
  await expect
    .poll(() => page.evaluate(() => navigator.serviceWorker.controller !== null))
    .toBe(true)
  // Looked at once more, now that it is kept on the way.
  await page.reload()
  await expect(page.getByRole('button', { name: 'Save the reading' })).toBeVisible()
  await page.waitForLoadState('networkidle').catch(() => undefined)
}

test('what was looked at before the service worker was there is kept as well', async ({
  page,
  station,
  chain,
}) => {
  await page.goto(`/station/merrow-point/chain/${chain.id}/budget?channel=c8`)
  const sentence = page.locator('main p[role="status"]').first()
  await expect(sentence).toContainText('reaches the antenna')
  const said = await sentence.innerText()
  await expect
    .poll(() => page.evaluate(() => navigator.serviceWorker.controller !== null))
    .toBe(true)
  // Asked for again, through it: the chain, and the sweep of its antenna.
  await expect
    .poll(() =>
      page.evaluate(async () => {
        const kept = await (await caches.open('saltline-seen')).keys()
        return kept.filter(({ url }) => /\/chains\/[^/]+$|\/sweeps\//.test(url)).length
      }),
    )
    .toBeGreaterThanOrEqual(2)
  await station.down()
  await page.reload()
  await expect(sentence).toHaveText(said)
  await station.up()
})

test('readings wait, over a reload without a server, and are sent in order when it is back', async ({
  page,
  station,
  chain,
  request,
}) => {
  await seen(page, log(chain.id))
  await station.down()
  await enter(page, '41')
  const waits = page.getByText(/reading waits? to be sent|readings wait to be sent/)
  await expect(waits).toContainText('One reading waits')
  await enter(page, '42')
  await expect(waits).toContainText('2 readings wait')

  await page.reload()
  await expect(waits).toContainText('2 readings wait')
  await expect(page.getByText(/forward 41/)).toBeVisible()
  // What was seen is there to be read, and says how old it is.
  await page.getByRole('button', { name: /offline/ }).click()
  await expect(page.getByRole('dialog')).toContainText('What is shown is as of')
  await page.getByRole('button', { name: 'Close' }).click()
  await enter(page, '43')
  await expect(waits).toContainText('3 readings wait')

  await station.up()
  await expect(waits).toBeHidden()
  const kept = await readingsOf(request, chain.id)
  expect(kept.map(({ forwardW }) => forwardW)).toEqual([43, 42, 41])
  expect(new Set(kept.map(({ roundId }) => roundId)).size).toBe(1)
  await expect(page.getByRole('button', { name: /offline|waiting/ })).toBeHidden()
})

test('a server that dies between taking and answering has the reading once', async ({
  page,
  station,
  chain,
  request,
}) => {
  await page.goto(log(chain.id))
  const died = station.dieUnanswered()
  await enter(page, '44')
  await died
  await expect(page.getByText(/One reading waits/)).toBeVisible()
  await station.up()
  await expect(page.getByText(/One reading waits/)).toBeHidden()
  const kept = await readingsOf(request, chain.id)
  expect(kept.map(({ forwardW }) => forwardW)).toEqual([44])
  await expect(page.getByRole('table', { name: 'Readings of the session' })).toContainText('44')
})

test('a run sheet goes on without the server, and is whole when it is back', async ({
  page,
  station,
  chain,
  request,
}) => {
  await seen(page, log(chain.id))
  await page.goto(`/station/merrow-point/chain/${chain.id}/run?channel=c8`)
  await page.getByRole('button', { name: 'Begin: Before keying' }).click()
  const counter = page.getByText(/^step \d+ of \d+/)
  await expect(counter).toContainText('step 1 of')
  await station.down()
  for (const at of [2, 3]) {
    await page.keyboard.press('Enter')
    await expect(counter).toContainText(`step ${at} of`)
  }
  await page.reload()
  await expect(counter).toContainText('step 3 of')
  await expect(page.getByRole('button', { name: /waiting/ })).toBeVisible()
  const runs = async (): Promise<Run[]> =>
    (await (await request.get(`/api/chains/${chain.id}/runs`)).json()) as Run[]
  await station.up()
  await expect(page.getByRole('button', { name: /waiting/ })).toBeHidden()
  const [run, ...others] = await runs()
  expect(others).toEqual([])
  expect(run!.entries.map(({ stepId }) => stepId)).toEqual(
    run!.steps.slice(0, 2).map(({ id }) => id),
  )
  await page.keyboard.press('Enter')
  await expect(counter).toContainText('step 4 of')
  expect((await runs())[0]!.entries).toHaveLength(3)
})

test('what is refused when it comes is shown with the reason, and can be corrected', async ({
  page,
  station,
  chain,
  request,
}) => {
  await page.goto(log(chain.id))
  await expect(page.getByRole('button', { name: 'Save the reading' })).toBeVisible()
  await page.getByLabel('Where').selectOption({ index: 1 })
  await station.down()
  await enter(page, '45')
  await expect(page.getByText(/One reading waits/)).toBeVisible()
  await station.up()
  // Meanwhile the chain is gone.
  await request.delete(`/api/chains/${chain.id}`)
  const alert = page.getByRole('alert').filter({ hasText: 'Not saved' })
  await expect(alert).toContainText('forward 45')
  await expect(page.getByRole('button', { name: /1 refused/ })).toBeVisible()
  await request.post(`/api/chains/${chain.id}/restore`)
  await alert.getByRole('button', { name: 'put it back into the fields' }).click()
  await expect(page.getByLabel(/^Forward/)).toHaveValue('45')
  await enter(page, '46')
  await expect
    .poll(async () => (await readingsOf(request, chain.id)).map(({ forwardW }) => forwardW))
    .toEqual([46])
})

test('without the server the chain is as it was saved last, and an edit of it is sent later', async ({
  page,
  station,
  chain,
  request,
}) => {
  await page.setViewportSize({ width: 1280, height: 800 })
  await seen(page, log(chain.id))
  const budget = `/station/merrow-point/chain/${chain.id}/budget?channel=c8&select=stage:duct`
  await page.goto(budget)
  const length = page.getByLabel('Length')
  await length.fill('61')
  await page.keyboard.press('Enter')
  await saved(page, 2)
  await station.down()
  await page.reload()
  await expect(length).toHaveValue('61')
  // The window comes to the front: what this browser had seen does not pass for news.
  await length.fill('62')
  await page.keyboard.press('Enter')
  await expect(page.getByText(/Your edits are kept in this browser/)).toBeVisible()
  await page.evaluate(() => dispatchEvent(new Event('focus')))
  await expect(length).toHaveValue('62')
  await station.up()
  await expect(page.getByText(/^saved/)).toBeVisible()
  const { document } = (await (await request.get(`/api/chains/${chain.id}`)).json()) as typeof chain
  const duct = document.stages.find(({ id }) => id === 'duct')
  expect(duct).toMatchObject({ lengthM: 62 })
})
