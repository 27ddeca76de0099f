import { type Page } from '@playwright/test'
import { sweepOf } from '../lineSweep.ts'
import { documentOf, expect, goWithin, test } from './journey.ts'

const runOf = (chainId: string, query = 'channel=c8') =>
  `/station/merrow-point/chain/${chainId}/run?${query}`
const step = (page: Page) => page.getByRole('form', { name: 'Step' })
const title = (page: Page) => step(page).getByRole('heading')

/** Enter until this is the step. */
async function enterTo(page: Page, name: string) {
  for (let i = 0; i < 20; i++) {
    const now = await title(page).innerText()
    if (now === name) return
    await page.keyboard.press('Enter')
    await expect(title(page)).not.toHaveText(now)
  }
  throw new Error(`never came to “${name}”`)
}

test.use({ keepTuner: true })

test('a run by keyboard alone: expected, typed, kept in the log, and a record at the end', async ({
  page,
  chain,
}) => {
  await page.goto(runOf(chain.id))
  await page.getByRole('button', { name: 'Begin: Before keying' }).focus()
  await page.keyboard.press('Enter')
  await enterTo(page, 'Key briefly: forward and reflected')
  await expect(step(page)).toContainText('13 W set, steady carrier, read at the wattmeter')
  await expect(step(page)).toContainText(/expected 1[0-9] to 1[0-9].W/)
  // The first field has the focus, and the place is marked on the spine.
  await expect(step(page).getByLabel(/^Forward/)).toBeFocused()
  await expect(page.locator('[data-item="plane:1"]')).toHaveAttribute('aria-pressed', 'true')
  await page.keyboard.type('12.5')
  await page.keyboard.press('Tab')
  await page.keyboard.type('0.05')
  // What is typed survives a reload.
  await page.reload()
  await expect(step(page).getByLabel(/^Forward/)).toHaveValue('12.5')
  await step(page).getByLabel('Reflected').focus()
  await page.keyboard.press('Enter')
  await expect(title(page)).toHaveText('As expected?')
  await page.keyboard.press('ArrowLeft')
  await expect(title(page)).toHaveText('Key briefly: forward and reflected')
  await step(page)
    .getByLabel(/^Forward/)
    .fill('12.6')
  await page.keyboard.press('Enter')
  await expect(title(page)).toHaveText('As expected?')
  await page.keyboard.press('Enter')
  await expect(title(page)).toHaveText('Set the power that is used')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('heading', { name: 'Before keying: done' })).toBeVisible()
  const record = page.getByRole('table', { name: 'Steps of the run' })
  await expect(record).toContainText(/13.W, 50.mW back|13.W/)
  await page.getByRole('link', { name: 'its readings in the log' }).click()
  await expect(page.getByRole('table', { name: 'Readings of the session' })).toContainText(
    'key down',
  )
  await page.getByRole('link', { name: 'Before keying' }).click()
  await expect(page.getByRole('heading', { name: 'Before keying: done' })).toBeVisible()
})

test('a figure that is wrong says: unkey now; going on is deliberate and in the record', async ({
  page,
  chain,
}) => {
  await page.goto(runOf(chain.id))
  await page.getByRole('button', { name: 'Begin: Before keying' }).click()
  await enterTo(page, 'Key briefly: forward and reflected')
  await step(page)
    .getByLabel(/^Forward/)
    .fill('13')
  await step(page).getByLabel('Reflected').fill('6')
  const stop = page.getByRole('alert').filter({ hasText: 'Unkey now' })
  // Entered before it was judged by itself, it is judged all the same.
  await page.keyboard.press('Enter')
  await expect(stop).toContainText('more than 3.00 that this step allows')
  await page.keyboard.press('Enter')
  await expect(page.getByText('Unkey first. Going on is a press of its own')).toBeVisible()
  await expect(title(page)).toHaveText('Key briefly: forward and reflected')
  await stop.getByRole('button', { name: 'It is unkeyed, and I know why: go on' }).click()
  await expect(stop).toHaveCount(0)
  await step(page).getByRole('button', { name: /^Next/ }).click()
  await expect(title(page)).toHaveText('As expected?')
  await step(page).getByRole('button', { name: 'No: stop and look' }).click()
  await expect(page.getByRole('heading', { name: 'Before keying: ▲ stopped' })).toBeVisible()
  await expect(page.getByText('Gone on all the same.')).toBeVisible()
})

