import type { Station } from '@saltline/contract'
import { expect, takeBack, test } from './journey.ts'

test('what is deleted lies in the bin, is taken back, and is removed only by hand', async ({
  page,
  chain,
}) => {
  await page.request.delete(`/api/chains/${chain.id}`)
  await page.request.delete('/api/chains/vhf-mast')
  await page.goto('/station/merrow-point')
  const bin = page.getByRole('region', { name: 'Bin' })
  const record = page.getByRole('region', { name: 'Record' })
  const chains = page.getByRole('region', { name: 'Chains' })
  await expect(bin.getByRole('listitem')).toHaveCount(2)
  await expect(chains).not.toContainText('VHF mast')
  await expect(record).toContainText('480 readings')
  await bin.getByRole('button', { name: 'Restore the chain VHF mast' }).click()
  await expect(page.getByText('“VHF mast” is back.')).toBeVisible()
  await expect(chains).toContainText('VHF mast')
  await expect(bin.getByRole('listitem')).toHaveCount(1)

  await bin.getByRole('button', { name: /empty the bin/ }).click()
  const dialog = page.getByRole('dialog', { name: 'Remove for good?' })
  await expect(dialog).toContainText('one thing')
  await dialog.getByRole('button').last().click()
  await expect(bin).toContainText('Nothing was deleted.')
  // The readings of a chain that came back came with it.
  await expect(record).toContainText('768 readings')
})

test('a station is renamed, its settings changed, deleted and taken back', async ({ page }) => {
  await page.goto('/station/merrow-point')
  const settings = page.getByRole('region', { name: 'Station settings' })
  await settings.getByRole('button', { name: 'Change' }).click()
  const dialog = page.getByRole('dialog', { name: 'Station settings' })
  await dialog.getByLabel('Name').fill('Merrow Head')
  await dialog.getByLabel('SWR limit').fill('1.8')
  await dialog.getByLabel('Radio noise environment').selectOption('city')
  await dialog.getByLabel('Currency of prices').fill('CHF')
  await dialog.getByRole('button', { name: 'Save' }).click()
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Merrow Head')
  await expect(settings).toContainText(/SWR limit 1\.8.*prices in CHF/)

  await settings.getByRole('button', { name: 'Delete this station' }).click()
  await expect(page).not.toHaveURL(/merrow-point/)
  await page.getByRole('button', { name: 'Restore the station Merrow Head' }).click()
  await expect(page.getByText('The station “Merrow Head” is back.')).toBeVisible()
  await page.goto('/station/merrow-point')
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Merrow Head')

  // Without a chain the way home leads to the station and its bin, and a chain can be begun there.
  const { chains } = (await (
    await page.request.get('/api/stations/merrow-point')
  ).json()) as Station
  for (const { id } of chains) await page.request.delete(`/api/chains/${id}`)
  await page.goto('/')
  await expect(page).toHaveURL(/\/station\/merrow-point$/)
  await page.getByRole('link', { name: 'new chain' }).click()
  await page.getByRole('button', { name: 'Finish with what there is' }).click()
  await expect(page.getByRole('region', { name: 'Ledger' })).toBeVisible()
})

test('a reading is corrected, and undone', async ({ page, chain }) => {
  await page.request.post(`/api/chains/${chain.id}/readings`, {
    data: {
      channelId: 'c8',
      frequencyHz: 8.294e6,
      mode: 'key-down',
      powerW: 125,
      before: 'meter',
      forwardW: 12,
    },
  })
  await page.goto(`/station/merrow-point/chain/${chain.id}/log?channel=c8`)
  const table = page.getByRole('table', { name: 'Readings of the session' })
  await expect(table).toContainText(/12.W/)
  await table.getByRole('button', { name: /Correct the reading/ }).click()
  const dialog = page.getByRole('dialog', { name: 'Correct a reading' })
  await dialog.getByLabel('Forward').fill('121')
  await dialog.getByLabel('Channel').selectOption({ label: '12.353 MHz, data' })
  await dialog.getByRole('button', { name: 'Save the correction' }).click()
  await expect(table).toContainText(/121.W/)
  await expect(table).toContainText('12.353')
  await takeBack(page, 'The reading is corrected')
  await expect(table).not.toContainText(/121.W/)
})
