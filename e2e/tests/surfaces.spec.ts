import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import type { Page, Request } from '@playwright/test'
import type axe from 'axe-core'
import { expect, goWithin, item, test } from './journey.ts'

const axeSource = readFileSync(
  createRequire(import.meta.url).resolve('axe-core/axe.min.js'),
  'utf8',
)

const chain = '/station/merrow-point/chain'

/** Everything that can be on the screen: an address, and what to do there to see it. */
const surfaces: { name: string; path: string; show?: (page: Page) => Promise<unknown> }[] = [
  { name: 'board', path: '/station/merrow-point' },
  {
    name: 'station settings',
    path: '/station/merrow-point',
    show: (page) => page.getByRole('button', { name: 'Change', exact: true }).click(),
  },
  { name: 'what is due', path: '/station/merrow-point/due' },
  {
    name: 'a duty',
    path: '/station/merrow-point/due',
    show: (page) => page.getByRole('button', { name: /^Change: Readings of the mast/ }).click(),
  },
  {
    name: 'put off',
    path: '/station/merrow-point',
    show: (page) => page.getByRole('button', { name: /^Put off: Arrester/ }).click(),
  },
  { name: 'things', path: '/station/merrow-point/gear?kind=things' },
  { name: 'a thing', path: '/station/merrow-point/thing/thing-l2' },
  { name: 'labels', path: '/station/merrow-point/labels' },
  { name: 'quick sum', path: '/quick' },
  { name: 'copies', path: '/copies' },
  { name: 'drills', path: '/drills' },
  { name: 'sign in', path: '/sign-in' },
  { name: 'a code that is none', path: '/join/none' },
  { name: 'network and devices', path: '/access' },
  { name: 'practice bench', path: '/drills/find/1/gull-417?kind=connector' },
  {
    name: 'debrief',
    path: '/drills/find/1/gull-417?kind=connector',
    show: async (page) => {
      await page.getByRole('button', { name: 'show the answer' }).click()
      await expect(page.getByRole('table')).toBeVisible()
    },
  },
  ...['t-network', 'tune-and-load', 'substitution', 'bad-joint'].map((exercise) => ({
    name: `exercise ${exercise}`,
    path: `/drills/${exercise}/tern-12`,
  })),
  { name: 'new station', path: '/new' },
  { name: 'cables', path: '/station/merrow-point/gear?cable=pe-5' },
  {
    name: 'a custom cable',
    path: '/station/merrow-point/gear',
    show: (page) => page.getByRole('button', { name: 'Custom cable', exact: true }).click(),
  },
  {
    name: 'identify a cable',
    path: '/station/merrow-point/gear',
    show: (page) => page.getByRole('button', { name: 'Identify a cable' }).click(),
  },
  { name: 'parts', path: '/station/merrow-point/gear?kind=parts' },
  { name: 'radios', path: '/station/merrow-point/gear?kind=sets' },
  { name: 'instruments', path: '/station/merrow-point/gear?kind=instruments' },
  { name: 'bench', path: '/station/merrow-point/bench?sheet=substitution&about=hf-long-run/duct' },
  ...['dummy-load', 'leads', 'calibration', 'am-depth'].map((sheet) => ({
    name: `bench ${sheet}`,
    path: `/station/merrow-point/bench?sheet=${sheet}`,
  })),
  { name: 'card', path: `${chain}/hf-long-run/card` },
  ...['budget', 'headroom', 'antenna', 'match', 'line', 'log'].map((lens) => ({
    name: lens,
    path: `${chain}/hf-long-run/${lens}?channel=c6`,
  })),
  {
    name: 'a kept sweep with an earlier one',
    path: `${chain}/hf-long-run/line?channel=c8&sweep=demo-sweep-4&before=demo-sweep-1`,
  },
  {
    name: 'the analyser of a drill',
    path: '/drills/find/2/gull-417',
    show: async (page) => {
      await page.getByRole('button', { name: 'Connect the analyser' }).click()
      await page.getByRole('button', { name: 'Sweep, as one look' }).click()
      await expect(page.getByRole('dialog').getByRole('img').first()).toBeVisible()
    },
  },
  {
    name: 'compare',
    path: `${chain}/hf-long-run/compare?channel=c12&alternative=thick-duct`,
    show: async (page) => {
      await page.getByRole('button', { name: 'Add the far station’s cable' }).click()
      await page.getByRole('button', { name: 'Plan', exact: true }).click()
      await expect(page.getByRole('table', { name: 'Worth its price' })).toBeVisible()
    },
  },
  {
    name: 'other cables',
    path: `${chain}/hf-long-run/compare?channel=c12&ask=cable`,
  },
  { name: 'run sheets', path: `${chain}/hf-long-run/run?channel=c8` },
  {
    name: 'a step that is read, and a stop',
    path: `${chain}/hf-long-run/run?channel=c8`,
    show: async (page) => {
      await page.getByRole('button', { name: 'Begin: After a storm' }).click()
      const form = page.getByRole('form', { name: 'Step' })
      const heading = form.getByRole('heading')
      // Up to the first step that is read.
      while ((await form.getByLabel(/^Forward/).count()) === 0) {
        const now = await heading.innerText()
        await page.keyboard.press('Enter')
        await expect(heading).not.toHaveText(now)
      }
      await form.getByLabel(/^Forward/).fill('12')
      await form.getByLabel('Reflected').fill('8')
      await expect(page.getByText('Unkey now')).toBeVisible()
    },
  },
  {
    name: 'a step that asks for a sweep, and what it found',
    path: `${chain}/hf-long-run/run?channel=c8`,
    show: async (page) => {
      // A run of another surface may go on.
      const begin = page.getByRole('button', { name: 'Begin: After a storm' })
      await begin
        .or(page.getByRole('form', { name: 'Step' }))
        .first()
        .waitFor()
      if (await begin.isVisible()) await begin.click()
      const form = page.getByRole('form', { name: 'Step' })
      const heading = form.getByRole('heading')
      while ((await form.getByLabel('Sweep of this step').count()) === 0) {
        const now = await heading.innerText()
        await page.keyboard.press('Enter')
        await expect(heading).not.toHaveText(now)
      }
      await form.getByLabel('Sweep of this step').setInputFiles({
        ...{ name: 'storm.s1p', mimeType: 'text/plain' },
        buffer: Buffer.from(
          `# MHz S RI R 50\n${Array.from({ length: 40 }, (_, i) => `${3 + i / 4} 0.6 0.2`).join('\n')}`,
        ),
      })
      await expect(page.getByRole('button', { name: /^Stop the run here/ })).toBeVisible()
    },
  },
  { name: 'a sheet on paper', path: `${chain}/hf-long-run/sheet/hand-tuner?channel=c8` },
  {
    name: 'a sheet of one’s own',
    path: `${chain}/hf-long-run/run?channel=c8`,
    show: (page) => page.getByRole('button', { name: 'Copy and change: Hand tuner' }).click(),
  },
  { name: 'all readings', path: `${chain}/mf-hf-whip/log?channel=c4&leaf=all` },
  { name: 'years', path: `${chain}/vhf-mast/log?channel=c1&leaf=years` },
  ...['transmitter', 'antenna', 'channel', 'plane:3', 'stage:duct', 'stage:tuner'].map(
    (select) => ({
      name: `panel ${select}`,
      path: `${chain}/hf-long-run/budget?channel=c8&select=${select}`,
    }),
  ),
  {
    name: 'panel amplifier',
    path: `${chain}/hf-amplifier/budget?channel=c8&select=stage:amplifier`,
  },
  ...['first-steps', 'keys', 'swr'].map((at) => ({
    name: `help ${at}`,
    path: `${chain}/hf-long-run/budget?channel=c8#help/${at}`,
  })),
  {
    name: 'palette',
    path: `${chain}/hf-long-run/budget?channel=c8`,
    show: (page) => page.keyboard.press('/'),
  },
  {
    name: 'chain menu',
    path: `${chain}/hf-long-run/budget?channel=c8`,
    show: (page) => page.getByRole('button', { name: 'HF long run' }).click(),
  },
  {
    name: 'insert menu',
    path: `${chain}/hf-long-run/budget?channel=c8`,
    show: (page) => page.getByRole('button', { name: 'Insert a stage at plane 1' }).click(),
  },
  {
    name: 'revisions',
    path: `${chain}/hf-long-run/budget?channel=c8`,
    show: async (page) => {
      await page.keyboard.press('/')
      await page.getByRole('combobox').fill('show the revisions')
      await page.keyboard.press('Enter')
      await expect(page.getByRole('dialog', { name: 'Revisions' })).toBeVisible()
    },
  },
  {
    name: 'working',
    path: `${chain}/hf-long-run/budget?channel=c8`,
    show: (page) => page.getByRole('button', { name: 'working of the total' }).click(),
  },
  {
    name: 'more power',
    path: `${chain}/hf-long-run/headroom?channel=c8`,
    show: (page) => page.getByRole('button', { name: 'More power?' }).click(),
  },
  {
    name: 'readings from a table',
    path: `${chain}/mf-hf-whip/log?channel=c4&leaf=all`,
    show: (page) => page.getByRole('button', { name: 'Paste or import' }).click(),
  },
]

