import { readFileSync } from 'node:fs'
import { startDemoServer } from '../demoServer.ts'
import { expect, test } from './journey.ts'

test('a backup is taken, and restored with a word of warning, on a server of its own', async ({
  page,
}) => {
  const { url, stop } = await startDemoServer()
  try {
    await page.goto(`${url}/station/merrow-point`)
    const saved = page.waitForEvent('download')
    await page.getByRole('link', { name: 'Back up' }).click()
    const path = await (await saved).path()
    expect(readFileSync(path).subarray(0, 15).toString()).toBe('SQLite format 3')

    await page.request.delete(`${url}/api/chains/vhf-mast`)
    await page.reload()
    const chains = page.getByRole('region', { name: 'Chains' })
    await expect(chains).toContainText('HF long run')
    await expect(chains).not.toContainText('VHF mast')

    await page.getByLabel('Backup file').setInputFiles({
      name: 'wrong.sqlite',
      mimeType: 'application/octet-stream',
      buffer: Buffer.from('no database'),
    })
    await page.getByRole('button', { name: 'Replace everything' }).click()
    await expect(page.getByRole('alert')).toContainText('Nothing was changed')
    await page.keyboard.press('Escape')

    await page.getByLabel('Backup file').setInputFiles(path)
    await expect(page.getByRole('dialog')).toContainText('Everything that is here now is replaced')
    await page.getByRole('button', { name: 'Replace everything' }).click()
    await expect(page.getByRole('status')).toContainText('Restored: 1 station, 768 readings')
    await page.goto(`${url}/station/merrow-point`)
    await expect(chains).toContainText('VHF mast')
  } finally {
    stop()
  }
})

test('the station’s home leads to what asks for attention, to its chains and to the log', async ({
  page,
}) => {
  await page.goto('/station/merrow-point/chain/vhf-mast/budget')
  await page.getByRole('link', { name: 'Merrow Point' }).click()
  await expect(page).toHaveURL(/\/station\/merrow-point$/)
  const attention = page.getByRole('region', { name: 'What asks for attention' })
  await expect(attention.getByRole('listitem').first()).toContainText('Mast run')
  const csv = await page.request.get(
    (await page.getByRole('link', { name: 'CSV' }).getAttribute('href'))!,
  )
  expect((await csv.text()).split('\r\n')[0]).toContain('read at,chain')
  await page
    .getByRole('region', { name: 'Chains' })
    .getByRole('listitem')
    .filter({ hasText: 'VHF mast' })
    .getByRole('link', { name: 'enter a reading' })
    .click()
  await expect(page.getByRole('form', { name: 'New reading' })).toBeVisible()
})