test('two devices on one run see the same step, and the later one is told', async ({
  page,
  chain,
  context,
}) => {
  await page.goto(runOf(chain.id))
  await page.getByRole('button', { name: 'Begin: Hand tuner' }).click()
  await expect(title(page)).toHaveText('Local rules and licensed practice come first')
  const other = await context.newPage()
  await other.goto(page.url())
  await expect(title(other)).toHaveText('Local rules and licensed practice come first')
  await step(page).getByRole('button', { name: /^Next/ }).click()
  await expect(title(other)).toHaveText('Antenna connected, connectors tight')
  // Left, and taken up again on the other one.
  await page.getByRole('button', { name: 'Leave, go on later' }).click()
  await expect(page.getByRole('button', { name: /^Hand tuner, step 2 of/ })).toBeVisible()
})

test.describe('on a phone', () => {
  test.use({ viewport: { width: 390, height: 844 }, hasTouch: true })

  test('dials found go to the channel and on the operating card; a step is skipped with a reason', async ({
    page,
    chain,
  }) => {
    await page.goto(runOf(chain.id))
    await page.getByRole('button', { name: 'Begin: Hand tuner' }).tap()
    // Every step but the dials is skipped with a reason.
    for (let i = 0; i < 30; i++) {
      const now = await title(page).innerText()
      if (now === 'Write down the dials') break
      await step(page).getByRole('button', { name: 'skip, with a reason' }).tap()
      await step(page).getByLabel('Why it is skipped').fill('a drill')
      await step(page).getByRole('button', { name: 'Skip', exact: true }).tap()
      await expect(title(page)).not.toHaveText(now)
    }
    for (const [dial, mark] of [
      ['Input capacitor', '7'],
      ['Coil', '20'],
      ['Output capacitor', '6.5'],
    ] as const)
      await step(page).getByLabel(dial).fill(mark)
    await step(page).getByRole('button', { name: /^Next/ }).tap()
    await expect(title(page)).toHaveText('Back to the mode that is used, power as set')
    await expect
      .poll(async () => {
        const tuner = (await documentOf(page, chain)).stages.find(({ kind }) => kind === 'tuner')
        return tuner?.kind === 'tuner' ? tuner.dials?.['c8'] : null
      })
      .toEqual(['7', '20', '6.5'])
    await goWithin(page, `/station/merrow-point/chain/${chain.id}/card`)
    await expect(
      page
        .getByText('7 · 20 · 6.5')
        .or(page.getByText(/7.*20.*6\.5/))
        .first(),
    ).toBeVisible()
  })
})

