import type { Reading, Station } from '@saltline/contract'
import { type Page } from '@playwright/test'
import { documentOf, expect, goWithin, takeBack, test } from './journey.ts'

test.use({ source: 'mf-hf-whip', keepTuner: true })

const logOf = (chainId: string, query = 'channel=c4') =>
  `/station/merrow-point/chain/${chainId}/log?${query}`

const form = (page: Page) => page.getByRole('form', { name: 'New reading' })
const table = (page: Page) => page.getByRole('table', { name: 'Readings of the session' })

async function enter(page: Page, where: string, forwardW: string, reflectedW: string) {
  await form(page).getByLabel('Where').selectOption({ label: where })
  await form(page).getByLabel('With').selectOption({ label: 'Skua' })
  await form(page).getByLabel('Mode').selectOption({ label: 'key down, tuning carrier' })
  await form(page)
    .getByLabel(/^Forward/)
    .fill(forwardW)
  await form(page).getByLabel('Reflected, W', { exact: true }).fill(reflectedW)
  await page.keyboard.press('Enter')
  // What is kept leaves the field; the line that says so goes by itself, sooner than a slow machine looks.
  await expect(form(page).getByLabel(/^Forward/)).toHaveValue('')
}

test('a reading is compared while it is typed, kept with Enter, deleted and taken back', async ({
  page,
  chain,
}) => {
  await page.goto(logOf(chain.id))
  await expect(page.getByText('The first reading starts a measurement session.')).toBeVisible()
  await form(page).getByLabel('Mode').selectOption({ label: 'key down, tuning carrier' })
  await form(page).getByLabel('With').selectOption({ label: 'Skua' })
  await expect(form(page)).toContainText(/expected 100.W/)
  await form(page)
    .getByLabel(/^Forward/)
    .fill('98')
  await expect(form(page)).toContainText('inside the uncertainty')
  await form(page)
    .getByLabel(/^Forward/)
    .fill('51')
  await expect(form(page)).toContainText(
    /half of the expected power: is the radio in a reduced-power mode/,
  )
  await enter(page, 'at the radio', '98', '0.1')
  await expect(table(page).getByRole('row')).toHaveCount(2)
  await expect(table(page)).toContainText('at the radio, 4.146 MHz, key down')
  await expect(page.getByText(/The session is open/)).toBeVisible()
  await page.getByRole('button', { name: 'Delete the reading at the radio' }).click()
  await expect(
    page
      .getByText('No reading in this session yet.')
      .or(page.getByText('The first reading starts')),
  ).toBeVisible()
  await takeBack(page, 'Deleted: the reading')
  await expect(table(page).getByRole('row')).toHaveCount(2)
  // With a load in the antenna's place the same place shows something else, and the log says so.
  const end = form(page).getByLabel('At the far end')
  await end.selectOption('a 50 Ω load')
  await expect(form(page)).toContainText('The load has to bear what arrives of')
  await enter(page, 'input of Sea-wall run', '96', '0')
  await expect(table(page).getByRole('row').last()).toContainText('into a 50 Ω load')
  await expect(end).toHaveValue('load')
  await end.selectOption('the antenna')
  await expect(form(page)).not.toContainText('The load has to bear')
})

test('what is half typed stays, what is swapped is asked about, and Ctrl + Z takes a reading back', async ({
  page,
  chain,
}) => {
  await page.goto(logOf(chain.id))
  await form(page)
    .getByLabel(/^Forward/)
    .fill('2')
  await form(page).getByLabel('Reflected, W', { exact: true }).fill('97')
  await form(page).getByLabel('Note').fill('after the rain')
  await page.getByRole('link', { name: 'Headroom' }).click()
  await expect(form(page)).toHaveCount(0)
  await page.getByRole('link', { name: 'Log', exact: true }).click()
  await expect(form(page).getByLabel('Note')).toHaveValue('after the rain')
  await page.reload()
  await expect(form(page).getByLabel(/^Forward/)).toHaveValue('2')
  await page.getByRole('button', { name: 'Swapped? Exchange them' }).click()
  await expect(form(page).getByLabel(/^Forward/)).toHaveValue('97')
  await expect(form(page).getByLabel('Reflected, W', { exact: true })).toHaveValue('2')
  await form(page).getByRole('button', { name: 'Save the reading' }).click()
  await expect(table(page).getByRole('row')).toHaveCount(2)
  await page.getByRole('button', { name: 'Delete the reading at the radio' }).click()
  await expect(table(page)).toHaveCount(0)
  await page.locator('body').press('Control+z')
  await expect(table(page).getByRole('row')).toHaveCount(2)
  await page.locator('body').press('Control+z')
  await expect(table(page)).toHaveCount(0)
  await expect(page.getByText(/^Taken back: Saved: /)).toBeVisible()
})

