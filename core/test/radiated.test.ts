/** Gains by band, worked by hand: the band a frequency lies in decides whether a licence is kept. */
import { describe, expect, test } from 'vitest'
import { gainAt, radiatedW } from '../src/index.ts'
import { bandAt } from '../src/limits/radiated.ts'

const low = { lowHz: 3.5e6, highHz: 4e6, dbi: -3 }
const high = { lowHz: 14e6, highHz: 14.35e6, dbi: 5 }

describe('the gain of an antenna', () => {
  const own = { antennaGainDbi: 2.15, antennaGains: [low, high] }

  test.each([
    [3.5e6, -3],
    [3.7e6, -3],
    [4e6, -3],
    [14e6, 5],
    [14.35e6, 5],
    // Between, below and beyond the bands: the one that holds everywhere.
    [3.499e6, 2.15],
    [4.001e6, 2.15],
    [7e6, 2.15],
    [14.351e6, 2.15],
  ])('on %d Hz is %d dBi, edges within', (hz, dbi) => {
    expect(gainAt(own, hz)).toBe(dbi)
  })

  test('is not known outside the bands without one for all, and nowhere without any', () => {
    expect(gainAt({ antennaGains: [high] }, 7e6)).toBeUndefined()
    expect(gainAt({ antennaGains: [high] }, 14.1e6)).toBe(5)
    expect(gainAt({}, 14.1e6)).toBeUndefined()
    expect(gainAt({ antennaGainDbi: 0 }, 14.1e6)).toBe(0)
  })

  test('of 0 dBi in a band is a gain, and not none', () => {
    expect(gainAt({ antennaGainDbi: 6, antennaGains: [{ ...low, dbi: 0 }] }, 3.6e6)).toBe(0)
  })
})

test('of two bands that share a frequency the first counts', () => {
  const wide = { lowHz: 1e6, highHz: 30e6, dbi: 1 }
  expect(bandAt([high, wide], 14.2e6)).toBe(high)
  expect(bandAt([wide, high], 14.2e6)).toBe(wide)
  expect(bandAt([], 14.2e6)).toBeUndefined()
})

test('a dipole of 100 W: 164 W EIRP, 100 W ERP', () => {
  expect(radiatedW(100, 2.15, 'EIRP')).toBeCloseTo(164.06, 2)
  expect(radiatedW(100, 2.15, 'ERP')).toBeCloseTo(100, 9)
})
