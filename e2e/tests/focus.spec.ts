import type { ElementHandle, Page } from '@playwright/test'
import type { ChainState } from '@saltline/contract'
import { expect, focusStays, item, test } from './journey.ts'

/** Something that takes away what had the focus, done by keyboard. */
interface Closing {
  name: string
  address: string
  /** Brings the page to where it can be closed. */
  before?: (page: Page, chain: ChainState) => Promise<void>
  close: (page: Page) => Promise<void>
  /** What is to be seen once it is done. */
  done: (page: Page) => Promise<void>
}

const enter = (page: Page, name: string | RegExp) =>
  page.getByRole('button', { name }).first().press('Enter')
const isGone = (page: Page, role: 'dialog' | 'complementary', name?: string) =>
  expect(page.getByRole(role, name === undefined ? {} : { name })).toHaveCount(0)

const closings: Closing[] = [
  {
    name: 'an alternative is applied',
    address: 'compare?channel=c8&ask=cable&section=duct',
    before: async (page) => {
      await enter(page, 'Compare with 10 mm foam PE')
      await page
        .getByRole('table', { name: 'Alternatives' })
        .getByRole('button', { name: /10 mm foam PE/ })
        .press('Enter')
    },
    close: (page) => enter(page, 'Apply to the chain'),
    done: (page) => expect(page.getByText(/is applied: it is the chain now/)).toBeVisible(),
  },
  {
    name: 'a stage is removed',
    address: 'budget?channel=c8&select=stage:choke',
    close: (page) => enter(page, 'Remove'),
    done: (page) => expect(item(page, 'stage:choke')).toHaveCount(0),
  },
  {
    name: 'a channel is removed',
    address: 'budget?channel=c8&select=channel',
    close: (page) => enter(page, 'Remove channel'),
    done: (page) => expect(page.getByRole('button', { name: /8\.294/ })).toHaveCount(0),
  },
  {
    name: 'Escape closes the panel of a channel',
    address: 'budget?channel=c8&select=channel',
    before: (page) => page.getByLabel('Set power, PEP').focus(),
    close: (page) => page.keyboard.press('Escape'),
    done: (page) => isGone(page, 'complementary'),
  },
  {
    name: 'i asks what to put in, and Escape lets it be',
    address: 'budget?channel=c8',
    before: (page) => item(page, 'plane:2').focus(),
    close: async (page) => {
      await page.keyboard.press('i')
      await expect(page.getByRole('complementary')).toContainText('Insert here')
      await page.keyboard.press('Escape')
    },
    done: (page) => isGone(page, 'complementary'),
  },
  {
    name: 'i puts a part in behind a stage',
    address: 'budget?channel=c8',
    before: (page) => item(page, 'stage:duct').focus(),
    close: (page) => page.keyboard.press('i'),
    done: (page) => expect(page.getByRole('complementary')).toBeVisible(),
  },
  {
    name: 'an earlier revision is taken',
    address: 'budget?channel=c8&select=stage:duct',
    before: async (page) => {
      await page.getByLabel('Length').fill('12')
      await enter(page, /saved, revision \d/)
    },
    close: (page) =>
      page.getByRole('dialog').getByRole('listitem').last().getByRole('button').press('Enter'),
    done: (page) => isGone(page, 'dialog'),
  },
  {
    name: 'a chain is deleted',
    address: 'budget?channel=c8',
    before: (page) => enter(page, /^HF long run/),
    close: (page) => page.getByRole('menuitem', { name: 'Delete this chain' }).press('Enter'),
    done: (page) => expect(page).not.toHaveURL(/\/budget\?channel=c8$/),
  },
  {
    name: 'a reading is saved, and deleted',
    address: 'log?channel=c8',
    before: async (page) => {
      await page.getByLabel(/^Forward/).fill('98')
      await page.keyboard.press('Enter')
    },
    close: (page) => enter(page, /^Delete the reading/),
    done: (page) => expect(page.getByText(/^Deleted: the reading/)).toBeVisible(),
  },
  {
    name: 'a run begins',
    address: 'run?channel=c8',
    close: (page) => enter(page, 'Begin: Before keying'),
    done: (page) => expect(page.getByRole('form', { name: 'Step' })).toBeVisible(),
  },
  {
    name: 'a chain comes out of the bin',
    address: '/station/merrow-point',
    before: async (page, { id }) => {
      await page.request.delete(`/api/chains/${id}`)
      await page.reload()
    },
    close: (page) => enter(page, /^Restore the chain/),
    done: (page) => expect(page.getByText(/ is back\.$/)).toBeVisible(),
  },
  {
    name: 'a step of the guided beginning',
    address: '/new?step=1',
    before: (page) => page.locator('main input').first().focus(),
    close: (page) => page.keyboard.press('Enter'),
    done: (page) => expect(page).toHaveURL(/step=2/),
  },
  {
    name: 'a look of a drill is taken',
    address: '/drills/find/1/gull-417?kind=connector',
    close: (page) => enter(page, 'jacket of the desk lead'),
    done: (page) =>
      expect(
        page.getByRole('button', { name: 'jacket of the desk lead', disabled: false }),
      ).toHaveCount(0),
  },
  {
    name: 'an answer of a drill is right',
    address: '/drills/find/1/gull-417?kind=connector',
    close: async (page) => {
      const answer = page.getByRole('form', { name: 'Answer' })
      await answer.getByLabel('Fault').selectOption({ label: 'bad connector or part' })
      await answer.getByLabel('Where').selectOption({ label: 'Desk lead' })
      await answer.getByLabel(/About how much/).fill('2.2')
      await page.keyboard.press('Enter')
    },
    done: (page) => expect(page.getByRole('heading', { name: /^Found/ })).toBeVisible(),
  },
]

async function walk(which: readonly Closing[], page: Page, chain: ChainState) {
  for (const { name, address, before, close, done } of which)
    await test.step(name, async () => {
      const own = `/station/merrow-point/chain/${chain.id}/${address}`
      await page.goto(address.startsWith('/') ? address : own)
      await before?.(page, chain)
      await close(page)
      await done(page)
      await focusStays(page, name)
    })
}

// A chain that was deleted is the last one of its walk.
test('the focus stays near: panels, parts, alternatives', ({ page, chain }) =>
  walk(closings.slice(0, 8), page, chain))
test('the focus stays near: readings, runs, the bin, the guided beginning, drills', ({
  page,
  chain,
}) => walk(closings.slice(8), page, chain))

test('the focus comes back to what was hidden for a moment, as by a page on the way', async ({
  page,
  open,
}) => {
  await open('channel=c8')
  const ledger = (await page
    .getByRole('region', { name: 'Ledger' })
    .elementHandle()) as ElementHandle<HTMLElement>
  const term = page.getByRole('region', { name: 'Ledger' }).getByRole('link').first()
  await term.focus()
  await ledger.evaluate((element) => {
    element.style.setProperty('display', 'none', 'important')
  })
  await expect.poll(() => page.evaluate(() => document.activeElement?.tagName)).not.toBe('A')
  await ledger.evaluate((element) => {
    element.style.removeProperty('display')
    element.append(document.createElement('i'))
  })
  await expect(term).toBeFocused()
})
