/** Takes every picture of docs/screenshots from a fresh demo station, or those that are named. */
import { resolve } from 'node:path'
import { chromium, type Page } from '@playwright/test'
import { startDemoServer } from '../../server/demoServer.ts'
import { CHROMIUM } from '../setup.ts'

const FOLDER = resolve(import.meta.dirname, '../../docs/screenshots')

interface Picture {
  file: string
  path: string
  theme?: 'day' | 'night'
  size?: { width: number; height: number }
  /** Taken to its full height instead of one screen. */
  whole?: boolean
  before?: (page: Page) => Promise<unknown>
  /** False where there is none to wait for. */
  charts?: boolean
}

const chain = (id: string, query: string) => `/station/merrow-point/chain/${id}/budget?${query}`
const antenna = (id: string, query: string) => `/station/merrow-point/chain/${id}/antenna?${query}`
const PHONE = { width: 390, height: 844 }

const pictures: Picture[] = [
  { file: 'budget-day', path: chain('hf-long-run', 'channel=c8') },
  {
    file: 'thing',
    path: '/station/merrow-point/thing/thing-l2',
    size: { width: 1280, height: 980 },
  },
  { file: 'antenna', path: antenna('hf-long-run', 'channel=c8'), theme: 'night' },
  {
    file: 'headroom',
    path: '/station/merrow-point/chain/hf-long-run/headroom?channel=c12',
    theme: 'night',
    charts: false,
    before: (page) =>
      page.getByRole('region', { name: 'When something fails' }).getByRole('row').nth(1).waitFor(),
  },
  { file: 'due', path: '/station/merrow-point/due', charts: false },
  { file: 'card', path: '/station/merrow-point/chain/hf-long-run/card', charts: false },
  {
    file: 'line',
    path: '/station/merrow-point/chain/hf-long-run/line?channel=c8&sweep=demo-sweep-4&before=demo-sweep-1',
    theme: 'night',
    size: { width: 1280, height: 1160 },
    before: (page) => page.getByRole('row', { name: /^All of the way/ }).waitFor(),
  },
  { file: 'match', path: '/station/merrow-point/chain/hf-long-run/match?channel=c6' },
  {
    file: 'run-step',
    path: '/station/merrow-point/chain/hf-amplifier/run?channel=c8',
    theme: 'night',
    size: { width: 1280, height: 980 },
    charts: false,
    before: async (page) => {
      await beginRun(page, 'Amplifier with tune and load controls', 14)
      const text = await page.getByText(/^expected \d/).innerText()
      const [low, high] = text.match(/[\d.]+/g)!.map(Number)
      await page.getByLabel(/^Forward/).fill(String(Math.round((low! + high!) / 2)))
      await page.getByText('inside the uncertainty').waitFor()
    },
  },
  {
    file: 'run-stop-phone',
    path: '/station/merrow-point/chain/hf-long-run/run?channel=c8',
    size: PHONE,
    charts: false,
    before: async (page) => {
      await beginRun(page, 'Before keying', 7)
      await page.getByLabel(/^Forward/).fill('12')
      await page.getByLabel('Reflected').fill('5')
      await page.getByText('Unkey now').waitFor()
    },
  },
  {
    file: 'log',
    path: '/station/merrow-point/chain/mf-hf-whip/log?channel=c4',
    size: { width: 1280, height: 1060 },
    charts: false,
    before: async (page) => {
      await page.getByLabel(/^Forward, as/).fill('97')
      await page.getByText('Each cause alone').waitFor()
      await page.getByText('inside the uncertainty').waitFor()
    },
  },
  {
    file: 'station',
    path: '/station/merrow-point',
    charts: false,
    before: (page) => page.getByText('Over its limit').waitFor(),
  },
  {
    file: 'years',
    path: '/station/merrow-point/chain/vhf-mast/log?channel=c1&leaf=years',
    theme: 'night',
    whole: true,
  },
  {
    file: 'bench',
    path: '/station/merrow-point/bench?sheet=substitution&about=hf-long-run/duct',
    charts: false,
    before: async (page) => {
      const lines = [36, 31.8, 26.5]
      for (const [i, watts] of lines.entries()) {
        await page.getByLabel(`Short lead, line ${i + 1}`).fill('45')
        await page.getByLabel(`Cable in between, line ${i + 1}`).fill(String(watts))
      }
    },
  },
  {
    file: 'compare',
    path: '/station/merrow-point/chain/hf-long-run/compare?channel=c12&alternative=thick-duct',
    size: { width: 1280, height: 1250 },
  },
  {
    file: 'practice-bench',
    path: '/drills/find/1/gull-417?kind=connector',
    charts: false,
    before: async (page) => {
      for (const plane of ['at the radio', 'input of Desk lead', 'input of Arrester'])
        await readAt(page, plane)
      await page.getByRole('button', { name: 'Key', exact: true }).click()
      await page.waitForTimeout(2500)
    },
  },
  {
    file: 'practice-debrief',
    path: '/drills/find/1/gull-417?kind=connector',
    theme: 'night',
    charts: false,
    before: async (page) => {
      for (const plane of ['at the radio', 'input of Desk lead', 'input of Arrester'])
        await readAt(page, plane)
      await page.getByLabel('Fault').selectOption('connector')
      await page.getByLabel('Where').selectOption({ label: 'Desk lead' })
      await page.getByLabel(/About how much/).fill('2.2')
      await page.getByRole('button', { name: 'Submit' }).click()
      await page.getByRole('table').waitFor()
    },
  },
  {
    file: 'quick-sum',
    path: '/quick?p=100&cable=pe-5&l=30&f=14.2&swr=2&at=antenna',
    charts: false,
    size: { width: 1280, height: 1150 },
    before: (page) => page.getByText('Thinnest with at most').waitFor(),
  },
  { file: 'budget-phone', path: chain('hf-long-run', 'channel=c8'), size: PHONE, whole: true },
]

