import { afterEach, expect, test, vi } from 'vitest'
import { queryClient, stationsQuery } from '../src/platform/api/queries.ts'
import { noteSave } from '../src/platform/api/saves.ts'

afterEach(() => {
  vi.unstubAllGlobals()
  queryClient.clear()
})

test('a list of stations that is asked for while an edit is saved is that from after it', async () => {
  const asked = vi.fn(() => Promise.resolve(Response.json([])))
  vi.stubGlobal('fetch', asked)
  queryClient.setQueryData(['stations'], [])
  let end = (_: Error) => {}
  const save = new Promise((_, fail) => (end = fail))
  save.catch(() => undefined)
  noteSave('c1', save)
  expect(queryClient.getQueryState(['stations'])!.isInvalidated).toBe(true)
  const listed = queryClient.fetchQuery({ ...stationsQuery, retry: false })
  await new Promise((done) => setTimeout(done, 20))
  expect(asked).not.toHaveBeenCalled()
  // However it ends: what cannot be saved must not hold a page up.
  end(new Error('no answer'))
  await listed
  expect(asked).toHaveBeenCalledOnce()
})
