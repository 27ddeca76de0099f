import { documentOf, expect, item, saved, sentence, test, wattsAtAntenna } from './journey.ts'

test.describe('with the tuner', () => {
  test.use({ keepTuner: true })

  test('the truth about SWR on both sides of it, and dial marks kept by channel', async ({
    page,
    chain,
    open,
  }) => {
    await open('channel=c6&select=stage:tuner')
    const panel = page.getByRole('complementary')
    await expect(panel.getByRole('region', { name: 'What the tuner does' })).toContainText(
      'the cable beyond carriesSWR 6.00',
    )
    await expect(panel).toContainText('A meter on its transmitter side shows a match')
    await expect(panel.getByRole('listitem')).toHaveCount(3)
    await panel.getByLabel('Input capacitor').fill('4.5')
    await panel.getByLabel('Output capacitor').fill('7')
    await saved(page)
    await page.keyboard.press('Escape')
    await page.keyboard.press('3')
    await item(page, 'stage:tuner').click()
    await expect(panel.getByLabel('Input capacitor')).toHaveValue('6')
    const tuner = (await documentOf(page, chain)).stages.find(({ id }) => id === 'tuner')
    expect(tuner).toMatchObject({ dials: { c6: ['4.5', '', '7'], c8: ['6', '17', '6.5'] } })
  })

  test('keys pressed faster than the page follows do not undo each other', async ({
    page,
    open,
  }) => {
    await open('channel=c6&select=stage:tuner')
    // All in one go, before the page has drawn any of it.
    await page.evaluate(() => {
      const press = (key: string) =>
        document.body.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true }))
      press('Escape')
      press('3')
      document.querySelector<HTMLElement>('[data-item="stage:duct"]')!.click()
    })
    await expect(page).toHaveURL(/channel=c8&select=stage%3Aduct/)
  })

  test('another network, relays, or only a loss: the same stage known in another way', async ({
    page,
    open,
  }) => {
    await open('channel=c6&select=stage:tuner')
    const panel = page.getByRole('complementary')
    await panel.getByLabel('Network').selectOption('L-low-pass')
    await expect(panel.getByRole('region', { name: 'What the tuner does' })).toBeVisible()
    await panel.getByLabel('Known by').selectOption('stepped')
    await expect(panel).toContainText('32,768 settings')
    await panel.getByLabel('Known by').selectOption('given')
    await panel.getByLabel('Matches up to SWR').fill('3')
    await panel.getByLabel('Matches up to SWR').press('Enter')
    await expect(panel.getByRole('alert')).toContainText('Cannot match: it matches up to SWR 3')
    await expect(item(page, 'stage:tuner')).toContainText('no match')
    await expect(page.getByRole('main')).toContainText('Capstan cannot match this')
  })

  test('is a tuner worth it: all places on all channels, and over the band', async ({
    page,
    open,
  }) => {
    await open('channel=c6')
    await page.getByRole('link', { name: 'Match' }).click()
    await expect(page).toHaveURL(/\/match\?channel=c6/)
    await expect(sentence(page)).toContainText('A tuner at the feed point wins: 86')
    await expect(page.getByRole('list', { name: 'SWR at every plane' })).toContainText('54.1')
    await expect(
      page.getByRole('img', { name: /without a tuner, with one at the radio/ }).locator('svg'),
    ).toBeVisible()
    await page.getByRole('rowgroup').getByRole('button', { name: '4.146 MHz' }).click()
    await expect(sentence(page)).toContainText('No tuner wins: 95')
  })
})

test('a meter: what to expect in this mode, and a reading that is half of it', async ({
  page,
  open,
}) => {
  await open('channel=c8&select=stage:meter')
  const panel = page.getByRole('complementary')
  const read = panel.getByRole('region', { name: 'Expected and read' })
  await expect(read).toContainText(/Expect 2\d\sW.*voice, plain, average/)
  await expect(panel).toContainText('Choke keeps current off the braid')
  await read.getByLabel('Meter').selectOption({ label: 'Skua' })
  await expect(read).toContainText(/Expect 1\d\d\sW.*peak/)
  await read.getByLabel('Read, forward').fill('60')
  await read.getByLabel('Read, forward').press('Enter')
  await expect(read.getByRole('status')).toContainText('reduced-power mode?')
  await item(page, 'stage:choke').click()
  await page.getByRole('button', { name: 'Bypass' }).click()
  await item(page, 'stage:meter').click()
  await expect(panel).toContainText('No choke on its antenna side')
})