/** SURFACES=drill looks at those alone whose name has it. */
const wanted = new RegExp(process.env['SURFACES'] ?? '')

/** Requests of a page that are on their way; its stream of changes never ends. */
const underWay = new WeakMap<Page, Set<Request>>()

function countRequests(page: Page): void {
  const open = new Set<Request>()
  underWay.set(page, open)
  page.on('request', (request) => {
    if (request.resourceType() !== 'eventsource') open.add(request)
  })
  page.on('requestfinished', (request) => open.delete(request))
  page.on('requestfailed', (request) => open.delete(request))
  // What a worker was reading when it was ended is never said to have ended.
  page.on('worker', (worker) =>
    worker.on('close', () => {
      for (const request of open) if (request.resourceType() === 'script') open.delete(request)
    }),
  )
}

/** Waits until a page stands: what it asked for has come, and what it says has not changed for a while. */
async function drawn(page: Page, quietMs = 200): Promise<void> {
  await expect(page.locator('main')).not.toBeEmpty()
  do await quiet(page, quietMs)
  while (underWay.get(page)!.size > 0)
}

const quiet = (page: Page, forMs: number): Promise<void> =>
  page.evaluate(
    (ms) =>
      new Promise<void>((done) => {
        let timer = setTimeout(done, ms)
        const again = () => {
          clearTimeout(timer)
          timer = setTimeout(done, ms)
        }
        const what = { childList: true, characterData: true, subtree: true }
        new MutationObserver(again).observe(document.body, what)
      }),
    forMs,
  )

