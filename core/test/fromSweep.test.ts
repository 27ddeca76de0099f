import { describe, expect, test } from 'vitest'
import fc from 'fast-check'
import {
  attenuationDbPer100m,
  expectedSweep,
  frequencyGrid,
  impedanceDips,
  returnLosses,
  seeded,
} from '../src/index.ts'
import { SPEED_OF_LIGHT } from '../src/constants.ts'
import { foam, foamLine, stationOf } from './stations.ts'

const sweepOf = (lengthM: number, end: 'open' | 'short', lowHz: number, highHz: number, n = 801) =>
  expectedSweep(stationOf([foamLine(lengthM)]), 0, frequencyGrid(lowHz, highHz, n), end)

describe('dips of a line', () => {
  test('lie at odd quarter waves of an open one, at even ones of a shorted one, by hand', () => {
    fc.assert(
      fc.property(fc.double({ min: 3, max: 60, noNaN: true }), (lengthM) => {
        const quarterHz = (foam.velocityFactor * SPEED_OF_LIGHT) / (4 * lengthM)
        for (const [end, first] of [
          ['open', 1],
          ['short', 2],
        ] as const) {
          const dips = impedanceDips(sweepOf(lengthM, end, quarterHz / 4, 6.5 * quarterHz))
          const wanted = [0, 1, 2].map((k) => (first + 2 * k) * quarterHz)
          expect(dips.length).toBeGreaterThanOrEqual(end === 'open' ? 3 : 2)
          // Losses make a line a little slower at low frequencies: skin effect fills the conductor with field.
          dips.slice(0, 2).forEach((hz, k) => expect(hz / wanted[k]!).toBeCloseTo(1, 1))
        }
      }),
      { numRuns: 60 },
    )
  })

  test('are no more where the sweep is noisy', () => {
    const clean = sweepOf(20, 'open', 1e6, 20e6)
    const random = seeded(3)
    const noisy = (part: Float64Array) => part.map((value) => value + 0.01 * (random() - 0.5))
    const found = impedanceDips({ ...clean, re: noisy(clean.re), im: noisy(clean.im) })
    expect(found).toHaveLength(impedanceDips(clean).length)
  })
})

test('the return loss of an open line is twice its matched loss, at each of a few frequencies', () => {
  const rows = returnLosses(sweepOf(40, 'open', 5e6, 200e6), 8)
  expect(rows).toHaveLength(8)
  for (const { frequencyHz, db } of rows) {
    const oneWay = attenuationDbPer100m(foam, frequencyHz) * 0.4
    expect(db / 2 / oneWay).toBeCloseTo(1, 1)
  }
  expect(returnLosses(sweepOf(40, 'open', 5e6, 6e6, 3), 8)).toHaveLength(3)
})