/** Begins a run and does so many steps of it; readings are what is expected. */
async function beginRun(page: Page, sheet: string, steps: number): Promise<void> {
  await page.getByRole('button', { name: `Begin: ${sheet}` }).click()
  const form = page.getByRole('form', { name: 'Step' })
  for (let i = 0; i < steps; i++) {
    const now = await form.getByRole('heading').innerText()
    const forward = form.getByLabel(/^Forward/)
    if (await forward.count()) {
      const text = await form.getByText(/^expected \d/).innerText()
      const [low, high] = text.match(/[\d.]+/g)!.map(Number)
      await forward.fill(String((low! + high!) / 2))
      const reflected = form.getByLabel('Reflected')
      if (await reflected.count()) await reflected.fill('0')
    }
    await form.getByRole('button', { name: /^Next/ }).click()
    await page.waitForFunction(
      (before) => document.querySelector('form[aria-label=Step] h2')?.textContent !== before,
      now,
    )
  }
}

/** Puts the practice meter at a plane, keys, and notes what it shows. */
async function readAt(page: Page, plane: string): Promise<void> {
  await page.getByLabel('Meter is put').selectOption({ label: plane })
  await page.getByRole('button', { name: 'Key', exact: true }).click()
  await page.waitForTimeout(2500)
  const shown = await page.getByRole('meter').getAttribute('aria-valuenow')
  await page.getByLabel('Reading, forward').fill(shown!)
  await page.getByRole('button', { name: 'Note it' }).click()
  await page.getByRole('button', { name: 'Unkey' }).click()
}

const named = process.argv.slice(2)
const server = await startDemoServer()
const browser = await chromium.launch(CHROMIUM)
try {
  for (const {
    file,
    path,
    theme = 'day',
    size,
    whole = false,
    before,
    charts = true,
  } of pictures.filter((picture) => named.length === 0 || named.includes(picture.file))) {
    const page = await browser.newPage({ viewport: size ?? { width: 1280, height: 800 } })
    await page.addInitScript(
      (t) => localStorage.setItem('saltline.preferences', JSON.stringify({ theme: t })),
      theme,
    )
    // A stream of changes would keep the network busy for ever.
    await page.addInitScript(() => Reflect.deleteProperty(window, 'EventSource'))
    await page.goto(server.url + path)
    await page.waitForLoadState('networkidle')
    // On a slow machine nothing is asked for while nothing is drawn yet.
    await page.locator('main').getByText(/\S/).first().waitFor()
    await page.waitForLoadState('networkidle')
    if (charts) await page.locator('[_echarts_instance_] svg').first().waitFor()
    await before?.(page)
    await page.evaluate(() => document.fonts.ready)
    // Pointer and caret do not belong in a picture.
    await page.mouse.move(1, 1)
    await page.screenshot({
      path: `${FOLDER}/${file}.png`,
      fullPage: whole,
      animations: 'disabled',
    })
    console.log(`docs/screenshots/${file}.png`)
    await page.close()
  }
} finally {
  await browser.close()
  await server.stop()
}
