/** What was on its way when somebody signed out is not kept when it comes. */
import { expect, test } from 'vitest'
import { Forgetting } from '../serviceWorker/forgetting.ts'

const request = new Request('http://localhost/api/stations')
const event = new Event('fetch') as ExtendableEvent

/** One answer under way: begins now, and is kept or not when it comes. */
async function begun({ plugin }: Forgetting) {
  const state = {}
  expect(await plugin.requestWillFetch!({ request, event, state })).toBe(request)
  return (status = 200) =>
    plugin.cacheWillUpdate!({ request, event, state, response: new Response('[]', { status }) })
}

test('an answer is kept where it succeeds, unless all was forgotten since it was asked for', async () => {
  const forgetting = new Forgetting()
  const before = await begun(forgetting)
  expect((await before())?.status).toBe(200)
  for (const status of [401, 404, 500]) expect(await before(status)).toBeNull()
  forgetting.forget()
  expect(await before()).toBeNull()
  const after = await begun(forgetting)
  expect((await after())?.status).toBe(200)
  forgetting.forget()
  expect(await after()).toBeNull()
})
