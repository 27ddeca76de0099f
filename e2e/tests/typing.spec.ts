import type { Station } from '@saltline/contract'
import { documentOf, expect, item, saved, test, wattsAtAntenna } from './journey.ts'

test.describe('a figure whose comma may be either', () => {
  test('is asked about, and the choice is taken', async ({ page, open, chain }) => {
    await open('channel=c8&select=transmitter')
    const rated = page.getByLabel(/^Rated power/)
    await rated.fill('1,500')
    const choices = page.getByRole('button', { name: /^1\.?5?0?0?.?k?W/ })
    await expect(choices).toHaveCount(2)
    // As long as nothing is chosen, nothing is changed.
    expect((await documentOf(page, chain)).transmitter.ratedW).toBe(125)
    await choices.last().click()
    await saved(page)
    expect((await documentOf(page, chain)).transmitter.ratedW).toBe(1500)
  })

  test('prefixes count by their case, and what was understood is shown', async ({ page, open }) => {
    await open('channel=c8&select=transmitter')
    const rated = page.getByLabel(/^Rated power/)
    await rated.fill('0.3 kW')
    await expect(page.getByText(/^= 300.W$/)).toBeVisible()
    await rated.fill('5000 MW')
    await expect(page.getByText(/⚠ The power must be .* or less/)).toBeVisible()
    await page.keyboard.press('Escape')
    await expect(rated).toHaveValue('125')
  })
})

test('feet and inches; another unit than the screen’s is echoed', async ({ page, open }) => {
  await open('channel=c8&select=stage:duct')
  await page.getByLabel('Length').fill(`40' 6"`)
  await expect(page.getByText(/^= 12\.34.*m$/)).toBeVisible()
})

test('the quick sum keeps every keystroke while the address follows', async ({ page }) => {
  await page.goto('/quick?p=100&cable=pe-5&l=30&f=14.2&swr=3&at=antenna')
  const power = page.getByLabel('Power')
  await power.fill('')
  await power.pressSequentially('473.25')
  await page.getByLabel('Length').fill('')
  await page.getByLabel('Length').pressSequentially('61.5')
  await expect(power).toHaveValue('473.25')
  await expect(page).toHaveURL(/p=473\.25.*l=61\.5/)
  await page.getByRole('link', { name: 'Gear' }).click()
  // A page of its own file arrives a moment after the click; Back before that would leave both.
  await expect(page.getByRole('heading', { name: 'Gear', level: 1 })).toBeVisible()
  await page.goBack()
  await expect(power).toHaveValue('473.25')
})

test('the card prints the edit that was made a moment ago', async ({ page, open, chain }) => {
  await open('channel=c8&select=stage:duct')
  const before = await wattsAtAntenna(page)
  // The save is slow, and the card is gone to by a link, within the page.
  await page.route(`**/api/chains/${chain.id}`, async (route) => {
    if (route.request().method() === 'PUT') await new Promise((wait) => setTimeout(wait, 1500))
    await route.continue()
  })
  await page.getByRole('link', { name: 'Headroom' }).click()
  await page.getByLabel('Length').fill('300')
  await page.getByRole('link', { name: /operating card/i }).click()
  // The lens that is left has rows of that channel too.
  await expect(page).toHaveURL(/\/card/)
  const row = page.getByRole('row').filter({ hasText: '8.294' }).first()
  await expect(row).toBeVisible()
  expect(before).toBeGreaterThan(50)
  await expect(row).not.toContainText(/82.?W/)
  const { document } = (await (await page.request.get(`/api/chains/${chain.id}`)).json()) as {
    document: { stages: { id: string; lengthM?: number }[] }
  }
  expect(document.stages.find(({ id }) => id === 'duct')!.lengthM).toBe(300)
})

test('a cable’s name is text, in the tooltip of its chart too', async ({ page }) => {
  const name = '<img src=x onerror="document.title=1">'
  const made = await page.request.post('/api/stations/merrow-point/gear', {
    data: {
      kind: 'cable',
      document: { name, k1DbPer100m: 1, k2DbPer100m: 0.01, z0Ohm: 50, velocityFactor: 0.66 },
    },
  })
  const { id } = (await made.json()) as Station['gear'][number]
  await page.goto(`/station/merrow-point/gear?cable=${id}`)
  const chart = page.getByRole('img', { name: /loss/i }).first()
  await expect(chart).toBeVisible()
  const box = (await chart.boundingBox())!
  await expect(async () => {
    await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2)
    await page.mouse.move(box.x + box.width / 2 + 3, box.y + box.height / 2)
    await expect(page.getByText('dB').filter({ hasText: '<img src=x' }).first()).toBeVisible({
      timeout: 1000,
    })
  }).toPass()
  await expect(page.locator('img[src="x"]')).toHaveCount(0)
})

test('a part of the program that is gone leads to reloading, and the edit is kept', async ({
  page,
  open,
  chain,
}) => {
  await page.route('**/assets/AntennaLens-*.js', (route) => route.fulfill({ status: 404 }))
  await open('channel=c8&select=stage:duct')
  await page.getByLabel('Length').fill('33')
  await page.getByRole('link', { name: 'Antenna' }).click()
  await expect(page.getByText(/Salt Line was updated meanwhile/)).toBeVisible()
  await page.unroute('**/assets/AntennaLens-*.js')
  await page.getByRole('button', { name: 'Reload the page' }).click()
  await expect(item(page, 'stage:duct')).toContainText('33')
  await expect
    .poll(async () => (await documentOf(page, chain)).stages.find(({ id }) => id === 'duct'))
    .toMatchObject({ lengthM: 33 })
})