test('reduced power halves what arrives, and the foldback curve is dragged', async ({
  page,
  chain,
  open,
}) => {
  await open('channel=c4&select=transmitter')
  const before = await wattsAtAntenna(page)
  await page.getByLabel('Reduced-power setting is on').check()
  await expect(sentence(page)).toContainText(/Of 63/)
  expect(Math.abs((await wattsAtAntenna(page)) - before / 2)).toBeLessThan(1)
  await page.getByLabel(/Power is reduced/).uncheck()
  await expect(sentence(page)).toContainText(/Of 125/)

  const point = page.locator('[data-point="2"]')
  await point.scrollIntoViewIfNeeded()
  const box = (await point.boundingBox())!
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2)
  await page.mouse.down()
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2 + 30, { steps: 5 })
  await page.mouse.up()
  await saved(page)
  const { foldback } = (await documentOf(page, chain)).transmitter
  expect(foldback[2]![1]).toBeLessThan(0.7)
  expect(foldback[2]![0]).toBeCloseTo(2, 0)
})

test('a channel’s mode: PEP, mean and duty, with figures of its own', async ({
  page,
  chain,
  open,
}) => {
  await open('channel=c4&select=channel')
  const panel = page.getByRole('complementary')
  await expect(panel).toContainText('Average while keyed25 W')
  await panel.getByLabel('Mode').selectOption('CW')
  await expect(panel).toContainText('PARIS')
  await expect(panel).toContainText('Average over a transmission55 W')
  await panel.getByLabel('Duty cycle of a transmission').fill('30')
  await panel.getByLabel('Duty cycle of a transmission').press('Enter')
  await panel.getByLabel('The longest transmission is known').check()
  await saved(page)
  const [channel] = (await documentOf(page, chain)).channels
  expect(channel).toMatchObject({ mode: 'CW', keyDown: 0.3, longestOverS: 180 })
})

test.describe('with the amplifier', () => {
  test.use({ source: 'hf-amplifier', keepTuner: true })

  test('too much drive is a fact with a cure, and turning down cures it', async ({
    page,
    open,
  }) => {
    await open('channel=c12&select=channel')
    await expect(page.getByRole('main')).toContainText('Too much drive: Bollard 500 gets 26 W')
    await expect(page.getByRole('main')).toContainText('down to 30 W')
    await expect(item(page, 'stage:amplifier')).toContainText('overdriven')
    await page.getByLabel('Set power, PEP').fill('30')
    await page.getByLabel('Set power, PEP').press('Enter')
    await expect(page.getByRole('main')).not.toContainText('Too much drive')
  })

  test('its input is tamed by a resistor, on every channel; bypassed the exciter goes through', async ({
    page,
    chain,
    open,
  }) => {
    await open('channel=c8&select=stage:amplifier')
    await page.getByRole('button', { name: 'Improve its input match…' }).click()
    const dialog = page.getByRole('dialog', { name: 'Input match of Bollard 500' })
    await expect(dialog.getByRole('row')).toHaveCount(5)
    await dialog.getByLabel('Put in front of it').selectOption('pad')
    await expect(dialog).toContainText('As a π of 3.0 dB')
    await dialog.getByLabel('Put in front of it').selectOption('shunt')
    await expect(dialog).toContainText(/As .* in parallel/)
    await dialog.getByRole('button', { name: 'Add to the chain' }).click()
    await saved(page)
    const { stages } = await documentOf(page, chain)
    expect(stages[1]).toMatchObject({ kind: 'shunt', name: 'Input resistor' })
    expect(await wattsAtAntenna(page)).toBeGreaterThan(150)
    await page.getByRole('button', { name: 'Bypass' }).click()
    await expect(sentence(page)).toContainText(/Of 40\sW, 1\d\sW/)
  })
})