/** What axe finds, of any weight; WCAG 2.2 AA, its target sizes included, or some of its rules alone. */
async function findings(page: Page, rules?: string[]): Promise<string[]> {
  if (!(await page.evaluate(() => 'axe' in window))) await page.evaluate(axeSource)
  const { violations } = await page.evaluate(
    (values) =>
      (window as unknown as { axe: typeof axe }).axe.run('html', {
        runOnly: values
          ? { type: 'rule', values }
          : ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice'],
        resultTypes: ['violations'],
      }),
    rules,
  )
  return violations.flatMap(({ id, nodes }) => {
    // A menu is no part of the page: it has the focus while it is there, and goes.
    const own = nodes.filter(({ html }) => id !== 'region' || !html.includes('radix-popper'))
    return own.length > 0
      ? [
          `${id}: ${own
            .map((n) => n.html)
            .slice(0, 3)
            .join(' | ')}`,
        ]
      : []
  })
}

/** What is wider than the window, and text that is smaller than 12 px. */
const misfits = (page: Page): Promise<string[]> =>
  page.evaluate(async () => {
    const wrong: string[] = []
    const frame = () => new Promise((done) => requestAnimationFrame(done))
    const { documentElement: root } = document
    // What is drawn only now may make room for itself in one of the next frames: a chart that is as wide as the window was.
    await frame()
    for (let frames = 0; frames < 100; frames++) {
      await frame()
      if (root.scrollWidth <= root.clientWidth) break
    }
    const { scrollWidth, clientWidth } = root
    if (scrollWidth > clientWidth) wrong.push(`wider than the window: ${scrollWidth}`)
    const texts = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT)
    while (texts.nextNode()) {
      const parent = texts.currentNode.parentElement!
      if (!texts.currentNode.textContent!.trim() || !parent.checkVisibility()) continue
      const size = parseFloat(getComputedStyle(parent).fontSize)
      // Paper is measured in points.
      if (size < 12 && !parent.closest('.printable'))
        wrong.push(`${size} px: ${texts.currentNode.textContent!.slice(0, 40)}`)
    }
    return [...new Set(wrong)].slice(0, 5)
  })

