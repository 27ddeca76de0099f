/** How sure stresses and the most power are: by hand, against what is computed exactly, and against chains drawn at random. */
import { describe, expect, test } from 'vitest'
import {
  checkLimits,
  drawnChain,
  limitsUncertainty,
  mostPower,
  type RatedChain,
  seeded,
  solveChain,
  stationDraws,
  stressesOf,
  type Surroundings,
  usualTolerances,
} from '../src/index.ts'
import { foam, handTuner, knownExactly } from './stations.ts'

const at = { frequencyHz: 7.1e6, powerW: 100 }
const steady: Surroundings = { emission: { mode: 'FM' }, ambientC: 40 }
const voice: Surroundings = { emission: { mode: 'voice-plain' }, ambientC: 40 }

const line = (lengthM: number): RatedChain['stages'][number] => ({
  kind: 'line',
  lengthM,
  cable: foam,
  limits: { averageW: 900, voltageRms: 1200 },
})
const chainOf = (
  stages: RatedChain['stages'],
  load: RatedChain['load'] = { kind: 'fixed', rOhm: 80, xOhm: 30 },
): RatedChain => ({ transmitter: { behaviour: 'levelled', foldback: [] }, stages, load })
const plain = chainOf([line(3), { kind: 'pad', lossDb: 0.2, limits: { averageW: 300 } }, line(40)])
const amplified = chainOf([
  line(1),
  {
    kind: 'amplifier',
    gainDb: 13,
    driveW: 60,
    fullW: 800,
    behaviour: 'levelled',
    foldback: [],
    inputOhm: { rOhm: 50, xOhm: 0 },
  },
  ...plain.stages,
])

describe('a chain that is known exactly', () => {
  test.each([
    ['plain', plain],
    ['with an amplifier', amplified],
    ['with a tuner', chainOf([line(2), { ...handTuner, limits: { voltageRms: 900 } }, line(30)])],
  ])('has one figure for each stress, and one most power: %s', (_, chain) => {
    const [own] = limitsUncertainty(chain, at, [{ around: steady }], knownExactly, { draws: 3 })
    const { stresses } = checkLimits(chain, at, steady)
    expect(own!.stresses.map(({ part, kind }) => ({ part, kind }))).toEqual(
      stresses.map(({ part, kind }) => ({ part, kind })),
    )
    own!.stresses.forEach(({ stress, over }, s) => {
      const { stress: exactly, limit } = stresses[s]!
      for (const figure of [stress.low, stress.median, stress.high])
        expect(figure).toBeCloseTo(exactly, 6)
      expect(over).toBe(limit !== null && exactly > limit ? 1 : 0)
    })
    const most = mostPower(chain, at, steady).powerW
    expect(Math.abs(own!.mostW!.low / most - 1)).toBeLessThan(0.001)
    expect(Math.abs(own!.mostW!.high / most - 1)).toBeLessThan(0.001)
  })
})

test('a radio known to 10 %: volts are known to half of it, the most power to all of it', () => {
  const matched = chainOf([line(10)], { kind: 'fixed', rOhm: 50, xOhm: 0 })
  const [own] = limitsUncertainty(
    matched,
    at,
    [{ around: steady }],
    { ...knownExactly, source: 0.1 },
    { draws: 6000 },
  )
  const deviation = Math.hypot(0.05, 0.02)
  const shareOf = ({ low, high, median }: { low: number; high: number; median: number }) =>
    (high - low) / 2 / median
  const voltage = own!.stresses.find(({ kind }) => kind === 'voltage')!
  expect(shareOf(voltage.stress)).toBeCloseTo((1.645 * deviation) / 2, 2)
  expect(shareOf(own!.mostW!)).toBeCloseTo(1.645 * deviation, 2)
})

test('volts grow with the root of the setting, watts with it, an SWR not at all: the most power says so', () => {
  const most = (limits: Record<string, number>, powerW: number) =>
    limitsUncertainty(
      chainOf([{ ...line(20), limits } as RatedChain['stages'][number]]),
      { ...at, powerW },
      [{ around: steady }],
      knownExactly,
      { draws: 2 },
    )[0]!.mostW!.median
  // From whatever setting it is looked for, it is one power.
  for (const limits of [{ voltageRms: 200 }, { averageW: 300 }])
    for (const powerW of [1, 30, 2000])
      expect(most(limits, powerW) / most(limits, 100)).toBeCloseTo(1, 3)
  expect(most({ voltageRms: 400 }, 100) / most({ voltageRms: 200 }, 100)).toBeCloseTo(4, 2)
  expect(most({ averageW: 600 }, 100) / most({ averageW: 300 }, 100)).toBeCloseTo(2, 2)
})

