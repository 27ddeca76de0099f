/** How sure it is what a tuner is worth: against what is computed exactly, and against stations drawn at random. */
import { describe, expect, test } from 'vitest'
import {
  type Chain,
  drawnChain,
  seeded,
  solveChain,
  stationDraws,
  type TunerStage,
  usualTolerances,
  worthOfTuner,
  worthUncertainty,
} from '../src/index.ts'
import { withTunerAt } from '../src/chain/worthTuner.ts'
import { foamLine, handTuner, knownExactly, stationOf } from './stations.ts'

const tuner = handTuner as TunerStage
const at = { frequencyHz: 7.1e6, powerW: 100 }
const long = stationOf([foamLine(2), { kind: 'pad', lossDb: 0.2 }, foamLine(60)], {
  kind: 'fixed',
  rOhm: 12,
  xOhm: -80,
})

describe('a chain that is known exactly', () => {
  test('has the figures of the exact solver in every place', () => {
    const [own] = worthUncertainty(long, tuner, [at], knownExactly, { draws: 2 })
    const exactly = worthOfTuner(long, tuner, at)
    own!.forEach((ranges, i) => {
      const answer = exactly[i]!
      expect(ranges.place).toBe(answer.place)
      for (const figure of ['antennaW', 'tunerW', 'cableW', 'heldBackW', 'swr'] as const) {
        expect(ranges[figure].low).toBe(ranges[figure].high)
        // The table of a network of knobs is good to two per cent.
        expect(Math.abs(ranges[figure].median - answer[figure])).toBeLessThan(
          0.02 * Math.max(1, answer[figure]),
        )
      }
    })
    expect(own!.map(({ best }) => best)).toEqual([0, 0, 1])
  })

  test('where a tuner makes no difference, every place is as good as the others', () => {
    const matched: Chain = stationOf([foamLine(5)], { kind: 'fixed', rOhm: 50, xOhm: 0 })
    const given: TunerStage = { kind: 'tuner', method: 'given', lossDb: 0.05, residualSwr: 1 }
    const [own] = worthUncertainty(matched, given, [at], knownExactly, { draws: 2 })
    expect(own!.map(({ best }) => best)).toEqual([1, 1, 1])
  })
})

test('nine of ten stations lie inside, in every place, on every channel', () => {
  const points = [at, { frequencyHz: 3.6e6, powerW: 60 }]
  const channels = worthUncertainty(long, tuner, points, usualTolerances, { draws: 800 })
  const bare = withTunerAt(long, tuner, 'none')
  const draw = stationDraws(bare, points, usualTolerances)
  const random = seeded(77)
  const tries = 200
  const inside = new Map<string, number>()
  for (let i = 0; i < tries; i++) {
    const real = draw(random)
    points.forEach((point, c) => {
      for (const { place, antennaW, swr } of channels[c]!) {
        const placed = withTunerAt(drawnChain(bare, real, c), tuner, place)
        const solution = solveChain(placed, { ...point, powerW: real.powerW[c]! })
        const count = (
          name: string,
          value: number,
          { low, high }: { low: number; high: number },
        ) => {
          const key = `${c} ${place} ${name}`
          // A tuner that matches shows the same SWR each time.
          const within = value >= low - 1e-6 && value <= high + 1e-6
          inside.set(key, (inside.get(key) ?? 0) + Number(within))
        }
        count('antenna', solution.antennaW, antennaW)
        count('swr', solution.planes[0]!.swr, swr)
      }
    })
  }
  for (const [key, count] of inside) {
    expect(count / tries, key).toBeGreaterThan(0.84)
    expect(count / tries, key).toBeLessThanOrEqual(key.endsWith('swr') ? 1 : 0.96)
  }
})

test('progress rises to the end, and the same seed gives the same ranges', () => {
  const seen: number[] = []
  const run = () =>
    worthUncertainty(long, tuner, [at], usualTolerances, {
      draws: 100,
      seed: 3,
      progress: (share) => seen.push(share),
    })
  expect(run()).toEqual(run())
  expect(seen).toEqual([0.5, 1, 0.5, 1])
})
