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
  await page.getByLabel('Sweep file').setInputFiles({
    name: 'saved again.s1p',
    mimeType: 'text/plain',
    buffer: await (await import('node:fs/promises')).readFile(file),
  })
  await page.getByRole('radio', { name: 'feed point' }).check()
  await page.getByRole('button', { name: 'Use as this chain’s antenna' }).click()
  await expect(page.getByLabel('Name', { exact: true })).toHaveValue('saved again')
  await expect(page.getByRole('main')).toContainText('SWR 2.11')
})

test('a few SWR readings answer for the band', async ({ page, open }) => {
  await open('channel=c8&select=antenna')
  await page.getByLabel('What is known of it').selectOption('bands')
  const panel = page.getByRole('complementary')
  await expect(panel).toContainText('No reading yet')
  await expect(page.getByRole('main')).toContainText('No SWR of this antenna has been entered yet')
  const enter = async (mhz: string, swr: string) => {
    await panel.getByLabel('Another reading, MHz').fill(mhz)
    await panel.getByLabel('SWR', { exact: true }).fill(swr)
    await page.keyboard.press('Enter')
  }
  await enter('8.2', '2.2')
  await enter('8.3', '1.4')
  await enter('8.4', '1.3')
  await expect(panel).toContainText(/resonant on 8\.3\d\d/)
  await expect(sentence(page)).toContainText('reaches the antenna')
  // Another band has its own; between them there is no figure, and nothing is lost from the page.
  await enter('4.146', '1.8:1')
  await page.keyboard.press('Escape')
  await page.getByRole('navigation', { name: 'Channels' }).getByText('6.224').click()
  await expect(page.getByRole('main')).toContainText(/there is no figure at 6\.224/)
  await expect(page.getByRole('region', { name: 'Across the band' })).toBeVisible()
  // The readings are in the document: they are there after a reload.
  await page.reload()
  await page.locator('[data-item="antenna"]').click()
  await expect(panel.getByLabel('SWR on 8.300 MHz')).toHaveValue('1.4')
  await expect(panel.getByLabel('SWR on 4.146 MHz')).toHaveValue('1.8')
})

test('a dummy load of resistors', async ({ page, open }) => {
  await open('channel=c8&select=antenna')
  await page.getByLabel('What is known of it').selectOption('resistors')
  await page.getByLabel('Resistors in parallel').fill('20')
  await page.getByLabel('Each').fill('1k')
  await expect(page.getByText('50.0 Ω at low frequency')).toBeVisible()
  await expect(page.getByRole('complementary')).toContainText(/SWR here\s*1\.00/)
})

test('a sweep measured at the radio is carried to the feed point, or found impossible', async ({
  page,
  open,
}) => {
  await open('channel=c8&select=antenna')
  const input = page.getByLabel('Sweep file')
  const file = (rho: number) => ({
    name: 'from the desk.s1p',
    mimeType: 'text/plain',
    buffer: Buffer.from(
      `# MHz S RI R 50\n${Array.from({ length: 61 }, (_, i) => `${8 + i / 100} ${rho} 0`).join('\n')}\n`,
    ),
  })
  await input.setInputFiles(file(0.9))
  const dialog = page.getByRole('dialog')
  await dialog.getByRole('radio', { name: 'transmitter’s end' }).check()
  await expect(dialog.getByRole('alert')).toContainText('would have to return more than it gets')
  await expect(dialog.getByRole('button', { name: /Use as/ })).toBeDisabled()
  await page.keyboard.press('Escape')

  await input.setInputFiles(file(0.2))
  await dialog.getByRole('radio', { name: 'transmitter’s end' }).check()
  await expect(dialog).toContainText(/as measured\s*1\.50/)
  await dialog.getByRole('button', { name: /Use as/ }).click()
  // Back at the radio, the chain now reads what was measured there.
  await expect(
    page.getByRole('region', { name: 'Ledger' }).locator('tbody tr').first(),
  ).toContainText('1.50')
})

test('a file dropped on the page is offered', async ({ page, open }) => {
  await open()
  await page.evaluate(() => {
    const data = new DataTransfer()
    data.items.add(new File(['# MHz S RI R 50\n8 0.1 0\n9 0.1 0\n'], 'dropped.s1p'))
    document
      .querySelector('main')!
      .dispatchEvent(new DragEvent('drop', { dataTransfer: data, bubbles: true }))
  })
  const dialog = page.getByRole('dialog', { name: 'Import dropped.s1p' })
  // Nothing is offered before it is known where the file was taken.
  await expect(dialog.getByRole('radio', { name: 'feed point' })).toBeVisible()
  await expect(dialog.getByRole('button', { name: /Use as/ })).toHaveCount(0)
  await dialog.getByRole('radio', { name: 'feed point' }).check()
  await expect(dialog).toContainText('2, 8.000')
})