test('the share of draws that are over one limit alone is the share of that limit', () => {
  const chain = chainOf([{ ...line(20), limits: { averageW: 80 } }])
  const [own] = limitsUncertainty(
    chain,
    { ...at, powerW: 90 },
    [{ around: steady }],
    usualTolerances,
    { draws: 200 },
  )
  const heat = own!.stresses.find(({ kind }) => kind === 'heat')!
  expect(heat.over).toBeGreaterThan(0)
  expect(own!.over).toBeLessThanOrEqual(1)
  expect(own!.over).toBeCloseTo(heat.over, 9)
})

test('a part right at its limit is past it in half of the draws; an unknown limit in none', () => {
  const exactly = checkLimits(plain, at, steady).stresses.find(
    ({ part, kind }) => part === 1 && kind === 'heat',
  )!
  const stages = plain.stages.with(1, {
    kind: 'pad',
    lossDb: 0.2,
    limits: { averageW: exactly.stress },
  })
  const [own] = limitsUncertainty(
    { ...plain, stages },
    at,
    [{ around: steady }],
    { ...knownExactly, source: 0.1 },
    { draws: 1000 },
  )
  const heat = own!.stresses.find(({ part, kind }) => part === 1 && kind === 'heat')!
  expect(heat.over).toBeGreaterThan(0.45)
  expect(heat.over).toBeLessThan(0.55)
  expect(own!.over).toBeGreaterThanOrEqual(heat.over)
  const bare = chainOf([{ kind: 'pad', lossDb: 0.2, limits: {} }])
  const [none] = limitsUncertainty(bare, at, [{ around: steady }], usualTolerances, { draws: 20 })
  expect(none!.mostW).toBeNull()
  expect(none!.stresses.every(({ over }) => over === 0)).toBe(true)
})

test('an SWR trip that is met leaves no power in some draws', () => {
  const swr = solveChain(amplified, at).planes[2]!.swr
  const stages = amplified.stages.with(1, {
    ...(amplified.stages[1] as Extract<RatedChain['stages'][number], { kind: 'amplifier' }>),
    tripSwr: swr,
  })
  const [own] = limitsUncertainty(
    { ...amplified, stages },
    at,
    [{ around: steady }],
    usualTolerances,
    {
      draws: 200,
    },
  )
  expect(own!.mostW!.low).toBe(0)
  expect(own!.mostW!.high).toBeGreaterThan(10)
})

test('uses differ by their heat alone; what counts is chosen', () => {
  const [fm, ssb] = limitsUncertainty(
    plain,
    at,
    [{ around: steady }, { around: voice }],
    usualTolerances,
    { draws: 100 },
  )
  const volts = (own: typeof fm) => own!.stresses.filter(({ kind }) => kind === 'voltage')
  expect(volts(ssb)).toEqual(volts(fm))
  expect(ssb!.mostW!.median).toBeGreaterThan(fm!.mostW!.median)
  const [byVolts] = limitsUncertainty(plain, at, [{ around: steady }], usualTolerances, {
    draws: 100,
    counts: ({ kind }) => kind === 'voltage',
  })
  expect(byVolts!.mostW!.low).toBeGreaterThan(fm!.mostW!.high)
})

test('progress rises to the end; nothing sent has no stress and still a most power', () => {
  const seen: number[] = []
  limitsUncertainty(plain, at, [{ around: steady }], usualTolerances, {
    draws: 60,
    progress: (share) => seen.push(share),
  })
  expect(seen).toEqual([20 / 60, 40 / 60, 1])
  const [idle] = limitsUncertainty(
    plain,
    { ...at, powerW: 0 },
    [{ around: steady }],
    knownExactly,
    { draws: 2 },
  )
  expect(idle!.stresses[0]!.stress.high).toBe(0)
  expect(idle!.mostW!.median / mostPower(plain, at, steady).powerW).toBeCloseTo(1, 2)
})

test('nine of ten chains as they really are lie inside, with an antenna of unknown phase', () => {
  const chain = chainOf(plain.stages, { kind: 'swr', swr: 2.5 })
  const [own] = limitsUncertainty(chain, at, [{ around: voice }], usualTolerances, { draws: 1000 })
  const draw = stationDraws(chain, [at], usualTolerances)
  const random = seeded(77)
  const tries = 400
  const inside = own!.stresses.map(() => 0)
  for (let i = 0; i < tries; i++) {
    const real = draw(random)
    const solution = solveChain(drawnChain(chain, real, 0), { ...at, powerW: real.powerW[0]! })
    stressesOf(chain.stages, solution, voice).forEach(({ stress }, s) => {
      const { low, high } = own!.stresses[s]!.stress
      inside[s]! += Number(stress >= low && stress <= high)
    })
  }
  for (const each of inside) {
    expect(each / tries).toBeGreaterThan(0.85)
    expect(each / tries).toBeLessThan(0.95)
  }
})
