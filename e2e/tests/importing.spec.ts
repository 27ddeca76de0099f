import { documentOf, expect, item, saved, sentence, test } from './journey.ts'

const READINGS = [
  'Frequency;VSWR;Remark no',
  ...Array.from(
    { length: 40 },
    (_, i) => `${(7.9 + i * 0.02).toFixed(2)};${(1.3 + i / 40).toFixed(2)};${i}`,
  ),
]
  .join('\n')
  .replaceAll('.', ',')

const file = (name: string, text: string) => ({
  name,
  mimeType: 'text/plain',
  buffer: Buffer.from(text),
})

test('a table of SWR readings becomes an antenna by naming its columns', async ({ page, open }) => {
  await open('channel=c8&select=antenna')
  await page.getByLabel('Sweep file').setInputFiles(file('readings.csv', READINGS))
  const dialog = page.getByRole('dialog', { name: 'Import readings.csv' })
  await expect(dialog.getByLabel('The antenna is given as')).toHaveValue('swr')
  await expect(dialog).toContainText('The first 5 of 40 rows')
  await dialog.getByRole('radio', { name: 'feed point' }).check()
  await expect(dialog).toContainText('40, 7.900 MHz to 8.680 MHz')

  // A wrong column is told by its line and loses nothing.
  await dialog.getByLabel('SWR stands in').selectOption({ label: 'Remark no' })
  await expect(dialog.getByRole('alert')).toContainText('Line 2: SWR is 0')
  await dialog.getByLabel('SWR stands in').selectOption({ label: 'VSWR' })
  await dialog.getByRole('radio', { name: 'feed point' }).check()
  await dialog.getByRole('button', { name: 'Use as this chain’s antenna' }).click()

  await expect(sentence(page)).toContainText(/\d+ to \d+\sW reaches the antenna/)
  await expect(item(page, 'antenna')).toContainText('phase unknown')
  await page.getByRole('link', { name: 'Antenna' }).click()
  await expect(page.getByRole('main')).toContainText('Only the SWR was measured')
  await expect(page.getByRole('img', { name: /^SWR of readings/ }).locator('svg')).toBeVisible()
})

test('R and X typed by hand become an antenna; a row that is half typed loses nothing', async ({
  page,
  open,
}) => {
  await open('channel=c8&select=antenna')
  await page.getByRole('button', { name: 'Type or paste a table' }).click()
  const dialog = page.getByRole('dialog', { name: 'An antenna from a table' })
  const rows = dialog.getByLabel(/^One frequency a line/)
  await expect(rows).toBeFocused()
  await rows.fill('8.0 25 0\n8.294 50 0\n8.6 100 0')
  await expect(dialog.getByLabel('The antenna is given as')).toHaveValue('rx')
  await dialog.getByRole('radio', { name: 'feed point' }).check()
  await dialog.getByLabel('Name of the antenna').fill('Loop')
  await expect(dialog).toContainText('3, 8.000 MHz to 8.600 MHz')
  // The second figure of the last row is still missing.
  await rows.fill('8.0 25 0\n8.294 50 0\n8.6 100 0\n8.7 120')
  await expect(dialog.getByRole('alert')).toContainText('Line 4: 2 numbers, where line 1 has 3.')
  await rows.fill('MHz;|Z|;angle\n8,0;25;0\n8,294;100;0\n8,6;100;-60')
  await expect(dialog.getByLabel('The antenna is given as')).toHaveValue('zPolar')
  await expect(dialog.getByRole('radio', { name: 'feed point' })).toBeChecked()
  await expect(dialog.getByLabel('Name of the antenna')).toHaveValue('Loop')
  await dialog.getByRole('button', { name: 'Use as this chain’s antenna' }).click()
  await expect(item(page, 'antenna')).toContainText('Loop')
  await expect(item(page, 'antenna')).toContainText(/100 [+−] j0.Ω/)
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(item(page, 'antenna')).not.toContainText('Loop')
})

test('a two-port file becomes a stage, can be turned round, and stays inside its range', async ({
  page,
  chain,
  open,
}) => {
  const rows = Array.from({ length: 50 }, (_, i) => `${4 + i * 0.1} 0.1 0 0 -0.9 0 -0.9 0.05 0.02`)
  await open('channel=c8&select=plane:2')
  await page
    .getByLabel('Sweep file')
    .setInputFiles(file('trap.s2p', ['# MHz S RI R 50', ...rows].join('\n')))
  const dialog = page.getByRole('dialog', { name: 'Import trap.s2p' })
  await expect(dialog).toContainText('0.87 dB')
  await expect(dialog).toContainText('1.22')
  await dialog.getByLabel('Where does it sit?').selectOption({ label: 'input of Choke' })
  await dialog.getByRole('button', { name: 'Add to the chain' }).click()
  await page.getByRole('button', { name: 'Port 1 faces the transmitter' }).click()
  await expect(page.getByRole('button', { name: 'Port 2 faces the transmitter' })).toBeVisible()
  await saved(page)
  const { stages } = await documentOf(page, chain)
  expect(stages.map(({ name }) => name).slice(-2)).toEqual(['trap', 'Choke'])
  expect(stages.at(-2)).toMatchObject({ kind: 'measured', turned: true })
  await page.keyboard.press('Escape')
  await page.keyboard.press('4')
  await expect(page.getByRole('alert')).toContainText('measured from 4.000 MHz to 8.900 MHz')
})

test('parts of the catalogue: found, and taken into a chain with their loss over frequency', async ({
  page,
  chain,
  open,
}) => {
  await page.goto('/station/merrow-point/gear?kind=parts')
  await page.getByLabel('Search by name or kind').fill('arrester 600')
  await expect(page.getByRole('rowheader')).toHaveText(['Gas tube arrester, 600 V'])
  await expect(page.getByRole('row').last()).toContainText('fires at 600 V peak')
  await open('channel=c8&select=stage:arrester')
  await page.getByLabel('Class of part').selectOption({ label: 'Gas tube arrester, 90 V' })
  await expect(page.getByRole('complementary')).toContainText('Typical of the class')
  await saved(page)
  const arrester = (await documentOf(page, chain)).stages.find(({ id }) => id === 'arrester')
  expect(arrester).toMatchObject({ gearId: 'gas-90', part: 'arrester' })
})