test('the log comes back from its own file: byte for byte, once, and in one undo', async ({
  page,
  request,
}) => {
  const csv = async () => (await request.get('/api/stations/merrow-point/log.csv')).text()
  const all = await csv()
  const { chains } = (await (await request.get('/api/stations/merrow-point')).json()) as Station
  let count = 0
  for (const { id } of chains) {
    for (;;) {
      const address = `/api/stations/merrow-point/readings?chain=${id}&limit=500`
      const { readings } = (await (await request.get(address)).json()) as { readings: Reading[] }
      if (readings.length === 0) break
      const data = { ids: readings.map((reading) => reading.id) }
      await request.post(`/api/chains/${id}/readings/delete`, { data })
      count += readings.length
    }
  }
  expect((await csv()).trim().split('\n')).toHaveLength(1)

  await page.goto(logOf('mf-hf-whip', 'channel=c4&leaf=all'))
  const offer = async (text: string) => {
    await page.getByRole('button', { name: 'Paste or import' }).click()
    const buffer = Buffer.from(text)
    await page
      .getByLabel('or choose a file')
      .setInputFiles({ name: 'log.csv', mimeType: 'text/csv', buffer })
  }
  const dialog = page.getByRole('dialog', { name: 'Readings from a table' })
  await offer(all)
  await expect(dialog).toContainText(`${count.toLocaleString('en-GB')} readings understood:`)
  await expect(dialog).toContainText('What was expected of each')
  await dialog.getByRole('button', { name: 'Save them' }).click()
  await expect(dialog).toHaveCount(0)
  expect(await csv()).toBe(all)

  // It is there: of the same file with one line more only that line is new.
  const [head, ...lines] = all.trim().split('\r\n')
  const one = lines[0]!.replace(/^[^,]+/, '2020-05-06T07:08:09.000Z')
  await offer([head, ...lines, one].join('\r\n'))
  await expect(dialog).toContainText(`${count.toLocaleString('en-GB')} of them are already here`)
  await dialog.getByRole('button', { name: 'Save the other 1' }).click()
  await expect(dialog).toHaveCount(0)
  expect(await csv()).toBe([head, one, ...lines, ''].join('\r\n'))
  await page.locator('body').press('Control+z')
  await expect(page.getByText('Taken back: 1 reading saved.')).toBeVisible()
  expect(await csv()).toBe(all)

  // In another station its names are chosen for.
  await offer('chain,where,meter,forward W\nLighthouse,at the top,Gannet,50')
  await dialog.getByLabel(/“Lighthouse” is no chain/).selectOption({ label: 'HF long run' })
  await dialog.getByLabel(/“Gannet” is no instrument/).selectOption('without an instrument')
  await dialog.getByLabel(/“at the top” is no place/).selectOption('at the radio')
  await expect(dialog.getByRole('table', { name: 'As understood' })).toContainText('forward 50')
  await dialog.getByRole('button', { name: 'Save them' }).click()
  await expect(page.getByText('1 reading saved.', { exact: true })).toBeVisible()
})

test('a plane pressed on the spine is where one reads', async ({ page, chain, open }) => {
  await open('channel=c4&select=plane:2')
  await page.getByRole('link', { name: 'enter it into the log' }).click()
  await expect(page).toHaveURL(new RegExp(`${chain.id}/log`))
  await expect(form(page).getByLabel('Where')).toHaveValue('wall')
  await page.locator('[data-item="plane:3"]').click()
  await expect(form(page).getByLabel('Where')).toHaveValue('base')
})

test('what cannot be is told at once and stays typed', async ({ page, chain }) => {
  await page.goto(logOf(chain.id))
  await form(page)
    .getByLabel(/^Forward/)
    .fill('10')
  await form(page).getByLabel('Reflected, W', { exact: true }).fill('12')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('alert')).toContainText(/Is the meter turned round/)
  await expect(form(page).getByLabel(/^Forward/)).toHaveValue('10')
})

