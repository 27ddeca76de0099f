import { documentOf, expect, focusStays, item, saved, test, wattsAtAntenna } from './journey.ts'

test('two windows: the second writer is told, sees both, and nothing is lost', async ({
  page,
  open,
  chain,
  context,
}) => {
  // This window hears of no changes, as one that sleeps, or behind something that holds streams back.
  await page.addInitScript(() => Reflect.deleteProperty(window, 'EventSource'))
  await open('channel=c8&select=stage:duct')
  const other = await context.newPage()
  await other.goto(`/station/merrow-point/chain/${chain.id}/budget?channel=c8&select=stage:duct`)
  await other.getByLabel('Length').fill('60')
  await saved(other, 2)

  await page.getByLabel('Length').fill('20')
  const dialog = page.getByRole('dialog', { name: 'This chain was edited in another window' })
  await expect(dialog).toBeVisible()
  await expect(dialog).toContainText(/Duct run: length 60.m → 20.m/)
  await dialog.getByRole('button', { name: 'Go on with mine' }).press('Enter')
  await saved(page, 4)
  await focusStays(page, 'it goes on with mine')
  expect((await documentOf(page, chain)).stages.find((s) => s.id === 'duct')).toMatchObject({
    lengthM: 20,
  })

  // All three are among the revisions, and any of them can be gone back to.
  await page.getByRole('button', { name: /saved, revision/ }).click()
  await expect(page.getByRole('dialog')).toContainText('kept aside')
  await page.getByRole('listitem').filter({ hasText: '→ 60' }).getByRole('button').click()
  await expect(page.getByLabel('Length')).toHaveValue('60')
})

test('an edit made while the server does not answer is kept and saved later', async ({
  page,
  open,
  chain,
}) => {
  await open('channel=c8&select=stage:duct')
  await page.route('**/api/chains/**', (route) => route.abort())
  await page.getByLabel('Length').fill('33')
  await expect(page.getByText(/server does not answer.*kept in this browser/)).toBeVisible()
  await page.unroute('**/api/chains/**')
  await page.reload()
  await expect(page.getByLabel('Length')).toHaveValue('33')
  await saved(page, 2)
  expect((await documentOf(page, chain)).stages.find((s) => s.id === 'duct')).toMatchObject({
    lengthM: 33,
  })
})

test('an edit is saved though the window is left at once', async ({ page, open, chain }) => {
  await open('channel=c8&select=stage:duct')
  await page.getByLabel('Length').fill('12')
  await page.goto('about:blank')
  await expect
    .poll(async () => (await documentOf(page, chain)).stages.find((s) => s.id === 'duct'))
    .toMatchObject({ lengthM: 12 })
})

test('undo and redo by keyboard step through edits after a reload', async ({ page, open }) => {
  await open('channel=c8&select=stage:choke')
  const start = await wattsAtAntenna(page)
  await page.getByLabel('Insertion loss').fill('1')
  await saved(page, 2)
  await page.getByLabel('Insertion loss').fill('2')
  await saved(page, 3)
  const end = await wattsAtAntenna(page)
  await page.reload()
  await item(page, 'stage:choke').focus()
  await page.keyboard.press('Control+z')
  await saved(page, 2)
  await page.keyboard.press('Control+z')
  await saved(page, 1)
  expect(await wattsAtAntenna(page)).toBe(start)
  await page.keyboard.press('Control+Shift+z')
  await page.keyboard.press('Control+Shift+z')
  await saved(page, 3)
  expect(await wattsAtAntenna(page)).toBe(end)
})

test('a page that was open over an update of the server says so, and keeps what is typed', async ({
  page,
  open,
}) => {
  await open('channel=c8&select=stage:duct')
  await expect(page.getByText(/was updated on the server/)).toHaveCount(0)
  // From now on the server answers as one with another build of the interface.
  await page.route('**/api/**', async (route) => {
    const answer = await route.fetch()
    const headers = answer.headers()
    expect(headers['x-saltline-interface']).toMatch(/^index-/)
    await route.fulfill({
      response: answer,
      headers: { ...headers, 'x-saltline-interface': 'index-other' },
    })
  })
  await page.getByLabel('Length').fill('21')
  const notice = page.getByRole('status').filter({ hasText: 'was updated on the server' })
  await expect(notice).toBeVisible()
  await page.unroute('**/api/**')
  await notice.getByRole('button', { name: 'Load the new version' }).click()
  await expect(page.getByLabel('Length')).toHaveValue('21')
  await expect(notice).toHaveCount(0)
})
