import { describe, expect, test } from 'vitest'
import { calibrate, correctedW, type Meter } from '../src/index.ts'
import { normalShare } from '../src/statistics/gaussian.ts'
import { even, normal, seeded } from '../src/statistics/random.ts'
import { drawn } from './drawn.ts'

const known: Meter = { kind: 'peak', rangesW: [], accuracy: 0.03, accuracyOf: 'reading' }

test('the share of a normal distribution, at known places', () => {
  expect(normalShare(0)).toBeCloseTo(0.5, 6)
  expect(normalShare(1)).toBeCloseTo(0.8413447, 6)
  expect(normalShare(-1.644854)).toBeCloseTo(0.05, 6)
})

describe('a calibration by repeated readings', () => {
  test('groups by what was true: 97, 100 and 103 shown of 100 W scatter by 3 %', () => {
    const { points, scatter } = calibrate(
      [97, 100, 103].map((shownW) => ({ shownW, trueW: 100 })),
      known,
    )
    expect(points).toEqual([[100, 100]])
    // Factors 1.0309, 1, 0.9709: a deviation of 3.0 %, twice of it.
    expect(scatter).toBeCloseTo(0.06, 3)
  })
  test('what scatter turns round is joined, so that readings rise', () => {
    const { points } = calibrate(
      [
        { shownW: 52, trueW: 50 },
        { shownW: 51, trueW: 53 },
        { shownW: 100, trueW: 98 },
      ],
      known,
    )
    expect(points).toEqual([
      [51.5, 51.5],
      [100, 98],
    ])
  })
  test('read once at every power, scatter is what lies off the line between neighbours', () => {
    const straight = [10, 20, 40, 80].map((shownW) => ({ shownW, trueW: 0.95 * shownW }))
    expect(calibrate(straight, known).scatter).toBeCloseTo(0, 9)
    const off = straight.with(1, { shownW: 20, trueW: 20 })
    expect(calibrate(off, known).scatter).toBeGreaterThan(0.03)
  })

  test.each([0, 0.01, 0.02, 0.05])(
    'at a scatter of %f nine in ten truths are in the range',
    (s) => {
      const random = seeded(11)
      let inside = 0
      const rounds = drawn(400, 1500)
      for (let i = 0; i < rounds; i++) {
        const factor = (watts: number) => 1.05 + 0.03 * Math.log10(watts / 50)
        // The known meter is off by one share at one power; both are read four times.
        const shown = (watts: number) => watts * factor(watts) * (1 + s * normal(random))
        const off = [5, 15, 50, 150, 500].map((watts) => ({ watts, by: 1 + 0.03 * even(random) }))
        const pairs = off.flatMap(({ watts, by }) =>
          [0, 1, 2, 3].map(() => ({ shownW: shown(watts), trueW: watts * by })),
        )
        const { points, doubt } = calibrate(pairs, known)
        const { watts } = off[Math.floor(5 * random())]!
        const read = correctedW(points, shown(watts))
        if (Math.abs(read / watts - 1) <= 0.9 * doubt) inside++
      }
      // Two and a half deviations of so many rounds.
      const chance = 2.5 * Math.sqrt((0.9 * 0.1) / rounds)
      expect(inside / rounds).toBeGreaterThan(0.9 - chance)
      expect(inside / rounds).toBeLessThan(0.9 + chance)
    },
  )
})