test('two people at two ends meet in one round', async ({ page, chain, other: phone }) => {
  await page.goto(logOf(chain.id))
  await enter(page, 'at the radio', '98', '0.1')
  await phone.goto(logOf(chain.id))
  await form(phone).getByLabel('By').fill('mast foot')
  await enter(phone, 'input of Base tuner', '92', '0.1')
  await expect(table(phone).getByRole('row')).toHaveCount(3)
  await expect(table(page).getByRole('row')).toHaveCount(3)
  await expect(table(page)).toContainText('mast foot')
  expect(await phone.evaluate(() => document.documentElement.scrollWidth)).toBe(390)
})

test('readings with a lossy section in them name it, and the chain takes it over', async ({
  page,
  chain,
}) => {
  await page.goto(logOf(chain.id))
  for (const channel of ['4.146 MHz', '6.224 MHz']) {
    await form(page).getByLabel('Channel').selectOption({ label: channel })
    await enter(page, 'at the radio', '99', '0')
    await enter(page, 'input of Sea-wall run', '97', '0')
    await enter(page, 'input of Base tuner', channel.startsWith('4') ? '60' : '56', '0')
  }
  const where = page.getByRole('region', { name: 'Where did the watts go?' })
  await expect(where.getByRole('status')).toContainText(/Sea-wall run/)
  await expect(where.getByRole('list', { name: 'Evidence' }).first()).toContainText(
    /\d+.dB for: .*, \d/,
  )
  await expect(where).toContainText(/Each cause alone, compared with all 6 readings/)
  const take = where.getByRole('button', { name: 'Apply to the chain' }).first()
  await take.click()
  await expect
    .poll(async () => {
      const wall = (await documentOf(page, chain)).stages.find(({ id }) => id === 'wall')
      return wall?.kind === 'line' ? (wall.ageing?.factor ?? 1) : 0
    })
    .toBeGreaterThan(1.5)
})

test('one reading is not enough, and the next one to take is offered', async ({ page, chain }) => {
  await page.goto(logOf(chain.id))
  await enter(page, 'input of Base tuner', '52', '0')
  const where = page.getByRole('region', { name: 'Where did the watts go?' })
  await expect(where).toContainText('The next reading to take')
  // What each of the two would show there is said; a place that cannot be read today is advised no more.
  const advised = where.getByRole('button', { name: / on \d/ })
  await expect(where).toContainText(/; expected [\d.]+.W with “/)
  await expect(where).toContainText(/swap .+ for a lead that is known to be good/)
  // What came of a swap is evidence, and stays when one comes back; the lead is not advised again.
  const swap = where.getByRole('listitem').filter({ hasText: /^swap / })
  const lead = (await swap.innerText()).match(/swap (.+) for a lead/)![1]!
  await where.getByRole('button', { name: 'It made no difference' }).click()
  await expect(where).toContainText(`${lead} was swapped: it made no difference.`)
  await expect(swap.filter({ hasText: lead })).toHaveCount(0)
  await page.reload()
  await expect(where).toContainText(`${lead} was swapped: it made no difference.`)
  await where.getByRole('button', { name: 'Take this back' }).click()
  await expect(swap.filter({ hasText: lead })).toBeVisible()

  const place = (await advised.first().innerText()).replace(/ on \d.*/, '')
  await where.getByText('Where can you read today?').click()
  await where.getByLabel(place, { exact: true }).selectOption('not today')
  await expect(advised.filter({ hasText: place })).toHaveCount(0)
  await page.reload()
  await expect(advised.first()).toBeVisible()
  await expect(advised.filter({ hasText: place })).toHaveCount(0)
  await advised.last().click()
  await expect(page).toHaveURL(/select=plane/)

  // Where readings tell little, what is held likely beforehand decides; what is typed there is kept with the chain.
  const first = page.getByRole('region', { name: 'Where did the watts go?' }).getByRole('listitem')
  await expect(first.first()).not.toContainText(/ shows /)
  await page.getByRole('button', { name: 'How likely each is beforehand' }).click()
  await page.getByLabel('A meter that is off').fill('100')
  await page.getByLabel('Nothing is wrong').fill('0.1')
  await page.getByLabel('Nothing is wrong').press('Enter')
  await expect(page.getByRole('dialog')).toBeVisible()
  await page.keyboard.press('Escape')
  await expect(first.first()).toContainText(/ shows /)
  await expect.poll(async () => (await documentOf(page, chain)).priors?.none).toBeCloseTo(0.001, 9)
  await page.getByRole('button', { name: /beforehand, changed/ }).click()
  await page.getByRole('button', { name: 'back to the defaults' }).click()
  await page.keyboard.press('Escape')
  await expect.poll(async () => (await documentOf(page, chain)).priors).toBeUndefined()
})

