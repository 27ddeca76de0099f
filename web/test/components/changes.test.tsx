/** What other windows change: when it is asked for again, and when that is needless. */
import { cleanup, render } from '@testing-library/react'
import { afterEach, beforeEach, expect, test, vi } from 'vitest'
import { useChanges, watchChain } from '../../src/platform/api/changes.ts'
import { queryClient } from '../../src/platform/api/queries.ts'

const streams: Stream[] = []

class Stream extends EventTarget {
  static readonly OPEN = 1
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
