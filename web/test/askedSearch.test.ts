import { describe, expect, it } from 'vitest'
import { AskedSearch } from '../src/editor/askedSearch.ts'

const of = (text: string) => new URLSearchParams(text)

describe('what was asked of the address', () => {
  it('stands until it comes: the first of two quick keys does not undo the second when it comes late', () => {
    const asked = new AskedSearch(of('channel=c6&select=stage%3Atuner'))
    const closed = asked.change({ select: null })
    const picked = asked.change({ channel: 'c8' })
    expect(closed.toString()).toBe('channel=c6')
    expect(picked.toString()).toBe('channel=c8')
    // The page follows the first only now.
    asked.came(closed)
    expect(asked.change({ select: 'stage:tuner' }).toString()).toBe(
      'channel=c8&select=stage%3Atuner',
    )
  })

  it('gives way to what comes by another way', () => {
    const asked = new AskedSearch(of('channel=c6'))
    asked.change({ channel: 'c8' })
    asked.came(of('channel=c2'))
    expect(asked.change({ select: 'transmitter' }).toString()).toBe('channel=c2&select=transmitter')
  })

  it('follows Back to where it was once before, and there and back again', () => {
    const asked = new AskedSearch(of('channel=c1'))
    asked.came(asked.change({ channel: 'c2' }))
    asked.came(of('channel=c1'))
    expect(asked.change({ zoom: '1' }).toString()).toBe('channel=c1&zoom=1')
    const there = asked.change({ zoom: null })
    asked.change({ channel: 'c2' })
    asked.came(asked.change({ channel: 'c1' }))
    asked.came(there)
    expect(asked.change({ zoom: '2' }).toString()).toBe('channel=c1&zoom=2')
  })

  it('asks for what stands there already without holding it for ever', () => {
    const asked = new AskedSearch(of('channel=c1'))
    asked.change({ channel: 'c1' })
    asked.came(of('channel=c3'))
    expect(asked.change({}).toString()).toBe('channel=c3')
  })
})
