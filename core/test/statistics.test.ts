/** Own statistics, kept honest by simulation: stated rates against counted ones. */
import { describe, expect, test } from 'vitest'
import { pick, seeded } from '../src/index.ts'
import { estimateOf, median, quantileSorted, robustDeviation } from '../src/statistics/quantile.ts'
import { even, normal } from '../src/statistics/random.ts'
import { exactly, propagate } from '../src/statistics/propagate.ts'
import { levelsOf } from '../src/statistics/changePoints.ts'
import { trendOf } from '../src/statistics/trend.ts'
import {
  cholesky,
  logHeavyDensity,
  logPeak,
  logSumExp,
  squareOf,
} from '../src/statistics/gaussian.ts'

describe('chance', () => {
  test('the same seed gives the same numbers, another one others', () => {
    const row = (seed: number) => Array.from({ length: 5 }, seeded(seed))
    expect(row(7)).toEqual(row(7))
    expect(row(7)).not.toEqual(row(8))
  })

  test('normal draws have mean 0 and deviation 1, even ones fill −1 to 1', () => {
    const random = seeded(3)
    const draws = Array.from({ length: 20_000 }, () => normal(random))
    expect(Math.abs(draws.reduce((a, b) => a + b, 0) / draws.length)).toBeLessThan(0.03)
    expect(robustDeviation(draws)).toBeCloseTo(1, 1)
    const flat = Array.from({ length: 5000 }, () => even(random))
    expect(Math.min(...flat)).toBeLessThan(-0.99)
    expect(Math.max(...flat)).toBeGreaterThan(0.99)
    expect(new Set(Array.from({ length: 60 }, () => pick(random, ['a', 'b', 'c']))).size).toBe(3)
  })
})

describe('quantiles', () => {
  test('worked by hand', () => {
    expect(quantileSorted([1, 2, 3, 4], 0.5)).toBe(2.5)
    expect(quantileSorted([1, 2, 3, 4], 0.25)).toBe(1.75)
    expect(median([9, 1, 5])).toBe(5)
    expect(median([])).toBeNaN()
    expect(estimateOf([NaN, 1, 2, 3]).median).toBe(2)
    // Deviations from 3: 2 1 0 1 97; their median is 1.
    expect(robustDeviation([1, 2, 3, 4, 100])).toBeCloseTo(1.4826, 12)
  })
})

describe('propagation', () => {
  test('a sum of two normal doubts adds in squares', () => {
    const sum = propagate(
      {
        a: { value: 10, doubt: 6, shape: 'normal' },
        b: { value: 5, doubt: 8, shape: 'normal' },
      },
      ({ a, b }) => a + b,
      { draws: 20_000 },
    )
    // Deviations 3 and 4 make 5; 5 to 95 % is ± 1.645 of it.
    expect(sum.value).toBe(15)
    expect(sum.high - sum.low).toBeCloseTo(2 * 1.645 * 5, 0)
    expect(sum.because[0]).toMatchObject({ name: 'b' })
    expect(sum.because[0]!.share).toBeCloseTo(0.64, 1)
  })

  test('what is exact has no width and no cause', () => {
    const { low, high, because } = propagate({ a: exactly(4) }, ({ a }) => a * a)
    expect([low, high, because]).toEqual([16, 16, []])
  })

  test('impossible draws are left out', () => {
    const { low } = propagate({ a: { value: 0.5, doubt: 1 } }, ({ a }) => (a > 0 ? a : NaN))
    expect(low).toBeGreaterThan(0)
  })

  test('the range covers the truth nine times in ten', () => {
    const random = seeded(11)
    let covered = 0
    const tries = 400
    for (let i = 0; i < tries; i++) {
      // A meter of ± 5 W shows 100 W and 40 W of unknown truth.
      const first = 100 + 5 * even(random)
      const second = 40 + 5 * even(random)
      const { low, high } = propagate(
        { first: { value: first, doubt: 5 }, second: { value: second, doubt: 5 } },
        (v) => 10 * Math.log10(v.first / v.second),
        { draws: 600, seed: i },
      )
      const truth = 10 * Math.log10(100 / 40)
      if (low <= truth && truth <= high) covered++
    }
    expect(covered / tries).toBeGreaterThan(0.86)
    expect(covered / tries).toBeLessThan(0.95)
  })
})

describe('trend', () => {
  const years = Array.from({ length: 30 }, (_, i) => i / 12)

  test('a straight line comes back, and one wild reading does not bend it', () => {
    const points = years.map((year) => ({ year, value: 2 + 0.3 * year }))
    points[10]!.value = 50
    const trend = trendOf(points)!
    expect(trend.slope).toBeCloseTo(0.3, 9)
    expect(trend.atFirst).toBeCloseTo(2, 9)
    expect(trend.drifts).toBe(true)
  })

  test('noise alone is called a drift about once in ten', () => {
    let called = 0
    for (let seed = 0; seed < 300; seed++) {
      const random = seeded(seed)
      if (trendOf(years.map((year) => ({ year, value: normal(random) })))!.drifts) called++
    }
    expect(called / 300).toBeGreaterThan(0.05)
    expect(called / 300).toBeLessThan(0.16)
  })

  test('the interval covers the true slope about nine times in ten', () => {
    let covered = 0
    for (let seed = 0; seed < 300; seed++) {
      const random = seeded(1000 + seed)
      const { low, high } = trendOf(
        years.map((year) => ({ year, value: 0.4 * year + 0.2 * normal(random) })),
      )!
      if (low <= 0.4 && 0.4 <= high) covered++
    }
    expect(covered / 300).toBeGreaterThan(0.84)
    expect(covered / 300).toBeLessThan(0.96)
  })

  test('too few readings, or all on one day, have none', () => {
    expect(trendOf([{ year: 1, value: 1 }])).toBeNull()
    expect(trendOf(Array.from({ length: 6 }, () => ({ year: 1, value: 1 })))).toBeNull()
  })

  test('thousands of readings are sampled', () => {
    const many = Array.from({ length: 3000 }, (_, i) => ({ year: i / 1000, value: i / 1000 }))
    expect(trendOf(many)!.slope).toBeCloseTo(1, 9)
  })
})

