import { type Page } from '@playwright/test'
import type { Station } from '@saltline/contract'
import { documentOf, expect, goWithin, test } from './journey.ts'

const bench = (query: string) => `/station/merrow-point/bench?${query}`
const result = (page: Page) => page.getByRole('region', { name: 'Result' })

test('a cable is measured by substitution, judged, kept, applied and repeated', async ({
  page,
  chain,
}) => {
  await page.goto(bench(`sheet=substitution&about=${chain.id}/duct`))
  await expect(result(page)).toContainText('Fill in one line')
  const lines = [
    ['45', '34'],
    ['45', '30'],
    ['45', '24.5'],
  ] as const
  for (const [i, [direct, through]] of lines.entries()) {
    await page.getByLabel(`Short lead, line ${i + 1}`).fill(direct)
    await page.getByLabel(`Cable in between, line ${i + 1}`).fill(through)
  }
  // 10·log₁₀(45/24.5) = 2.64 dB.
  await expect(result(page).getByRole('status')).toContainText(
    /Duct run loses 2\.64.dB .* on 28\.000.MHz/,
  )
  await expect(result(page)).toContainText(/Aged: 1\.4\d times the data sheet/)
  await expect(result(page)).toContainText('5 to 95 %')
  await page.getByRole('button', { name: 'Save' }).click()
  await expect(page.getByRole('region', { name: 'Saved sheets' })).toContainText('Duct run')

  await page.getByRole('button', { name: 'Use as this section’s loss' }).click()
  await expect(page.getByText(/Duct run now has 1\.4\d? times the loss/)).toBeVisible()
  const duct = (await documentOf(page, chain)).stages.find(({ id }) => id === 'duct')
  expect(duct).toMatchObject({ ageing: { reason: 'measured on the bench' } })

  await page.getByRole('button', { name: 'Make this a custom cable' }).click()
  await expect(
    page.getByText(/“Duct run, measured” is among the station’s cables now/),
  ).toBeVisible()

  // Other tests count the station's cables.
  const { gear } = (await (await page.request.get('/api/stations/merrow-point')).json()) as Station
  const made = gear.find(({ document }) => document.name === 'Duct run, measured')!
  expect(made).toMatchObject({ kind: 'cable', document: { z0Ohm: 50 } })
  await page.request.delete(`/api/gear/${made.id}`)

  await page.getByRole('button', { name: 'repeat' }).first().click()
  await expect(page).toHaveURL(/from=/)
  await expect(page.getByLabel('Cable in between, line 3')).toHaveValue('24.5')
  await page.getByLabel('Cable in between, line 3').fill('20')
  await expect(result(page)).toContainText(
    /Since .*: \+0\.88.dB, more than the uncertainty of both readings/,
  )
})

