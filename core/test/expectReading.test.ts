/** What an instrument should show, and how often it does. */
import { describe, expect, test } from 'vitest'
import {
  type Chain,
  compareReading,
  expectReading,
  type Meter,
  seeded,
  simulateReadings,
  solveChain,
  swrRead,
  usualTolerances,
} from '../src/index.ts'
import { drawChain, planeRanges } from '../src/chain/uncertainty.ts'
import { speechDb } from '../src/measure/expectReading.ts'
import { asRead, showing } from '../src/measure/meter.ts'
import { propagate } from '../src/statistics/propagate.ts'
import { even } from '../src/statistics/random.ts'
import { foam } from './stations.ts'

const chain: Chain = {
  transmitter: { behaviour: 'levelled', foldback: [] },
  stages: [
    { kind: 'line', lengthM: 1, cable: foam },
    { kind: 'pad', lossDb: 0.1 },
    { kind: 'line', lengthM: 40, cable: foam },
  ],
  load: { kind: 'fixed', rOhm: 75, xOhm: 12 },
}
const at = { frequencyHz: 150e6, powerW: 25 }
const exact: Meter = { kind: 'averaging', rangesW: [], accuracy: 0 }

describe('expected', () => {
  test('by hand: 100 W of plain voice on a meter of 5 % of full scale', () => {
    const meter: Meter = { kind: 'averaging', rangesW: [5, 20, 50], accuracy: 0.05 }
    const e = expectReading({ forwardW: 100, swr: 1.5 }, meter, { mode: 'voice-plain' })
    expect(e.watts).toBeCloseTo(20, 12)
    expect(e.rangeW).toBe(20)
    expect(e.reflectedW).toBeCloseTo(0.8, 9)
    // Beside the 1 dB of speech the meter's ± 1 W, or ± 2.5 W on the next range, count little.
    const edge = (watts: number) => Math.hypot(10 * Math.log10(watts / 20), 1.645)
    expect(10 * Math.log10(e.wattsRange.high / 20)).toBeGreaterThan(edge(20.9))
    expect(10 * Math.log10(e.wattsRange.high / 20)).toBeLessThan(1.75)
    expect(10 * Math.log10(20 / e.wattsRange.low)).toBeCloseTo(edge(19.1), 1)
  })

  test('by hand: nine tenths of what is even within ± 2.5 W lie within 2.25 W', () => {
    const meter: Meter = { kind: 'peak', rangesW: [20, 50], accuracy: 0.05 }
    const { wattsRange } = expectReading({ forwardW: 30, swr: 1 }, meter, { mode: 'FM' })
    expect(wattsRange.high).toBeCloseTo(32.25, 2)
    expect(wattsRange.low).toBeCloseTo(27.75, 2)
  })

  test('where the meter may be off by as much as there is, it may show nothing', () => {
    const meter: Meter = { kind: 'peak', rangesW: [200], accuracy: 0.05 }
    const { wattsRange } = expectReading({ forwardW: 8, swr: 1.5 }, meter, { mode: 'FM' })
    expect(wattsRange.low).toBe(0)
    expect(wattsRange.high).toBeCloseTo(8 + 9, 1)
  })

  test('a perfect meter on a chain that is known has no width but the least', () => {
    const e = expectReading({ forwardW: 100, swr: 2 }, exact, { mode: 'FM' })
    expect(e.wattsRange).toEqual({ low: 100, high: 100 })
    expect(e.swrRange.low).toBeCloseTo(2, 12)
    expect(e.swrRange.high).toBeCloseTo(2, 12)
  })

  test('directivity widens a good SWR more than a bad one', () => {
    const width = (swr: number) => {
      const { swrRange } = expectReading(
        { forwardW: 100, swr },
        { ...exact, directivityDb: 25 },
        { mode: 'FM' },
      )
      return swrRange.high / swrRange.low - 1
    }
    expect(width(1.2)).toBeGreaterThan(0.1)
    expect(
      expectReading({ forwardW: 100, swr: 1 }, { ...exact, directivityDb: 25 }, { mode: 'FM' })
        .swrRange.low,
    ).toBe(1)
  })

  test('speech is shown more steadily by a peak meter', () => {
    expect(speechDb({ ...exact, kind: 'peak' }, { mode: 'voice-plain' })).toBeLessThan(
      speechDb(exact, { mode: 'voice-plain' }),
    )
    expect(speechDb(exact, { mode: 'data' })).toBe(0)
  })

  test('the SWR of what was read', () => {
    expect(swrRead({ forwardW: 100, reflectedW: 4 })).toBeCloseTo(1.5, 12)
    expect(swrRead({ forwardW: 100, swr: 1.7 })).toBe(1.7)
    expect(swrRead({ forwardW: 100 })).toBeNull()
    expect(swrRead({ forwardW: 0, reflectedW: 0 })).toBeNull()
  })
})

