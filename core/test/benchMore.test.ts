import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { calibrate, correctedW } from '../src/bench/calibration.ts'
import { closedBox, heatPath } from '../src/bench/heatPath.ts'
import { compareLeads } from '../src/bench/leads.ts'
import { modulationDepth } from '../src/bench/modulation.ts'
import { cableClasses, usualMeter } from '../src/index.ts'

const digital = {
  kind: 'peak' as const,
  rangesW: [],
  accuracy: 0.02,
  accuracyOf: 'reading' as const,
}
const pe5 = cableClasses.find(({ id }) => id === 'pe-5')!

describe('leads compared', () => {
  const lead = (name: string, lengthM: number, lossDb: number, cable?: typeof pe5) => ({
    name,
    lengthM,
    frequencyHz: 28e6,
    referenceW: 50,
    watts: 50 * 10 ** (-lossDb / 10),
    cable,
  })
  test('two metres that lose what seven should are named', () => {
    const [good, bad] = compareLeads(digital, [
      lead('good', 7, 0.57, pe5),
      lead('bad', 2, 0.57, pe5),
    ])
    expect(good!.odd).toBe(false)
    expect(bad!.odd).toBe(true)
    expect(bad!.likeM).toBeCloseTo(good!.likeM!, 9)
    expect(bad!.likeM).toBeGreaterThan(6)
  })
  test('without a class the others say what is usual', () => {
    const all = compareLeads(digital, [
      lead('a', 10, 1),
      lead('b', 10, 1.1),
      lead('c', 5, 0.5),
      lead('d', 5, 2),
    ])
    expect(all.map(({ odd }) => odd)).toEqual([false, false, false, true])
    expect(all[3]!.expectedDb).toBeCloseTo(0.5, 9)
  })
  test('what the meter cannot tell is not held against a lead', () => {
    const [one] = compareLeads(usualMeter, [lead('short', 1, 0.15, pe5)])
    expect(one!.odd).toBe(false)
  })
})

describe('a meter calibrated', () => {
  test('by hand: 10 % high at 50 W, 8 % at 100, half of it in between on the logarithm', () => {
    const { points } = calibrate(
      [
        { shownW: 100, trueW: 92 },
        { shownW: 50, trueW: 45 },
      ],
      digital,
    )
    expect(points).toEqual([
      [50, 45],
      [100, 92],
    ])
    expect(correctedW(points, Math.sqrt(5000))).toBeCloseTo(Math.sqrt(5000) * 0.91, 9)
    expect(correctedW(points, 10)).toBeCloseTo(9, 9)
    expect(correctedW(points, 200)).toBeCloseTo(184, 9)
  })
  test('repeated readings widen what is left by their scatter', () => {
    const once = calibrate([{ shownW: 100, trueW: 95 }], digital)
    expect(once.doubt).toBeCloseTo(0.02, 9)
    const often = calibrate(
      [92, 95, 98, 94, 96].map((trueW) => ({ shownW: 100, trueW })),
      digital,
    )
    expect(often.points[0]![1]).toBeCloseTo(95, 9)
    expect(often.doubt).toBeGreaterThan(0.03)
  })
  test('gives back at its points what was true there, and rises where the truth does', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.double({ min: 1, max: 1000, noNaN: true }), {
          minLength: 1,
          maxLength: 6,
          selector: (watts) => Math.round(Math.log(watts) * 20),
        }),
        fc.double({ min: 0.7, max: 1.4, noNaN: true }),
        (shown, factor) => {
          const { points } = calibrate(
            shown.map((shownW) => ({ shownW, trueW: shownW * factor })),
            digital,
          )
          for (const [shownW, trueW] of points)
            expect(correctedW(points, shownW)).toBeCloseTo(trueW, 6)
          expect(correctedW(points, 123)).toBeCloseTo(123 * factor, 6)
        },
      ),
    )
  })
})

describe('amplitude modulation', () => {
  test('four times the carrier is full depth, and averages half as much again', () => {
    const { depth, averageW } = modulationDepth(25, 100, digital)
    expect(depth.value).toBeCloseTo(1, 9)
    expect(averageW).toBeCloseTo(37.5, 9)
  })
  test('what is less than the carrier is no peak', () => {
    expect(() => modulationDepth(25, 20, digital)).toThrow('never less than the carrier')
  })
  test('a needle needs a carrier that it can resolve', () => {
    const { leastCarrierW } = modulationDepth(25, 100, usualMeter)
    expect(leastCarrierW).toBeGreaterThan(2)
    expect(modulationDepth(25, 100, digital).leastCarrierW).toBe(0)
  })
})

describe('heat', () => {
  test('by hand: 100 W printed, 125 K over 2.5 K/W are 50 W', () => {
    const one = heatPath({
      count: 1,
      wattsEach: 100,
      maxC: 150,
      ambientC: 25,
      junctionCase: 1,
      caseSink: 0.5,
      sinkAir: 1,
    })
    expect(one).toMatchObject({ continuousW: 50, limitedBy: 'heat', printedW: 100 })
    expect(one.temperatureC(50)).toBe(150)
  })
  test('a large printed rating in a small closed box takes a fraction', () => {
    // A box of 10 × 6 × 4 cm has 248 cm²: twelve resistors of 50 W in it.
    const boxed = heatPath({
      count: 12,
      wattsEach: 50,
      maxC: 155,
      ambientC: 25,
      junctionCase: 2.5,
      caseSink: 0.5,
      sinkAir: closedBox(248),
      capacity: 0.9 * 300,
    })
    expect(boxed.continuousW).toBeGreaterThan(35)
    expect(boxed.continuousW).toBeLessThan(45)
    // Cold it takes more for a while: warmed by 63 % after one time constant.
    const tau = boxed.timeConstantS!
    const rise = boxed.temperatureC(boxed.continuousW, tau / 60) - 25
    expect(rise).toBeGreaterThan(0.63 * 125 * 0.9)
    expect(rise).toBeLessThan(125)
  })
  test('never more than is printed', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 40 }),
        fc.double({ min: 0.5, max: 250, noNaN: true }),
        fc.double({ min: 0.01, max: 20, noNaN: true }),
        (count, wattsEach, sinkAir) => {
          const { continuousW, printedW } = heatPath({
            count,
            wattsEach,
            maxC: 150,
            ambientC: 30,
            junctionCase: 2,
            caseSink: 0.3,
            sinkAir,
          })
          expect(continuousW).toBeLessThanOrEqual(printedW)
        },
      ),
    )
  })
})
