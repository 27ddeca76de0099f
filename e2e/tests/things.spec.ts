import type { ChainState } from '@saltline/contract'
import type { Page } from '@playwright/test'
import { expect, goWithin, test } from './journey.ts'

const lengthIn = async (page: Page, chainId: string) => {
  const { document } = (await (
    await page.request.get(`/api/chains/${chainId}`)
  ).json()) as ChainState
  const duct = document.stages.find(({ id }) => id === 'duct')!
  return duct.kind === 'line' ? duct.lengthM : NaN
}

test('a cable edited in one chain differs, is given to all after what follows is said, and taken back at once', async ({
  page,
}) => {
  await page.goto('/station/merrow-point/chain/hf-long-run/budget?channel=c8&select=stage:duct')
  const panel = page.getByRole('complementary')
  await expect(panel).toContainText('It is L2, which is also in HF with amplifier.')
  await panel.getByLabel('Length').fill('52')
  await page.keyboard.press('Enter')
  await expect(panel).toContainText('differs from it')
  await expect.poll(() => lengthIn(page, 'hf-long-run')).toBe(52)
  expect(await lengthIn(page, 'hf-amplifier')).toBe(46)

  await panel.getByRole('link', { name: 'L2' }).click()
  const chains = page.getByRole('region', { name: 'In chains' })
  await expect(chains.getByRole('listitem').first()).toContainText('edited there, and differs')
  await chains.getByRole('button', { name: /^give L2 these figures/ }).click()
  const dialog = page.getByRole('dialog')
  await expect(dialog).toContainText(/46.m → .*52.m/)
  await expect(dialog).toContainText(/1 chain changes:\s*HF with amplifier: \d+.W → \d+.W on/)
  await dialog.getByRole('button', { name: 'Change L2 everywhere' }).click()
  await expect(dialog).toBeHidden()
  await expect(chains).not.toContainText('differs')
  expect(await lengthIn(page, 'hf-amplifier')).toBe(52)
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect.poll(() => lengthIn(page, 'hf-amplifier')).toBe(46)
  await expect.poll(() => lengthIn(page, 'hf-long-run')).toBe(46)
})

test('equal parts are offered as one thing; a stage is put into the register from its panel', async ({
  page,
}) => {
  await page.goto('/station/merrow-point/gear?kind=things')
  const table = page.getByRole('table')
  await expect(table.getByRole('row')).toHaveCount(4)
  await page.getByRole('button', { name: /^Make it one thing, L3: Desk lead/ }).click()
  await expect(table).toContainText('Desk lead')
  await expect(page.getByRole('region', { name: 'Equal parts' })).not.toContainText('Desk lead')

  await goWithin(page, '/station/merrow-point/chain/vhf-mast/budget?channel=c1&select=stage:mast')
  const panel = page.getByRole('complementary')
  await panel.getByRole('button', { name: 'put it into the register' }).click()
  await panel.getByLabel('Mark, written on it').fill('M1')
  await page.keyboard.press('Enter')
  await expect(panel).toContainText('It is M1.')
  await goWithin(page, '/station/merrow-point/gear?kind=things')
  await expect(table.getByRole('row', { name: /^M1/ })).toContainText('VHF mast')
})

test('its facts are kept; a mark that another has is refused at once', async ({ page }) => {
  await page.goto('/station/merrow-point/thing/thing-p1')
  await page.getByLabel('Serial number').fill('0417')
  await page.getByLabel('State').selectOption('lent')
  await page.getByLabel('Mark, written on it').fill('L1')
  await page.getByRole('button', { name: 'Keep' }).click()
  await expect(page.getByText(/“L1” is on Patch lead already/).first()).toBeVisible()
  await page.getByLabel('Mark, written on it').fill('P7')
  await page.getByRole('button', { name: 'Keep' }).click()
  await expect(page.getByRole('heading', { name: 'P7 · Arrester' })).toBeVisible()
  await page.reload()
  await expect(page.getByLabel('Serial number')).toHaveValue('0417')
})

test('labels are printed for what is chosen, each with its code', async ({ page }) => {
  await page.goto('/station/merrow-point/labels')
  await expect(page.getByRole('img', { name: 'QR code for a phone' })).toHaveCount(3)
  await page.getByLabel('L1').uncheck()
  await expect(page.getByRole('img', { name: 'QR code for a phone' })).toHaveCount(2)
  await page.getByLabel('Size, mm').selectOption('99 × 57')
  const label = page.getByRole('listitem').filter({ hasText: 'L2' })
  const { width } = (await label.boundingBox())!
  expect(width).toBeCloseTo((99 / 25.4) * 96, 0)
  // On paper: one page of the size that is chosen, in points.
  for (const [paper, box] of [
    ['A4', [595, 842]],
    ['Letter', [612, 791]],
  ] as const) {
    await page.getByRole('button', { name: paper, exact: true }).click()
    const pdf = (await page.pdf({ preferCSSPageSize: true })).toString('latin1')
    const pages = [...pdf.matchAll(/\/MediaBox \[0 0 ([\d.]+) ([\d.]+)\]/g)]
    expect(pages.map(([, w, h]) => [Math.round(Number(w)), Math.round(Number(h))])).toEqual([box])
  }
})

