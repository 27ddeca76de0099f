import { expect, item, sentence, test } from './journey.ts'

test('the antenna lens: how cable loss flatters', async ({ page, open }) => {
  await open()
  await page
    .getByRole('navigation', { name: 'Lenses' })
    .getByRole('link', { name: 'Antenna' })
    .click()
  await expect(page).toHaveURL(/\/antenna\?channel=c8/)
  const main = page.getByRole('main')
  await expect(main).toContainText('SWR 2.11')
  await expect(main).toContainText('only because the cable hides it')
  await expect(main).toContainText('8.315 to 8.722 MHz')
  await expect(
    page.getByRole('img', { name: /SWR, R and X of Two-wire vee/ }).locator('svg'),
  ).toBeVisible()
  await expect(page.getByRole('img', { name: /^Reflection from 7\.713/ })).toBeVisible()
  await page.keyboard.press('1')
  await expect(main).toContainText('inside the station’s limit')
})

test('the sweep on the screen is saved as Touchstone, and reads back as an antenna', async ({
  page,
  open,
}) => {
  await open()
  await page.getByRole('link', { name: 'Antenna' }).click()
  const download = page.waitForEvent('download')
  await page.getByRole('button', { name: 'Touchstone' }).click()
  const file = await (await download).path()
  await item(page, 'antenna').click()
  await page.getByLabel('Touchstone file').setInputFiles({
    name: 'saved again.s1p',
    mimeType: 'text/plain',
    buffer: await (await import('node:fs/promises')).readFile(file),
  })
  await expect(page.getByLabel('Name')).toHaveValue('saved again')
  await expect(page.getByRole('main')).toContainText('SWR 2.11')
})

test('a few SWR readings answer for the band', async ({ page, open }) => {
  await open('channel=c8&select=antenna')
  await page.getByLabel('What is known of it').selectOption('resonator')
  for (const [i, [mhz, swr]] of [
    ['8.2', '2.2'],
    ['8.3', '1.4'],
    ['8.4', '1.3'],
  ].entries()) {
    await page.getByLabel(`Frequency, reading ${i + 1}`).fill(mhz!)
    await page.getByLabel(`SWR, reading ${i + 1}`).fill(swr!)
  }
  const panel = page.getByRole('complementary')
  await expect(panel).toContainText(/Resonant on 8\.3\d\d/)
  await expect(panel).toContainText('the SWR is likely')
  await expect(sentence(page)).toContainText('reaches the antenna')
})

test('a dummy load of resistors', async ({ page, open }) => {
  await open('channel=c8&select=antenna')
  await page.getByLabel('What is known of it').selectOption('resistors')
  await page.getByLabel('Resistors in parallel').fill('20')
  await page.getByLabel('Each').fill('1k')
  await expect(page.getByText('50.0 Ω at low frequency')).toBeVisible()
  await expect(page.getByRole('complementary')).toContainText(/SWR here\s*1\.00/)
})