/** What one surface has wrong: at a desk by day, on a phone by night, and at 400 % on a screen of 1280 px. */
async function wrongOn(
  page: Page,
  { path, show }: (typeof surfaces)[number],
  anew: boolean,
): Promise<string[]> {
  await page.setViewportSize({ width: 1280, height: 800 })
  await page.emulateMedia({ colorScheme: 'light' })
  if (anew) {
    // An address that differs in its hash alone would not load anew; an empty page would begin a process of its own.
    await page.goto('/theme.js')
    await page.goto(path)
  } else await goWithin(page, path)
  await drawn(page)
  if (show) {
    await show(page)
    await drawn(page)
  }
  const wrong = [...(await findings(page)), ...(await misfits(page))]
  await page.setViewportSize({ width: 390, height: 844 })
  await page.emulateMedia({ colorScheme: 'dark' })
  await drawn(page, 100)
  wrong.push(...(await findings(page, ['color-contrast', 'target-size'])))
  wrong.push(...(await misfits(page)))
  await page.setViewportSize({ width: 320, height: 640 })
  await drawn(page, 100)
  return [...wrong, ...(await misfits(page))]
}

const looked = surfaces.filter(({ name }) => wanted.test(name))
const GROUP = 10

for (let from = 0; from < looked.length; from += GROUP) {
  const group = looked.slice(from, from + GROUP)
  test(`nothing is wrong on ${group.map(({ name }) => name).join(', ')}`, async ({ page }) => {
    const wrong: Record<string, string[]> = {}
    countRequests(page)
    for (const [i, surface] of group.entries()) {
      // What was opened on the one before is not to be there.
      const found = await wrongOn(page, surface, i === 0 || group[i - 1]!.show !== undefined)
      if (found.length > 0) wrong[surface.name] = found
    }
    expect(wrong).toEqual({})
  })
}

test('nothing of a lens is cut off beside the side panel', async ({ page }) => {
  countRequests(page)
  const cut: string[] = []
  const lenses = ['budget', 'headroom', 'compare', 'antenna', 'match', 'line', 'log', 'run']
  for (const [i, lens] of lenses.entries()) {
    const path = `${chain}/hf-long-run/${lens}?channel=c8&select=stage:duct`
    await (i === 0 ? page.goto(path) : goWithin(page, path))
    for (const width of [1280, 1024]) {
      await page.setViewportSize({ width, height: 800 })
      await drawn(page)
      const wide = await page.locator('[data-room]').evaluate((pane) =>
        [pane, ...pane.querySelectorAll('*')]
          .filter(
            (e) =>
              e.scrollWidth > e.clientWidth + 1 &&
              /auto|scroll|hidden/.test(getComputedStyle(e).overflowX) &&
              // Read aloud, and one pixel large.
              e.clientWidth > 1,
          )
          .map((e) => `${e.tagName} ${e.className}`),
      )
      cut.push(...wide.map((what) => `${lens} at ${width} px: ${what}`))
    }
  }
  expect(cut).toEqual([])
})

test('forced colours leave the band and what is selected', async ({ page, open }) => {
  await page.emulateMedia({ forcedColors: 'active' })
  await open('channel=c8&select=stage:duct')
  await expect(item(page, 'stage:duct')).toHaveAttribute('aria-pressed', 'true')
  const stroke = await page
    .locator('svg path[stroke-width="2.5"]')
    .first()
    .evaluate((path) => getComputedStyle(path).stroke)
  expect(stroke).not.toBe('none')
})