test('a figure that cannot be names its cure, on the sheet', async ({ page }) => {
  await page.goto(bench('sheet=through-line'))
  await page.getByLabel('Forward, W', { exact: true }).fill('50')
  await page.getByLabel('Reflected, W', { exact: true }).fill('60')
  await expect(result(page)).toContainText(/meter is turned round/)
  await page.getByLabel('Reflected, W', { exact: true }).fill('2')
  await expect(result(page).getByRole('status')).toContainText(/SWR 1\.50 \(/)
  await expect(result(page)).toContainText('Best SWR this meter can see')
})

test('every worksheet opens with its picture, steps and limits', async ({ page }) => {
  await page.goto(bench('sheet=substitution'))
  const nav = page.getByRole('navigation', { name: 'Worksheets' })
  const titles = 13
  await expect(nav.getByRole('link')).toHaveCount(titles)
  for (let i = 0; i < titles; i++) {
    await nav.getByRole('link').nth(i).click()
    await expect(page.locator('section svg[role="img"]').first()).toBeVisible()
    await expect(result(page)).toContainText('It cannot show')
  }
})

test('a measured velocity factor is taken over by its section', async ({ page, chain }) => {
  await page.goto(bench(`sheet=velocity-factor&about=${chain.id}/duct`))
  await page.getByLabel('First dip').fill('1.3')
  await page.getByRole('button', { name: 'Use as this section’s velocity factor' }).click()
  await expect(page.getByText(/Duct run now has a velocity factor of 0\.798/)).toBeVisible()
  const duct = (await documentOf(page, chain)).stages.find(({ id }) => id === 'duct')
  expect(duct).toMatchObject({ cable: { velocityFactor: 0.798 } })
})

test('the sheets reduce what is typed', async ({ page }) => {
  await page.goto(bench('sheet=velocity-factor'))
  await page.getByLabel('First dip').fill('4.9466')
  await page.getByLabel('Length, m', { exact: true }).fill('10')
  await expect(result(page).getByRole('status')).toContainText(/velocity factor is 0\.660/)

  await goWithin(page, bench('sheet=probe'))
  await page.getByLabel('Voltmeter shows').fill('99.7')
  await expect(result(page).getByRole('status')).toContainText(/100\.0.W .* PEP/)

  await goWithin(page, bench('sheet=two-meters'))
  await page.getByLabel('First meter, line 1').fill('40')
  await page.getByLabel('Second meter, line 1').fill('80')
  await expect(result(page).getByRole('status')).toContainText('They do not agree')

  await goWithin(page, bench('sheet=range-choice'))
  await expect(result(page).getByRole('status')).toContainText(
    /Forward on 200.W, reflected on 5\.0.W/,
  )

  await goWithin(page, bench('sheet=converter'))
  await page.getByLabel('dBm', { exact: true }).fill('30')
  await expect(page.getByLabel('Power, W', { exact: true })).toHaveValue('1')
  await page.getByLabel('SWR', { exact: true }).fill('3')
  await expect(page.getByLabel('Reflected')).toHaveValue('25')
})

test('an instrument is added, changed and stands in the log', async ({ page, chain }) => {
  await page.goto('/station/merrow-point/gear?kind=instruments')
  await page.getByRole('button', { name: 'Instrument', exact: true }).click()
  const sheet = page.getByRole('dialog')
  await sheet.getByLabel('Name').fill('Curlew')
  await sheet.getByLabel('Full scales, W').fill('5, three')
  await sheet.getByRole('button', { name: 'Add to the station' }).click()
  await expect(sheet.getByRole('alert')).toContainText('Full scale “three”')
  await sheet.getByLabel('Full scales, W').fill('5, 25, 125')
  await sheet.getByRole('button', { name: 'Add to the station' }).click()
  await expect(page.getByRole('row', { name: /Curlew/ })).toContainText('5.0 W, 25 W, 125 W')
  await goWithin(page, `/station/merrow-point/chain/${chain.id}/log?channel=c8`)
  await page.getByLabel('With').selectOption({ label: 'Curlew' })
  await goWithin(page, '/station/merrow-point/gear?kind=instruments')
  await page.getByRole('button', { name: 'Delete Curlew' }).click()
  await expect(page.getByRole('row', { name: /Curlew/ })).toHaveCount(0)
})

test('leads are compared, the odd one is named, and one becomes a cable to compare with', async ({
  page,
}) => {
  await page.goto(bench('sheet=leads'))
  await page.getByLabel('Without a lead, line 1').fill('50')
  const lead = async (n: number, name: string, lengthM: string, watts: string) => {
    const fields = page.getByRole('group', { name: `Lead ${n}` })
    await fields.getByLabel('Name').fill(name)
    await fields.getByLabel('Class').selectOption('5 mm solid PE')
    await fields.getByLabel('Length').fill(lengthM)
    await fields.getByLabel('With it').fill(watts)
  }
  await lead(1, 'Long lead', '7', '44')
  await lead(2, 'Short lead', '2', '40')
  await expect(result(page).getByRole('status')).toContainText('a connector, most likely')
  await expect(page.getByRole('region', { name: 'Leads compared' }).last()).toContainText(
    '▲ Short lead',
  )
  await page.getByRole('button', { name: '“Long lead” as a custom cable' }).click()
  await expect(page.getByText('is among the station’s cables now')).toBeVisible()
  await goWithin(page, '/station/merrow-point/chain/hf-long-run/compare?channel=c8&ask=cable')
  await expect(page.getByRole('button', { name: 'Compare with Long lead' })).toBeVisible()
})

test('a meter is calibrated, and its readings are corrected from then on', async ({
  page,
  chain,
}) => {
  await page.goto(bench('sheet=calibration'))
  await page.getByLabel('Instrument to be calibrated').selectOption('Skua')
  for (const [line, shown, real] of [
    ['1', '50', '45'],
    ['2', '100', '92'],
  ] as const) {
    if (line === '2') await page.getByRole('button', { name: 'another line' }).click()
    await page.getByLabel(`It shows, line ${line}`).fill(shown)
    await page.getByLabel(`The known one shows, line ${line}`).fill(real)
  }
  await expect(result(page).getByRole('status')).toContainText('Skua is off by up to +11')
  await page.getByRole('button', { name: 'Keep with Skua' }).click()
  await expect(page.getByText('what it showed is kept beside them')).toBeVisible()
  await goWithin(page, `/station/merrow-point/chain/${chain.id}/log?channel=c8`)
  const form = page.getByRole('form', { name: 'New reading' })
  await form.getByLabel('With').selectOption('Skua')
  await form.getByLabel(/^Forward/).fill('100')
  await page.keyboard.press('Enter')
  await expect(page.getByText(/^Saved: .*92.W/)).toBeVisible()
})
