import { describe, expect, test } from 'vitest'
import {
  type Chain,
  type Meter,
  type OperatingPoint,
  outsideLive,
  seeded,
  solveChain,
  usualMeter,
  usualTolerances,
} from '../src/index.ts'
import { predictions } from '../src/chain/predictions.ts'
import { stationDraws } from '../src/chain/drawStation.ts'
import { settingsNow } from '../src/chain/tunerSettings.ts'
import { impedanceOf, rhoOfSwr } from '../src/load/reflection.ts'
import { expectReading } from '../src/measure/expectReading.ts'
import { leakOf, showing } from '../src/measure/meter.ts'
import { even, type Random } from '../src/statistics/random.ts'
import { foamLine, handTuner, stationOf } from './stations.ts'

const digital: Meter = { kind: 'peak', rangesW: [], accuracy: 0.05, directivityDb: 30 }
const at: OperatingPoint = { frequencyHz: 8.294e6, powerW: 100, mode: 'FM' }
const stations: { name: string; chain: Chain; plane: number; meter: Meter }[] = [
  {
    name: 'a good antenna, at the radio',
    chain: stationOf([foamLine(30)], { kind: 'fixed', rOhm: 60, xOhm: 5 }),
    plane: 0,
    meter: usualMeter,
  },
  {
    name: 'a fair antenna, at the radio',
    chain: stationOf([foamLine(12)]),
    plane: 0,
    meter: digital,
  },
  {
    name: 'a fair antenna, at its end',
    chain: stationOf([foamLine(12)]),
    plane: 1,
    meter: digital,
  },
  {
    name: 'behind a tuner',
    chain: stationOf([handTuner, foamLine(25)], { kind: 'fixed', rOhm: 20, xOhm: -40 }),
    plane: 1,
    meter: usualMeter,
  },
]

const read = (meter: Meter, forwardW: number, rho: number, random: Random) => {
  const phase = 2 * Math.PI * random()
  const leak = leakOf(meter)
  const seen = Math.hypot(rho + leak * Math.cos(phase), leak * Math.sin(phase))
  const errors = () => ({ off: even(random), mark: even(random) })
  return {
    forwardW: showing(meter, forwardW, errors()),
    reflectedW: showing(meter, forwardW * seen * seen, errors()),
  }
}

describe.each(stations)('$name', ({ chain, plane, meter }) => {
  const predicted = predictions(chain, { ...at }, usualTolerances, { draws: 500, seed: 1 })
  const expected = expectReading(predicted(100, plane), meter, { mode: 'FM' })
  const random = seeded(3)
  const draw = stationDraws(chain, [at], usualTolerances)
  const settings = settingsNow(chain, at)
  const flags = (
    change: ((rho: { re: number; im: number }) => { re: number; im: number }) | null,
  ) => {
    let flagged = 0
    for (let i = 0; i < 1000; i++) {
      const real = draw(random)
      const [own] = real.reflection
      const z = impedanceOf(change ? change(own!) : own!, 50)
      const solved = solveChain(
        { ...chain, stages: real.stages, load: { kind: 'fixed', rOhm: z.re, xOhm: z.im } },
        // Broken or moved, nobody has set the tuner anew.
        { ...at, powerW: real.powerW[0]!, ...(change && { settings }) },
      ).planes[plane]!
      const shown = read(meter, solved.forwardW, rhoOfSwr(solved.swr), random)
      if (outsideLive(shown, expected)) flagged++
    }
    return flagged / 1000
  }
  test('sound, it is flagged once in twenty at most', () => {
    expect(flags(null)).toBeLessThanOrEqual(0.05)
  })
  test('an antenna that broke is caught', () => {
    const away = () => 2 * Math.PI * random()
    expect(
      flags(() => {
        const phase = away()
        return { re: 0.97 * Math.cos(phase), im: 0.97 * Math.sin(phase) }
      }),
    ).toBeGreaterThanOrEqual(0.95)
  })
  test('one that moved by a quarter of |ρ| is caught more often than not', () => {
    expect(
      flags((rho) => {
        const phase = 2 * Math.PI * random()
        const moved = { re: rho.re + 0.25 * Math.cos(phase), im: rho.im + 0.25 * Math.sin(phase) }
        const size = Math.hypot(moved.re, moved.im)
        return size < 0.98 ? moved : { re: (moved.re * 0.98) / size, im: (moved.im * 0.98) / size }
      }),
    ).toBeGreaterThanOrEqual(0.6)
  })
})

test('which of the two is outside, by hand', () => {
  const expected = {
    watts: 100,
    wattsRange: { low: 90, high: 111.11 },
    swr: 1.5,
    swrRange: { low: 1.3, high: 1.7 },
  }
  // 90 W is −0.458 dB; 1.362 times of it −0.623 dB, 86.6 W.
  expect(outsideLive({ forwardW: 87, reflectedW: 3.5 }, expected)).toBeNull()
  expect(outsideLive({ forwardW: 86, reflectedW: 3.5 }, expected)).toBe('forward')
  // |ρ| 0.2 + 1.362·(0.2593 − 0.2) = 0.2807: SWR 1.78.
  expect(outsideLive({ forwardW: 100, swr: 1.77 }, expected)).toBeNull()
  expect(outsideLive({ forwardW: 100, swr: 1.8 }, expected)).toBe('SWR')
})
