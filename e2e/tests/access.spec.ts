import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import type { Page } from '@playwright/test'
import type axe from 'axe-core'
import { expect, item, saved, sentence, stageNames, test, wattsAtAntenna } from './journey.ts'

const axeSource = readFileSync(
  createRequire(import.meta.url).resolve('axe-core/axe.min.js'),
  'utf8',
)

/** Looks at the whole page, or at the part of it that has changed since. */
async function seriousFindings(page: Page, part = 'html'): Promise<string[]> {
  await page.evaluate(axeSource)
  const { violations } = await page.evaluate(
    (selector) =>
      (window as unknown as { axe: typeof axe }).axe.run(selector, {
        runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'best-practice'],
      }),
    part,
  )
  return violations
    .filter(({ impact }) => impact === 'serious' || impact === 'critical')
    .map(({ id, nodes }) => `${id}: ${nodes.map((n) => n.html).join(' | ')}`)
}

for (const theme of ['day', 'night'] as const) {
  test(`no serious findings of axe, ${theme}`, async ({ page, open }) => {
    await page.addInitScript(
      (t) => localStorage.setItem('saltline.preferences', JSON.stringify({ theme: t })),
      theme,
    )
    await open('channel=c8&select=channel')
    expect(await seriousFindings(page), 'page').toEqual([])
    for (const select of ['stage:duct', 'transmitter', 'antenna', 'plane:2']) {
      await item(page, select).click()
      expect(await seriousFindings(page, 'aside'), select).toEqual([])
    }
    await page.getByRole('button', { name: 'how the whole is worked out' }).click()
    expect(await seriousFindings(page, '[role=dialog]'), 'working').toEqual([])
  })
}

const pages = {
  'of gear and sums': [
    '/quick',
    '/new',
    '/station/merrow-point/gear?cable=pe-5',
    '/station/merrow-point/gear?kind=parts',
    '/station/merrow-point/gear?kind=sets',
    '/station/merrow-point/gear?kind=instruments',
  ],
  'of the other lenses': [
    '/station/merrow-point/chain/hf-long-run/antenna?channel=c8',
    '/station/merrow-point/chain/hf-long-run/match?channel=c6',
    '/station/merrow-point/chain/hf-long-run/card',
    '/station/merrow-point/chain/mf-hf-whip/log?channel=c4',
    '/station/merrow-point/chain/mf-hf-whip/log?channel=c4&leaf=all',
    '/station/merrow-point/chain/vhf-mast/log?channel=c1&leaf=years',
  ],
  'of station and bench': [
    '/station/merrow-point',
    '/station/merrow-point/bench?sheet=dummy-load',
    '/station/merrow-point/bench?sheet=substitution&about=hf-long-run/duct',
  ],
}

for (const [group, paths] of Object.entries(pages))
  test(`no serious findings of axe on the pages ${group}`, async ({ page }) => {
    for (const path of paths) {
      await page.goto(path)
      await page.waitForLoadState('networkidle')
      expect(await seriousFindings(page), path).toEqual([])
    }
  })

for (const theme of ['day', 'night'] as const)
  test(`no serious findings of axe on tuners, amplifiers and limits, ${theme}`, async ({
    page,
  }) => {
    await page.addInitScript(
      (t) => localStorage.setItem('saltline.preferences', JSON.stringify({ theme: t })),
      theme,
    )
    await page.goto(
      '/station/merrow-point/chain/hf-amplifier/headroom?channel=c12&select=stage:amplifier',
    )
    await page.waitForLoadState('networkidle')
    expect(await seriousFindings(page), 'headroom').toEqual([])
    for (const select of ['stage:tuner', 'stage:meter', 'channel']) {
      if (select === 'channel') await page.keyboard.press('e')
      else await item(page, select).click()
      expect(await seriousFindings(page, 'aside'), select).toEqual([])
    }
  })

test('on a phone nothing is wider than the screen', async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 })
  for (const lens of ['budget', 'headroom', 'antenna', 'match']) {
    await page.goto(`/station/merrow-point/chain/hf-amplifier/${lens}?channel=c8`)
    await page.waitForLoadState('networkidle')
    const width = await page.evaluate(() => document.documentElement.scrollWidth)
    expect(width, lens).toBeLessThanOrEqual(390)
  }
})

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
  await expect(page.getByRole('dialog', { name: 'Keys' })).toBeVisible()
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
