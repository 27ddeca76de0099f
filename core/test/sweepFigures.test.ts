import { describe, expect, test } from 'vitest'
import fc from 'fast-check'
import {
  alongLine,
  type Chain,
  expectedSweep,
  frequencyGrid,
  namedFigures,
  outsideOf,
  seeded,
  sweepChanges,
  sweepFigures,
  sweepRange,
  type AnalyserErrors,
  usualAnalyser,
  usualTolerances,
} from '../src/index.ts'
import { drawnChain, stationDraws } from '../src/chain/drawStation.ts'
import { foamLine, stationOf } from './stations.ts'

/** A series circuit of R, L and C on 50 Ω: what its reflection is, by hand. */
function resonator(hz: Float64Array, { atHz, q, rOhm }: { atHz: number; q: number; rOhm: number }) {
  const re = new Float64Array(hz.length)
  const im = new Float64Array(hz.length)
  hz.forEach((f, k) => {
    const x = rOhm * q * (f / atHz - atHz / f)
    const size = (rOhm + 50) ** 2 + x * x
    re[k] = (rOhm * rOhm - 2500 + x * x) / size
    im[k] = (100 * x) / size
  })
  return { frequencyHz: hz, re, im }
}
const grid = frequencyGrid(3e6, 8e6, 1001)

describe('a dip', () => {
  test('is found at its resonance, as deep and as wide as the circuit is, worked out by hand', () => {
    fc.assert(
      fc.property(
        fc.record({
          atHz: fc.double({ min: 4.5e6, max: 6.5e6, noNaN: true }),
          q: fc.double({ min: 4, max: 30, noNaN: true }),
          rOhm: fc.double({ min: 35, max: 75, noNaN: true }),
        }),
        ({ atHz, q, rOhm }) => {
          const { dips } = sweepFigures(resonator(grid, { atHz, q, rOhm }), null)
          expect(dips).toHaveLength(1)
          const [{ at, swr, bandwidthHz }] = dips as [(typeof dips)[0]]
          expect(Math.abs(at.value - atHz)).toBeLessThanOrEqual(5e3)
          expect(at.low).toBeLessThanOrEqual(atHz)
          expect(at.high).toBeGreaterThanOrEqual(atHz)
          const best = Math.max(rOhm / 50, 50 / rOhm)
          expect(swr.value).toBeCloseTo(best, 1)
          expect(swr.low).toBeLessThanOrEqual(best + 1e-3)
          expect(swr.high).toBeGreaterThanOrEqual(best - 1e-3)
          // SWR 2 is |ρ| = 1/3: (R − 50)² + X² = ((R + 50)² + X²)/9.
          const x = Math.sqrt(((rOhm + 50) ** 2 / 9 - (rOhm - 50) ** 2) / (8 / 9))
          // f/f₀ − f₀/f = ± x/(R·Q) are two roots whose distance is f₀·x/(R·Q).
          expect(Math.abs(bandwidthHz!.value - (atHz * x) / (rOhm * q))).toBeLessThan(8e3)
          expect(bandwidthHz!.low).toBeLessThanOrEqual(bandwidthHz!.value)
          expect(bandwidthHz!.high).toBeGreaterThanOrEqual(bandwidthHz!.value)
        },
      ),
      { numRuns: 200 },
    )
  })

  test('is none where noise ripples, nor where a sweep only falls', () => {
    const random = seeded(5)
    const flat = Float64Array.from(grid, () => 0.4 + 0.01 * random())
    const zero = new Float64Array(grid.length)
    expect(sweepFigures({ frequencyHz: grid, re: flat, im: zero }, null).dips).toEqual([])
    const falling = Float64Array.from(grid, (_, k) => 0.9 - 0.0008 * k)
    expect(sweepFigures({ frequencyHz: grid, re: falling, im: zero }, null).dips).toEqual([])
  })
})

describe('then and now', () => {
  const then = sweepFigures(resonator(grid, { atHz: 5e6, q: 12, rOhm: 55 }), null)
  test('nothing moved between a sweep and itself', () => {
    expect(sweepChanges(then, then).some(({ real }) => real)).toBe(false)
    expect(sweepChanges(then, then)).toHaveLength(namedFigures(then).length)
  })

  test('a resonance that moved is said by how much; one that is another dip is none', () => {
    const now = sweepFigures(resonator(grid, { atHz: 4.9e6, q: 12, rOhm: 55 }), null)
    const dip = sweepChanges(then, now).find(({ name }) => name === 'dip')!
    expect(dip).toMatchObject({ real: true })
    expect(dip.to - dip.from).toBeCloseTo(-100e3, -4)
    const far = sweepFigures(resonator(grid, { atHz: 6.2e6, q: 12, rOhm: 55 }), null)
    expect(sweepChanges(then, far)).toEqual([])
  })

  test('a line that loses more at its open end says so, one way', () => {
    const hz = frequencyGrid(10e6, 500e6, 401)
    const chain = stationOf([foamLine(40)])
    const worse = stationOf([{ kind: 'pad', lossDb: 0.6 }, foamLine(40)])
    const figuresOf = (seen: Chain) =>
      sweepFigures(
        expectedSweep(seen, 0, hz, 'open'),
        alongLine(chain, 0, expectedSweep(seen, 0, hz, 'open'), 'open'),
      )
    const [before, after] = [figuresOf(chain), figuresOf(worse)]
    expect(before.extraLossDb!.value).toBeCloseTo(0, 2)
    expect(after.extraLossDb!.value).toBeCloseTo(0.6, 1)
    expect(after.extraLossDb!.low).toBeLessThan(0.6)
    expect(after.extraLossDb!.high).toBeGreaterThan(0.6)
    expect(before.endM!.value).toBeCloseTo(40, 1)
    expect(sweepChanges(before, after)).toContainEqual(
      expect.objectContaining({ name: 'loss', real: true }),
    )
  })
})

