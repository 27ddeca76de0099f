/** The bench's reductions: worked by hand, and round trips through the solver. */
import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import {
  bothEnds,
  builtLoad,
  chooseRange,
  dbmOfS,
  distanceToFault,
  electricalLength,
  firstDipHz,
  InputError,
  judgeCable,
  levelOf,
  matchOf,
  type Meter,
  onePort,
  probePower,
  sinceLastTime,
  solveChain,
  type Stage,
  substitution,
  sUnitsOf,
  throughLine,
  twoMeters,
  velocityFactor,
} from '../src/index.ts'
import { exactly } from '../src/statistics/propagate.ts'
import { levelUnits, matchUnits } from '../src/bench/converter.ts'
import { readingDoubtW } from '../src/measure/meter.ts'
import { lineConstants, matchedLossDb } from '../src/line/constants.ts'

const perfect: Meter = { kind: 'averaging', rangesW: [], accuracy: 0 }
const needle: Meter = { kind: 'averaging', rangesW: [5, 50, 500], accuracy: 0.05, divisions: 50 }
const cable = { z0Ohm: 50, velocityFactor: 0.66, k1DbPer100m: 1.4, k2DbPer100m: 0.005 }

/** What a perfect instrument reads of a line between a levelled source and a load. */
const planes = (stages: Stage[], load: { rOhm: number; xOhm: number }, frequencyHz: number) =>
  solveChain(
    {
      transmitter: { behaviour: 'levelled', foldback: [] },
      stages,
      load: { kind: 'fixed', ...load },
    },
    { frequencyHz, powerW: 100 },
  ).planes

describe('meters', () => {
  test('accuracy of full scale, of reading, and half a division', () => {
    // 5 % of 50 W is 2.5 W, half of one of 50 marks is 0.5 W.
    expect(readingDoubtW(needle, 30)).toBeCloseTo(3, 12)
    expect(readingDoubtW({ ...needle, accuracyOf: 'reading' }, 30)).toBeCloseTo(1.5 + 0.5, 12)
    // Twelve watts on the 500 W range know nothing.
    expect(readingDoubtW(needle, 12, 500)).toBeCloseTo(30, 12)
    expect(readingDoubtW({ ...perfect, accuracy: 0.1 }, 30)).toBeCloseTo(3, 12)
  })

  test('the smallest range that holds the power, and the SWR it hides', () => {
    const choice = chooseRange(needle, 40, { mode: 'FM' }, 1.5)
    expect(choice.forwardRangeW).toBe(50)
    // |ρ| = 0.2 sends 4 % of 40 W back: 1.6 W, on the 5 W range.
    expect(choice.reflectedW).toBeCloseTo(1.6, 12)
    expect(choice.reflectedRangeW).toBe(5)
    // 5 % and half a mark of 5 W are 0.3 W: |ρ| = √(0.3/40).
    const rho = Math.sqrt(0.3 / 40)
    expect(choice.blindSwr).toBeCloseTo((1 + rho) / (1 - rho), 9)
    expect(chooseRange(needle, 900, { mode: 'FM' }, 1.5).forwardRangeW).toBeNull()
  })
})

describe('through-line meter', () => {
  test('100 W forward and 4 W back', () => {
    const { rho, swr, returnLossDb, returned, net, mismatchLossDb } = throughLine(
      { forwardW: 100, reflectedW: 4 },
      perfect,
    )
    expect(rho).toBeCloseTo(0.2, 12)
    expect(swr.value).toBeCloseTo(1.5, 12)
    expect(returnLossDb).toBeCloseTo(13.979, 3)
    expect(returned).toBeCloseTo(0.04, 12)
    expect(net.value).toBeCloseTo(96, 12)
    expect(mismatchLossDb).toBeCloseTo(0.177, 3)
  })

  test('a directivity of 20 dB leaves |ρ| 0.2 between 0.1 and 0.3', () => {
    const result = throughLine({ forwardW: 100, reflectedW: 4 }, { ...perfect, directivityDb: 20 })
    expect(result.swrRange.low).toBeCloseTo(1.1 / 0.9, 9)
    expect(result.swrRange.high).toBeCloseTo(1.3 / 0.7, 9)
    expect(result.bestSwrSeen).toBeCloseTo(1.1 / 0.9, 9)
    expect(result.swr.because[0]!.name).toBe('directivity')
  })

  test.each([
    [{ forwardW: 0, reflectedW: 0 }, 'forwardW'],
    [{ forwardW: 10, reflectedW: 12 }, 'reflectedW'],
    [{ forwardW: 10, reflectedW: -1 }, 'reflectedW'],
    [{ forwardW: NaN, reflectedW: 1 }, 'forwardW'],
  ])('%j is refused at its place', (powers, place) => {
    const error = caught(() => throughLine(powers, perfect))
    expect(error.path).toEqual([place])
  })
})

