import { documentOf, expect, saved, sentence, stageNames, test, wattsAtAntenna } from './journey.ts'

test('a tuner inside the radio becomes the first stage, as far as it reaches', async ({
  page,
  chain,
  open,
}) => {
  await open('channel=c8&select=transmitter')
  const before = await wattsAtAntenna(page)
  await page.getByLabel('It has a tuner inside').check()
  await page.getByLabel('which matches up to SWR').fill('3')
  await page.getByLabel('which matches up to SWR').press('Enter')
  await page.getByRole('button', { name: 'Add to the chain' }).click()
  await saved(page)
  const { stages, transmitter } = await documentOf(page, chain)
  expect(stages[0]).toMatchObject({ kind: 'tuner', method: 'given', reachSwr: 3 })
  expect(transmitter.builtInTuner).toMatchObject({ reachSwr: 3 })
  // The radio no longer holds back: more arrives, less its own loss.
  expect(await wattsAtAntenna(page)).toBeGreaterThan(before)
  await page.keyboard.press('Escape')
  // On 6 MHz the radio would see SWR 5.6: out of its reach.
  await page.keyboard.press('2')
  await expect(page.getByRole('main')).toContainText('it matches up to SWR 3')
  await page.keyboard.press('Control+z')
  await expect.poll(() => stageNames(page)).toHaveLength(6)
})

test('another rating on a band, a note of the supply, and what a channel says of it', async ({
  page,
  chain,
  open,
}) => {
  await open('channel=c12&select=transmitter')
  await page.getByText('Another rating on some bands').click()
  await page.getByRole('button', { name: 'Add a band' }).click()
  await page.getByLabel('rated, 1').fill('60')
  await page.getByLabel('rated, 1').press('Enter')
  await expect(page.getByRole('complementary')).toContainText('On 12.353 MHz: 60 W')
  await page.getByLabel('Supply (may stay empty)').fill('13.2 V under load')
  await page.keyboard.press('Escape')
  await page.keyboard.press('e')
  await expect(page.getByRole('complementary')).toContainText(
    'More than the 60 W that Petrel 125 is rated for',
  )
  await saved(page)
  expect((await documentOf(page, chain)).transmitter).toMatchObject({
    supply: '13.2 V under load',
    bands: [{ ratedW: 60 }],
  })
})

test('an amplifier that would switch itself off says so, and what it would give', async ({
  page,
  open,
}) => {
  await open('channel=c12&select=plane:0')
  await page.getByRole('complementary').getByRole('button', { name: 'Amplifier' }).click()
  await expect(page.getByRole('main')).toContainText(
    /Amplifier would switch itself off: SWR 3\.\d+ at its output, its limit is 3\.00/,
  )
  await page.getByLabel('Trips above SWR').fill('')
  await expect(page.getByRole('main')).not.toContainText('switch itself off')
  await page.getByLabel('Full output, PEP').fill('800')
  // With this gain the drive gives less: the field says so, and changes nothing until the gain is raised.
  await expect(page.getByText(/The power must be 633\.\d+.W or less/)).toBeVisible()
  await page.getByLabel('Full output, PEP').press('Escape')
  await page.getByLabel('Gain at small drive').fill('14')
  await page.getByLabel('Full output, PEP').fill('800')
  await page.getByLabel('Full output, PEP').press('Enter')
  await expect(page.getByLabel('Full output, PEP')).toHaveValue('800')
})

test('the workings of a tuner and an amplifier name their parts', async ({ page }) => {
  await page.goto('/station/merrow-point/chain/hf-amplifier/budget?channel=c8')
  await page.getByRole('button', { name: 'working of Capstan' }).click()
  const dialog = page.getByRole('dialog')
  await expect(dialog).toContainText('Coil across, 806 nH')
  await expect(dialog).toContainText('The match is solved with these losses in it')
  await page.keyboard.press('Escape')
  await page.getByRole('button', { name: 'working of Bollard 500' }).click()
  await expect(dialog).toContainText('input 62 + j18 Ω')
  await page.keyboard.press('Escape')
  await expect(sentence(page)).toContainText('9.0 dB up')
})