describe('the range in which a sweep is as expected', () => {
  const hz = frequencyGrid(3e6, 20e6, 101)
  const chain = stationOf([foamLine(4), { kind: 'pad', lossDb: 0.1 }, foamLine(46)])
  const range = sweepRange(chain, 0, hz, 'antenna', usualTolerances)!

  test('holds nine in ten points of stations that are drawn apart from it, and as few are called wrong', () => {
    const at = [{ frequencyHz: hz[0]!, powerW: 100 }]
    const draw = stationDraws(chain, at, usualTolerances)
    const random = seeded(99)
    let inside = 0
    let wrong = 0
    const stations = 150
    for (let i = 0; i < stations; i++) {
      const drawn = drawnChain(chain, draw(random), 0)
      const { re, im } = expectedSweep(drawn, 0, hz, 'antenna')
      const rho = Float64Array.from(re, (part, k) => Math.hypot(part, im[k]!))
      rho.forEach((size, k) => {
        if (size >= range.low[k]! && size <= range.high[k]!) inside++
      })
      if (outsideOf(range, rho)) wrong++
    }
    expect(inside / (stations * hz.length)).toBeGreaterThan(0.86)
    expect(inside / (stations * hz.length)).toBeLessThan(0.97)
    expect(wrong / stations).toBeLessThan(0.25)
  })

  test('another antenna is outside, and where is said', () => {
    const other: Chain = { ...chain, load: { kind: 'fixed', rOhm: 200, xOhm: 0 } }
    const { re, im } = expectedSweep(other, 0, hz, 'antenna')
    const rho = Float64Array.from(re, (part, k) => Math.hypot(part, im[k]!))
    const outside = outsideOf(range, rho)!
    expect(outside.measured).toBeGreaterThan(outside.high)
    expect(outside.lowHz).toBeGreaterThanOrEqual(hz[0]!)
    expect(outside.highHz).toBeLessThanOrEqual(hz.at(-1)!)
  })

  test('a poor source match widens it where much comes back, and nowhere else', () => {
    const known = { length: 0, cable: 0, parts: 0, source: 0, reflection: 0 }
    const exact = { directivityDb: 100, sourceMatchDb: 100, noiseDb: 120 }
    const widest = (analyser: AnalyserErrors, end: 'open' | 'load') => {
      const { low, high } = sweepRange(chain, 0, hz, end, known, { analyser })!
      return Math.max(...high.map((value, k) => value - low[k]!))
    }
    const poor = { ...exact, sourceMatchDb: 20 }
    // By hand: S·ρ² of any angle, of which 5 to 95 % reach ±cos 9° of a tenth, where all comes back.
    expect(widest(poor, 'open')).toBeGreaterThan(0.1)
    expect(widest(poor, 'open')).toBeLessThan(0.2)
    expect(widest(poor, 'load')).toBeLessThan(0.01)
    expect(widest(exact, 'open')).toBeLessThan(0.01)
  })

  test('noise alone scatters each point by itself', () => {
    const known = { length: 0, cable: 0, parts: 0, source: 0, reflection: 0 }
    const noisy = { directivityDb: 100, sourceMatchDb: 100, noiseDb: 40 }
    const { low, high } = sweepRange(chain, 0, hz, 'open', known, { analyser: noisy, draws: 400 })!
    // 5 to 95 % of a deviation of 0.01: twice 1.645 of it.
    const mean = high.reduce((sum, value, k) => sum + value - low[k]!, 0) / high.length
    expect(mean).toBeCloseTo(2 * 1.645 * 0.01, 2)
  })

  test('is wider for an analyser of less directivity, and exact where everything is known', () => {
    const width = ({ low, high }: typeof range) =>
      high.reduce((sum, value, k) => sum + value - low[k]!, 0)
    const poor = sweepRange(chain, 0, hz, 'antenna', usualTolerances, {
      analyser: { ...usualAnalyser, directivityDb: 25 },
    })!
    expect(width(poor)).toBeGreaterThan(width(range))
    const known = { length: 0, cable: 0, parts: 0, source: 0, reflection: 0 }
    const sure = sweepRange(chain, 0, hz, 'antenna', known, {
      analyser: { directivityDb: 100, sourceMatchDb: 100, noiseDb: 120 },
    })!
    expect(width(sure)).toBeLessThan(0.01)
  })
})
