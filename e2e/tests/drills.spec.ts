import { type Page } from '@playwright/test'
import { begin, drawExercise, exercises } from '@saltline/core'
import { expect, goWithin, test } from './journey.ts'

const meter = (page: Page) => page.getByRole('meter')

/** Keys, lets the needle come to rest, reads it, unkeys. */
async function read(page: Page): Promise<string> {
  await page.getByRole('button', { name: 'Key', exact: true }).click()
  await page.clock.runFor(2200)
  const shown = await meter(page).getAttribute('aria-valuenow')
  await page.getByRole('button', { name: 'Unkey' }).click()
  return shown!
}

async function readAt(page: Page, plane: string, range = '100 W') {
  await page.getByLabel('Meter is put').selectOption({ label: plane })
  await page.getByRole('button', { name: range, exact: true }).click()
  await page.getByLabel('Reading, forward').fill(await read(page))
  await page.getByRole('button', { name: 'Note it' }).click()
}

// Its own clock: a needle rests after as many seconds, however long they take.
test.beforeEach(({ page }) => page.clock.install())

test('find the fault: read, look at the wrong thing, say it, and see what would have been best', async ({
  page,
}) => {
  await page.goto('/drills/find/1/gull-417?kind=connector')
  await expect(page.getByText('Somebody says the signal is weak.')).toBeVisible()
  // The record is there; on level 1 so is what a sound station shows.
  await expect(page.getByRole('region', { name: 'Readings' })).toContainText('at the radio')
  await expect(page.getByText(/A sound station shows/)).toBeVisible()
  await readAt(page, 'at the radio')
  await readAt(page, 'input of Desk lead')
  await readAt(page, 'input of Arrester')
  await expect(page.getByRole('img', { name: /^Spine of/ })).toHaveAttribute(
    'aria-label',
    /input of Arrester/,
  )
  await page.getByRole('button', { name: 'jacket of the desk lead' }).click()
  const answer = page.getByRole('form', { name: 'Answer' })
  await answer.getByLabel('Fault').selectOption({ label: 'radio on reduced power' })
  await answer.getByRole('button', { name: 'Submit' }).click()
  await expect(page.getByText('No: radio on reduced power is not it.')).toBeVisible()
  await answer.getByLabel('Fault').selectOption({ label: 'bad connector or part' })
  await answer.getByLabel('Where').selectOption({ label: 'Desk lead' })
  await answer.getByLabel(/About how much/).fill('2.2')
  await answer.getByRole('button', { name: 'Submit' }).click()
  await expect(page.getByRole('heading', { name: /^Found: bad connector/ })).toBeFocused()
  await expect(page.getByRole('region', { name: 'Score' })).toContainText('1 wrong answers')
  await expect(page.getByRole('table')).toContainText('the record')
  await expect(page.getByRole('region', { name: 'Lesson' })).toContainText('After a storm')
  await page.getByRole('link', { name: 'All drills' }).click()
  await expect(page).toHaveURL(/\/drills$/)
  await expect(page.getByRole('table').getByRole('row', { name: /^bad connector/ })).toContainText(
    '1 of 1',
  )
})

test('from level 2 on there is an analyser: a sweep counts as a look, and shows a bad joint by its metre', async ({
  page,
}) => {
  await page.goto('/drills/find/1/gull-417?kind=connector')
  await expect(page.getByText('Somebody says the signal is weak.')).toBeVisible()
  await expect(page.getByRole('button', { name: 'Connect the analyser' })).toBeHidden()
  await goWithin(page, '/drills/find/2/gull-417?kind=connector')
  await page.getByRole('button', { name: 'Connect the analyser' }).click()
  const dialog = page.getByRole('dialog')
  await dialog.getByLabel('At the far end').selectOption('open')
  await dialog.getByRole('button', { name: 'Sweep, as one look' }).click()
  // The real clock goes on in the worker, that of the page by hand.
  await expect
    .poll(async () => {
      await page.clock.runFor(500)
      return dialog.getByRole('status').textContent()
    })
    .toMatch(/loses \d\.\d.dB more than expected/)
  await expect(dialog.getByRole('img', { name: /^Reflection against distance/ })).toBeVisible()
  await page.keyboard.press('Escape')
  await expect(page.getByText('1 readings and looks')).toBeVisible()
  await page.getByRole('button', { name: 'Connect the analyser' }).click()
  // What was seen is still there, and is not paid for twice.
  await expect(dialog.getByRole('status')).toContainText('more than expected')
  await page.keyboard.press('Escape')
  await page.getByRole('button', { name: 'show the answer' }).click()
  const way = page.getByRole('region', { name: 'The way' })
  await expect
    .poll(async () => {
      await page.clock.runFor(500)
      return way.textContent()
    })
    .toMatch(/The analyser, .*, would have said: \w+/)
})

test('the same address is the same drill; without a name nothing leaves the browser, with one it is kept', async ({
  page,
  request,
}) => {
  await page.goto('/drills')
  await page.getByRole('textbox', { name: /^Your name/ }).fill('second watch')
  await goWithin(page, '/drills/find/2/tern-200?kind=none')
  const record = await page.getByRole('region', { name: 'Readings' }).innerText()
  await page.reload()
  await expect(page.getByRole('region', { name: 'Readings' })).toHaveText(
    record.replaceAll('\n', ''),
    { useInnerText: false },
  )
  // No expected figures on the second level.
  await expect(page.getByText(/A sound station shows/)).toHaveCount(0)
  await page.getByLabel('Fault').selectOption({ label: 'nothing is wrong' })
  await page.getByRole('button', { name: 'Submit' }).click()
  await expect(page.getByRole('heading', { name: /^Found: nothing is wrong/ })).toBeVisible()
  await expect
    .poll(async (): Promise<unknown> =>
      (await request.get('/api/stations/merrow-point/attempts')).json(),
    )
    .toMatchObject([{ by: 'second watch', drill: 'none', level: 2, right: true }])
})

