import type { Page } from '@playwright/test'
import { expect, stationTest } from './journey.ts'

/** Controls of a page's top whose middle belongs to something else, or lies outside of the window. */
const covered = (page: Page): Promise<string[]> =>
  page.evaluate(() => {
    const controls = [...document.querySelectorAll<HTMLElement>('header a, header button, nav a')]
    return controls.flatMap((control) => {
      if (!control.checkVisibility()) return []
      const name = control.getAttribute('aria-label') ?? control.textContent
      const { left, top, width, height } = control.getBoundingClientRect()
      const [x, y] = [left + width / 2, top + height / 2]
      // A row that scrolls sideways holds what is outside of the window.
      for (let box = control.parentElement; box; box = box.parentElement) {
        const own = box.getBoundingClientRect()
        if (/auto|scroll/.test(getComputedStyle(box).overflowX) && (x < own.left || x >= own.right))
          return []
      }
      if (y > innerHeight) return []
      const found = document.elementFromPoint(x, y)
      return control.contains(found) || (found?.contains(control) && found.tagName === 'LABEL')
        ? []
        : [`${name} at ${innerWidth}: ${found?.outerHTML.slice(0, 120) ?? 'outside'}`]
    })
  })

const LONG = 'Long wire of the boathouse, northern slip'

stationTest('every control at the top of a phone is where it is pressed', async ({ page }) => {
  const { document } = (await (await page.request.get('/api/chains/hf-long-run')).json()) as {
    document: object
  }
  const data = { ...document, name: LONG }
  const made = (await (
    await page.request.post('/api/stations/merrow-point/chains', { data })
  ).json()) as { id: string }
  const station = (await (await page.request.get('/api/stations/merrow-point')).json()) as object
  await page.request.put('/api/stations/merrow-point', {
    data: { ...station, name: 'Merrow Point, the old watch house' },
  })
  const wrong: string[] = []
  for (const path of [
    `/station/merrow-point/chain/${made.id}/budget?channel=c8`,
    `/station/merrow-point/chain/${made.id}/run?channel=c8`,
    '/station/merrow-point',
    '/station/merrow-point/gear',
    '/quick',
  ]) {
    await page.goto(path)
    await expect(page.locator('main')).not.toBeEmpty()
    await expect(page.getByRole('banner')).toBeVisible()
    for (const width of [320, 360, 375, 390, 414]) {
      await page.setViewportSize({ width, height: 844 })
      wrong.push(...(await covered(page)).map((each) => `${path} ${each}`))
    }
  }
  expect(wrong).toEqual([])
})

stationTest('a phone begins with the answer', async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 })
  const lensNames = {
    ...{ budget: 'Budget', headroom: 'Headroom', compare: 'Compare', match: 'Match' },
    line: 'Along the line',
  }
  for (const lens of Object.keys(lensNames) as (keyof typeof lensNames)[]) {
    await page.goto(`/station/merrow-point/chain/hf-long-run/${lens}?channel=c8`)
    const sentence = page.locator('main p[role="status"]').first()
    await expect(sentence).toHaveText(/\d/)
    const { y, height } = (await sentence.boundingBox())!
    expect(y + height, lens).toBeLessThan(320)
    // Its tab and the channel are in view in their rows, and the page begins at its top.
    const tab = page.getByRole('navigation').locator('a[aria-current="page"]').last()
    await expect(tab).toHaveText(lensNames[lens])
    const channel = page.getByRole('navigation').locator('button[aria-current="true"]')
    for (const one of [tab, channel])
      await expect
        .poll(async () => {
          const { x, width } = (await one.boundingBox())!
          return x >= -1 && x + width <= 391
        })
        .toBe(true)
    expect(await page.evaluate(() => scrollY), lens).toBe(0)
  }
})
