/** What to read next beyond the place: at which power, and what after it; and what swapping a lead tells. */
import { describe, expect, test } from 'vitest'
import {
  type Case,
  type Cause,
  type Chain,
  diagnose,
  type Meter,
  nextReadings,
  nextSwaps,
  seeded,
  simulateReadings,
  stationDraws,
  usualTolerances,
  weigh,
} from '../src/index.ts'
import { weighPairs } from '../src/diagnosis/pairs.ts'
import { foam } from './stations.ts'

const chain: Chain = {
  transmitter: { behaviour: 'levelled', foldback: [] },
  stages: [
    { kind: 'line', lengthM: 1, cable: foam },
    { kind: 'pad', lossDb: 0.1 },
    { kind: 'line', lengthM: 40, cable: foam },
    { kind: 'pad', lossDb: 0.05 },
  ],
  load: { kind: 'fixed', rOhm: 60, xOhm: 8 },
}
const planes = [0, 1, 2, 3, 4]
const channels = [144e6, 156e6].map((frequencyHz) => ({
  frequencyHz,
  powerW: 40,
  emission: { mode: 'FM' as const },
}))
/** Five per cent of full scale: at 40 W on its upper range an eighth of the reading. */
const ofFullScale: Meter = {
  kind: 'averaging',
  rangesW: [10, 100],
  accuracy: 0.05,
  directivityDb: 30,
}
const ofReading: Meter = { ...ofFullScale, rangesW: [], accuracyOf: 'reading' }
const caseBy = (meter: Meter, own: Chain = chain): Omit<Case, 'readings'> => ({
  ...{ chain: own, channels, instruments: [meter], tolerances: usualTolerances },
})
const lossy = (stage: number, db = 2): Cause => ({ kind: 'loss', from: stage, to: stage, db })
const weighedBy = (meter: Meter, own?: Chain) => {
  const rest = caseBy(meter, own)
  const feed = [{ point: 0, plane: 4, instrument: 0 }]
  return weigh({ ...rest, readings: simulateReadings(rest, feed, lossy(2), 1) })
}

describe('the power to read at', () => {
  test('is what fills a smaller range, where the meter errs by full scale', () => {
    const found = nextReadings(weighedBy(ofFullScale), ofFullScale, planes)
    const [best] = found
    expect(best!.share).toBeLessThan(1)
    // What both causes show there is on the smaller range, and high up on it.
    for (const watts of best!.expectsW) expect(watts).toBeLessThanOrEqual(10)
    expect(Math.max(...best!.expectsW)).toBeGreaterThan(4)
    const full = found.find(
      ({ point, plane, instrument, share }) =>
        share === 1 &&
        point === best!.point &&
        plane === best!.plane &&
        instrument === best!.instrument,
    )!
    expect(best!.settles).toBeGreaterThan(full.settles)
    expect(best!.cost).toBeGreaterThan(full.cost)
    // The two differ by the share alone.
    expect(best!.expectsW[0] / full.expectsW[0]).toBeCloseTo(best!.share, 1)
  })

  test('is the channel’s where no range would be smaller, and where an amplifier is in the line', () => {
    const shares = (meter: Meter, own?: Chain) =>
      new Set(nextReadings(weighedBy(meter, own), meter, planes).map(({ share }) => share))
    expect(shares(ofReading)).toEqual(new Set([1]))
    expect(shares({ ...ofFullScale, rangesW: [100] })).toEqual(new Set([1]))
    const amplified: Chain = {
      ...chain,
      stages: chain.stages.with(1, {
        kind: 'amplifier',
        ...{ gainDb: 2, driveW: 40, fullW: 60, ceilings: {}, behaviour: 'levelled', foldback: [] },
        inputOhm: { rOhm: 50, xOhm: 0 },
      }),
    }
    expect(shares(ofFullScale, amplified)).toEqual(new Set([1]))
  })
})

