import { expect, takeBack, test } from './journey.ts'

const arrester = 'Arrester and earth: tight, dry, not blackened'

test('the board tells what is due, one press from doing it', async ({ page }) => {
  await page.goto('/station/merrow-point')
  const due = page.getByRole('region', { name: 'What is due' })
  await expect(due.getByRole('listitem')).toHaveCount(3)
  // The oldest first, with what asks for it.
  await expect(due.getByRole('listitem').first()).toContainText(
    'overdue since 14 Jan 2026 (Storm, mast head under spray)',
  )
  await due.getByRole('button', { name: `Done: ${arrester}` }).click()
  await expect(due.getByText(arrester)).toBeHidden()
  await takeBack(page, 'is done today')
  await expect(due.getByText('overdue since 10 May 2026')).toBeVisible()
  // A run sheet waits for Enter on the chain that the storm was noted for.
  await due.getByRole('link', { name: 'Run it: Look after a storm' }).click()
  await expect(page).toHaveURL(/chain\/vhf-mast\/run\?sheet=after-storm/)
  await expect(page.getByRole('button', { name: 'Begin: After a storm' })).toBeFocused()
  await page.goBack()
  await due.getByRole('link', { name: 'Measure: Meter Skua against Heron' }).click()
  await expect(page).toHaveURL(/bench\?sheet=two-meters/)
})

test('put off with a reason, which stays on record', async ({ page }) => {
  await page.goto('/station/merrow-point/due')
  await expect(page.getByRole('status').first()).toHaveText('3 overdue.')
  await page.getByRole('button', { name: `Put off: ${arrester}` }).click()
  const dialog = page.getByRole('dialog')
  await dialog.getByLabel('Until').fill('2099-03-01')
  await dialog.getByRole('button', { name: 'Put it off' }).click()
  await expect(dialog).toContainText('Say why it is put off')
  await dialog.getByLabel('Why').fill('ice on the mast')
  await page.keyboard.press('Enter')
  await expect(dialog).toBeHidden()
  await expect(page.getByRole('status').first()).toHaveText('2 overdue.')
  const later = page.getByRole('region', { name: 'Later' })
  await expect(later).toContainText('due on 1 Mar 2099 (put off: ice on the mast)')
  await page.getByRole('button', { name: `Change: ${arrester}` }).click()
  await expect(dialog.getByRole('region', { name: 'On record' })).toContainText(
    'put off until 2099-03-01: ice on the mast',
  )
})

test('what ships is offered once; a duty of one’s own is made, changed and deleted', async ({
  page,
}) => {
  await page.goto('/station/merrow-point/due')
  const offered = page.getByRole('region', { name: 'Offered' })
  await offered.getByRole('button', { name: 'Add all 4: Yearly round of readings' }).click()
  await expect(offered.getByText('Yearly round of readings')).toBeHidden()
  await expect(page.getByRole('link', { name: 'Run it: Yearly round of readings' })).toHaveCount(4)
  await offered.getByRole('button', { name: /^Not needed: A backup/ }).click()
  await expect(offered.getByText(/^A backup/)).toBeHidden()
  await page.reload()
  await expect(offered).not.toContainText('A backup')

  await page.getByRole('button', { name: 'New duty' }).click()
  const dialog = page.getByRole('dialog')
  await dialog.getByLabel('What is to be done').fill('Grease the hinge')
  await dialog.getByLabel('Every so many months').fill('')
  await dialog.getByRole('button', { name: 'Add it' }).click()
  await expect(dialog).toContainText('Say how often')
  await dialog.getByLabel('Every so many months').fill('6')
  await dialog.getByRole('button', { name: 'Add it' }).click()
  await expect(dialog).toBeHidden()
  const hinge = page.getByRole('main').getByRole('listitem').filter({ hasText: 'Grease the hinge' })
  await expect(hinge).toContainText('due today')
  await hinge.getByRole('button', { name: 'Change: Grease the hinge' }).click()
  await dialog.getByRole('button', { name: 'Delete' }).click()
  await expect(hinge).toBeHidden()
  await takeBack(page, 'is in the bin')
  await expect(hinge).toBeVisible()
})

test('the calendar is had as a file, and the same by its address', async ({ page }) => {
  await page.goto('/station/merrow-point/due')
  const calendar = page.getByRole('region', { name: 'Calendar' })
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    calendar.getByRole('link', { name: /As a file/ }).click(),
  ])
  expect(download.suggestedFilename()).toMatch(/\.ics$/)
  const shown = await calendar.getByRole('code').innerText()
  const text = await (await page.request.get(shown)).text()
  expect(text).toContain('BEGIN:VCALENDAR')
  expect(text.match(/BEGIN:VEVENT/g)).toHaveLength(4)
})
