/** The prediction's own range: against the exact solver, and against chains drawn at random. */
import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import {
  type Chain,
  chainUncertainty,
  complex,
  impedanceOf,
  seeded,
  solveChain,
  usualTolerances,
} from '../src/index.ts'
import { normal } from '../src/statistics/random.ts'
import { reflectionOf } from '../src/load/reflection.ts'
import { foamLine as line, handTuner, knownExactly, stationOf as station } from './stations.ts'
import { fastWaves } from '../src/chain/fastWaves.ts'
import { stationDraws } from '../src/chain/drawStation.ts'

const plain = station([
  line(2),
  { kind: 'pad', lossDb: 0.2 },
  line(40),
  { kind: 'pad', lossDb: 0.1 },
])
const tuned = station([line(2), handTuner, line(40)])
const at = { frequencyHz: 8.3e6, powerW: 100 }

describe('fast solving', () => {
  test.each([
    ['without a tuner', plain, 1e-9],
    ['with a tuner set anew', tuned, 0.02],
  ])('%s agrees with the exact solver around the antenna', (_, chain, tolerance) => {
    const fast = fastWaves(chain, at)
    const own = reflectionOf(complex(80, 30), 50)
    for (const [dx, dy] of [
      [0, 0],
      [0.05, -0.04],
      [-0.06, 0.05],
    ] as const) {
      const rho = complex(own.re + dx, own.im + dy)
      const { forwardW, rho: sizes } = fast.solve(chain.stages, rho, 100)
      const z = impedanceOf(rho, 50)
      const { planes } = solveChain(
        { ...chain, load: { kind: 'fixed', rOhm: z.re, xOhm: z.im } },
        at,
      )
      planes.forEach(({ forwardW: truth, reflection }, k) => {
        expect(Math.abs(forwardW[k]! / truth - 1)).toBeLessThan(tolerance)
        expect(Math.abs(sizes[k]! - Math.hypot(reflection.re, reflection.im))).toBeLessThan(
          tolerance,
        )
      })
    }
  })
})

describe('the range of a prediction', () => {
  test('a chain that is known exactly has none', () => {
    const [one] = chainUncertainty(plain, [at], knownExactly, { draws: 50 })
    const { antennaW } = solveChain(plain, at)
    expect(one!.antennaW.low).toBeCloseTo(antennaW, 9)
    expect(one!.antennaW.high).toBeCloseTo(antennaW, 9)
    expect(one!.because).toEqual([])
  })

  test('ten per cent of the transmitter are ± 8.2 % at 5 to 95 %, and dominate', () => {
    const [one] = chainUncertainty(
      station([]),
      [at],
      { ...knownExactly, source: 0.1 },
      { draws: 8000 },
    )
    // Two deviations are 10 %, with 4 % from band to band on top; 1.645 deviations each way.
    const deviation = Math.hypot(0.05, 0.02)
    const { low, high, median } = one!.antennaW
    expect((high - low) / 2 / median).toBeCloseTo(1.645 * deviation, 2)
    expect(one!.because).toEqual([{ name: 'source', share: 1 }])
  })

  test('the same seed gives the same range; progress rises to the end', () => {
    const run = () => chainUncertainty(plain, [at], usualTolerances, { draws: 200, seed: 5 })
    expect(run()).toEqual(run())
    const seen: number[] = []
    chainUncertainty(plain, [at], usualTolerances, { draws: 400, progress: (p) => seen.push(p) })
    expect(seen).toEqual([...seen].sort((a, b) => a - b))
    expect(seen.at(-1)).toBe(1)
  })

  test.each([
    ['plain', plain],
    ['with a tuner', tuned],
  ] as const)('covers chains as they really are nine times in ten: %s', (_, chain) => {
    const channel = { ...at, emission: { mode: 'FM' as const } }
    const [range] = chainUncertainty(chain, [at], usualTolerances, { draws: 1500 })
    const random = seeded(77)
    let inside = 0
    const tries = 300
    for (let i = 0; i < tries; i++) {
      const real = stationDraws(chain, [channel], usualTolerances)(random)
      const z = impedanceOf(real.reflection[0]!, 50)
      const { antennaW } = solveChain(
        { ...chain, stages: real.stages, load: { kind: 'fixed', rOhm: z.re, xOhm: z.im } },
        { ...at, powerW: real.powerW[0]! },
      )
      if (range!.antennaW.low <= antennaW && antennaW <= range!.antennaW.high) inside++
    }
    expect(inside / tries).toBeGreaterThan(0.84)
    expect(inside / tries).toBeLessThan(0.96)
  })

  test('of an antenna that returns nearly all holds what is written down', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.001, max: 0.4, noNaN: true }),
        fc.double({ min: -900, max: -60, noNaN: true }),
        (rOhm, xOhm) => {
          const whip: Chain = { ...plain, load: { kind: 'fixed', rOhm, xOhm } }
          const tolerances = { ...knownExactly, reflection: usualTolerances.reflection }
          const [one] = chainUncertainty(whip, [at], tolerances, { draws: 200 })
          const { antennaW } = solveChain(whip, at)
          expect(one!.antennaW.low).toBeLessThanOrEqual(antennaW * 1.0001)
          expect(one!.antennaW.high).toBeGreaterThanOrEqual(antennaW)
        },
      ),
      { numRuns: 30 },
    )
  })

  test('an antenna of unknown phase spreads by its phase alone', () => {
    const unknown: Chain = { ...plain, load: { kind: 'swr', swr: 3 } }
    const [one] = chainUncertainty(unknown, [at], knownExactly, { draws: 400 })
    expect(one!.antennaW.high).toBeGreaterThan(one!.antennaW.low)
    expect(one!.planes.at(-1)!.swr.median).toBeCloseTo(3, 9)
  })

  test('a figure that cannot be is refused at its place', () => {
    const random = seeded(1)
    expect(normal(random)).toBeTypeOf('number')
    expect(() =>
      chainUncertainty(station([line(-1)]), [at], usualTolerances, { draws: 10 }),
    ).toThrow(/Length must be 0 or more/)
  })
})