describe('as often as it says', () => {
  const meter: Meter = {
    kind: 'averaging',
    rangesW: [5, 20, 50],
    accuracy: 0.05,
    directivityDb: 30,
  }
  const emission = { mode: 'FM' as const }
  const { planes } = solveChain(chain, at)
  const [draws] = drawChain(chain, [at], usualTolerances, { draws: 800, seed: 1 })
  const ranges = planeRanges(draws!)
  const read = (seed: number, plane: number) =>
    simulateReadings(
      { chain, channels: [{ ...at, emission }], instruments: [meter], tolerances: usualTolerances },
      [{ point: 0, plane, instrument: 0 }],
      { kind: 'none' },
      seed,
    )[0]!

  test.each([0, 2, 3])(
    'readings of sound stations at plane %i lie inside about nine times in ten',
    (plane) => {
      const expected = expectReading(
        { forwardW: planes[plane]!.forwardW, swr: planes[plane]!.swr, ranges: ranges[plane]! },
        meter,
        emission,
      )
      const tries = 400
      let watts = 0
      let swrs = 0
      for (let seed = 1; seed <= tries; seed++) {
        const reading = read(seed, plane)
        const swr = swrRead(reading)!
        if (
          reading.forwardW! >= expected.wattsRange.low &&
          reading.forwardW! <= expected.wattsRange.high
        )
          watts++
        if (swr >= expected.swrRange.low && swr <= expected.swrRange.high) swrs++
      }
      expect(watts / tries).toBeGreaterThan(0.84)
      expect(watts / tries).toBeLessThanOrEqual(0.99)
      expect(swrs / tries).toBeGreaterThan(0.82)
    },
  )

  test('a station at half power is nearly always outside', () => {
    const expected = expectReading(
      { forwardW: planes[0]!.forwardW, swr: planes[0]!.swr, ranges: ranges[0]! },
      meter,
      emission,
    )
    const half = Array.from({ length: 100 }, (_, seed) => read(seed + 1, 0).forwardW! / 2)
    expect(half.filter((w) => w >= expected.wattsRange.low)).toHaveLength(0)
  })
})

const around = (middle: number, by: number) => ({ low: middle - by, high: middle + by })

describe('a reading compared', () => {
  test.each([
    [100, 100, 5, 'inside'],
    [104.9, 100, 5, 'inside'],
    [50, 100, 5, 'half'],
    [80, 100, 5, 'less'],
    [130, 100, 5, 'more'],
  ])('%f of %f ± %f', (read, expected, doubt, is) => {
    expect(compareReading(read, expected, around(expected, doubt)).is).toBe(is)
  })

  test('nothing at all is less than expected', () => {
    const compared = compareReading(0, 100, around(100, 5))
    expect(compared.db).toBe(-Infinity)
    expect(compared.is).toBe('less')
  })
})

describe('a reading near the end of its range', () => {
  const meter: Meter = { kind: 'peak', rangesW: [20, 50], accuracy: 0.05 }

  test('is shown on the next one where its own does not hold it', () => {
    expect(showing(meter, 19.5, { off: 0.2, mark: 0 })).toBeCloseTo(19.7, 12)
    expect(showing(meter, 19.5, { off: 0.8, mark: 0 })).toBeCloseTo(21.5, 12)
    expect(showing(meter, 60, { off: 0, mark: 0 })).toBe(60)
    expect(showing({ ...meter, divisions: 10 }, 10, { off: 0, mark: -1 })).toBeCloseTo(9, 12)
    expect(showing({ ...meter, rangesW: [] }, 10, { off: 1, mark: 0 })).toBeCloseTo(10.5, 12)
    expect(showing(meter, 0.1, { off: -1, mark: 0 })).toBe(0)
  })

  test('may stand on the next one, which is off by more', () => {
    expect(asRead(meter, 10)).toEqual({ value: 10, doubt: 1, and: 0 })
    expect(asRead(meter, 19)).toEqual({
      value: 19,
      doubt: 1,
      and: 0,
      orOn: { doubt: 2.5, and: 0, above: 20 },
    })
    expect(asRead(meter, 19, 20)).not.toHaveProperty('orOn')
    expect(asRead(meter, 49)).not.toHaveProperty('orOn')
    expect(asRead({ ...meter, accuracyOf: 'reading' }, 19)).not.toHaveProperty('orOn')
  })

  test('and the truth lies in its range nine times in ten all the same', () => {
    const random = seeded(5)
    let [inside, tries] = [0, 0]
    while (tries < 1500) {
      const truth = 12 + 16 * random()
      const shown = showing(meter, truth, { off: even(random), mark: 0 })
      if (shown < 17.5 || shown > 20) continue
      tries++
      const { low, high } = propagate({ watts: asRead(meter, shown) }, ({ watts }) => watts, {
        draws: 600,
      })
      if (truth >= low && truth <= high) inside++
    }
    expect(inside / tries).toBeGreaterThan(0.87)
    expect(inside / tries).toBeLessThan(0.93)
  })
})
