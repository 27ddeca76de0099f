import { documentOf, expect, goWithin, item, saved, takeBack, test } from './journey.ts'

const GEAR = '/station/merrow-point/gear'

test('cables are searched, sorted, compared and looked at closely', async ({ page }) => {
  await page.goto(GEAR)
  const table = page.getByRole('region', { name: 'Cables' }).getByRole('table')
  await expect(table.getByRole('row')).toHaveCount(28)
  await page.getByLabel(/Search by name/).fill('rg213')
  await expect(table.getByRole('row')).toHaveCount(2)
  await table.getByRole('button', { name: /10 mm solid PE/ }).click()
  await page.getByLabel(/Search by name/).fill('')
  const compare = page.getByRole('checkbox', { name: 'Compare 10 mm foam PE on the chart' })
  await compare.click()
  await expect(compare).toBeChecked()
  await expect(
    page.getByRole('img', { name: 'Loss over frequency of 10 mm solid PE, 10 mm foam PE' }),
  ).toBeVisible()
  await expect(page).toHaveURL(/cable=pe-10&with=foam-10/)
  await table.getByRole('button', { name: 'dB/100 m' }).click()
  await expect(table.getByRole('row').nth(1)).toContainText('28 mm corrugated')
})

test('how long may it be, and a loss table of all my channels', async ({ page }) => {
  await page.goto(`${GEAR}?cable=foam-7`)
  const detail = page.getByRole('region', { name: '7 mm foam PE' })
  await expect(detail.getByText(/^36\.4/)).toBeVisible()
  await detail.getByLabel('For a loss of').fill('2')
  await expect(detail.getByText(/^72\.[89]/)).toBeVisible()
  const losses = page.getByRole('region', { name: 'Loss table' })
  await expect(losses.getByRole('row', { name: /8\.294/ })).toBeVisible()
  await expect(losses.getByRole('row', { name: /156\.450/ })).toBeVisible()
  await losses.getByRole('button', { name: 'watts out' }).click()
  await expect(losses.getByRole('row', { name: /8\.294/ })).toContainText('W')
  await losses.getByRole('button', { name: 'Copy the table' }).click()
  const text = await page.evaluate(() => navigator.clipboard.readText())
  expect(text.split('\n')[0]).toContain('SWR 10')
})

test('an unknown cable is recognised by its marking and size', async ({ page }) => {
  await page.goto(GEAR)
  await page.getByRole('button', { name: 'Identify a cable' }).click()
  await page.getByLabel('Printed on the jacket').fill('rg-58')
  const first = page.getByRole('list', { name: 'Candidates' }).getByRole('listitem').first()
  await expect(first).toContainText('5 mm solid PE')
  await first.getByRole('button', { name: 'This one' }).click()
  await expect(page).toHaveURL(/cable=pe-5/)
})

test('a pasted data sheet becomes a cable that a chain can use; a doubtful point is named', async ({
  page,
  open,
}) => {
  await page.goto(GEAR)
  await page.getByRole('button', { name: 'Custom cable', exact: true }).click()
  await page.getByRole('textbox', { name: 'Name', exact: true }).fill(`Drum ${Date.now()}`)
  const name = await page.getByRole('textbox', { name: 'Name', exact: true }).inputValue()
  const paste = page.getByLabel(/Frequency and loss/)
  await paste.fill('10 0.6\noops')
  await expect(page.getByRole('alert')).toContainText('Line 2')
  await expect(page.getByRole('button', { name: 'Add to the station' })).toBeDisabled()
  await paste.fill('MHz\tdB/100 ft\n10\t0,6\n50\t1,4\n100\t3,4\n400\t4,4\n1000\t7,5')
  await expect(page.getByRole('row', { name: /outlier/ })).toContainText('100')
  await page.getByRole('button', { name: 'Add to the station' }).click()
  await expect(page.getByRole('heading', { name, exact: true })).toBeVisible()

  await open('channel=c8&select=stage:duct')
  await page.getByRole('combobox', { name: 'Cable' }).selectOption(name)
  await expect(page.getByRole('complementary')).toContainText('dB per 100 m at 8.294')
})

test('a section ages: more loss, with its reason', async ({ page, open }) => {
  await open('channel=c8&select=stage:duct')
  await page.getByText('Age and temperature').click()
  await page.getByLabel('Loss above new').fill('50')
  await page.getByLabel('Why').fill('water after the winter storm')
  await expect(page.getByText('50 % more loss')).toBeVisible()
  await expect(item(page, 'antenna')).toBeVisible()
  await expect(page.locator('main p[role="status"] b')).toContainText(/6\d/)
})

test.describe('quick sum', () => {
  test('answers at once, keeps its question in the address, becomes a chain', async ({ page }) => {
    await page.goto('/quick')
    await page.getByLabel('Power').fill('50')
    await page.getByLabel('Length').fill('100 ft')
    await page.getByLabel('SWR', { exact: true }).fill('3')
    const answer = page.getByRole('status').filter({ hasText: 'reaches the antenna' })
    await expect(answer).toContainText('Of 50')
    await expect(page).toHaveURL(/p=50.*l=30\.48.*swr=3/)
    const said = await answer.innerText()
    await page.reload()
    await expect(answer).toHaveText(said)
    await page.getByRole('button', { name: 'Keep as a chain' }).click()
    await expect(page).toHaveURL(/\/station\/merrow-point\/chain\//)
    await expect(page.locator('main p[role="status"] b')).toBeVisible()
  })

  test('an SWR at the radio that the cable forbids is explained', async ({ page }) => {
    await page.goto('/quick?p=100&cable=pe-5&l=60&f=145&swr=1.3&at=radio')
    await expect(page.getByRole('alert')).toContainText('even an open end would read only 1.17')
  })

  test('fits a phone', async ({ page }) => {
    await page.setViewportSize({ width: 390, height: 844 })
    await page.goto('/quick')
    await expect(page.getByRole('status').filter({ hasText: 'reaches' })).toBeInViewport()
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390)
  })
})

