import {
  documentOf,
  expect,
  item,
  saved,
  sentence,
  stageNames,
  takeBack,
  test,
  wattsAtAntenna,
} from './journey.ts'

test('the channel bar has the watts of every channel', async ({ page }) => {
  await page.goto('/station/merrow-point/chain/hf-long-run')
  const channels = page.getByRole('navigation', { name: 'Channels' })
  await expect(channels.getByRole('button', { name: /4\.146/ }).first()).toContainText('93')
  await expect(channels.getByRole('button', { name: /6\.224/ })).toContainText('13')
  await expect(channels.getByRole('button', { name: /8\.294/ })).toContainText('82')
  await expect(channels.getByRole('button', { name: /12\.353/ })).toContainText('51')
  await expect(sentence(page)).toContainText('Of 125')
})

test('the ledger adds up to what was set, and the screen agrees with the API', async ({
  page,
  open,
  chain,
}) => {
  await open()
  const lost = await page
    .getByRole('region', { name: 'Ledger' })
    .locator('tbody tr td:nth-child(5)')
    .allInnerTexts()
  const total = lost.reduce((sum, text) => sum + Number(text), 0)
  const answer = await page.request.post('/api/solve', {
    data: { document: await documentOf(page, chain), frequencyHz: 8.294e6, powerW: 125 },
  })
  const { solution } = (await answer.json()) as { solution: { antennaW: number } }
  expect(lost).toHaveLength(7)
  expect(Math.abs(125 - total - solution.antennaW)).toBeLessThan(0.4)
  expect(await wattsAtAntenna(page)).toBe(Math.round(solution.antennaW))
})

test('an edited length shows at once, is there after a reload, and undo takes it back', async ({
  page,
  open,
}) => {
  await open()
  const before = await wattsAtAntenna(page)
  await item(page, 'stage:duct').click()
  const length = page.getByLabel('Length')
  await expect(length).toBeFocused()
  await length.fill('300 ft')
  const after = await wattsAtAntenna(page)
  expect(after).toBeLessThan(before - 10)
  await saved(page, 2)

  await page.reload()
  await expect(page.getByLabel('Length')).toHaveValue('91.44')
  expect(await wattsAtAntenna(page)).toBe(after)

  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(length).toHaveValue('46')
  expect(await wattsAtAntenna(page)).toBe(before)
  await page.getByRole('button', { name: 'Redo' }).click()
  await expect(length).toHaveValue('91.44')
})

test('a number that cannot be read is told and changes nothing', async ({ page, chain }) => {
  // An address without a lens keeps what is selected.
  await page.goto(`/station/merrow-point/chain/${chain.id}?channel=c8&select=stage:duct`)
  const before = await wattsAtAntenna(page)
  const length = page.getByLabel('Length')
  await length.fill('long')
  await expect(page.getByText('“long” is not a length')).toBeVisible()
  await expect(length).toHaveAttribute('aria-invalid', 'true')
  expect(await wattsAtAntenna(page)).toBe(before)
  await length.fill('9000')
  await expect(page.getByText(/must be 5000.m or less/)).toBeVisible()
  await length.press('Escape')
  await expect(length).toHaveValue('46')
  await length.press('ArrowUp')
  await expect(length).toHaveValue('47')
})

test('stages are inserted, duplicated, bypassed and removed', async ({ page, open }) => {
  await open()
  const before = await wattsAtAntenna(page)
  await item(page, 'plane:4').click()
  await page.getByRole('complementary').getByRole('button', { name: 'Pad' }).click()
  expect(await stageNames(page)).toHaveLength(7)
  await expect(page.getByLabel('Insertion loss')).toBeFocused()
  expect(await wattsAtAntenna(page)).toBeLessThan(before)

  const panel = page.getByRole('complementary')
  await panel.getByRole('button', { name: 'Bypass' }).click()
  expect(await wattsAtAntenna(page)).toBe(before)
  await panel.getByRole('button', { name: 'Duplicate' }).click()
  await expect(page.getByLabel('Name')).toHaveValue('Pad 2')
  await panel.getByRole('button', { name: 'Remove' }).click()
  expect(await stageNames(page)).toHaveLength(7)
  await saved(page)
})

test('a transformer and a stub are put in, changed, and solved', async ({ page, open, chain }) => {
  await open()
  const panel = page.getByRole('complementary')
  await item(page, 'plane:1').click()
  await panel.getByRole('button', { name: 'Transformer' }).click()
  await expect(page.getByLabel('Impedance ratio')).toBeFocused()
  await expect(page.getByRole('button', { name: /Transformer.*1:4/ })).toBeVisible()
  const before = await wattsAtAntenna(page)
  await page.getByLabel('Impedance ratio').fill('1')
  await expect.poll(() => wattsAtAntenna(page)).not.toBe(before)

  await item(page, 'plane:4').click()
  await panel.getByRole('button', { name: 'Stub' }).click()
  await page.getByLabel('Far end').selectOption('short')
  await expect(panel.getByText(/RMS in it/)).toBeVisible()
  await saved(page)
  const { stages } = await documentOf(page, chain)
  expect(stages.filter(({ kind }) => kind === 'transformer')).toMatchObject([{ ratio: 1 }])
  expect(stages.filter(({ kind }) => kind === 'stub')).toMatchObject([{ end: 'short', lengthM: 1 }])
})

