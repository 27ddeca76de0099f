import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import {
  complex,
  deembed,
  frequencyGrid,
  magnitude,
  reflectionAt,
  solveChain,
  sweepBand,
  swrOf,
  usableBands,
} from '../src/index.ts'
import { fitResonator, type ResonatorLoad } from '../src/load/resonator.ts'
import * as arb from './arbitrary.ts'

const resonator: ResonatorLoad = { kind: 'resonator', resonanceHz: 7.1e6, rOhm: 62, q: 14 }
const swr = (load: ResonatorLoad, hz: number) => swrOf(magnitude(reflectionAt(load, hz, 50)))

describe('a resonator', () => {
  test('is R at resonance, and R + jR·Q·(f/f₀ − f₀/f) beside it', () => {
    expect(swr(resonator, 7.1e6)).toBeCloseTo(62 / 50, 9)
    const r = solveChain(
      { transmitter: { behaviour: 'levelled', foldback: [] }, stages: [], load: resonator },
      { frequencyHz: 7.2e6, powerW: 1 },
    ).planes[0]!.impedanceOhm
    expect(r.re).toBeCloseTo(62, 6)
    expect(r.im).toBeCloseTo(62 * 14 * (7.2 / 7.1 - 7.1 / 7.2), 6)
  })

  test('three readings are enough to answer for the band edges', () => {
    const readings = [7.0e6, 7.1e6, 7.2e6].map((frequencyHz) => ({
      frequencyHz,
      swr: swr(resonator, frequencyHz),
    }))
    const fit = fitResonator(readings, 50)
    expect(fit.rms).toBeLessThan(1e-3)
    for (const hz of [6.95e6, 7.05e6, 7.25e6]) {
      const { low, high } = fit.rangeAt(hz)
      expect(low).toBeLessThan(swr(resonator, hz))
      expect(high).toBeGreaterThan(swr(resonator, hz))
      expect(high / low).toBeLessThan(1.5)
    }
  })

  test('what the meter’s scatter leaves open is inside the range it states', () => {
    // Readings off by up to 3 %: a fit must not claim to know the edges better than that.
    const noise = fc.array(fc.double({ min: -0.03, max: 0.03, noNaN: true }), {
      minLength: 5,
      maxLength: 5,
    })
    fc.assert(
      fc.property(noise, (e) => {
        const readings = [7.0, 7.05, 7.1, 7.15, 7.2].map((mhz, i) => ({
          frequencyHz: mhz * 1e6,
          swr: Math.max(1, swr(resonator, mhz * 1e6) * (1 + e[i]!)),
        }))
        const { low, high } = fitResonator(readings, 50).rangeAt(7.18e6)
        expect(low).toBeLessThan(swr(resonator, 7.18e6))
        expect(high).toBeGreaterThan(swr(resonator, 7.18e6))
      }),
      { numRuns: 12 },
    )
  })

  test.each([
    [
      [
        { frequencyHz: 7e6, swr: 2 },
        { frequencyHz: 7.1e6, swr: 1.2 },
      ],
      /Three readings/,
    ],
    [
      [
        { frequencyHz: 7e6, swr: 0.5 },
        { frequencyHz: 7.1e6, swr: 1 },
        { frequencyHz: 7.2e6, swr: 1 },
      ],
      /Reading 1/,
    ],
  ])('%j is refused', (readings, words) => {
    expect(() => fitResonator(readings, 50)).toThrow(words)
  })
})

test('ten resistors of 500 Ω are 50 Ω at HF, and worse at UHF by their strays', () => {
  const load = {
    kind: 'resistors' as const,
    ohmEach: 500,
    count: 10,
    strayInductanceH: 8e-9,
    strayCapacitanceF: 2e-12,
  }
  const at = (hz: number) => swrOf(magnitude(reflectionAt(load, hz, 50)))
  expect(at(1e6)).toBeCloseTo(1, 2)
  expect(at(144e6)).toBeLessThan(1.3)
  expect(at(1e9)).toBeGreaterThan(1.5)
  // With L = R²·C and small strays the two cancel at first order.
  const balanced = { ...load, strayInductanceH: 5e-9, strayCapacitanceF: 2e-12 }
  expect(swrOf(magnitude(reflectionAt(balanced, 144e6, 50)))).toBeLessThan(at(144e6))
})

test('a band sweep follows a load that changes with frequency', () => {
  const chain = {
    transmitter: { behaviour: 'levelled' as const, foldback: [] },
    stages: [],
    load: resonator,
  }
  const band = sweepBand(chain, Float64Array.of(7e6, 7.1e6, 7.2e6), 100)
  ;[7e6, 7.1e6, 7.2e6].forEach((hz, i) =>
    expect(band.swrAtAntenna[i]).toBeCloseTo(swr(resonator, hz), 9),
  )
})

describe('de-embedding', () => {
  test('gives back the load, whatever lies between', () => {
    fc.assert(
      fc.property(arb.chain, arb.operatingPoint, (chain, at) => {
        const solution = solveChain(chain, at)
        // Through tens of dB the measurement itself has lost the load.
        fc.pre(solution.chainLossDb < 40 && magnitude(solution.planes[0]!.reflection) < 0.9999)
        const { reflection } = deembed(
          chain.stages,
          at.frequencyHz,
          50,
          solution.planes[0]!.reflection,
        )
        const want = solution.planes.at(-1)!.reflection
        expect(Math.hypot(reflection.re - want.re, reflection.im - want.im)).toBeLessThan(1e-5)
      }),
    )
  })

  test('a reading that the cable forbids is a contradiction, not an answer', () => {
    const pad = { kind: 'pad' as const, lossDb: 3 }
    expect(deembed([pad], 1e7, 50, complex(0.6)).possible).toBe(false)
    expect(deembed([pad], 1e7, 50, complex(0.4)).possible).toBe(true)
  })
})

describe('the usable band', () => {
  const grid = frequencyGrid(6.5e6, 7.7e6, 61)
  test('ends where the SWR reaches the limit', () => {
    const [band, ...more] = usableBands(resonator, grid, 2, 50)
    expect(more).toEqual([])
    expect(swr(resonator, band!.lowHz)).toBeCloseTo(2, 4)
    expect(swr(resonator, band!.highHz)).toBeCloseTo(2, 4)
    expect([band!.openLow, band!.openHigh]).toEqual([false, false])
  })
  test('says where the sweep ends first, and finds nothing where nothing is', () => {
    expect(usableBands(resonator, frequencyGrid(7.1e6, 7.7e6, 31), 2, 50)[0]!.openLow).toBe(true)
    expect(usableBands(resonator, grid, 1.1, 50)).toEqual([])
  })
})