describe('levels', () => {
  const noisy = (seed: number, n: number, step: number) => {
    const random = seeded(seed)
    return Array.from({ length: n }, (_, i) => (i < n / 2 ? 0 : step) + 0.1 * normal(random))
  }

  test('a jump of five deviations is found where it is', () => {
    const levels = levelsOf(noisy(4, 40, 0.5))
    expect(levels).toHaveLength(2)
    expect(Math.abs(levels[1]!.from - 20)).toBeLessThanOrEqual(1)
    expect(levels[1]!.level - levels[0]!.level).toBeCloseTo(0.5, 0)
  })

  test('noise alone seldom jumps, a jump of four deviations seldom hides', () => {
    let falsely = 0
    let found = 0
    for (let seed = 0; seed < 200; seed++) {
      if (levelsOf(noisy(seed, 36, 0)).length > 1) falsely++
      if (levelsOf(noisy(seed, 36, 0.4)).length > 1) found++
    }
    expect(falsely / 200).toBeLessThan(0.06)
    expect(found / 200).toBeGreaterThan(0.95)
  })

  test.each([8, 9, 11, 13, 16, 24, 27, 40, 120])(
    'of %i readings whose noise hangs together few jump',
    (n) => {
      let falsely = 0
      for (let seed = 0; seed < 600; seed++) {
        const random = seeded(1000 * n + seed)
        let e = normal(random)
        const row = Array.from({ length: n }, () => {
          e = 0.5 * e + Math.sqrt(0.75) * normal(random)
          return 0.2 * e
        })
        if (levelsOf(row).length > 1) falsely++
      }
      expect(falsely / 600).toBeLessThan(0.06)
    },
  )

  test.each([8, 12, 20, 60])('2 dB are seen in %i readings of 12 W, rounded to a watt', (n) => {
    for (let seed = 0; seed < 50; seed++) {
      const random = seeded(seed)
      const read = (db: number) =>
        10 * Math.log10(Math.round(12 * 10 ** ((db + 0.04 * normal(random)) / 10)) / 12)
      const row = Array.from({ length: n }, (_, i) => read(i < n / 2 ? 0 : -2))
      expect(levelsOf(row)).toHaveLength(2)
      expect(levelsOf(row.map(() => read(0)))).toHaveLength(1)
    }
  })

  test('a lone wild reading is no level, nothing is nothing, many are thinned', () => {
    const row = noisy(1, 30, 0)
    row[7] = 3
    expect(levelsOf(row)).toHaveLength(1)
    expect(levelsOf([])).toEqual([])
    const many = levelsOf(noisy(2, 2000, 1))
    expect(many).toHaveLength(2)
    expect(Math.abs(many[1]!.from - 1000)).toBeLessThan(20)
  })
})

describe('likelihoods', () => {
  test('two figures that hang together, worked by hand', () => {
    const l = cholesky(Float64Array.of(4, 2, 2, 3), 2)
    expect([...l]).toEqual([2, 0, 1, Math.SQRT2])
    // C⁻¹ = [3 −2; −2 4]/8: for (2, 1) the square is (3·4 − 8 + 4)/8 = 1, det C = 8.
    const expected = -0.5 * 1 - 0.5 * Math.log(8) - Math.log(2 * Math.PI)
    expect(logPeak(l, 2) - squareOf(l, [2, 1]) / 2).toBeCloseTo(expected, 12)
  })

  test('with wide tails: a density, near a normal one in the middle and far above it outside', () => {
    const l = cholesky(Float64Array.of(4), 1)
    const at = (x: number) => Math.exp(logHeavyDensity(l, [x]))
    let sum = 0
    for (let x = -60; x <= 60; x += 0.01) sum += 0.01 * at(x)
    expect(sum).toBeCloseTo(1, 6)
    const normal = (x: number, sigma: number) =>
      Math.exp((-x * x) / (2 * sigma * sigma)) / (sigma * Math.sqrt(2 * Math.PI))
    for (const x of [0, 1, 5, 14])
      expect(at(x)).toBeCloseTo(0.8 * normal(x, 2) + 0.15 * normal(x, 3) + 0.05 * normal(x, 5), 12)
    // Where exp underflows there is still an order.
    expect(logHeavyDensity(l, [400])).toBeGreaterThan(logHeavyDensity(l, [500]))
  })

  test('sums of exponentials do not overflow', () => {
    expect(logSumExp([1000, 1000])).toBeCloseTo(1000 + Math.LN2, 9)
    expect(logSumExp([])).toBe(-Infinity)
  })
})