test('a stage is dragged to another place', async ({ page, open }) => {
  await open()
  const from = (await item(page, 'stage:choke').boundingBox())!
  const to = (await item(page, 'stage:arrester').boundingBox())!
  await page.mouse.move(from.x + from.width / 2, from.y + 10)
  await page.mouse.down()
  await page.mouse.move(from.x - 40, from.y + 10, { steps: 5 })
  await page.mouse.move(to.x + to.width / 2, to.y + 10, { steps: 15 })
  await page.mouse.up()
  await expect
    .poll(() => stageNames(page))
    .toEqual(['patch', 'meter', 'desk', 'choke', 'arrester', 'duct'])
})

test('channels: digits pick one, a new one is added, edited and removed', async ({
  page,
  open,
}) => {
  await open()
  await page.keyboard.press('2')
  await expect(page).toHaveURL(/channel=c6/)
  await expect(sentence(page)).toContainText('1.5')
  await page.getByRole('button', { name: 'channel', exact: true }).click()
  await page.getByRole('textbox', { name: 'Frequency' }).fill('8,3 MHz')
  await page.getByLabel('Set power, PEP').fill('50')
  await expect(sentence(page)).toContainText('Of 50')
  await page.goBack()
  await expect(page).toHaveURL(/channel=c6/)
  await page.keyboard.press('5')
  await page.getByRole('button', { name: /Edit the channel/ }).click()
  await page.getByRole('button', { name: 'Remove channel' }).click()
  await expect(page.getByRole('navigation', { name: 'Channels' }).getByText('8.300')).toHaveCount(0)
})

test('a channel outside the sweep says which range it covers', async ({ page, open }) => {
  await open('channel=c8&select=channel')
  await page.getByRole('textbox', { name: 'Frequency' }).fill('50')
  await expect(page.getByRole('alert')).toContainText(/measured from 2\.000.MHz to 18\.000.MHz/)
  await page.getByRole('textbox', { name: 'Frequency' }).fill('8.294')
  await expect(page.getByRole('alert')).toHaveCount(0)
})

test('an antenna of which only the SWR is known gives ranges', async ({ page, open }) => {
  await open('channel=c12')
  await item(page, 'antenna').click()
  await page.getByLabel('What is known of it').selectOption('swr')
  await page.getByLabel('SWR as read').fill('6')
  await expect(sentence(page).locator('b')).toHaveText(/\d+ to \d+/)
})

test('a sweep is imported; a broken file is refused by its line', async ({ page, open }) => {
  await open()
  await item(page, 'antenna').click()
  const input = page.getByLabel('Sweep file')
  await input.setInputFiles({
    name: 'broken.s1p',
    mimeType: 'text/plain',
    buffer: Buffer.from('# MHz S RI R 50\n8 0 0\n9 zero 0\n'),
  })
  await expect(page.getByRole('alert')).toContainText('Line 3: “zero” is not a number.')
  await page.keyboard.press('Escape')
  await input.setInputFiles({
    name: 'dummy load.s1p',
    mimeType: 'text/plain',
    buffer: Buffer.from('# MHz S RI R 50\n4 0 0\n13 0 0\n'),
  })
  await page.getByRole('radio', { name: 'feed point' }).check()
  await page.getByRole('button', { name: 'Use as this chain’s antenna' }).click()
  await expect(page.getByLabel('Name', { exact: true })).toHaveValue('dummy load')
  await expect(page.getByRole('region', { name: 'Ledger' }).getByText('dummy load')).toBeVisible()
})

test('the working of a stage and both schools', async ({ page, open }) => {
  await open()
  await page.getByRole('button', { name: 'working of Duct run' }).click()
  const dialog = page.getByRole('dialog')
  await expect(dialog).toContainText('Attenuation at 8.294')
  await expect(dialog).toContainText('k₁√f + k₂f')
  await page.keyboard.press('Escape')
  await page.getByRole('button', { name: 'working of the total' }).click()
  await expect(dialog).toContainText('It is lost')
  await expect(dialog).toContainText('It is sent again')
})

test('the curve across the band, and the same as a table', async ({ page, open }) => {
  await open()
  await expect(
    page.getByRole('img', { name: /Watts at Two-wire vee/ }).locator('svg'),
  ).toBeVisible()
  await page.keyboard.press('t')
  const table = page.getByRole('region', { name: 'Across the band' }).getByRole('table')
  await expect(table.getByRole('row')).toHaveCount(14)
  const middle = table.getByRole('row').nth(7)
  await expect(middle).toContainText('8.294')
  await expect(middle).toContainText('75.')
})

