import type { ChainState } from '@saltline/contract'
import type { Page } from '@playwright/test'
import { expect, test } from './journey.ts'

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

  await page.goto('/station/merrow-point/chain/vhf-mast/budget?channel=c1&select=stage:mast')
  const panel = page.getByRole('complementary')
  await panel.getByRole('button', { name: 'put it into the register' }).click()
  await panel.getByLabel('Mark, written on it').fill('M1')
  await page.keyboard.press('Enter')
  await expect(panel).toContainText('It is M1.')
  await page.goto('/station/merrow-point/gear?kind=things')
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
})
