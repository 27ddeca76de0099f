import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import {
  foldbackAt,
  formatPower,
  formatSwr,
  wattsToDbm,
  significant,
  solveChain,
  answerChain,
  sweepBand,
  parseQuantity,
} from '../src/index.ts'
import { ratioToDb, dbToRatio, dbmToWatts } from '../src/units/decibel.ts'
import { emptyLineConstants, lineConstants, matchedLossDb } from '../src/line/constants.ts'
import { lineProfiles, maximumOf, profileAt } from '../src/line/standingWave.ts'
import { hyperbolic, newAbcd, reactanceAt, sinCos } from '../src/stages/twoPort.ts'
import { writeStage } from '../src/stages/stage.ts'
import * as arb from './arbitrary.ts'

const between = (min: number, max: number) => fc.double({ min, max, noNaN: true })

describe('the largest value along a line', () => {
  const profile = fc.record({
    growing: between(0, 100),
    falling: between(0, 100),
    share: between(0, 1),
    phaseRad: between(-Math.PI, Math.PI),
    alpha: between(0, 0.05),
    beta: between(0.02, 5),
  })

  test('is not beaten by any of 4 001 samples, and is taken where it is said to be', () => {
    fc.assert(
      fc.property(profile, between(0.1, 60), ({ share, ...rest }, lengthM) => {
        const p = {
          ...rest,
          originM: 0,
          ripple: 2 * share * Math.sqrt(rest.growing * rest.falling),
        }
        const { value, fromLoadM } = maximumOf(p, lengthM)
        expect(profileAt(p, fromLoadM)).toBeCloseTo(value, 9)
        expect(fromLoadM).toBeGreaterThanOrEqual(0)
        expect(fromLoadM).toBeLessThanOrEqual(lengthM + 1e-9)
        let most = 0
        for (let i = 0; i <= 4000; i++) most = Math.max(most, profileAt(p, (lengthM * i) / 4000))
        expect(most).toBeLessThanOrEqual(value * (1 + 1e-6) + 1e-12)
      }),
      { numRuns: 60 },
    )
  })

  test('heat is R·|I|² + G·|V|², and power falls by just the heat between two places', () => {
    const line = lineConstants(
      { z0Ohm: 50, velocityFactor: 0.66, k1DbPer100m: 2, k2DbPer100m: 0.01 },
      30e6,
    )
    const p = lineProfiles(line, { vRe: 80, vIm: 10, iRe: 0.4, iIm: -0.9 })
    for (const x of [0, 1.3, 4.4]) {
      const heat =
        line.rPerM * profileAt(p.currentSquared, x) + line.gPerM * profileAt(p.voltageSquared, x)
      expect(profileAt(p.heatPerM, x)).toBeCloseTo(heat, 9)
    }
    let heat = 0
    const steps = 20_000
    for (let i = 0; i < steps; i++)
      heat += (profileAt(p.heatPerM, ((i + 0.5) / steps) * 5) * 5) / steps
    expect(p.netW(5) - p.netW(0)).toBeCloseTo(heat, 5)
  })
})

describe('the line’s constants', () => {
  test('a line without loss has γ = jω/v and a real Zc', () => {
    const c = lineConstants(
      { z0Ohm: 50, velocityFactor: 0.8, k1DbPer100m: 0, k2DbPer100m: 0 },
      10e6,
    )
    expect(c.alpha).toBe(0)
    expect(c.beta).toBeCloseTo((2 * Math.PI * 10e6) / (0.8 * 299_792_458), 12)
    expect([c.zcRe, c.zcIm]).toEqual([expect.closeTo(50, 9), expect.closeTo(0, 9)])
  })

  test('on a good line α is what the data sheet says, on thin cable at low HF less', () => {
    const good = { z0Ohm: 50, velocityFactor: 0.85, k1DbPer100m: 0.2, k2DbPer100m: 0.0005 }
    expect(matchedLossDb(lineConstants(good, 100e6), 100)).toBeCloseTo(0.2 * 10 + 0.05, 2)
    const thin = { z0Ohm: 50, velocityFactor: 0.66, k1DbPer100m: 3, k2DbPer100m: 0 }
    const db = matchedLossDb(lineConstants(thin, 1.8e6), 100)
    expect(db).toBeLessThan(0.99 * 3 * Math.sqrt(1.8))
  })

  test('are written into what is given, for hot loops', () => {
    const out = emptyLineConstants()
    expect(
      lineConstants({ z0Ohm: 75, velocityFactor: 0.8, k1DbPer100m: 1, k2DbPer100m: 0 }, 1e6, out),
    ).toBe(out)
  })
})