test('hands on by keyboard alone: a velocity factor from the dip of an open cable', async ({
  page,
}) => {
  await page.goto('/drills/velocity-factor/knot-300')
  const knob = page.getByRole('slider', { name: 'Frequency' })
  await knob.focus()
  const ohm = async () => Number(await meter(page).getAttribute('aria-valuenow'))
  const press = async (key: string, times: number) => {
    for (let i = 0; i < times; i++) await page.keyboard.press(key)
    await page.clock.runFor(1300)
  }
  const mhz = async () => Number(await knob.inputValue())
  /** Steps of one size until the needle is below, or above, a mark. */
  const until = async (key: string, times: number, is: (ohm: number) => boolean) => {
    for (let i = 0; i < 60; i++) {
      await press(key, times)
      if (is(await ohm())) return
    }
    throw new Error('the needle never came there')
  }
  // The dip lies midway between the two places where the needle passes one mark.
  const MARK = 20
  await until('ArrowRight', 40, (at) => at < MARK)
  await until('ArrowLeft', 5, (at) => at >= MARK)
  const low = await mhz()
  await until('ArrowRight', 40, (at) => at < MARK)
  await until('ArrowRight', 40, (at) => at >= MARK)
  await until('ArrowLeft', 5, (at) => at < MARK)
  const best = { mhz: (low + (await mhz())) / 2 }
  const length = Number(/([\d.]+) m, connectors/.exec(await page.locator('main').innerText())![1])
  const factor = (4 * length * best.mhz * 1e6) / 299_792_458
  await page.getByLabel('Velocity factor').focus()
  await page.keyboard.type(factor.toFixed(3))
  await page.keyboard.press('Tab')
  await expect(page.getByRole('button', { name: 'Finish' })).toBeFocused()
  await page.keyboard.press('Enter')
  await expect(
    page.getByRole('heading', { name: 'A velocity factor from a dip: done.' }),
  ).toBeFocused()
})

test.describe('on a phone', () => {
  test.use({ viewport: { width: 390, height: 844 }, hasTouch: true })
  test('an automatic tuner is tuned by thumb, and an open output is called out', async ({
    page,
  }) => {
    await page.goto('/drills/tuning-window/tern-12')
    await page.getByRole('button', { name: '15 W', exact: true }).tap()
    await page.getByRole('button', { name: '30 W', exact: true }).tap()
    await page.getByLabel('Mode').selectOption('carrier')
    await page.getByLabel('Tuner').selectOption('on')
    await page.getByRole('button', { name: 'Key', exact: true }).tap()
    await expect(page.getByText('✓ the tuner has found its setting')).toBeVisible()
    await page.getByRole('button', { name: 'Unkey' }).tap()
    await page.getByLabel('Tuner').selectOption('off')
    const hundreds = page.getByRole('button', { name: '100 W', exact: true })
    await hundreds.first().tap()
    await hundreds.last().tap()
    await page.getByRole('button', { name: 'Key', exact: true }).tap()
    await expect(page.getByText('✓ keyed at 100 W')).toBeVisible()
    await page.getByRole('button', { name: 'Done' }).tap()
    await expect(page.getByRole('heading', { name: /done\.$/ })).toBeVisible()

    await goWithin(page, '/drills/find/1/gull-417')
    await page.getByLabel('Behind the meter').selectOption('open')
    await page.getByRole('button', { name: 'Key', exact: true }).tap()
    await expect(page.getByRole('alert')).toContainText('Keyed without a load')
  })
})

test('a bad joint is found by its distance: the screen follows what is set', async ({ page }) => {
  const exercise = exercises.find(({ id }) => id === 'bad-joint')!
  const bench = drawExercise(exercise, 'tern-12')
  const truth = Object.fromEntries(bench.truth(begin(bench.simulation)))
  await page.goto('/drills/bad-joint/tern-12')
  const said = page.getByText(/^Tells .* apart, reaches/)
  await expect(said).toHaveText(/Tells 2\.1\sm apart, reaches 55\sm/)
  await page.getByRole('group', { name: 'Points' }).getByText('401').click()
  await expect(said).toHaveText(/reaches 4\d\d\sm/)
  await page.getByLabel('Joint', { exact: true }).selectOption(truth['Joint']!)
  await page
    .getByLabel('From the analyser')
    .fill(String(Number.parseFloat(truth['Distance along the cable']!)))
  await page.getByRole('button', { name: 'Finish' }).click()
  await expect(page.getByRole('heading', { name: /done\.$/ })).toBeFocused()
  await expect(page.getByText('distance along the cable').first()).toBeVisible()
})

test('the debrief draws what an analyser would have shown', async ({ page }) => {
  await page.goto('/drills/find/2/gull-417?kind=kinked')
  await page.getByRole('button', { name: 'show the answer' }).click()
  const shown = page.getByRole('region', { name: 'What the analyser would have shown' })
  await expect(shown).toContainText('into Duct run')
  await expect(shown.locator('svg').first()).toBeVisible()
  // Meters alone do not tell it: it is hidden on no level without an analyser.
  await goWithin(page, '/drills/find/1/gull-417?kind=kinked')
  await expect(page.getByLabel('Fault').getByRole('option', { name: /kinked/ })).toHaveCount(0)
})

test('an address that is no drill says so', async ({ page }) => {
  await page.goto('/drills/find/9/gull')
  await expect(page.getByText('There is no such drill.')).toBeVisible()
  await goWithin(page, '/drills/juggling/gull')
  await expect(page.getByText('There is no such exercise.')).toBeVisible()
})