describe('loss of a cable', () => {
  test('by substitution: half the power is 3.01 dB, on 50 m 6.02 dB per 100 m', () => {
    const [result] = substitution({
      meter: perfect,
      points: [{ frequencyHz: 7e6, directW: 100, throughW: 50 }],
      lengthM: 50,
    })
    expect(result!.lossDb.value).toBeCloseTo(3.0103, 4)
    expect(result!.dbPer100m).toBeCloseTo(6.0206, 4)
    expect(result!.blindDb).toBe(0)
  })

  test('a needle of 5 % of full scale cannot show 0.2 dB', () => {
    const sheet = { meter: needle, points: [{ frequencyHz: 7e6, directW: 45, throughW: 43 }] }
    const [apart] = substitution(sheet)
    expect(apart!.lossDb.low).toBeLessThan(0)
    // On one range of one meter most of that error is shared, and goes.
    const [together] = substitution({ ...sheet, sharedError: true })
    expect(together!.blindDb).toBeLessThan(apart!.blindDb / 2)
  })

  test('nothing through names the place', () => {
    const points = [
      { frequencyHz: 7e6, directW: 10, throughW: 5 },
      { frequencyHz: 14e6, directW: 10, throughW: 0 },
    ]
    expect(caught(() => substitution({ meter: perfect, points })).path).toEqual([
      'points',
      1,
      'throughW',
    ])
  })

  test('simulated readings give the cable back, by substitution and from both ends', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 1, max: 80, noNaN: true }),
        fc.double({ min: 2e6, max: 400e6, noNaN: true }),
        (lengthM, hz) => {
          const line: Stage = { kind: 'line', lengthM, cable }
          const load = { rOhm: 50, xOhm: 0 }
          const without = planes([], load, hz).at(-1)!
          const [near, far] = planes([line], load, hz) as [typeof without, typeof without]
          const truth = matchedLossDb(lineConstants(cable, hz), lengthM)
          const [direct] = substitution({
            meter: perfect,
            points: [{ frequencyHz: hz, directW: without.netW, throughW: far.netW }],
          })
          expect(direct!.lossDb.value).toBeCloseTo(truth, 1)
          const ends = bothEnds({ ...near, meter: perfect }, { ...far, meter: perfect })
          expect(ends.lossDb.value).toBeCloseTo(truth, 1)
          expect(ends.matchedDb.value).toBeCloseTo(truth, 1)
        },
      ),
      { numRuns: 60 },
    )
  })

  test('from both ends of a mismatched line the net powers tell what it really took', () => {
    const line: Stage = { kind: 'line', lengthM: 30, cable }
    const [near, far] = planes([line], { rOhm: 150, xOhm: 40 }, 20e6)
    const ends = bothEnds({ ...near!, meter: perfect }, { ...far!, meter: perfect })
    expect(ends.lossDb.value).toBeCloseTo(10 * Math.log10(near!.netW / far!.netW), 9)
    expect(ends.lossDb.value).toBeGreaterThan(ends.matchedDb.value)
    expect(
      caught(() =>
        bothEnds({ ...near!, meter: perfect }, { forwardW: 1, reflectedW: 2, meter: perfect }),
      ).path,
    ).toEqual(['far', 'reflectedW'])
  })

  test('from one end, open and shorted: half of the return loss', () => {
    const lengthM = 42
    const hz = 30e6
    const line: Stage = { kind: 'line', lengthM, cable }
    const seen = (load: { rOhm: number; xOhm: number }) => {
      const plane = planes([line], load, hz)[0]!
      return 10 * Math.log10(plane.forwardW / plane.reflectedW)
    }
    const [result] = onePort({
      points: [
        {
          frequencyHz: hz,
          openDb: seen({ rOhm: 1e9, xOhm: 0 }),
          shortDb: seen({ rOhm: 1e-9, xOhm: 0 }),
        },
      ],
      accuracyDb: 0,
      directivityDb: Infinity,
      lengthM,
    })
    expect(result!.lossDb.value).toBeCloseTo(matchedLossDb(lineConstants(cable, hz), lengthM), 2)
    const worse = onePort({
      points: [{ frequencyHz: hz, openDb: 20 }],
      accuracyDb: 0.5,
      directivityDb: 30,
    })[0]!.lossDb
    expect(worse.value).toBeCloseTo(10, 12)
    expect(worse.low).toBeLessThan(10)
    expect(worse.because.map(({ name }) => name)).toContain('directivity')
    const none = { points: [{ frequencyHz: hz }], accuracyDb: 0, directivityDb: 40 }
    expect(caught(() => onePort(none)).path).toEqual(['points', 0, 'openDb'])
    // What the leak adds to the open end it takes from the shorted one.
    const width = (ends: object) => {
      const [one] = onePort({
        points: [{ frequencyHz: hz, ...ends }],
        accuracyDb: 0,
        directivityDb: 30,
      })
      return one!.lossDb.high - one!.lossDb.low
    }
    expect(width({ openDb: 6, shortDb: 6 })).toBeLessThan(width({ openDb: 6 }) / 5)
  })

  test('new, aged, or to be replaced; never more than the reading can tell', () => {
    const around = (value: number, reach: number) => ({
      value,
      median: value,
      low: value - reach,
      high: value + reach,
    })
    expect(judgeCable(around(1, 0.05), 1).verdict).toBe('as new')
    expect(judgeCable(around(1.3, 0.1), 1).verdict).toBe('aged')
    expect(judgeCable(around(2, 0.1), 1)).toMatchObject({
      verdict: 'replace',
      factor: 2,
      excessDb: 1,
    })
    expect(judgeCable(around(0.5, 0.1), 1).verdict).toBe('too good')
    expect(judgeCable(around(1.2, 0.8), 1).verdict).toBe('cannot tell')
    expect(sinceLastTime(around(1.4, 0.1), around(1, 0.1))).toMatchObject({ real: true })
    expect(sinceLastTime(around(1.1, 0.1), around(1, 0.1)).real).toBe(false)
  })
})

