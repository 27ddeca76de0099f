import { WINDOW } from '../setup.ts'
import { expect, focusStays, stationTest as test } from './journey.ts'

const PASSPHRASE = 'four quiet herons wading'

test.use({ passphrase: PASSPHRASE })

test('whoever comes is asked for the passphrase, and goes on where they were going', async ({
  page,
}) => {
  await page.goto('/station/merrow-point/chain/hf-long-run/budget?channel=c8')
  await expect(page.getByRole('heading', { name: 'Sign in' })).toBeVisible()
  const field = page.getByLabel('Passphrase of the station')
  await expect(field).toBeFocused()
  await field.fill('not the right one at all')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('alert')).toContainText('That is not the passphrase.')
  await expect(field).toHaveValue('not the right one at all')
  await field.fill(PASSPHRASE)
  await page.keyboard.press('Enter')
  await expect(page.getByRole('region', { name: 'Ledger' })).toBeVisible()
  expect(page.url()).toContain('/budget?channel=c8')
  // An address of somewhere else is no place to go on to.
  await page.goto('/sign-in?to=//elsewhere.example/')
  await page.getByLabel('Passphrase of the station').fill(PASSPHRASE)
  await page.keyboard.press('Enter')
  await expect(page.getByRole('heading', { name: 'Sign in' })).toBeHidden()
  expect(new URL(page.url()).hostname).toBe('127.0.0.1')
})

