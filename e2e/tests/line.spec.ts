import { sweepOf } from '../lineSweep.ts'
import { documentOf, expect, saved, sentence, takeBack, test } from './journey.ts'

test.describe('along the line', () => {
  test.use({ keepTuner: true })

  test('a bad joint is found by its metre, a sound line is as expected, a hostile file is refused in words', async ({
    page,
    chain,
    open,
  }) => {
    await open()
    await page.getByRole('link', { name: 'Along the line' }).click()
    await expect(sentence(page)).toContainText(
      /A sweep at the input of Desk lead would show where 5\d.m of line reflects, to 0\.5.m/,
    )
    await expect(page.getByRole('main')).toContainText(
      /401 points from 10\.000.MHz to 500\.000.MHz: resolution 0\.5.m, range/,
    )
    const give = (name: string, text: string) =>
      page
        .getByLabel('Sweep along the line')
        .setInputFiles({ name, mimeType: 'text/plain', buffer: Buffer.from(text) })
    const document = await documentOf(page, chain)
    await page.getByLabel('At the far end').selectOption('open')
    await give('sound.s1p', sweepOf(document, false))
    await expect(sentence(page)).toHaveText(/^As expected along all 5\d(\.\d)?.m\.$/)
    await give('foot.s1p', sweepOf(document, true))
    // 15 Ω in a line of 50: 15/115 is reflected, 20·log₁₀ 1.15 dB are lost.
    await expect(sentence(page)).toContainText(
      /at 4(\.\d)?.m, at the input of Arrester: \|ρ\| 0\.13 \(return loss 18.dB\)/,
    )
    await expect(sentence(page)).toContainText(/loses 1\.2.dB more than expected/)
    const joint = page.getByRole('row', { name: /^Arrester joint at its input/ })
    await expect(joint).toContainText(/\|ρ\|.0\.1[45].*1[45]\.\d.Ω to 1[45]\.\d.Ω in series/)
    // A worse analyser knows it less well.
    const whole = page.getByRole('row', { name: /^All of the way/ })
    const known = await whole.innerText()
    await page.getByText(/^Analyser: directivity 40.dB.*, typical/).click()
    await page.getByLabel('Directivity').fill('22')
    await page.keyboard.press('Enter')
    await expect(
      page.getByText(/^Analyser: directivity 22.dB, source match 40.dB, noise −74.dB$/),
    ).toBeVisible()
    await expect(whole).not.toHaveText(known, { useInnerText: true })
    await give('broken.s1p', '# MHz S RI R 50\n7 0.2 0\n8 0.3 0\n')
    await expect(sentence(page)).toContainText('16 or more')
    await give('nonsense.s1p', 'hello')
    await expect(sentence(page)).toContainText(/▲/)
    await page.getByRole('button', { name: /^Remove nonsense\.s1p/ }).click()
    await expect(sentence(page)).toContainText('This is what to expect')
  })

  test('the cable that was changed no longer fits the sweep', async ({ page, chain, open }) => {
    await open('channel=c8&select=stage:duct')
    const text = sweepOf(await documentOf(page, chain), false)
    await page.getByLabel('Length').fill('40')
    await page.keyboard.press('Enter')
    await saved(page, 2)
    await page.keyboard.press('Escape')
    await page.getByRole('link', { name: 'Along the line' }).click()
    await page.getByLabel('At the far end').selectOption('open')
    await page
      .getByLabel('Sweep along the line')
      .setInputFiles({ name: 'a.s1p', mimeType: 'text/plain', buffer: Buffer.from(text) })
    await expect(sentence(page)).toContainText(/end is found at 50.*m, 6.*further than expected/)
    // Part by part, and taken over with one press.
    const parts = page.getByRole('region', { name: 'Part by part' })
    await expect(parts.getByRole('row', { name: /^Duct run length/ })).toContainText(
      /40\.00.m.*46\.0\d.m/,
    )
    await parts.getByRole('button', { name: /^Make Duct run 46\.0\d.m long/ }).click()
    await saved(page, 3)
    await expect(sentence(page)).toHaveText(/^As expected along all/)
    await expect(parts.getByRole('button', { name: /^Make Duct run/ })).toHaveCount(0)
    const duct = (await documentOf(page, chain)).stages.find(({ id }) => id === 'duct')
    expect((duct as { lengthM: number }).lengthM).toBeCloseTo(46, 1)
    await page.getByRole('button', { name: 'Undo' }).first().click()
    await expect(parts.getByRole('button', { name: /^Make Duct run/ })).toBeVisible()
  })

  test('a sweep of the session tells where, which readings at both ends leave open', async ({
    page,
    chain,
    request,
  }) => {
    const { document } = chain
    const readAt = new Date().toISOString()
    const channel = document.channels.find(({ id }) => id === 'c8')!
    for (const [before, forwardW, reflectedW] of [
      [document.stages[0]!.id, 124, 0],
      ['load', 72, 9.5],
    ] as const)
      await request.post(`/api/chains/${chain.id}/readings`, {
        data: {
          ...{ channelId: channel.id, frequencyHz: channel.frequencyHz, mode: 'key-down' },
          ...{ powerW: channel.powerW, before, forwardW, reflectedW, readAt },
        },
      })
    await page.goto(`/station/merrow-point/chain/${chain.id}/log?channel=c8`)
    const where = page.getByRole('region', { name: 'Where did the watts go?' })
    await expect(where.getByRole('status')).toBeVisible()
    await expect(where).not.toContainText('the sweep of this session')
    // It says itself what would tell.
    const advised = where.getByRole('link', { name: /^a sweep: input of Desk lead/ })
    await expect(advised).toHaveAttribute('href', /\/line(\?end=(load|open))?$/)
    const href = (await advised.getAttribute('href'))!
    const end = /end=(\w+)/.exec(href)?.[1] ?? 'antenna'
    await page.goto(`${href.split('?')[0]}?end=load`)
    await expect(page.getByLabel('At the far end')).toHaveValue('load')
    await page.goto(href)
    await expect(page.getByLabel('At the far end')).toHaveValue(end)
    await page.goto(`/station/merrow-point/chain/${chain.id}/log?channel=c8`)
    await request.post(`/api/chains/${chain.id}/line-sweeps`, {
      data: { before: 'desk', farEnd: 'open', readAt, touchstone: sweepOf(document, true) },
    })
    await page.reload()
    await expect(where).toContainText('the sweep of this session')
    await expect(where.getByRole('status')).toContainText(/^(Very l|L)ikely .*(Arrester|Desk lead)/)
    await expect(where.getByRole('listitem').first()).toContainText('what the analyser saw')
  })

  test('a sweep is kept, also without the server, is looked at again and drawn with an earlier one', async ({
    page,
    chain,
    open,
    station,
  }) => {
    await open()
    await page.getByRole('link', { name: 'Along the line' }).click()
    await page.getByLabel('At the far end').selectOption('open')
    const document = await documentOf(page, chain)
    const give = (name: string, joint: boolean) =>
      page.getByLabel('Sweep along the line').setInputFiles({
        ...{ name, mimeType: 'text/plain', buffer: Buffer.from(sweepOf(document, joint)) },
      })
    await give('sound.s1p', false)
    const form = page.getByRole('form', { name: 'Keep the sweep' })
    await form.getByLabel('Taken at').fill('2025-04-18T10:00')
    await form.getByLabel('Analyser').fill('Sandpiper')
    await form.getByRole('button', { name: 'Keep it with the log' }).click()
    const kept = page.getByRole('region', { name: 'Kept sweeps' }).getByRole('listitem')
    await expect(kept).toHaveCount(1)
    await expect(sentence(page)).toHaveText(/^As expected along all/)
    await expect(page.getByText(/^Sweep of 18 Apr 2025/)).toBeVisible()

    await give('worse.s1p', true)
    await station.down()
    await form.getByLabel('Taken at').fill('2026-04-18T10:00')
    await form.getByRole('button', { name: 'Keep it with the log' }).click()
    await expect(page.getByText('The sweep waits for the server.')).toBeVisible()
    await station.up()
    await expect(kept).toHaveCount(2)
    await kept
      .filter({ hasText: '18 Apr 2025' })
      .getByRole('button', { name: /^Draw the/ })
      .click()
    await kept.filter({ hasText: '18 Apr 2026' }).getByRole('button').first().click()
    await expect(sentence(page)).toContainText('at the input of Arrester')
    await expect(page.getByRole('region', { name: 'Then and now' })).toContainText(
      /Since 18 Apr 2025.*the line loses 1\.\d\d.dB more \(±.0\.\d\d.dB\)/,
    )
    await page.getByRole('button', { name: 'return loss' }).click()
    await expect(
      page.getByRole('heading', { name: 'Over frequency, at the analyser' }),
    ).toBeVisible()
    await kept
      .filter({ hasText: '18 Apr 2026' })
      .getByRole('button', { name: /^Delete/ })
      .click()
    await expect(kept).toHaveCount(1)
    await takeBack(page, 'The sweep is in the bin')
    await expect(kept).toHaveCount(2)
  })
})