describe('length of a line', () => {
  test('an open line of 10 m that dips at 4.95 MHz has a velocity factor of 0.66', () => {
    const factor = velocityFactor(exactly(10), exactly(4.9466e6), 1, 'open')
    expect(factor.value).toBeCloseTo(0.66, 4)
    expect(firstDipHz(10, 0.66, 'open')).toBeCloseTo(4.9466e6, -3)
    expect(firstDipHz(10, 0.66, 'shorted')).toBeCloseTo(2 * 4.9466e6, -3)
    expect(electricalLength(10, 0.66, 4.9466e6).degrees).toBeCloseTo(90, 2)
  })

  test('the solver dips where the reduction says', () => {
    const lengthM = 17
    const line: Stage = {
      kind: 'line',
      lengthM,
      cable: { ...cable, k1DbPer100m: 0.01, k2DbPer100m: 0 },
    }
    const dip = 3 * firstDipHz(lengthM, cable.velocityFactor, 'open')
    const sizeAt = (hz: number) => {
      const { re, im } = planes([line], { rOhm: 1e9, xOhm: 0 }, hz)[0]!.impedanceOhm
      return Math.hypot(re, im)
    }
    expect(sizeAt(dip)).toBeLessThan(sizeAt(dip * 0.99))
    expect(sizeAt(dip)).toBeLessThan(sizeAt(dip * 1.01))
    expect(velocityFactor(exactly(lengthM), exactly(dip), 3, 'open').value).toBeCloseTo(0.66, 9)
  })

  test('even and odd, and faster than light', () => {
    expect(caught(() => velocityFactor(exactly(10), exactly(5e6), 2, 'open')).path).toEqual([
      'quarterWaves',
    ])
    expect(caught(() => velocityFactor(exactly(10), exactly(15e6), 1, 'open')).path).toEqual([
      'dipHz',
    ])
  })

  test('dips 5 MHz apart on a line of 0.66: 19.8 m', () => {
    const distance = distanceToFault({ value: 0.66, doubt: 0.01 }, { value: 5e6, doubt: 0.05e6 })
    expect(distance.value).toBeCloseTo(19.786, 3)
    expect(distance.low).toBeLessThan(19.6)
    expect(distance.high).toBeGreaterThan(20)
  })
})

