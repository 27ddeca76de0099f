/** Who has to sign in is sent there, once, and comes back to where they were. */
import { afterEach, beforeEach, expect, test, vi } from 'vitest'
import { send } from '../../src/platform/api/client.ts'

const left = vi.fn()

beforeEach(() => {
  vi.useFakeTimers()
  left.mockClear()
  vi.spyOn(location, 'replace').mockImplementation(left)
  vi.stubGlobal('fetch', () => Promise.resolve(new Response('{}', { status: 401 })))
})
afterEach(() => {
  vi.runAllTimers()
  vi.useRealTimers()
  vi.restoreAllMocks()
  vi.unstubAllGlobals()
})

const refused = () => expect(send('GET', '/stations')).rejects.toThrow('401')

test('a page whose requests are all refused leaves once, and again only where it has stayed', async () => {
  history.replaceState(null, '', '/station/merrow-point?channel=c8')
  await Promise.all([refused(), refused(), refused()])
  expect(left.mock.calls).toEqual([['/sign-in?to=%2Fstation%2Fmerrow-point%3Fchannel%3Dc8']])
  vi.advanceTimersByTime(6000)
  await refused()
  expect(left).toHaveBeenCalledTimes(2)
})

test('the page where one signs in is not left', async () => {
  history.replaceState(null, '', '/sign-in')
  await refused()
  expect(left).not.toHaveBeenCalled()
})