test.describe('a new station', () => {
  test('is asked for in the order of the job and ends with a chain that solves', async ({
    page,
  }) => {
    await page.goto('/new')
    await page.getByLabel('Name of the station').fill('Tern Sands')
    await page.getByRole('button', { name: 'Next' }).click()
    await page.getByLabel('Rated power, PEP').fill('50')
    await page.getByRole('button', { name: 'Next' }).click()
    await page.getByLabel('Run to the antenna').fill('100 ft')
    await page.getByLabel('a wattmeter stays in line').check()
    await page.getByRole('button', { name: 'Next' }).click()
    await page.getByLabel('SWR as read').fill('2')
    await expect(page.getByLabel('Where it was read')).toHaveValue('radio')
    await expect(page.getByText(/SWR 2\.\d+ at the feed point/)).toBeVisible()
    // What was typed outlives a reload, and Back goes one question back.
    await page.reload()
    await expect(page.getByLabel('SWR as read')).toHaveValue('2')
    await page.goBack()
    await expect(page.getByLabel('Run to the antenna')).toHaveValue('30.48')
    await page.goForward()
    await page.getByRole('button', { name: 'Next' }).click()
    await page.getByRole('button', { name: 'Add a channel' }).click()
    await page.getByLabel('Channel 2, MHz', { exact: true }).fill('145.6')
    await page.keyboard.press('Tab')
    await expect(page.getByLabel('Mode of channel 2')).toHaveValue('FM')
    await page.getByRole('button', { name: 'Finish' }).click()
    await expect(page.locator('main p[role="status"]')).toContainText('Of 50')
    await expect(page.getByRole('navigation', { name: 'Channels' })).toContainText('145.600')
  })

  test('a chain of a station that is there is asked for in the same way', async ({ page }) => {
    await page.goto('/station/merrow-point')
    await page.getByRole('link', { name: 'New chain' }).click()
    await page.getByLabel('Name of the chain').fill('Short mast')
    await page.getByRole('button', { name: 'Finish with what there is' }).click()
    await expect(page.getByRole('banner')).toContainText('Short mast')
    await expect(page).toHaveURL(/\/station\/merrow-point\/chain\//)
  })

  test('is saved as a file, shown before it is added again, and taken back', async ({
    page,
    open,
  }) => {
    await open()
    await page.getByRole('button', { name: 'HF long run' }).click()
    const download = page.waitForEvent('download')
    await page.getByRole('menuitem', { name: 'Save the station as a file' }).click()
    const saved = await download
    expect(saved.suggestedFilename()).toMatch(/^merrow-point-.*\.json$/)
    await page.goto('/new')
    const input = page.getByLabel('Station file')
    await input.setInputFiles({
      name: 'x.json',
      mimeType: 'application/json',
      buffer: Buffer.from('{"format":"list"}'),
    })
    await expect(page.getByRole('alert')).toContainText('not a Salt Line station file')
    await input.setInputFiles(await saved.path())
    await expect(page.getByRole('region', { name: 'From a file' })).toContainText('VHF mast')
    await page.getByRole('button', { name: 'Add this station' }).click()
    await expect(page.locator('main p[role="status"]')).toContainText('reaches the antenna')
    await expect(page).not.toHaveURL(/merrow-point/)
    await takeBack(page, 'is added')
    await expect(page).toHaveURL(/merrow-point/)
  })

  test('can stop at once', async ({ page }) => {
    await page.goto('/new')
    await page.getByRole('button', { name: 'Finish with what there is' }).click()
    await expect(page.locator('main p[role="status"]')).toContainText('reaches the antenna')
  })
})

test('radios, amplifiers and tuners: a copy is taken, what is here is kept, a deletion comes back', async ({
  page,
  chain,
  open,
}) => {
  await open('channel=c8&select=plane:1')
  await page.getByRole('complementary').getByRole('button', { name: 'Amplifier' }).click()
  await page.getByLabel('From the station’s gear').selectOption({ label: 'Bollard 500' })
  await expect(page.getByLabel('Name', { exact: true })).toHaveValue('Bollard 500')
  await saved(page)
  const { stages } = await documentOf(page, chain)
  expect(stages[1]).toMatchObject({ kind: 'amplifier', name: 'Bollard 500', tripReflectedW: 60 })
  expect(stages[1]!.id).not.toBe('bollard-500')

  await page.getByLabel('Name', { exact: true }).fill('Bollard of mine')
  await page.getByRole('button', { name: 'Save to gear' }).click()
  await goWithin(page, '/station/merrow-point/gear?kind=sets')
  const list = page.getByRole('region', { name: 'Radios, amplifiers and tuners' })
  await expect(list).toContainText(
    'Petrel 125 125 W PEP; constant forward power; foldback from SWR 1.50',
  )
  await expect(list).toContainText('Capstan 300 W PEP; T network')
  await expect(list).toContainText('Bollard of mine 500 W PEP for 40 W of drive')
  await list.getByRole('button', { name: 'Delete Bollard of mine' }).click()
  await expect(list).not.toContainText('Bollard of mine')
  await takeBack(page, 'is deleted. Chains keep the copy they took.')
  await expect(list).toContainText('Bollard of mine')
  await list.getByRole('button', { name: 'Delete Bollard of mine' }).click()
})