test('the ledger is copied with tabs', async ({ page, open }) => {
  await open()
  await page.getByRole('button', { name: 'Copy the ledger' }).click()
  await expect(page.getByText('The ledger is copied')).toBeVisible()
  const text = await page.evaluate(() => navigator.clipboard.readText())
  expect(text.split('\n')).toHaveLength(8)
  expect(text.split('\n')[0]!.split('\t')).toHaveLength(7)
})

test('what is typed before there is anything to type into is kept for it, and is no key of the page', async ({
  page,
  open,
}) => {
  let arrive = () => {}
  const arrived = new Promise<void>((done) => (arrive = done))
  await page.route(/\/(Palette|CableFinder)-[\w-]+\.js$/, async (route) => {
    await arrived
    await route.continue()
  })
  await open('channel=c8&select=stage:duct')
  await page.getByRole('button', { name: 'find by marking or size' }).click()
  await page.keyboard.type('rg 213')
  await page.keyboard.press('Backspace')
  await page.keyboard.type('4')
  arrive()
  const finder = page.getByRole('dialog', { name: 'Find a cable' })
  await expect(finder.getByRole('combobox')).toHaveValue('rg 214')
  await expect(finder.getByRole('option')).toHaveCount(1)
  await expect(page).toHaveURL(/channel=c8/)
  await page.keyboard.press('Escape')
  await page.getByRole('button', { name: 'find by marking or size' }).click()
  await expect(finder.getByRole('combobox')).toHaveValue('')
})

test('radiated power, where the antenna has a gain: on the budget, the card and the board', async ({
  page,
  open,
  chain,
}) => {
  await open('channel=c8&select=antenna')
  const panel = page.getByRole('complementary')
  await expect(page.getByRole('main')).not.toContainText('EIRP')
  await panel.getByLabel('Gain is known').check()
  await panel.getByLabel('Gain, dBi', { exact: true }).fill('5.15')
  await page.keyboard.press('Enter')
  const watts = await wattsAtAntenna(page)
  // 5.15 dB is 3.27 times.
  const eirp = panel.getByText(/^EIRP .* on this channel\.$/)
  await expect(eirp).toContainText('dBW')
  const said = Number((await eirp.innerText()).match(/EIRP ([\d.]+)/)![1])
  expect(Math.abs(said / (watts * 3.273) - 1)).toBeLessThan(0.02)
  await expect(page.getByText(/^EIRP, \d\d\.\d.dBW$/)).toBeVisible()
  // Another gain on the channel's own band goes before it.
  await panel.getByRole('button', { name: 'another gain for this channel’s band' }).click()
  await panel.getByLabel('Gain 1, dBi').fill('0')
  await page.keyboard.press('Enter')
  await expect
    .poll(async () => Number((await eirp.innerText()).match(/EIRP ([\d.]+)/)![1]) / watts)
    .toBeCloseTo(1, 1)
  await saved(page)
  await page.goto(`/station/merrow-point/chain/${chain.id}/card`)
  await expect(page.getByText(/^EIRP \d/).first()).toBeVisible()
  await page.goto('/station/merrow-point')
  await expect(page.getByText(/^EIRP \d/).first()).toBeVisible()
})

test('feet and dBm are remembered', async ({ page, open }) => {
  await open()
  const find = async (words: string) => {
    await page.keyboard.press('/')
    await expect(page.getByRole('dialog').locator('input')).toBeFocused()
    await page.keyboard.type(words)
    await expect(page.getByRole('option', { selected: true })).toContainText(RegExp(words, 'i'))
    await page.keyboard.press('Enter')
  }
  await find('feet')
  await expect(item(page, 'stage:duct')).toContainText(/151.ft/)
  await find('power in dbm')
  await expect(sentence(page)).toContainText(/48\.8.dBm/)
  await page.reload()
  await expect(item(page, 'stage:duct')).toContainText(/151.ft/)
  // Levels follow; what is lost stays in watts, and differences in decibels.
  await expect(page.getByText(/^set power 51\.0.dBm$/)).toBeVisible()
  await expect(page.getByText(/\sW lost as heat$/)).toBeVisible()
  await page.getByRole('link', { name: 'Headroom' }).click()
  await expect(sentence(page)).toContainText(/ \d\d\.\d.dBm/)
  await page.getByRole('link', { name: 'Match' }).click()
  await expect(page.getByRole('main')).toContainText(/: \d\d\.\d.dBm/)
})

test('a deleted chain can be taken back', async ({ page, open, chain }) => {
  await open()
  await page.getByRole('button', { name: 'HF long run' }).click()
  await page.getByRole('menuitem', { name: 'Delete this chain' }).click()
  await expect(page).not.toHaveURL(new RegExp(chain.id))
  await takeBack(page, 'is in the station’s bin')
  await expect(page).toHaveURL(new RegExp(chain.id))
})