test('a table is pasted, its mistakes are named by line, and then it is kept', async ({
  page,
  chain,
}) => {
  await page.goto(logOf(chain.id, 'channel=c4&leaf=all'))
  await page.getByRole('button', { name: 'Paste or import' }).click()
  const sheet = page.getByRole('dialog')
  const head = 'when, MHz, mode, where, forward W, reflected W, meter\n'
  await sheet
    .getByLabel('Paste the table')
    .fill(`${head}2026-04-18 09:30, 4.146, key-down, at the moon, 99, 0.1, Skua`)
  await expect(sheet).toContainText('Line 2: “at the moon” is no place on MF/HF whip.')
  await expect(sheet.getByRole('button', { name: 'Save them' })).toBeDisabled()
  await sheet
    .getByLabel('Paste the table')
    .fill(
      `${head}2026-04-18 09:30, 4.146, key-down, at the radio, 99, 0.1, Skua\n2026-04-18 09:41, 4.146, key-down, before Base tuner, 92, 0.2, Skua`,
    )
  await sheet.getByRole('button', { name: 'Save them' }).click()
  await expect(page.getByText('2 readings', { exact: true })).toBeVisible()
  const rows = page.getByRole('table', { name: 'All readings' }).getByRole('row')
  await expect(rows).toHaveCount(3)
  await expect(rows.nth(1)).toContainText('input of Base tuner')
})

test('the demo’s years: a loss that grew, its day, and what happened then', async ({ page }) => {
  await page.goto('/station/merrow-point')
  const alert = page.getByRole('link', {
    name: /Mast run: 0\.4.dB more than in (September|October|November)/,
  })
  await alert.click()
  await expect(page).toHaveURL(/vhf-mast\/log\?leaf=years/)
  const loss = page.getByRole('region', { name: 'Loss of Mast run' })
  await expect(loss).toContainText(/Step change, seen by 10 Jan 2026/)
  await expect(loss.getByRole('img').first()).toBeVisible()
  const events = page.getByRole('region', { name: 'What happened' })
  await expect(events).toContainText('Storm, mast head under spray')
  await events.getByLabel(/^What:/).fill('Masthead joint replaced')
  await events.getByRole('button', { name: 'Mark it' }).click()
  await expect(
    events.getByRole('listitem').filter({ hasText: 'Masthead joint replaced' }),
  ).toBeVisible()
  await events.getByRole('button', { name: 'Delete Masthead joint replaced' }).click()
  await expect(events.getByRole('listitem').filter({ hasText: 'Masthead' })).toHaveCount(0)
})

test('sweeps stand beside readings over the years: the dip that sinks, on its channel alone', async ({
  page,
}) => {
  await page.goto('/station/merrow-point/chain/hf-long-run/log?channel=c8&leaf=years')
  const sweeps = page.getByRole('region', { name: 'By sweeps' })
  const dip = sweeps.getByRole('region', {
    name: /^Dip of the SWR near 8\.\d+.MHz, input of Desk lead/,
  })
  await expect(dip).toContainText(
    /8\.42.MHz last; −\d+.kHz a year .*; too few sweeps to call it a drift/,
  )
  await expect(dip.getByRole('img').first()).toBeVisible()
  await expect(sweeps.getByRole('region', { name: /^Loss .*Duct run alone/ })).toBeVisible()
  await goWithin(page, '/station/merrow-point/chain/hf-long-run/log?channel=c6&leaf=years')
  await expect(sweeps.getByRole('region', { name: /^Loss .*Duct run alone/ })).toBeVisible()
  await expect(sweeps.getByRole('region', { name: /near 8\./ })).toHaveCount(0)
})