describe('two meters, a probe, a load', () => {
  test('meters that can both be right, and meters that cannot', () => {
    const result = twoMeters(needle, needle, [
      { firstW: 40, secondW: 42 },
      { firstW: 20, secondW: 30 },
    ])
    expect(result.pairs.map(({ agree }) => agree)).toEqual([true, false])
    expect(result.agree).toBe(false)
    expect(result.pairs[1]!.db.value).toBeCloseTo(1.761, 3)
    expect(result.slopeDb).toBeCloseTo(0.2119 - 1.7609, 3)
    expect(caught(() => twoMeters(needle, needle, [{ firstW: 1, secondW: 0 }])).path).toEqual([
      'pairs',
      0,
      'secondW',
    ])
  })

  test('9.4 V behind a divider by ten and a drop of 6 V across 50 Ω: 100 W', () => {
    const { watts, peakV, rmsV } = probePower({
      volts: { value: 9.4, doubt: 0.05 },
      divider: exactly(10),
      diodeV: { value: 6, doubt: 1 },
      ohm: { value: 50, doubt: 0.5 },
    })
    expect(peakV).toBeCloseTo(100, 12)
    expect(rmsV).toBeCloseTo(70.71, 2)
    expect(watts.value).toBeCloseTo(100, 12)
    expect(watts.because[0]!.name).toBe('diode drop')
  })

  test('twenty resistors of 1 kΩ are 50 Ω, good until their strays speak', () => {
    const load = {
      count: 20,
      ohmEach: 1000,
      wattsEach: 3,
      strayInductanceH: 20e-9,
      strayCapacitanceF: 0,
    }
    const result = builtLoad(load, 1.5)
    expect(result.ohm).toBe(50)
    expect(result.swrAtDc).toBe(1)
    expect(result.watts).toBe(60)
    expect(result.volts).toBeCloseTo(54.77, 2)
    expect(result.swrAt(result.usableToHz!)).toBeCloseTo(1.5, 6)
    expect(builtLoad({ ...load, measuredOhm: 55 }, 1.5).offShare).toBeCloseTo(0.1, 12)
    expect(builtLoad({ ...load, measuredOhm: 120 }, 1.5).usableToHz).toBeNull()
  })
})

describe('converter', () => {
  test('100 W on 50 Ω', () => {
    const level = levelOf(100, 'watts')
    expect(level.dbm).toBeCloseTo(50, 12)
    expect(level.dbw).toBeCloseTo(20, 12)
    expect(level.rmsV).toBeCloseTo(70.71, 2)
    expect(level.peakV).toBeCloseTo(100, 9)
    expect(level.peakToPeakV).toBeCloseTo(200, 9)
  })

  test('every figure leads back to every other', () => {
    const watts = fc.double({ min: 1e-9, max: 1e5, noNaN: true })
    fc.assert(
      fc.property(watts, (w) => {
        const level = levelOf(w, 'watts')
        for (const unit of levelUnits)
          expect(levelOf(level[unit], unit).watts / w).toBeCloseTo(1, 9)
      }),
    )
    fc.assert(
      fc.property(fc.double({ min: 0.001, max: 0.999, noNaN: true }), (rho) => {
        const match = matchOf(rho, 'rho')
        for (const unit of matchUnits) expect(matchOf(match[unit], unit).rho).toBeCloseTo(rho, 9)
      }),
    )
  })

  test('S9 is −73 dBm under 30 MHz and −93 dBm above; S1 is 48 dB less', () => {
    expect(sUnitsOf(-73, 7e6)).toEqual({ s: 9, over9Db: 0 })
    expect(sUnitsOf(-121, 7e6).s).toBe(1)
    expect(sUnitsOf(-73, 145e6)).toEqual({ s: 9, over9Db: 20 })
    expect(dbmOfS(9, 20, 145e6)).toBe(-73)
  })

  test('an SWR under 1 is refused in words', () => {
    expect(caught(() => matchOf(0.5, 'swr')).message).toMatch(/1 or more/)
    expect(caught(() => levelOf(0, 'watts')).path).toEqual(['watts'])
  })
})

function caught(run: () => unknown): InputError {
  try {
    run()
  } catch (error) {
    if (error instanceof InputError) return error
    throw error
  }
  throw new Error('nothing was thrown')
}