test('on its page: what was lost there, a repair that is noted, and a cable that is moved', async ({
  page,
}) => {
  await page.goto('/station/merrow-point/thing/thing-l2')
  await expect(page.getByText(/^Last loss: [\d.]+.dB, as expected/)).toBeVisible()
  await expect(page.getByRole('region', { name: 'Loss by readings' })).toContainText('HF long run')
  await expect(page.getByRole('region', { name: 'Where it was' })).toContainText(
    'HF long run: from 10 Apr 2024, to this day',
  )
  await page.getByLabel('What was done').fill('new connector at the mast end')
  await page.keyboard.press('Enter')
  const notes = page.getByRole('region', { name: 'What happened to it' })
  await expect(notes).toContainText('Repair: new connector at the mast end')
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(notes).not.toContainText('new connector at the mast end')

  const moved = page.getByRole('region', { name: 'In chains' }).getByRole('listitem')
  await moved
    .filter({ hasText: 'HF with amplifier' })
    .getByRole('button', { name: 'it was moved here' })
    .click()
  await expect(moved.filter({ hasText: 'HF long run' })).toContainText('gone')
  await goWithin(page, '/station/merrow-point/chain/hf-long-run/budget?channel=c8')
  await page
    .getByRole('link', { name: 'L2 Duct run is gone: it was moved to HF with amplifier' })
    .click()
  await moved.first().getByRole('button', { name: 'it was moved here' }).click()
  await expect(moved.filter({ hasText: 'HF with amplifier' })).toContainText('gone')
})

test('a radio, a meter and an antenna get a mark, and a duty of their own', async ({ page }) => {
  await page.goto('/station/merrow-point/gear?kind=things')
  await page.getByRole('button', { name: /^Put it into the register as M\d: Skua/ }).click()
  await page.getByRole('row', { name: /Skua/ }).getByRole('link').click()
  await expect(page.getByRole('heading', { name: /^M\d · Skua$/ })).toBeVisible()
  await expect(page.getByRole('region', { name: 'Where it was' })).toContainText('VHF mast')
  await goWithin(page, '/station/merrow-point/due')
  await page.getByRole('button', { name: 'New duty' }).click()
  const dialog = page.getByRole('dialog')
  await dialog.getByLabel('What is to be done').fill('Compare it with a better meter')
  const skua = dialog.getByRole('option', { name: /^M\d Skua$/ })
  await dialog.getByLabel('For', { exact: true }).selectOption(await skua.textContent())
  await dialog.getByRole('button', { name: 'Add it' }).click()
  const row = page.getByRole('main').getByRole('listitem').filter({ hasText: 'better meter' })
  await expect(row.first()).toContainText('Skua')
})

test('a duty that is ticked, and a note, wait where the server is gone, and are there when it is back', async ({
  page,
  station,
}) => {
  await page.goto('/station/merrow-point/due')
  const row = page.getByRole('listitem').filter({ hasText: 'Arrester and earth' })
  await expect(row.first()).toContainText('overdue')
  await station.down()
  await row
    .first()
    .getByRole('button', { name: /^Done: Arrester/ })
    .click()
  await expect(page.getByText(/is done today; it waits for the server/)).toBeVisible()
  await station.up()
  await expect(row.first()).not.toContainText('overdue')
})

test('a measured cable is known as measured, and given to the other chain after what follows is said', async ({
  page,
}) => {
  await page.goto('/station/merrow-point/bench?sheet=substitution&about=hf-long-run/duct')
  const result = page.getByRole('region', { name: 'Result' })
  await page
    .getByRole('textbox', { name: /Short lead/ })
    .first()
    .fill('100')
  await page
    .getByRole('textbox', { name: /Cable in between/ })
    .first()
    .fill('70')
  await page.keyboard.press('Tab')
  await expect(result).toContainText('It is L2, which is also in HF with amplifier.')
  await page.getByRole('button', { name: 'Use as this section’s loss' }).click()
  await expect(page.getByText(/now has [\d.]+ times the loss of its data sheet/)).toBeVisible()
  await result.getByRole('link', { name: 'its page' }).click()
  const chains = page.getByRole('region', { name: 'In chains' })
  await expect(chains).toContainText('edited there, and differs')
  await chains.getByRole('button', { name: /^give L2 these figures/ }).click()
  await expect(page.getByRole('dialog')).toContainText(/HF with amplifier: \d+.W → \d+.W/)
  await page.getByRole('button', { name: 'Change L2 everywhere' }).click()
  await expect(chains).not.toContainText('differs')
  await goWithin(
    page,
    '/station/merrow-point/chain/hf-amplifier/budget?channel=c8&select=stage:duct',
  )
  await expect(page.getByRole('complementary')).toContainText(/its loss is known to ± \d/)
})