test('a round makes a dated report for paper', async ({ page }) => {
  await page.goto(logOf('mf-hf-whip'))
  await page.getByRole('link', { name: 'Report' }).click()
  const report = page.getByRole('article', { name: 'Report' })
  await expect(report).toContainText('10 Nov 2026')
  await expect(report).toContainText('Diagnosis')
  await expect(report).toContainText(/Sea-wall run/)
  await expect(report.getByRole('row')).toHaveCount(7)
})

test('how sure: ranges with every figure, what dominates, tolerances of one’s own', async ({
  page,
  chain,
  open,
}) => {
  await open('channel=c4')
  await page.getByRole('button', { name: 'uncertainty' }).click()
  await expect(page.getByText(/Ranges are 5–95 %/)).toBeVisible()
  await expect(page.locator('main p[role="status"]')).toContainText(/\d+ to \d+.W/)
  await page.getByRole('button', { name: 'tolerances' }).click()
  await page.getByLabel('Transmitter power, ±').fill('30')
  await page.keyboard.press('Escape')
  await page.keyboard.press('Escape')
  // The antenna’s edge of what the tuner reaches counts for more; the transmitter now counts too.
  await expect(page.getByText(/the transmitter \(\d\d\s%\)/)).toBeVisible()
  await expect
    .poll(async () => (await documentOf(page, chain)).tolerances?.source)
    .toBeCloseTo(0.3, 9)
  await page.getByRole('button', { name: 'without ranges' }).click()
  await expect(page.locator('main p[role="status"]')).not.toContainText(/\d+ to \d+.W/)
})

test('all readings are filtered, and a file is imported beside them', async ({ page, chain }) => {
  await page.goto('/station/merrow-point/chain/hf-long-run/log?channel=c8&leaf=all')
  const count = page.getByRole('status').filter({ hasText: /reading/ })
  await expect(count).toContainText('288 readings')
  await page.getByLabel('Against the prediction').selectOption('outside')
  await expect(count).not.toContainText('288')
  const table = page.getByRole('table', { name: 'All readings' })
  await expect(table.getByRole('row').nth(1)).toContainText('▲')
  await page.getByLabel('Chain', { exact: true }).selectOption('')
  await page.getByLabel('Against the prediction').selectOption('')
  await page.getByLabel(/Words in note/).fill('gale')
  await expect(table.getByRole('row').nth(1)).toContainText('gale')
  await page.getByLabel(/Words in note/).fill('no such word')
  await expect(count).toContainText('No reading fits')

  await goWithin(page, `/station/merrow-point/chain/${chain.id}/log?channel=c4&leaf=all`)
  await page.getByRole('button', { name: 'Paste or import' }).click()
  await page
    .getByRole('dialog')
    .locator('input[type=file]')
    .setInputFiles({
      name: 'readings.csv',
      mimeType: 'text/csv',
      buffer: Buffer.from('when;where;forward;SWR\n2026-05-01;at the radio;98;1.1\n'),
    })
  await expect(page.getByRole('dialog')).toContainText('1 reading understood')
  await page.getByRole('button', { name: 'Save them' }).click()
  await expect(table.getByRole('row').nth(1)).toContainText('1 May 2026')
})

test('a log scrolls: only the rows in sight are drawn', async ({ page }) => {
  await page.goto('/station/merrow-point/chain/hf-long-run/log?channel=c8&leaf=all')
  const table = page.getByRole('table', { name: 'All readings' })
  await expect(table.getByRole('row').nth(1)).toContainText('10 Nov 2026')
  expect(await table.getByRole('row').count()).toBeLessThan(80)
  await table.evaluate((box) => (box.scrollTop = box.scrollHeight))
  await expect(table.getByRole('row').last()).toContainText('10 Apr 2024')
})

test('without a prediction a reading is kept all the same', async ({ page, chain }) => {
  const { document } = chain
  const beyond = { ...document.channels[0]!, id: 'far', frequencyHz: 29e6 }
  await page.request.put(`/api/chains/${chain.id}`, {
    data: {
      baseRevision: 1,
      document: { ...document, channels: [...document.channels, beyond] },
      summary: 'a channel the antenna was not swept on',
    },
  })
  await page.goto(logOf(chain.id, 'channel=far'))
  await expect(form(page)).toContainText(/sweep/)
  await form(page)
    .getByLabel(/^Forward/)
    .fill('50')
  await page.keyboard.press('Enter')
  await expect(table(page)).toContainText('29.000 MHz')
})
