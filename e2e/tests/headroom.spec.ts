import { documentOf, expect, item, saved, sentence, test } from './journey.ts'

test.use({ keepTuner: true })

test('a verdict first, then the parts by headroom, the profile and the faults', async ({
  page,
  chain,
  open,
}) => {
  await open('channel=c12')
  await page.getByRole('link', { name: 'Headroom' }).click()
  await expect(page).toHaveURL(/\/headroom\?channel=c12/)
  await expect(sentence(page)).toContainText(
    /Good to 14\d\sW on data\. The limiting part is Desk lead \(heating/,
  )
  await expect(page.getByRole('img', { name: /Voltage and heat along the chain/ })).toBeVisible()
  const parts = page.getByRole('region', { name: 'Parts by headroom' })
  await expect(parts.getByRole('row').nth(1)).toContainText('Desk lead heating, average◐ tight')
  await expect(parts).toContainText('? not known')
  const faults = page.getByRole('region', { name: 'When something fails' })
  await expect(faults.getByRole('rowheader').first()).toHaveText('Two-wire vee gone, open end')
  await expect(faults.getByRole('row')).toHaveCount(10)

  // Hotter around: less may be set; the most follows.
  await page.getByText('40 °C ambient').click()
  await page.getByLabel('Ambient').fill('60')
  await page.getByLabel('Ambient').press('Enter')
  await expect(sentence(page)).toContainText(/Too much: on 12\.353\sMHz data is limited to 7\d\sW/)
  await page.getByLabel('Licence limits').selectOption('PEP')
  await page.getByLabel('to, W', { exact: true }).fill('100')
  await page.getByLabel('to, W', { exact: true }).press('Enter')
  await saved(page)
  expect(await documentOf(page, chain)).toMatchObject({
    ambientC: 60,
    licence: { kind: 'PEP', watts: 100 },
  })
  await expect(parts).toContainText('licence, PEP')
  await page.getByLabel('average power, over a transmission').check()
  await page.getByRole('button', { name: 'another limit for this channel’s band' }).click()
  await page.getByLabel('Limit 1, W').fill('30')
  await page.getByLabel('Limit 1, W').press('Enter')
  await saved(page)
  await expect(parts).toContainText('licence, average')
  await expect(page.getByText(/licence 30.W average at the output/)).toBeVisible()
})

test('how sure the stresses and the most power are, and what a tuner is worth', async ({
  page,
  open,
}) => {
  await open('channel=c12')
  await page.getByRole('link', { name: 'Headroom' }).click()
  await page.getByRole('button', { name: 'uncertainty' }).click()
  const sure = page.getByText(/The most power may be 1\d\d to 2\d\d\sW \(5–95 %\)/)
  await expect(sure).toBeVisible()
  await expect(sure).toContainText(/At 125\sW a part is over its limit in \d+\s%? ?of the samples/)
  const desk = page
    .getByRole('region', { name: 'Parts by headroom' })
    .getByRole('row', { name: /Desk lead heating/ })
  await expect(desk).toContainText(/2\.\d to 4\.\d\sW\/m, over in \d+\s%/)
  await expect(page.getByRole('region', { name: 'Most power' })).toContainText(/1\d\d to 2\d\d\sW/)
  // Known better, the radio and the antenna leave less to say.
  await page.getByRole('button', { name: 'tolerances' }).click()
  for (const label of ['Transmitter power, ±', 'Antenna’s reflection, ±', 'Lengths, ±'])
    await page.getByLabel(label).fill('0')
  await page.keyboard.press('Escape')
  await page.keyboard.press('Escape')
  const width = async () => {
    const [, low, high] = /([\d.]+) to ([\d.]+)\sW\/m/.exec((await desk.textContent())!) ?? []
    return Number(high) - Number(low)
  }
  await expect.poll(width).toBeLessThan(1)

  // Wanted in one view, they are there in the others.
  await page.getByRole('link', { name: 'Match' }).click()
  await expect(page.getByText(/the best of the three, or within 0\.1 dB of it, in/)).toBeVisible()
  await page.getByRole('button', { name: 'without ranges' }).click()
  await expect(page.getByText(/Ranges are 5–95 %/)).toBeHidden()
})

test('limits as the operator knows them go before the class', async ({ page, open }) => {
  await open('channel=c8&select=stage:tuner')
  await page.getByRole('link', { name: 'Headroom' }).click()
  const parts = page.getByRole('region', { name: 'Parts by headroom' })
  await expect(parts.getByRole('row', { name: /Capstan voltage/ })).toContainText('? not known')
  await page.getByText('Its ratings').click()
  await page.getByLabel('Rated voltage, RMS').fill('100')
  await page.getByLabel('Rated voltage, RMS').press('Enter')
  await expect(parts.getByRole('row', { name: /Capstan voltage/ })).toContainText('▲ over')
  await expect(sentence(page)).toContainText('by Capstan (voltage')
})

test('more power: what must be replaced, and by what', async ({ page, open }) => {
  await open('channel=c8')
  await page.getByRole('link', { name: 'Headroom' }).click()
  await page.getByRole('button', { name: 'More power?' }).click()
  const dialog = page.getByRole('dialog', { name: 'Is this good enough for more power?' })
  await dialog.getByLabel('Mode').selectOption('data')
  await expect(dialog.getByRole('status')).toContainText('Desk lead')
  await expect(dialog.getByRole('row', { name: /Desk lead/ })).toContainText(/▲ over, heat.*PTFE/)
  await dialog.getByLabel(/Output of the new/).fill('20')
  await dialog.getByLabel(/Output of the new/).press('Enter')
  await expect(dialog.getByRole('status')).toContainText('within all known limits')
})

test('a dummy load: how long, and how long to cool', async ({ page, open }) => {
  await open('channel=c12&select=antenna')
  await page.getByLabel('What is known of it').selectOption('resistors')
  await page.getByLabel('Continuous power is known').check()
  await page.getByLabel('average, W', { exact: true }).fill('30')
  await page.getByLabel('average, W', { exact: true }).press('Enter')
  await page.getByLabel('Intermittent power is known').check()
  await expect(page.getByRole('complementary').getByRole('status')).toContainText(
    /key for at most \d+ min from cold, then let it cool for \d+ min/,
  )
})

for (const [paper, width, height] of [
  ['A5', 595, 420],
  ['A4', 595, 842],
  ['Letter', 612, 791],
] as const)
  test(`the operating card is one page of ${paper}, with nothing clipped`, async ({
    page,
    chain,
  }) => {
    await page.goto(`/station/merrow-point/chain/${chain.id}/card`)
    await page.getByRole('button', { name: paper, exact: true }).click()
    const card = page.getByRole('article', { name: 'Operating card' })
    await expect(card.getByRole('row')).toHaveCount(5)
    await expect(card).toContainText(`revision ${chain.revision}`)
    await expect(card).toContainText('6 · 17 · 6.5')
    await page.emulateMedia({ media: 'print' })
    const clipped = await card.evaluate((element) =>
      [element, ...element.querySelectorAll('*')]
        .filter(
          (e) => e.scrollWidth > e.clientWidth + 1 && getComputedStyle(e).display !== 'inline',
        )
        .map((e) => e.textContent),
    )
    expect(clipped).toEqual([])
    const pdf = (await page.pdf({ preferCSSPageSize: true })).toString('latin1')
    expect(pdf.match(/\/Type\s*\/Page\b/g)).toHaveLength(1)
    const [, w, h] = /\/MediaBox\s*\[\s*0 0 ([\d.]+) ([\d.]+)\s*\]/.exec(pdf)!
    expect(Math.abs(Number(w) - width)).toBeLessThan(2)
    expect(Math.abs(Number(h) - height)).toBeLessThan(2)
  })

test('the card says where the chain asks for too much', async ({ page, chain, open }) => {
  await open('channel=c12&select=stage:desk')
  await page.getByText('Its ratings').click()
  await page.getByLabel('Average power').fill('60')
  await page.getByLabel('Average power').press('Enter')
  await saved(page)
  await page.goto(`/station/merrow-point/chain/${chain.id}/card`)
  await expect(page.getByRole('article').getByRole('row', { name: /12\.353/ })).toContainText(
    'is too much',
  )
  await expect(item(page, 'stage:desk')).toHaveCount(0)
})
