import type { ChainState } from '@saltline/contract'
import { expect, test } from './journey.ts'

test('the board shows every chain with the watts of every channel, what is near its limit, and what was read', async ({
  page,
}) => {
  await page.goto('/')
  await expect(page).toHaveURL(/\/station\/merrow-point$/)
  await expect(page.getByRole('status')).toHaveText('4 of 4 chains need attention.')
  const mast = page.getByRole('article', { name: 'VHF mast' })
  await expect(mast).toContainText(/Mast run: 0\.4.dB more/)
  await expect(mast).toContainText(/Last measured 10 Nov 2026, 9 readings/)
  const amplified = page.getByRole('article', { name: 'HF with amplifier' })
  await expect(amplified).toContainText(/Over its limit: Desk lead, heat/)
  await expect(amplified).toContainText('Never measured')
  // The same watts as on the chain's own page.
  const row = page
    .getByRole('article', { name: 'HF long run' })
    .getByRole('link', { name: /^8\.294.MHz/ })
  const { document } = (await (
    await page.request.get('/api/chains/hf-long-run')
  ).json()) as ChainState
  const solved = await page.request.post('/api/solve', {
    data: { document, frequencyHz: 8.294e6, powerW: 125 },
  })
  const { solution } = (await solved.json()) as { solution: { antennaW: number } }
  await expect(row).toHaveAccessibleName(
    new RegExp(`MHz ?: ${Math.round(solution.antennaW)}.W at the antenna`),
  )
  await row.click()
  await expect(page).toHaveURL(/hf-long-run\/budget\?channel=c8/)
})

test('with one chain the station opens on it', async ({ page }) => {
  for (const id of ['vhf-mast', 'mf-hf-whip', 'hf-amplifier'])
    expect((await page.request.delete(`/api/chains/${id}`)).ok()).toBe(true)
  await page.goto('/')
  await expect(page).toHaveURL(/chain\/hf-long-run\/budget/)
})

test('the station’s home leads to what asks for attention, to its chains and to the log', async ({
  page,
}) => {
  await page.goto('/station/merrow-point/chain/vhf-mast/budget')
  await page.getByRole('link', { name: 'Merrow Point' }).click()
  await expect(page).toHaveURL(/\/station\/merrow-point$/)
  const csv = await page.request.get(
    (await page.getByRole('link', { name: 'CSV' }).getAttribute('href'))!,
  )
  expect((await csv.text()).split('\r\n')[0]).toContain('read at,chain')
  await page
    .getByRole('article', { name: 'VHF mast' })
    .getByRole('link', { name: 'enter a reading' })
    .click()
  await expect(page.getByRole('form', { name: 'New reading' })).toBeVisible()
})
