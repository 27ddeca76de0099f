import { expect, item, saved, sentence, stageNames, test, wattsAtAntenna } from './journey.ts'

test('the whole journey by keyboard', async ({ page, open }) => {
  await open()
  await page.keyboard.press('1')
  await page.keyboard.press('s')
  await expect(item(page, 'transmitter')).toBeFocused()
  for (let i = 0; i < 3; i++) await page.keyboard.press('ArrowRight')
  await expect(item(page, 'stage:desk')).toBeFocused()

  await page.keyboard.press('Alt+ArrowLeft')
  expect(await stageNames(page)).toEqual(['patch', 'desk', 'meter', 'arrester', 'duct', 'choke'])
  await expect(item(page, 'stage:desk')).toBeFocused()

  const before = await wattsAtAntenna(page)
  await page.keyboard.press('b')
  expect(await wattsAtAntenna(page)).toBeGreaterThan(before)
  await page.keyboard.press('b')
  await page.keyboard.press('Enter')
  await expect(page.getByLabel('Length')).toBeFocused()
  await page.keyboard.press('Shift+ArrowUp')
  await expect(page.getByLabel('Length')).toHaveValue('5')
  await page.keyboard.press('Escape')
  await expect(page.getByRole('complementary')).toHaveCount(0)

  await page.keyboard.press('s')
  await page.keyboard.press('ArrowUp')
  await expect(item(page, 'plane:0')).toBeFocused()
  await page.keyboard.press('Enter')
  await expect(page.getByRole('complementary')).toContainText('Return loss')
  await page.keyboard.press('?')
  await expect(page.getByRole('dialog', { name: 'Help' })).toBeVisible()
  await page.keyboard.press('Escape')
  await saved(page)
})

test('Tab reaches the spine once, and focus is visible', async ({ page, open }) => {
  await open()
  await page.locator('body').press('Tab')
  const seen: string[] = []
  for (let i = 0; i < 40; i++) {
    const name = await page.evaluate(() => document.activeElement?.getAttribute('data-item') ?? '')
    if (name) {
      seen.push(name)
      const outline = await page.evaluate(
        () => getComputedStyle(document.activeElement!).outlineStyle,
      )
      expect(outline).toBe('solid')
    }
    await page.keyboard.press('Tab')
  }
  expect(seen).toEqual(['transmitter'])
})

test('on a phone the spine runs downward and nothing is wider than the screen', async ({
  page,
  open,
}) => {
  await page.setViewportSize({ width: 390, height: 844 })
  await open()
  const patch = (await item(page, 'stage:patch').boundingBox())!
  const duct = (await item(page, 'stage:duct').boundingBox())!
  expect(duct.y).toBeGreaterThan(patch.y + 100)
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390)
  await item(page, 'stage:duct').click()
  await page.getByLabel('Length').fill('20')
  await expect(sentence(page)).toBeVisible()
})

test('16 stages fit at 1280 px without scrolling sideways', async ({ page, open, chain }) => {
  const stages = Array.from({ length: 16 }, (_, i) => ({
    id: `s${i}`,
    kind: 'pad',
    part: 'connector',
    name: `Mast connector ${i}`,
    lossDb: 0.1,
  }))
  await page.request.put(`/api/chains/${chain.id}`, {
    data: { baseRevision: 1, document: { ...chain.document, stages } },
  })
  await open()
  const spine = page.getByRole('group', { name: /The chain from transmitter/ })
  const { scroll, client } = await spine
    .locator('> div')
    .evaluate((box) => ({ scroll: box.scrollWidth, client: box.clientWidth }))
  expect(scroll).toBeLessThanOrEqual(client)
  // Plane figures never collide.
  const boxes = await spine
    .locator('span:has(> b)')
    .evaluateAll((labels) =>
      labels
        .map((label) => label.getBoundingClientRect())
        .map(({ left, right }) => ({ left, right })),
    )
  boxes.sort((a, b) => a.left - b.left)
  expect(boxes.length).toBeGreaterThan(5)
  for (let i = 1; i < boxes.length; i++)
    expect(boxes[i]!.left).toBeGreaterThanOrEqual(boxes[i - 1]!.right)
})

test('a strange address says so and leads home', async ({ page }) => {
  await page.goto('/nowhere')
  await expect(page.getByText('There is no page at this address.')).toBeVisible()
  await page.getByRole('link', { name: 'Go to the stations' }).click()
  await expect(page).toHaveURL(/merrow-point/)
})

test('help explains a term where it stands, and gives the focus back', async ({ page, open }) => {
  await open('channel=c8&select=plane:2')
  const term = page.getByRole('link', { name: 'Return loss' })
  await term.focus()
  await page.keyboard.press('Enter')
  const help = page.getByRole('dialog', { name: 'Help' })
  await expect(help.locator('[aria-current=true]')).toContainText('How much weaker')
  await help.getByRole('link', { name: 'First steps' }).click()
  await expect(help).toContainText('A chain is one path')
  await page.keyboard.press('Escape')
  await expect(help).toHaveCount(0)
  await expect(term).toBeFocused()
  await expect(page).toHaveTitle(/HF long run, Budget/)
})

test('the focus goes into a panel asked for by key, and comes back from it', async ({
  page,
  open,
}) => {
  await open('channel=c8')
  await page.keyboard.press('e')
  await expect(page.getByRole('textbox', { name: 'Frequency' })).toBeFocused()
  await page.keyboard.press('Escape')
  await page.keyboard.press('s')
  await page.keyboard.press('ArrowUp')
  await page.keyboard.press('ArrowRight')
  await page.keyboard.press('i')
  const panel = page.getByRole('complementary', { name: 'Plane 1' })
  await expect(panel.getByRole('button', { name: 'Cable' })).toBeFocused()
  await page.keyboard.press('Escape')
  await expect(item(page, 'plane:1')).toBeFocused()
})

test('the head of a page can be skipped, and the palette finds lenses, inserts and terms', async ({
  page,
  open,
}) => {
  await open('channel=c8')
  await page.keyboard.press('Tab')
  await expect(page.getByRole('button', { name: 'Skip to the content' })).toBeFocused()
  await page.keyboard.press('Enter')
  await expect(page.locator('main')).toBeFocused()
  const find = async (text: string) => {
    await page.keyboard.press('/')
    await page.getByRole('combobox').fill(text)
    await page.keyboard.press('Enter')
  }
  await find('headroom')
  await expect(page).toHaveURL(/\/headroom\?channel=c8/)
  const before = (await stageNames(page)).length
  await find('insert choke')
  expect(await stageNames(page)).toHaveLength(before + 1)
  await saved(page)
  await page.keyboard.press('Escape')
  await find('limiting')
  await expect(page.getByRole('dialog', { name: 'Help' })).toContainText('reaches its rating first')
})