test('a reading after it is named only where both together are worth more for their cost', () => {
  let named = 0
  for (let seed = 1; seed <= 12; seed++) {
    const rest = caseBy(ofReading)
    const at = [{ point: 0, plane: 2, instrument: 0 }]
    const cause = lossy(seed % 4, 1 + (seed % 3))
    const weighed = weigh({ ...rest, readings: simulateReadings(rest, at, cause, seed) })
    const found = nextReadings(weighed, ofReading, planes, (plane) => 1 + plane / 8)
    for (const { then, settles, cost } of found) {
      if (!then) continue
      named++
      expect(then.settles).toBeGreaterThan(settles)
      const price = cost + 1 + then.plane / 8
      expect(then.settles / price).toBeGreaterThan((settles / cost) * 0.999)
    }
    // Best first: by what is settled for its cost, with the one after it where there is one.
    const worth = found
      .slice(0, 16)
      .map(({ then, settles, cost }) =>
        then ? then.settles / (cost + 1 + then.plane / 8) : settles / cost,
      )
    expect(worth).toEqual(worth.toSorted((a, b) => b - a))
  }
  expect(named).toBeGreaterThan(0)
})

describe('a lead that was swapped', () => {
  const rest = caseBy(ofReading)
  const readings = simulateReadings(
    rest,
    [
      { point: 0, plane: 0, instrument: 0 },
      { point: 0, plane: 4, instrument: 0 },
    ],
    lossy(0),
    1,
  )
  const told = (cameRight: boolean) => ({
    ...rest,
    readings,
    swaps: [{ stage: 0, cameRight }],
  })
  const share = (kase: Case, fits: (cause: Cause) => boolean) =>
    diagnose(kase).explanations.reduce(
      (sum, { cause, probability }) => sum + (fits(cause) ? probability : 0),
      0,
    )
  const inLead = (cause: Cause) =>
    (cause.kind === 'loss' && cause.from === 0 && cause.to === 0) ||
    (cause.kind === 'aged' && cause.stage === 0)
  const inRun = (cause: Cause) =>
    (cause.kind === 'loss' && cause.from > 0) || (cause.kind === 'aged' && cause.stage === 2)

  test('and put it right was at fault; one that made no difference was not', () => {
    const before = share({ ...rest, readings }, inLead)
    expect(share(told(true), inLead)).toBeGreaterThan(Math.max(0.5, 3 * before))
    expect(share(told(false), inLead)).toBeLessThan(0.02)
    // 97 to 3, or 3 to 97: between the two answers the odds differ by the square of it.
    const odds = (cameRight: boolean) =>
      share(told(cameRight), inLead) / share(told(cameRight), inRun)
    expect(odds(true) / odds(false)).toBeCloseTo((97 / 3) ** 2, 0)
  })

  test('is told apart from what is behind it, though nothing was read between them', () => {
    const spans = (kase: Case) =>
      diagnose(kase).explanations.some(
        ({ cause }) => cause.kind === 'loss' && cause.from === 0 && cause.to > 0,
      )
    expect(spans({ ...rest, readings })).toBe(true)
    expect(spans(told(true))).toBe(false)
  })

  test('of what may come right by reading again it says nothing', () => {
    const slips = (kase: Case) => share(kase, ({ kind }) => kind === 'slip')
    const none = (kase: Case) => share(kase, ({ kind }) => kind === 'none')
    const odds = (cameRight: boolean) => slips(told(cameRight)) / none(told(cameRight))
    expect(odds(true) / odds(false)).toBeCloseTo(97 / 3, 1)
  })

  test('is not advised again, and is one of two things where it is one', () => {
    expect(nextSwaps(weigh({ ...rest, readings }))[0]?.stage).toBe(0)
    expect(nextSwaps(weigh(told(false)))).toEqual([])
    const first = (cameRight: boolean) =>
      weighPairs(weigh(told(cameRight)))
        .pairs.filter(({ causes }) => causes.some(inLead))
        .reduce((sum, { probability }) => sum + probability, 0)
    expect(first(true)).toBeGreaterThan(0.5)
    expect(first(false)).toBeLessThan(0.1)
  })
})

test('on one frequency an antenna is the same at any power, and the power set is off in its own way', () => {
  const at = [...channels, { ...channels[0]!, powerW: 10 }]
  const draw = stationDraws(chain, at, usualTolerances)
  const random = seeded(3)
  const ratios: number[] = []
  for (let i = 0; i < 50; i++) {
    const { reflection, powerW } = draw(random)
    expect(reflection[2]).toEqual(reflection[0])
    expect(reflection[1]).not.toEqual(reflection[0])
    ratios.push(powerW[0]! / powerW[2]! / 4)
  }
  const mean = ratios.reduce((a, b) => a + b) / ratios.length
  expect(mean).toBeCloseTo(1, 1)
  expect(new Set(ratios).size).toBe(50)
})
