/** What a key costs is counted, not timed: components rendered, and how often React draws. */
import { countRenders, rendersSince } from '../renders.ts'
import { expect, saved, test } from './journey.ts'

/** A key in a length field: what it changes, and nothing besides. */
const MOST_COMPONENTS = 40

test('a key in the length field renders what follows from it, once', async ({ page, open }) => {
  await countRenders(page)
  await open('channel=c8&select=stage:duct')
  await expect(page.getByRole('img', { name: /Watts at/ })).toBeVisible()
  const length = page.getByLabel('Length')
  await length.press('ArrowUp')
  await length.press('ArrowUp')
  await expect(length).toHaveValue('48')
  await saved(page)
  await rendersSince(page)
  const counted: { commits: number; components: number }[] = []
  for (const [key, value] of [
    ['ArrowUp', '49'],
    ['ArrowDown', '48'],
    ['ArrowUp', '49'],
  ] as const) {
    await length.press(key)
    await expect(length).toHaveValue(value)
    const { commits, components } = await rendersSince(page)
    counted.push({ commits, components: Object.values(components).reduce((a, b) => a + b, 0) })
  }
  // The first says that it is not saved yet; a save that came meanwhile says that it is.
  const typical = counted.toSorted((a, b) => a.components - b.components)[1]!
  expect(typical.components).toBeGreaterThan(10)
  expect(typical.components).toBeLessThanOrEqual(MOST_COMPONENTS)
  expect(typical.commits).toBe(1)
})

/** Scripts that the first answer needs; chart and worker come after it. */
const MOST_SCRIPTS = 10

test('the first answer of a chain needs few scripts, and no dialog', async ({ page, open }) => {
  await open('channel=c8')
  // Pages are reused: what counts is one that begins.
  await page.reload()
  await expect(page.getByRole('status').filter({ hasText: 'reaches the antenna' })).toBeVisible()
  const scripts = await page.evaluate(() =>
    performance
      .getEntriesByType('resource')
      .map(({ name }) => /assets\/(.+)\.js$/.exec(name)?.[1] ?? '')
      .filter((name) => name && !/^(LineChart|worker)-/.test(name)),
  )
  expect(scripts.length).toBeGreaterThan(3)
  expect(scripts.length, scripts.join(', ')).toBeLessThanOrEqual(MOST_SCRIPTS)
  expect(scripts.join(' ')).not.toMatch(/ImportSweep|History|Conflict|Palette/)
})
