import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import {
  type Chain,
  differences,
  externalNoise,
  partGains,
  receiveCostDb,
  type Side,
  usualTolerances,
} from '../src/index.ts'

const lossy = { z0Ohm: 50, velocityFactor: 0.66, k1DbPer100m: 2, k2DbPer100m: 0.02 }
const better = { ...lossy, k1DbPer100m: 0.8, k2DbPer100m: 0.005 }
const run = (cable: typeof lossy, lengthM: number) => ({ kind: 'line' as const, lengthM, cable })
const chainOf = (...stages: Chain['stages']): Chain => ({
  transmitter: { behaviour: 'levelled', foldback: [] },
  stages,
  load: { kind: 'fixed', rOhm: 60, xOhm: 10 },
})
const at = [{ frequencyHz: 14e6, powerW: 100 }]
const side = (chain: Chain, ...names: string[]): Side => ({ chain, at, names, load: 'antenna' })
const drawn = { draws: 400, seed: 1 }

describe('a difference of two chains', () => {
  test('of a chain and itself is nothing, however badly it is known', () => {
    const one = side(chainOf(run(lossy, 40)), 'run')
    const [same] = differences(one, one, { ...usualTolerances, source: 0.4 }, drawn)
    expect(same).toMatchObject({ low: 0, high: 0, median: 0, is: 'same' })
  })

  test('what both have cancels: a lead that loses 0.3 dB less is sure to be more', () => {
    const before = side(chainOf(run(lossy, 5), run(lossy, 40)), 'lead', 'run')
    const after = side(chainOf(run(better, 5), run(lossy, 40)), 'new lead', 'run')
    const [shared] = differences(before, after, usualTolerances, drawn)
    expect(shared!.is).toBe('more')
    // Drawn apart, the uncertainty of the long run hides it.
    const apart = side(after.chain, 'new lead', 'another run')
    const [alone] = differences(before, apart, usualTolerances, drawn)
    expect(alone!.is).toBe('unknown')
    expect(alone!.high - alone!.low).toBeGreaterThan(2 * (shared!.high - shared!.low))
  })

  test('the other way round it is the same with another sign', () => {
    const before = side(chainOf(run(lossy, 40)), 'run')
    const after = side(chainOf(run(better, 40)), 'new run')
    const [there] = differences(before, after, usualTolerances, drawn)
    const [back] = differences(after, before, usualTolerances, drawn)
    expect(back!.is).toBe('less')
    expect(back!.low).toBeCloseTo(-there!.high, 9)
  })
})

describe('what each part could give', () => {
  test('by hand: a matched chain of 1 and 3 dB', () => {
    const matched: Chain = {
      ...chainOf({ kind: 'pad', lossDb: 1 }, { kind: 'pad', lossDb: 3 }),
      load: { kind: 'fixed', rOhm: 50, xOhm: 0 },
    }
    expect(partGains(matched, at[0]!).map(({ stage, idealDb }) => [stage, idealDb])).toEqual([
      [1, expect.closeTo(3, 9)],
      [0, expect.closeTo(1, 9)],
    ])
  })

  test('a tuner that lost nothing would still match', () => {
    const chain = chainOf(
      { kind: 'tuner', method: 'given', lossDb: 0.5, residualSwr: 1 },
      run(lossy, 20),
    )
    const tuner = partGains(chain, at[0]!).find(({ stage }) => stage === 0)!
    expect(tuner.idealDb).toBeCloseTo(0.5, 9)
  })

  test('the best class gives less than no loss at all, and no more than any other', () => {
    const [section] = partGains(chainOf(run(lossy, 40)), at[0]!)
    expect(section!.best!.db).toBeGreaterThan(0)
    expect(section!.best!.db).toBeLessThan(section!.idealDb)
  })
})

describe('receiving', () => {
  test('by hand, and at its two limits', () => {
    // f_a = 100, ℓ = 2, f_r = 10: (100 + 20 − 1)/(100 + 10 − 1)
    expect(receiveCostDb(10 * Math.log10(2), 10, 20)).toBeCloseTo(10 * Math.log10(119 / 109), 9)
    expect(receiveCostDb(6, 5, 80)).toBeLessThan(1e-6)
    expect(receiveCostDb(6, 60, 0)).toBeCloseTo(6, 3)
    expect(receiveCostDb(0, 5, 30)).toBe(0)
  })

  test('costs no less than nothing and no more than the loss', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 30, noNaN: true }),
        fc.double({ min: 0, max: 40, noNaN: true }),
        fc.double({ min: 0, max: 90, noNaN: true }),
        (loss, figure, external) => {
          const cost = receiveCostDb(loss, figure, external)
          expect(cost).toBeGreaterThanOrEqual(-1e-9)
          expect(cost).toBeLessThanOrEqual(loss + 1e-9)
        },
      ),
    )
  })

  test('noise of ITU-R P.372: 49.1 dB in a city on 10 MHz; beyond its measurements it says so', () => {
    expect(externalNoise('city', 10e6).db).toBeCloseTo(49.1, 9)
    expect(externalNoise('quiet rural', 100e6)).toMatchObject({ db: 0, estimated: false })
    expect(externalNoise('rural', 435e6).estimated).toBe(true)
  })
})
