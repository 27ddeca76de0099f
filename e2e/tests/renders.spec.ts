/** What a key costs is counted, not timed: components rendered, and how often React draws. */
import { countRenders, rendersSince } from '../renders.ts'
import { WINDOW } from '../setup.ts'
import { expect, saved, test } from './journey.ts'

/** A key in a length field: what it changes, and nothing besides. */
const MOST_COMPONENTS = 40

test('a key in the length field renders what follows from it, once', async ({ page, open }) => {
  await countRenders(page)
  await open('channel=c8&select=stage:duct')
  await expect(page.getByRole('img', { name: /Watts at/ })).toBeVisible()
  // What says that it is saved, or not yet, is none of what is counted: the save stays under way.
  let answered = false
  await page.route('**/api/chains/*', async (route) => {
    if (route.request().method() === 'PUT') await expect.poll(() => answered).toBe(true)
    await route.continue()
  })
  const length = page.getByLabel('Length')
  const under = page.waitForRequest((request) => request.method() === 'PUT')
  await length.press('ArrowUp')
  await under
  await expect(length).toHaveValue('47')
  await rendersSince(page)
  for (const [key, value] of [
    ['ArrowUp', '48'],
    ['ArrowDown', '47'],
  ] as const) {
    await length.press(key)
    await expect(length).toHaveValue(value)
    const { commits, components } = await rendersSince(page)
    const rendered = Object.values(components).reduce((a, b) => a + b, 0)
    expect(rendered).toBeGreaterThan(10)
    expect(rendered, JSON.stringify(components)).toBeLessThanOrEqual(MOST_COMPONENTS)
    expect(commits).toBe(1)
  }
  answered = true
  await saved(page)
})

/** Scripts that the first answer needs; chart and worker come after it. */
const MOST_SCRIPTS = 10

test('the first answer of a chain needs few scripts, and no dialog', async ({
  browser,
  chain,
  host,
}) => {
  // A browser that has nothing of it yet: what it has is not asked for.
  const context = await browser.newContext({ ...WINDOW, baseURL: host.url })
  const page = await context.newPage()
  const scripts = new Set<string>()
  page.on('request', (request) => {
    const name = /assets\/(.+)\.js$/.exec(request.url())?.[1]
    if (name && !/^(LineChart|worker)-/.test(name)) scripts.add(name)
  })
  await page.goto(`/station/merrow-point/chain/${chain.id}/budget?channel=c8`)
  await expect(page.getByRole('status').filter({ hasText: 'reaches the antenna' })).toBeVisible()
  const names = [...scripts].join(', ')
  expect(scripts.size, names).toBeGreaterThan(3)
  expect(scripts.size, names).toBeLessThanOrEqual(MOST_SCRIPTS)
  expect(names).not.toMatch(/ImportSweep|History|Conflict|Palette/)
  await context.close()
})
