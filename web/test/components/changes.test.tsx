/** What other windows change: when it is asked for again, and when that is needless. */
import { QueryClientProvider, useQuery } from '@tanstack/react-query'
import { cleanup, render } from '@testing-library/react'
import { afterEach, beforeEach, expect, test, vi } from 'vitest'
import { lookAgain, useChanges, watchChain } from '../../src/platform/api/changes.ts'
import { queryClient } from '../../src/platform/api/queries.ts'

const streams: Stream[] = []

class Stream extends EventTarget {
  static readonly OPEN = 1
  static readonly CLOSED = 2
  readyState = 0
  onopen = () => {}
  onerror = () => {}
  url: string
  constructor(url: string) {
    super()
    this.url = url
    streams.push(this)
  }
  opens() {
    this.readyState = 1
    this.onopen()
  }
  breaks() {
    this.readyState = 0
    this.onerror()
  }
  /** What the browser does not try again by itself. */
  isRefused() {
    this.readyState = 2
    this.onerror()
  }
  close() {
    this.readyState = 2
  }
}

function Listening() {
  useChanges()
  return null
}

const asked = vi.spyOn(queryClient, 'invalidateQueries')
beforeEach(() => {
  streams.length = 0
  asked.mockClear()
  vi.stubGlobal('EventSource', Stream)
})
afterEach(() => {
  cleanup()
  queryClient.clear()
  vi.useRealTimers()
  vi.unstubAllGlobals()
})

test('a chain that is opened has its own stream; the one before listens until then, and nothing is asked for again', () => {
  render(<Listening />)
  const [first] = streams
  first!.opens()
  const leave = watchChain('mast', {})
  const second = streams[1]!
  expect(second.url).toContain('chain=mast')
  expect(first!.readyState).toBe(1)
  second.opens()
  expect(first!.readyState).toBe(2)
  expect(asked).not.toHaveBeenCalled()
  leave()
})

test('after a break what was missed is asked for again, also where it came while one stream took over', () => {
  render(<Listening />)
  const [first] = streams
  first!.opens()
  first!.breaks()
  first!.opens()
  expect(asked).toHaveBeenCalled()
  asked.mockClear()
  const leave = watchChain('duct', {})
  first!.breaks()
  streams[1]!.opens()
  expect(asked).toHaveBeenCalled()
  leave()
})

test('a page that is left closes both', () => {
  const { unmount } = render(<Listening />)
  streams[0]!.opens()
  const leave = watchChain('whip', {})
  unmount()
  expect(streams.map(({ readyState }) => readyState)).toEqual([2, 2])
  leave()
})

test('a list is looked at again by itself from the moment the stream is lost, and no longer once it is back', async () => {
  vi.useFakeTimers()
  const queryFn = vi.fn(() => Promise.resolve([]))
  function List() {
    useChanges()
    useQuery({ queryKey: ['log', 'duct'], queryFn, refetchInterval: lookAgain })
    return null
  }
  render(
    <QueryClientProvider client={queryClient}>
      <List />
    </QueryClientProvider>,
  )
  streams[0]!.opens()
  await vi.advanceTimersByTimeAsync(60_000)
  const before = queryFn.mock.calls.length
  streams[0]!.breaks()
  await vi.advanceTimersByTimeAsync(10)
  expect(queryFn).toHaveBeenCalledTimes(before + 1)
  await vi.advanceTimersByTimeAsync(8500)
  expect(queryFn).toHaveBeenCalledTimes(before + 3)
  streams[0]!.opens()
  await vi.advanceTimersByTimeAsync(60_000)
  expect(queryFn.mock.calls.length).toBeLessThan(before + 6)
})

test('a stream that was refused is opened anew after a while, unless the page is left', async () => {
  vi.useFakeTimers()
  const { unmount } = render(<Listening />)
  streams[0]!.isRefused()
  await vi.advanceTimersByTimeAsync(16_000)
  expect(streams).toHaveLength(2)
  streams[1]!.isRefused()
  unmount()
  await vi.advanceTimersByTimeAsync(60_000)
  expect(streams).toHaveLength(2)
})