describe('two-ports', () => {
  test('every reciprocal stage has determinant 1', () => {
    fc.assert(
      fc.property(arb.stage, between(1e6, 1e9), (stage, hz) => {
        // An isolator is the one that is not: it lets nothing back.
        fc.pre(stage.kind !== 'isolator')
        const m = newAbcd()
        writeStage(stage, hz, 50, m)
        const [a, b, c, d] = [0, 2, 4, 6].map((o) => ({ re: m[o]!, im: m[o + 1]! })) as [
          never,
          never,
          never,
          never,
        ]
        const det = (p: { re: number; im: number }, q: { re: number; im: number }) => ({
          re: p.re * q.re - p.im * q.im,
          im: p.re * q.im + p.im * q.re,
        })
        const [ad, bc] = [det(a, d), det(b, c)]
        const size = Math.max(1, Math.hypot(ad.re, ad.im))
        expect(Math.abs(ad.re - bc.re - 1) / size).toBeLessThan(1e-9)
        expect(Math.abs(ad.im - bc.im) / size).toBeLessThan(1e-9)
      }),
    )
  })

  test('one exponential gives cosh and sinh, also of very little', () => {
    const out = new Float64Array(2)
    for (const x of [0, 1e-12, 1e-6, 0.3, 4, 19.9, 20.1, 30, 300]) {
      const scale = Math.exp(hyperbolic(x, out))
      expect((out[0]! * scale) / Math.cosh(x)).toBeCloseTo(1, 13)
      if (x > 0) expect((out[1]! * scale) / Math.sinh(x)).toBeCloseTo(1, 13)
    }
  })

  test('sine and cosine at once, to the last digit, in every quarter and far out', () => {
    const out = new Float64Array(2)
    fc.assert(
      fc.property(fc.double({ min: -3e5, max: 3e5, noNaN: true }), (x) => {
        sinCos(x, out)
        return Math.abs(out[0]! - Math.sin(x)) < 3e-16 && Math.abs(out[1]! - Math.cos(x)) < 3e-16
      }),
      { numRuns: 3000 },
    )
    for (const [x, sin, cos] of [
      [0, 0, 1],
      [Math.PI / 6, 0.5, Math.sqrt(0.75)],
    ] as const) {
      sinCos(x, out)
      expect(out[0]).toBeCloseTo(sin, 15)
      expect(out[1]).toBeCloseTo(cos, 15)
    }
    sinCos(NaN, out)
    expect([...out]).toEqual([NaN, NaN])
  })

  test('a coil’s reactance grows with frequency, a capacitor’s falls', () => {
    expect(reactanceAt(100, 4e6, 8e6)).toBe(200)
    expect(reactanceAt(-100, 4e6, 8e6)).toBe(-50)
    expect(reactanceAt(-100, undefined, 8e6)).toBe(-100)
  })
})

describe('foldback', () => {
  const curve = [
    [1.5, 1],
    [3, 0.5],
    [10, 0.1],
  ] as const
  test.each([
    [1, 1],
    [1.5, 1],
    [2.25, 0.75],
    [3, 0.5],
    [6.5, 0.3],
    [10, 0.1],
    [Infinity, 0.1],
  ])('at SWR %d leaves %d', (swr, fraction) => {
    expect(foldbackAt(curve, swr)).toBeCloseTo(fraction, 12)
  })
  test('without a curve there is none', () => {
    expect(foldbackAt([], 50)).toBe(1)
  })
})

describe('where only the SWR is known', () => {
  test('any phase lies inside the stated range, at every plane', () => {
    const stages = fc.array(arb.stage, { maxLength: 4 })
    fc.assert(
      fc.property(
        stages,
        between(1, 10),
        between(0, 6.28),
        arb.operatingPoint,
        (list, swr, phase, at) => {
          const chain = {
            transmitter: { behaviour: 'levelled' as const, foldback: [] },
            stages: list,
            load: { kind: 'swr' as const, swr },
          }
          const { spread } = answerChain(chain, at)
          const one = solveChain(chain, at, phase)
          const slack = 0.003 * (spread!.antennaW.high - spread!.antennaW.low) + 1e-9 * at.powerW
          expect(one.antennaW).toBeGreaterThan(spread!.antennaW.low - slack)
          expect(one.antennaW).toBeLessThan(spread!.antennaW.high + slack)
        },
      ),
      { numRuns: 60 },
    )
  })

  test('a band sweep and single answers agree at every frequency', () => {
    fc.assert(
      fc.property(arb.chain, between(1.6e6, 300e6), between(1, 500), (chain, hz, powerW) => {
        const band = sweepBand(chain, Float64Array.of(hz), powerW)
        const { antennaW } = solveChain(chain, { frequencyHz: hz, powerW })
        expect(Math.abs(band.antennaW[0]! - antennaW)).toBeLessThanOrEqual(1e-9 * powerW)
      }),
    )
  })
})

describe('numbers in and out', () => {
  test('dB and dBm undo themselves', () => {
    fc.assert(
      fc.property(between(1e-9, 1e6), (watts) => {
        expect(dbToRatio(ratioToDb(watts)) / watts).toBeCloseTo(1, 9)
        expect(dbmToWatts(wattsToDbm(watts)) / watts).toBeCloseTo(1, 9)
      }),
    )
  })

  test('a power that was shown reads back within its last digit', () => {
    fc.assert(
      fc.property(between(0.001, 5000), (watts) => {
        const parsed = parseQuantity(formatPower(watts), 'power', 'W')
        expect(parsed.ok && Math.abs(parsed.value / watts - 1)).toBeLessThan(0.06)
      }),
    )
  })

  test('significant digits are kept over ten decades, without an exponent', () => {
    fc.assert(
      fc.property(between(1e-5, 1e5), fc.integer({ min: 1, max: 6 }), (value, digits) => {
        const text = significant(value, digits)
        expect(text).not.toMatch(/e/i)
        expect(Math.abs(Number(text) / value - 1)).toBeLessThanOrEqual(0.51 * 10 ** (1 - digits))
      }),
    )
  })

  test('SWR never shows more than it can know', () => {
    expect([1, 1.005, 9.99, 12.34, 54.1, 99.6, 1158.8, 20_000].map(formatSwr)).toEqual([
      '1.00',
      '1.00',
      '9.99',
      '12.3',
      '54.1',
      '100',
      '1159',
      '∞',
    ])
  })
})
