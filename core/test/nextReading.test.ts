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
import { covarianceOf } from '../src/diagnosis/spread.ts'
import { imagine, leadersOf } from '../src/diagnosis/imagine.ts'
import { expectations } from '../src/diagnosis/expectations.ts'
import { predictor, USUAL } from '../src/diagnosis/nextReading.ts'
import { weighPairs } from '../src/diagnosis/pairs.ts'
import { swapLog } from '../src/diagnosis/swapEvidence.ts'
import { mastRun as chain } from './stations.ts'

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

/** The inverse of a matrix, by elimination (Gauss & Jordan). */
function inverse(rows: readonly (readonly number[])[]): number[][] {
  const n = rows.length
  const a = rows.map((row, i) => [...row, ...rows.map((_, j) => Number(i === j))])
  for (let i = 0; i < n; i++) {
    const pivot = a[i]![i]!
    a[i] = a[i]!.map((value) => value / pivot)
    for (let k = 0; k < n; k++)
      if (k !== i) {
        const times = a[k]![i]!
        a[k] = a[k]!.map((value, j) => value - times * a[i]![j]!)
      }
  }
  return a.map((row) => row.slice(n))
}

test('what a reading will show is what it shows on average where the others showed what they did', () => {
  const rest = caseBy(ofFullScale)
  const at = [
    { point: 0, plane: 0, instrument: 0 },
    { point: 1, plane: 2, instrument: 0 },
  ]
  const weighed = weigh({ ...rest, readings: simulateReadings(rest, at, lossy(2, 1), 4) })
  const { kase, waves, spread, observables } = weighed
  const site = { point: 0, plane: 4, instrument: 0 }
  const fresh = imagine(kase, site, waves[0]!.nominal)
  const leaders = leadersOf(weighed.sizes)
  const predicted = predictor(weighed, leaders)(fresh)
  // By the inverse of the covariance of all figures, in which those that are read and those to come stand side by side.
  const n = observables.length
  const all = [...observables, ...fresh]
  const flat = covarianceOf(all, spread)
  const precision = inverse(all.map((_, i) => all.map((__, j) => flat[i * all.length + j]!)))
  const covariance = inverse(precision.slice(n).map((row) => row.slice(n)))
  let compared = 0
  leaders.forEach(({ cause }, p) => {
    // These widen what was read.
    if (['slip', 'common mode', 'other'].includes(cause.kind)) return
    compared++
    const off = expectations(kase, waves, observables, cause).map(
      (mean, i) => observables[i]!.value - mean,
    )
    const raw = expectations(kase, waves, fresh, cause)
    const pull = precision.slice(n).map((row) => off.reduce((sum, x, i) => sum + row[i]! * x, 0))
    const { mean, triangle } = predicted[p]!
    raw.forEach((value, f) => {
      const shift = covariance[f]!.reduce((sum, c, g) => sum + c * pull[g]!, 0)
      expect(mean[f]).toBeCloseTo(value - shift, 6)
      raw.forEach((_, g) => {
        const own = fresh.reduce(
          (sum, __, k) => sum + triangle[f * 2 + k]! * triangle[g * 2 + k]!,
          0,
        )
        // What a meter has of its own is never less than its own.
        if (f !== g || own > fresh[f]!.ownVariance * 1.0001)
          expect(own).toBeCloseTo(covariance[f]![g]!, 8)
      })
    })
    // It does matter that they hang together.
    expect(Math.abs(mean[0]! - raw[0]!)).toBeGreaterThan(1e-3)
  })
  expect(compared).toBeGreaterThan(5)
})

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

  test('is off in its own way when it is set anew: the less a radio is known, the less is it worth to set it', () => {
    const weighed = weighedBy(ofFullScale)
    const settled = (source: number) => {
      const tolerances = { ...usualTolerances, source }
      const own = { ...weighed, kase: { ...weighed.kase, tolerances } }
      const exactly = { rough: 48, fine: 48, ranked: 0, paired: 0, lessPower: true }
      const found = nextReadings(own, ofFullScale, planes, () => 1, exactly)
      const sum = (reduced: boolean) =>
        found.reduce((all, { share, settles }) => all + (share < 1 === reduced ? settles : 0), 0)
      return { full: sum(false), reduced: sum(true) }
    }
    const [known, rough] = [settled(0), settled(3)]
    expect(rough.full).toBeCloseTo(known.full, 9)
    expect(rough.reduced).toBeLessThan(0.8 * known.reduced)
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

test('where power cannot be set and one reading is asked for, it is the one that settles most alone', () => {
  const weighed = weighedBy(ofFullScale)
  const alone = { ...USUAL, ranked: 100, paired: 0, lessPower: false }
  const found = nextReadings(weighed, ofFullScale, planes, () => 1, alone)
  expect(new Set(found.map(({ share }) => share))).toEqual(new Set([1]))
  expect(found.every(({ then }) => then === null)).toBe(true)
  const settles = found.map((one) => one.settles)
  expect(settles).toEqual(settles.toSorted((a, b) => b - a))
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

  test('a loss that may also be elsewhere is not in it', () => {
    const right = [{ stage: 0, cameRight: true }]
    expect(swapLog(right, [lossy(0)])).toBeCloseTo(Math.log(0.97), 9)
    expect(swapLog(right, [{ kind: 'loss', from: 0, to: 1, db: 1 }])).toBeCloseTo(Math.log(0.03), 9)
    expect(swapLog(right, [{ kind: 'none' }, lossy(0)])).toBeCloseTo(Math.log(0.97), 9)
    expect(swapLog([], [lossy(0)])).toBe(0)
  })

  test('is told apart from what is in front of it', () => {
    const own = caseBy(ofReading, { ...chain, stages: chain.stages.toReversed() })
    const at = [
      { point: 0, plane: 0, instrument: 0 },
      { point: 0, plane: 4, instrument: 0 },
    ]
    const kase = { ...own, readings: simulateReadings(own, at, lossy(3), 1) }
    const spans = (each: Case) =>
      diagnose(each).explanations.some(
        ({ cause }) => cause.kind === 'loss' && cause.from < 3 && cause.to === 3,
      )
    expect(spans(kase)).toBe(true)
    expect(spans({ ...kase, swaps: [{ stage: 3, cameRight: true }] })).toBe(false)
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
