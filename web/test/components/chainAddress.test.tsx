import { act, cleanup, renderHook } from '@testing-library/react'
import { createMemoryRouter, RouterProvider } from 'react-router'
import { afterEach, expect, test } from 'vitest'
import { useChainAddress } from '../../src/editor/useChainAddress.ts'

afterEach(cleanup)

/** The hook in a router that stands at an address. */
function at(address: string) {
  let hook!: { current: ReturnType<typeof useChainAddress> }
  const Page = () => {
    hook = { current: useChainAddress() }
    return null
  }
  const router = createMemoryRouter(
    [{ path: '/station/:stationId/chain/:chainId/:lens', element: <Page /> }],
    { initialEntries: [address] },
  )
  renderHook(() => null, { wrapper: () => <RouterProvider router={router} /> })
  return { router, address: () => hook.current, search: () => router.state.location.search }
}

test('reads station, chain, lens, channel and selection', () => {
  const { address } = at('/station/s/chain/c/match?channel=c8&select=stage:duct')
  expect(address()).toMatchObject({
    stationId: 's',
    chainId: 'c',
    lens: 'match',
    channelId: 'c8',
    selection: { kind: 'stage', id: 'duct' },
  })
})

test('two changes faster than the page follows do not undo each other', async () => {
  const { address, search } = at('/station/s/chain/c/budget?channel=c8')
  const { select, pickChannel } = address()
  await act(async () => {
    select({ kind: 'stage', id: 'duct' })
    pickChannel('c4')
  })
  expect(new URLSearchParams(search())).toEqual(new URLSearchParams('channel=c4&select=stage:duct'))
})

test('Back returns to the selection before, unless it was replaced', async () => {
  const { router, address, search } = at('/station/s/chain/c/budget?channel=c8')
  await act(async () => address().select({ kind: 'stage', id: 'duct' }))
  await act(async () => address().put({ zoom: '1' }, true))
  await act(async () => router.navigate(-1))
  expect(search()).toBe('?channel=c8')
})

test('another chain opens under the same lens', async () => {
  const { router, address } = at('/station/s/chain/c/headroom?channel=c8')
  await act(async () => address().openChain('other'))
  expect(router.state.location.pathname).toBe('/station/s/chain/other/headroom')
})

test('a selection that cannot be read is none', () => {
  expect(at('/station/s/chain/c/budget?select=nonsense').address().selection).toBeNull()
})