test('a phone joins by a code, a token is shown once, and all are signed out', async ({
  page,
  other: phone,
  browser,
  station,
}) => {
  await page.goto('/sign-in?to=/access')
  await page.getByLabel('Passphrase of the station').fill(PASSPHRASE)
  await page.getByRole('button', { name: 'Sign in' }).click()
  await page.getByRole('button', { name: 'Make a code' }).click()
  await expect(page.getByRole('img', { name: 'QR code for a phone' })).toBeVisible()
  await expect(page.getByText(/Good once, for another \d+ s/)).toBeVisible()
  const link = await page.getByText(/\/join\//).innerText()

  await phone.goto(link)
  await expect(phone.getByRole('heading', { name: 'Merrow Point' }).first()).toBeAttached()
  // The code is used up.
  const other = await browser.newPage({ baseURL: station.url })
  await other.goto(link)
  await expect(other.getByRole('alert')).toContainText('works once')

  await page.getByLabel('What it is for').fill('mast meter')
  await page.getByLabel('It may').selectOption('enter')
  await page.getByLabel('Passphrase again').fill('not the right one at all')
  await page.getByRole('button', { name: 'Make a token' }).click()
  await expect(page.getByText('That is not the passphrase.')).toBeVisible()
  await page.getByLabel('Passphrase again').fill(PASSPHRASE)
  await page.getByRole('button', { name: 'Make a token' }).click()
  const token = await page.locator('code', { hasText: /^slt_/ }).innerText()
  expect(token).toMatch(/^slt_/)
  await page.getByRole('button', { name: 'I have it' }).click()
  await expect(page.getByText(token)).toHaveCount(0)
  await expect(page.getByRole('region', { name: 'Tokens' })).toContainText('mast meter may read')

  // The phone alone is signed out, comes back by the passphrase, and all are.
  const devices = page.getByRole('region', { name: 'Devices' })
  await page.reload()
  await expect(devices).toContainText('this one')
  await devices.getByRole('button', { name: /^Sign out/ }).click()
  await expect(page.getByText('is signed out.')).toBeVisible()
  // It goes to the sign-in page by itself, and from there to where it was.
  await phone.getByLabel('Passphrase of the station').fill(PASSPHRASE)
  await phone.getByRole('button', { name: 'Sign in' }).click()
  await expect(phone.getByRole('heading', { name: 'Merrow Point' }).first()).toBeAttached()

  await page.getByRole('button', { name: 'Every device' }).click()
  await expect(page.getByRole('heading', { name: 'Sign in' })).toBeVisible()
  // It goes there by itself again, and is asked wherever it goes.
  await expect(phone.getByRole('heading', { name: 'Sign in' })).toBeVisible()
  await phone.goto('/station/merrow-point')
  await expect(phone.getByRole('heading', { name: 'Sign in' })).toBeVisible()
  await other.close()
})

test('two windows on one chain: the second follows an edit and a reading within two seconds', async ({
  page,
  other,
}) => {
  await other.setViewportSize(WINDOW.viewport)
  const enter = async (own: typeof page, at: string) => {
    await own.goto(`/sign-in?to=${encodeURIComponent(at)}`)
    await own.getByLabel('Passphrase of the station').fill(PASSPHRASE)
    await own.getByRole('button', { name: 'Sign in' }).click()
  }
  const chain = '/station/merrow-point/chain/hf-long-run'
  await enter(page, `${chain}/budget?channel=c8&select=stage:duct`)
  await enter(other, `${chain}/budget?channel=c8`)
  const sentence = other.locator('main p[role="status"]')
  await expect(sentence).toBeVisible()
  const before = await sentence.innerText()
  await page.getByLabel('Length').fill('90')
  await page.keyboard.press('Enter')
  await expect(page.getByText(/^saved/)).toBeVisible()
  await expect(sentence).not.toHaveText(before)

  await other.goto(`${chain}/log?channel=c8`)
  await page.goto(`${chain}/log?channel=c8`)
  await page.getByLabel(/^Forward, as/).fill('61')
  await page.keyboard.press('Enter')
  await expect(
    other.getByRole('table', { name: 'Readings of the session' }).getByText(/^61.W$/),
  ).toBeVisible()
})

test('a live meter is shown against what is expected, flagged, kept by a key, and missed', async ({
  page,
  request,
}) => {
  await page.goto('/sign-in?to=/access')
  await page.getByLabel('Passphrase of the station').fill(PASSPHRASE)
  await page.getByRole('button', { name: 'Sign in' }).click()
  await page.getByLabel('Of which chain').selectOption('hf-long-run')
  await page.getByLabel('Passphrase again').fill(PASSPHRASE)
  await page.getByRole('button', { name: 'Make a token' }).click()
  const token = await page.locator('code', { hasText: /^slt_/ }).innerText()
  const send = async (forwardW: number, reflectedW: number) => {
    const answer = await request.post('/api/live/hf-long-run/1', {
      headers: { authorization: `Bearer ${token}` },
      data: { forwardW, reflectedW },
    })
    expect(answer.status()).toBe(200)
  }
  await page.goto('/station/merrow-point/chain/hf-long-run/budget?channel=c4')
  await expect(page.getByRole('region', { name: 'Ledger' })).toBeVisible()
  await expect(page.getByRole('region', { name: 'Live meters' })).toHaveCount(0)
  let watts = 25
  const meter = setInterval(() => void send(watts, 0.05), 300)
  const live = page.getByRole('listitem', { name: /^Live input of/ })
  // Voice on an averaging meter: a fifth of 125 W.
  await expect(live).toContainText('25 W')
  await expect(live).toContainText('✓')
  watts = 9
  await expect(live).toContainText(/▲ −\d/)
  const kept = page.getByText(/^Saved: forward 9(\.0)?.W, .*input of .*\./)
  const silent = page.getByText(/^Nothing kept: no signal from input of .* for \d+ s\./)
  // A machine that is held up for two seconds has no signal to keep, and says so.
  await expect(async () => {
    await page.keyboard.press('r')
    await expect(kept.or(silent).first()).toBeVisible()
    await expect(kept.first()).toBeVisible({ timeout: 1000 })
  }).toPass()
  clearInterval(meter)
  await expect(live).toContainText(/no signal for \d+ s/)
  await expect(live.getByRole('button', { name: /Keep/ })).toBeDisabled()
  await page.keyboard.press('r')
  await expect(silent.first()).toBeVisible()
  await page.getByRole('link', { name: 'Log', exact: true }).click()
  await expect(page.getByRole('table', { name: 'Readings of the session' })).toContainText('9')
})

test('a phone joins by code, reads without the network, comes back, and forgets when it is signed out', async ({
  page,
  browser,
  station,
}) => {
  await page.goto('/sign-in?to=/access')
  await page.getByLabel('Passphrase of the station').fill(PASSPHRASE)
  await page.getByRole('button', { name: 'Sign in' }).click()
  await page.getByRole('button', { name: 'Make a code' }).press('Enter')
  await expect(page.getByText(/\/join\//)).toBeVisible()
  await focusStays(page, 'a code is made')
  const link = await page.getByText(/\/join\//).innerText()
  const log = '/station/merrow-point/chain/hf-long-run/log?channel=c8&leaf=round'
  await page.goto(log)

  const phone = await browser.newPage({
    baseURL: station.url,
    serviceWorkers: 'allow',
    viewport: { width: 390, height: 844 },
  })
  await phone.goto(link)
  await expect(phone.getByRole('heading', { name: 'Merrow Point' }).first()).toBeAttached()
  await expect
    .poll(() => phone.evaluate(() => navigator.serviceWorker.controller !== null))
    .toBe(true)
  await phone.goto(log)
  const save = phone.getByRole('button', { name: 'Save the reading' })
  await expect(save).toBeVisible()
  await expect(phone.getByRole('table', { name: 'Readings of the session' })).toBeVisible()

  await station.down()
  await phone.reload()
  await expect(phone.getByRole('table', { name: 'Readings of the session' })).toBeVisible()
  await phone.getByLabel(/^Forward/).fill('37')
  await save.click()
  await expect(phone.getByText(/One reading waits/)).toBeVisible()
  await station.up()
  await expect(phone.getByText(/One reading waits/)).toBeHidden()
  // At the desk it stands in the session by itself.
  await expect(page.getByRole('table', { name: 'Readings of the session' })).toContainText(
    '37\u00a0W',
  )

  const form = phone.getByRole('form', { name: 'New reading' })
  await form.getByLabel(/^Note/).fill('half typed')
  await phone.goto('/access')
  const kept = () => phone.evaluate(() => JSON.stringify(sessionStorage))
  expect(await kept()).toContain('half typed')
  const seenHere = () =>
    phone.evaluate(async () => (await (await caches.open('saltline-seen')).keys()).length)
  expect(await seenHere()).toBeGreaterThan(0)
  await phone.getByRole('button', { name: 'This device' }).click()
  await expect(phone.getByRole('heading', { name: 'Sign in' })).toBeVisible()
  expect(await seenHere()).toBe(0)
  expect(await kept()).not.toContain('half typed')
  await station.down()
  await phone.goto(log)
  await expect(phone.getByRole('table', { name: 'Readings of the session' })).toBeHidden()
  await expect(phone.getByText(/does not answer/).first()).toBeVisible()
  await station.up()
  await phone.close()
})

test('two ends of a cable: each sees where the other reads, what it read, and the loss between them', async ({
  page,
  other: mast,
}) => {
  const chain = '/station/merrow-point/chain/hf-long-run'
  for (const [own, name, place] of [
    [page, 'Desk', 'plane:4'],
    [mast, 'Mast', 'plane:7'],
  ] as const) {
    await own.goto(`/sign-in?to=${encodeURIComponent(`${chain}/log?channel=c8&select=${place}`)}`)
    await own.getByLabel('Passphrase of the station').fill(PASSPHRASE)
    await own.getByRole('button', { name: 'Sign in' }).click()
    await own.getByLabel('By').fill(name)
  }
  await expect(page.getByText('Mast reads at the Two-wire vee.')).toBeVisible()
  await expect(mast.getByText('Desk reads at the input of Arrester.')).toBeVisible()
  const enter = async (own: typeof page, watts: string) => {
    await own.getByLabel(/^Forward, as/).fill(watts)
    await own.getByRole('button', { name: 'Save the reading' }).click()
  }
  await enter(page, '31')
  await expect(
    mast.getByRole('table', { name: 'Readings of the session' }).getByText(/^31.W$/),
  ).toBeVisible()
  await enter(mast, '15')
  const between = page.getByRole('table', { name: 'Between the places' })
  await expect(between).toContainText('input of Arrester to at the Two-wire vee')
  // 31 W to 15 W are 3.15 dB.
  const cells = await between.locator('tbody tr').getByRole('cell').allInnerTexts()
  expect(Math.abs(Number(/[\d.]+/.exec(cells[1]!)![0]) - 3.15)).toBeLessThan(0.35)
  await mast.close()
  await expect(page.getByText(/^● ?Mast reads/)).toBeHidden()
})

test('another passphrase is taken after the present one, if it is hard to guess', async ({
  page,
  other,
}) => {
  await other.setViewportSize(WINDOW.viewport)
  const enter = async (own: typeof page, passphrase: string) => {
    await own.goto('/sign-in?to=/access')
    await own.getByLabel('Passphrase of the station').fill(passphrase)
    await own.getByRole('button', { name: 'Sign in' }).click()
    await expect(own.getByRole('heading', { name: 'Network and devices' }).first()).toBeVisible()
  }
  await enter(page, PASSPHRASE)
  await enter(other, PASSPHRASE)
  await expect(page.getByText(/cross the network in the clear/)).toBeVisible()
  await page.getByText('Change it').click()
  await page.getByLabel('Present passphrase').fill('not this one at all')
  await page.getByLabel(/^New passphrase/).fill('password1234')
  await page.getByRole('button', { name: 'Change the passphrase' }).click()
  await expect(page.getByRole('alert')).toContainText('That is not the passphrase.')
  await page.getByLabel('Present passphrase').fill(PASSPHRASE)
  await page.getByRole('button', { name: 'Change the passphrase' }).click()
  await expect(page.getByRole('alert')).toContainText('easy to guess')
  await page.getByLabel(/^New passphrase/).fill('nine oystercatchers under gorse')
  await page.getByRole('button', { name: 'Change the passphrase' }).click()
  await expect(page.getByText(/The passphrase is changed/)).toBeVisible()
  // This device is in; the other one is not, and needs the new one.
  await page.reload()
  await expect(page.getByRole('heading', { name: 'Network and devices' }).first()).toBeVisible()
  await other.reload()
  await expect(other.getByRole('heading', { name: 'Sign in' })).toBeVisible()
  await enter(other, 'nine oystercatchers under gorse')
})

test('signing out asks about what was not sent, and works while the server is gone', async ({
  page,
  station,
}) => {
  await page.goto('/sign-in?to=/access')
  await page.getByLabel('Passphrase of the station').fill(PASSPHRASE)
  await page.getByRole('button', { name: 'Sign in' }).click()
  await expect(page.getByRole('button', { name: 'This device' })).toBeVisible()
  await station.down()
  await page.evaluate(() =>
    localStorage.setItem(
      'saltline.outbox.r1',
      JSON.stringify({
        ...{ id: 'r1', n: 1, at: Date.now(), kind: 'reading', chainId: 'hf-long-run' },
        ...{ path: '/chains/hf-long-run/readings/r1', body: {}, said: '61 W at the radio' },
      }),
    ),
  )
  await page.evaluate(() => dispatchEvent(new StorageEvent('storage', { key: null })))
  await page.getByRole('button', { name: 'This device' }).click()
  const dialog = page.getByRole('dialog', { name: 'Not everything was sent' })
  await expect(dialog).toContainText('One entry is in this browser alone')
  await dialog.getByRole('button', { name: 'Throw away and sign out' }).click()
  await station.up()
  // The page is on its way to the sign-in page, which the server did not give.
  await expect(async () => {
    await page.goto('/')
    await expect(page.getByRole('heading', { name: 'Sign in' })).toBeVisible({ timeout: 2000 })
  }).toPass()
  expect(await page.evaluate(() => Object.keys(localStorage))).not.toContain('saltline.outbox.r1')
})
