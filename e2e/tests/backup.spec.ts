import { readFile } from 'node:fs/promises'
import { expect, test } from './journey.ts'

test('a backup is looked into, restored, and the restore undone', async ({ page }, info) => {
  await page.goto('/station/merrow-point')
  const backup = page.getByRole('region', { name: 'Backup' })
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    backup.getByRole('link', { name: 'Back up' }).click(),
  ])
  const file = info.outputPath('station.sqlite')
  await download.saveAs(file)
  expect((await readFile(file)).subarray(0, 15).toString()).toBe('SQLite format 3')
  await page.request.post('/api/stations', { data: { name: 'Tern Sands' } })

  await backup.getByLabel('Backup file').setInputFiles(file)
  const dialog = page.getByRole('dialog', { name: 'Restore a backup' })
  await expect(dialog.getByRole('region', { name: 'In the file' })).toContainText('768 readings')
  await expect(dialog.getByRole('region', { name: 'In the file' })).not.toContainText('Tern Sands')
  await expect(dialog.getByRole('region', { name: 'Here now' })).toContainText('Tern Sands')
  await dialog.getByRole('button', { name: 'Replace everything' }).click()
  await expect(dialog).toContainText('Here now: 1 station, 768 readings.')
  await dialog.getByRole('button', { name: 'Undo' }).click()
  await expect(dialog).toContainText('Undone. Here now: 2 stations, 768 readings.')
  await dialog.getByRole('link', { name: 'Open it' }).click()
  await expect(page).toHaveURL(/station\/merrow-point|chain/)

  // What was there before each of the two lies in the list, and is brought back from there.
  await page.goto('/station/merrow-point')
  await expect(backup.getByRole('listitem')).toHaveCount(2)
  await backup
    .getByRole('button', { name: /Bring back how it was/ })
    .first()
    .click()
  const again = page.getByRole('dialog', { name: 'Bring back how it was' })
  await again.getByRole('button', { name: 'Replace everything' }).click()
  await expect(again).toContainText('Here now: 1 station')
})

test('a file that is no backup is refused before anything is asked', async ({ page }) => {
  await page.goto('/station/merrow-point')
  await page.getByLabel('Backup file').setInputFiles({
    name: 'letter.sqlite',
    mimeType: 'text/plain',
    buffer: Buffer.from('Dear aunt'),
  })
  const dialog = page.getByRole('dialog', { name: 'Restore a backup' })
  await expect(dialog.getByRole('alert')).toContainText('It is no SQLite file.')
  await expect(dialog.getByRole('button', { name: 'Replace everything' })).toHaveCount(0)
})

test('a copy is made on request, named with what is in it, and loaded; a failed one is an alert', async ({
  page,
}, info) => {
  await page.goto('/station/merrow-point')
  const backup = page.getByRole('region', { name: 'Backup' })
  await expect(backup).toContainText('None yet.')
  await expect(page.getByRole('alert')).toHaveCount(0)
  await backup.getByRole('button', { name: 'Copy now' }).click()
  await expect(page.getByText(/^A copy was made and checked/)).toBeVisible()
  const row = backup.getByRole('listitem')
  await expect(row).toContainText('on request')
  await expect(row).toContainText('1 station, 768 readings')
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    row.getByRole('link', { name: /^Load the copy/ }).click(),
  ])
  const file = info.outputPath('copy.sqlite')
  await download.saveAs(file)
  expect((await readFile(file)).subarray(0, 15).toString()).toBe('SQLite format 3')

  await page.route('**/api/backup/state', (route) =>
    route.fulfill({
      json: {
        folder: '/mnt/full',
        lastAt: '2026-04-18T01:00:00.000Z',
        overdue: true,
        problem: 'no space left on device',
      },
    }),
  )
  await page.reload()
  await expect(page.getByRole('alert')).toContainText(
    /could not be copied since 18 Apr 2026: no space left on device.*\/mnt\/full/,
  )
})