test('a sheet on paper has what is expected, and is told by its size', async ({ page, chain }) => {
  await page.goto(`/station/merrow-point/chain/${chain.id}/sheet/before-keying?channel=c8`)
  const paper = page.getByRole('article')
  await expect(paper).toContainText(/forward ________ W \(1\d(\.\d)?.W to 1\d/)
  const pages = async (format: string) => {
    const pdf = await page.pdf({ preferCSSPageSize: true })
    return { format, count: (pdf.toString('latin1').match(/\/Type\s*\/Page\b/g) ?? []).length }
  }
  expect((await pages('A4')).count).toBe(1)
  await page.getByRole('button', { name: 'A5' }).click()
  expect((await pages('A5')).count).toBeLessThanOrEqual(2)
})

test('a sheet is copied and changed; a caution that goes is named; it runs', async ({
  page,
  chain,
}) => {
  await page.goto(runOf(chain.id))
  await page.getByRole('button', { name: 'Copy and change: Before keying' }).click()
  await page.getByLabel('Title').fill('Morning check')
  await page
    .getByRole('button', { name: 'Remove: Local rules and licensed practice come first' })
    .click()
  await expect(page.getByText('Cautions of the original are gone')).toBeVisible()
  await page.getByRole('button', { name: 'put them back' }).click()
  await expect(page.getByText('Cautions of the original are gone')).toHaveCount(0)
  await page.getByRole('button', { name: 'Move up: Antenna connected, connectors tight' }).click()
  await page.getByLabel('Stop over an SWR of').fill('1.6')
  await page.getByRole('button', { name: 'Save', exact: true }).click()
  await expect(page.getByText('saved, version 2')).toBeVisible()
  await goWithin(page, runOf(chain.id))
  await page.getByRole('button', { name: 'Begin: Morning check' }).click()
  await expect(title(page)).toHaveText('Antenna connected, connectors tight')
  await enterTo(page, 'Key briefly: forward and reflected')
  await step(page)
    .getByLabel(/^Forward/)
    .fill('12')
  await step(page).getByLabel('Reflected').fill('1')
  // SWR 1.8 on this meter may be less than 1.6: that is a reason to look, not to unkey.
  await expect(step(page).getByText('Look: it may be over its limit')).toBeVisible()
  await expect(page.getByRole('alert').filter({ hasText: 'Unkey now' })).toHaveCount(0)
  await step(page).getByLabel('Reflected').fill('4')
  await expect(page.getByRole('alert').filter({ hasText: 'Unkey now' })).toContainText('1.60')
})

test('what was skipped is not taken as done: nothing is keyed until it is, one press away', async ({
  page,
  chain,
}) => {
  await page.goto(runOf(chain.id))
  await page.getByRole('button', { name: 'Begin: Hand tuner' }).click()
  await enterTo(page, 'Antenna connected, connectors tight')
  await step(page).getByRole('button', { name: 'skip, with a reason' }).click()
  await step(page).getByLabel('Why it is skipped').fill('in a hurry')
  await step(page).getByRole('button', { name: 'Skip', exact: true }).click()
  await enterTo(page, 'Tuner in bypass: forward and reflected, once')
  const notYet = page.getByRole('alert').filter({ hasText: 'Do not key yet' })
  await expect(notYet).toContainText('Nothing is keyed without its load')
  await expect(step(page).getByRole('button', { name: 'Key down' })).toBeDisabled()
  await step(page)
    .getByLabel(/^Forward/)
    .fill('12')
  await page.keyboard.press('Enter')
  await expect(title(page)).toHaveText('Tuner in bypass: forward and reflected, once')
  await notYet.getByRole('button', { name: 'Back to: Antenna connected, connectors tight' }).click()
  await expect(title(page)).toHaveText('Antenna connected, connectors tight')
  await enterTo(page, 'Tuner in bypass: forward and reflected, once')
  await expect(notYet).toHaveCount(0)
  await expect(step(page).getByRole('button', { name: 'Key down' })).toBeEnabled()
})

test('a sheet that would hurt is named at its step, and not begun without saying why', async ({
  page,
  chain,
}) => {
  await page.goto(runOf(chain.id))
  await page.getByRole('button', { name: 'Copy and change: Before keying' }).click()
  await expect(page.getByText('Nothing in it would hurt this chain.')).toBeVisible()
  await page.getByLabel('Title').fill('No time')
  await page.getByRole('button', { name: 'Remove: Antenna connected, connectors tight' }).click()
  await expect(page.getByText('One thing that must never happen')).toBeVisible()
  await expect(page.getByText('A step before it: connect the antenna.')).toBeVisible()
  await page.getByRole('button', { name: 'Save', exact: true }).click()
  await expect(page.getByText('saved, version 2')).toBeVisible()
  await page.goto(runOf(chain.id))
  const begin = page.getByRole('button', { name: 'Begin: No time' })
  await begin.click()
  const dialog = page.getByRole('dialog')
  await expect(dialog).toContainText('Nothing is keyed without its load')
  const despite = dialog.getByRole('button', { name: 'Begin all the same' })
  await expect(despite).toBeDisabled()
  await page.keyboard.press('Escape')
  await expect(dialog).toHaveCount(0)
  await begin.click()
  await dialog.getByLabel(/^Why it is begun/).fill('the load is soldered on')
  await despite.click()
  await enterTo(page, 'Key briefly: forward and reflected')
  await page.getByRole('button', { name: 'I know why: go on all the same' }).click()
  await step(page)
    .getByLabel(/^Forward/)
    .fill('12.5')
  await step(page).getByLabel('Reflected').fill('0.05')
  await page.keyboard.press('Enter')
  await expect(title(page)).toHaveText('As expected?')
  await step(page).getByRole('button', { name: 'No: stop and look' }).click()
  await expect(page.getByText('the load is soldered on')).toBeVisible()
  await expect(page.getByText(/Key briefly: forward and reflected: Nothing is keyed/)).toBeVisible()
})

test('acceptance of a cable keeps its sweep: in the log, with the cable, and to be looked at again', async ({
  page,
  chain,
  request,
}) => {
  const sweep = 'Sweep the cable alone, its far end open, if there is an analyser'
  const duct = chain.document.stages.filter(({ id }) => id === 'duct')
  await page.goto(runOf(chain.id))
  await page.getByRole('button', { name: 'Begin: Acceptance of a new or repaired cable' }).click()
  await enterTo(page, sweep)
  await expect(step(page)).toContainText('at one end of Duct run alone')
  await page.getByLabel('Sweep of this step').setInputFiles({
    ...{ name: 'new cable.s1p', mimeType: 'text/plain' },
    buffer: Buffer.from(sweepOf({ ...chain.document, stages: duct }, false)),
  })
  await expect(step(page).getByRole('status')).toContainText(/As expected along all 46.m/)
  await step(page).getByRole('button', { name: 'Next' }).click()
  await expect(title(page)).not.toHaveText(sweep)
  const kept = async () =>
    (await (await request.get(`/api/chains/${chain.id}/line-sweeps`)).json()) as object[]
  await expect
    .poll(kept)
    .toMatchObject([{ name: 'new cable.s1p', before: 'duct', alone: true, farEnd: 'open' }])

  await goWithin(page, `/station/merrow-point/chain/${chain.id}/line`)
  await page.getByRole('button', { name: /^\d.*Duct run alone/ }).click()
  await expect(page.getByRole('main')).toContainText(/As expected along all 46.m/)
  await goWithin(page, '/station/merrow-point/thing/thing-l2')
  const bySweeps = page.getByRole('region', { name: 'By sweeps' }).getByRole('listitem')
  await expect(bySweeps.first()).toContainText(/alone, .*end at 46.*m/)
})

test('a step asks for a sweep: what it finds is to be mended first, and it goes into the log', async ({
  page,
  chain,
  request,
}) => {
  const load = { kind: 'fixed' as const, name: 'Stand-in', rOhm: 60, xOhm: 0 }
  const made = await request.post('/api/stations/merrow-point/chains', {
    data: { ...chain.document, load },
  })
  const { id, document } = (await made.json()) as typeof chain
  const give = (joint: boolean) =>
    page.getByLabel('Sweep of this step').setInputFiles({
      ...{ name: joint ? 'bad.s1p' : 'sound.s1p', mimeType: 'text/plain' },
      buffer: Buffer.from(sweepOf(document, joint, 'antenna')),
    })
  const sweep = 'Look along the line with an analyser, if there is one'
  await page.goto(runOf(id))
  await page.getByRole('button', { name: 'Begin: After a storm' }).click()
  await enterTo(page, sweep)
  await page
    .getByLabel('Sweep of this step')
    .setInputFiles({ name: 'a.s1p', mimeType: 'text/plain', buffer: Buffer.from('hello') })
  await expect(step(page)).toContainText('▲')
  await give(false)
  await expect(step(page).getByRole('status')).toContainText('As expected along all')
  await expect(page.getByRole('button', { name: /^Stop the run here/ })).toHaveCount(0)
  await step(page).getByRole('button', { name: 'Next' }).click()
  await expect(title(page)).not.toHaveText(sweep)
  const kept = async () =>
    (await (await request.get(`/api/chains/${id}/line-sweeps`)).json()) as { name: string }[]
  await expect.poll(kept).toMatchObject([
    // With what the analyser may be off by, as every sweep that is kept here.
    { name: 'sound.s1p', note: `After a storm: ${sweep}`, analyser: { directivityDb: 40 } },
  ])

  // Once more, with a joint that has gone bad meanwhile.
  await page.keyboard.press('ArrowLeft')
  await give(true)
  await expect(step(page).getByRole('status')).toContainText(/▲ .*at the input of Arrester/)
  // Going on is a press of its own.
  await step(page).getByRole('button', { name: 'Next' }).click()
  await expect(step(page)).toContainText('go on by a press of its own')
  await expect(title(page)).toHaveText(sweep)
  await page.getByRole('button', { name: 'Stop the run here, and mend it' }).click()
  await expect(page.getByRole('main')).toContainText(/Stopped at .*Look along the line|stopped/i)
  const runs = (await (await request.get(`/api/chains/${id}/runs`)).json()) as {
    outcome: string
    entries: { stop?: { rule: string } }[]
  }[]
  expect(runs[0]).toMatchObject({ outcome: 'stopped' })
  expect(runs[0]!.entries.at(-1)!.stop).toMatchObject({ rule: 'sweep', wentOn: false })
})
