/** Stop rules at their edges, worked by hand, with a meter that is never off and with one that is. */
import { describe, expect, test } from 'vitest'
import {
  limitsAt,
  type Meter,
  type RatedChain,
  type RunChannel,
  runModel,
  type Stress,
  stopFor,
  stopForTime,
  swrLimitOf,
} from '../src/index.ts'
import { meterTells } from '../src/runs/judge.ts'
import type { ExpectedStep } from '../src/runs/expectStep.ts'
import { atTheBeginning } from '../src/runs/station.ts'

const exact: Meter = { kind: 'averaging', rangesW: [], accuracy: 0, accuracyOf: 'reading' }
/** A tenth of what it shows, a leak of |ρ| 0.01. */
const rough: Meter = { ...exact, accuracy: 0.1, directivityDb: 40 }
const expected = (own: Partial<ExpectedStep> = {}): ExpectedStep =>
  ({
    watts: 100,
    swr: 1,
    chainRange: { low: 100, median: 100, high: 100 },
    chainSwr: { low: 1, median: 1, high: 1 },
    ...own,
  }) as ExpectedStep
const range = (low: number, high: number) => ({ low, median: (low + high) / 2, high })
const stress = (part: number, headroomDb: number | null): Stress => ({
  ...{ part, kind: 'voltage', stress: 1, limit: 1, unit: 'V rms', basis: 'PEP' },
  headroomDb,
})

describe('the SWR that a step stops at', () => {
  test('is its own, or two spreads of |ρ| and 0.05 over what is expected, and 1.5 at the least', () => {
    expect(swrLimitOf({ mostSwr: 1.7 }, expected({ swr: 9 }))).toBe(1.7)
    expect(swrLimitOf({}, undefined)).toBeNull()
    // |ρ| 0.2 and at the most 1/3: 0.2 + 2·0.1333 + 0.05 = 0.5167.
    expect(swrLimitOf({}, expected({ swr: 1.5, chainSwr: range(1.2, 2) }))).toBeCloseTo(
      1.516_667 / 0.483_333,
      4,
    )
    // No spread above it: 0.5 + 0.05.
    expect(swrLimitOf({}, expected({ swr: 3, chainSwr: range(1.2, 2) }))).toBeCloseTo(
      1.55 / 0.45,
      6,
    )
    // 0.05 alone would be 1.105.
    expect(swrLimitOf({}, expected())).toBe(1.5)
  })

  test('stops above it, and not at it', () => {
    const step = { mostSwr: 2 }
    const read = (reflectedW: number) =>
      stopFor(step, { forwardW: 100, reflectedW }, { meter: exact })
    // |ρ| 1/3: 11.11 W of 100 W.
    expect(read(11.1)).toBeNull()
    const stop = read(11.2)!
    expect(stop).toMatchObject({ is: 'stop', reason: { rule: 'SWR', most: 2 } })
    if (stop.reason.rule !== 'SWR') throw new Error('another rule')
    expect(stop.reason.swr).toBeCloseTo((1 + Math.sqrt(0.112)) / (1 - Math.sqrt(0.112)), 6)
    expect(stop.reason.range.low).toBeCloseTo(stop.reason.swr, 6)
  })

  test('is looked at where the meter cannot tell: √(R ± e) over √(F ∓ e), and the leak', () => {
    const judged = stopFor({ mostSwr: 2 }, { forwardW: 100, reflectedW: 11 }, { meter: rough })!
    expect(judged.is).toBe('look')
    if (judged.reason.rule !== 'SWR') throw new Error('another rule')
    const [low, high] = [Math.sqrt(9.9 / 110) - 0.01, Math.sqrt(12.1 / 90) + 0.01]
    expect(judged.reason.range.low).toBeCloseTo((1 + low) / (1 - low), 6)
    expect(judged.reason.range.high).toBeCloseTo((1 + high) / (1 - high), 6)
    // Far enough above, it stops all the same.
    expect(stopFor({ mostSwr: 2 }, { forwardW: 100, reflectedW: 20 }, { meter: rough })!.is).toBe(
      'stop',
    )
    expect(stopFor({ mostSwr: 2 }, { forwardW: 100, reflectedW: 5 }, { meter: rough })).toBeNull()
  })

  test('an SWR without watts has the leak of the bridge alone', () => {
    const judged = stopFor({ mostSwr: 2 }, { swr: 2 }, { meter: rough })!
    expect(judged.is).toBe('look')
    if (judged.reason.rule !== 'SWR') throw new Error('another rule')
    const [low, high] = [1 / 3 - 0.01, 1 / 3 + 0.01]
    expect(judged.reason.range.low).toBeCloseTo((1 + low) / (1 - low), 6)
    expect(judged.reason.range.high).toBeCloseTo((1 + high) / (1 - high), 6)
    // With the power that is expected its own error counts as well: a wider range.
    const wider = stopFor({ mostSwr: 2 }, { swr: 2 }, { meter: rough, expected: expected() })!
    if (wider.reason.rule !== 'SWR') throw new Error('another rule')
    expect(wider.reason.range.low).toBeLessThan(judged.reason.range.low)
  })
})

describe('the tightest part', () => {
  const limits = [stress(0, 1), stress(1, null), stress(2, 0.5)]
  const read = (forwardW: number, own: Partial<ExpectedStep> = {}, meter = exact) =>
    stopFor({}, { forwardW }, { meter, expected: expected(own), limits })

  test('stops by its headroom over what is expected', () => {
    // 0.5 dB are 112.2 W.
    expect(read(112)).toBeNull()
    const stop = read(115)!
    expect(stop).toMatchObject({ is: 'stop', reason: { rule: 'part', stress: { part: 2 } } })
    if (stop.reason.rule !== 'part') throw new Error('another rule')
    expect(stop.reason.overDb).toBeCloseTo(10 * Math.log10(1.15) - 0.5, 9)
  })

  test('what a sound chain may show is none: twice its range above the middle', () => {
    // 1.1² of it are 0.83 dB on top: 135.8 W.
    const sound = { chainRange: range(90, 110) }
    expect(read(135, sound)).toBeNull()
    expect(read(137, sound)!.is).toBe('stop')
  })

  test('is looked at where the meter may be low, with nothing over yet', () => {
    const look = read(112, {}, rough)!
    expect(look).toMatchObject({ is: 'look', reason: { rule: 'part', overDb: 0 } })
    expect(read(100, {}, rough)).toBeNull()
  })

  test('says nothing where no limit is known, or nothing is expected', () => {
    expect(
      stopFor(
        {},
        { forwardW: 140 },
        { meter: exact, expected: expected(), limits: [stress(0, null)] },
      ),
    ).toBeNull()
    expect(stopFor({}, { forwardW: 140 }, { meter: exact, expected: expected() })).toBeNull()
    expect(stopFor({}, { forwardW: 140 }, { meter: exact, limits })).toBeNull()
  })
})

describe('against what is expected, and against what was read before', () => {
  test('half as much again is far above, less than half of the least is far below', () => {
    const own = expected({ chainRange: range(90, 100) })
    const read = (forwardW: number) => stopFor({}, { forwardW }, { meter: exact, expected: own })
    expect(read(149)).toBeNull()
    expect(read(151)).toMatchObject({
      is: 'stop',
      reason: { rule: 'far above', watts: 151, expected: 100 },
    })
    expect(read(46)).toBeNull()
    expect(read(44)).toMatchObject({
      is: 'stop',
      reason: { rule: 'far below', watts: 44, expected: 100 },
    })
    // A meter that may be a tenth low: 44 may be 48.4.
    expect(stopFor({}, { forwardW: 44 }, { meter: rough, expected: own })).toBeNull()
  })

  test.each([
    // Twice, or 0.04 more: the larger of the two.
    [0.1, 0.199, 0.201],
    [0.04, 0.079, 0.081],
    [0.01, 0.049, 0.051],
  ])('a share of %d that was reflected may be %d, not %d', (before, may, mayNot) => {
    const earlier = { forwardW: 100, reflectedW: 100 * before }
    const read = (share: number) =>
      stopFor({}, { forwardW: 100, reflectedW: 100 * share }, { meter: exact, earlier })
    expect(read(may)).toBeNull()
    const stop = read(mayNot)!
    if (stop.reason.rule !== 'reflected') throw new Error('another rule')
    expect(stop.is).toBe('stop')
    expect(stop.reason.share).toBeCloseTo(mayNot, 9)
    expect(stop.reason.before).toBeCloseTo(before, 9)
  })

  test('a forward power that fell by half', () => {
    const earlier = { forwardW: 100 }
    const read = (forwardW: number, meter = exact) => stopFor({}, { forwardW }, { meter, earlier })
    expect(read(51)).toBeNull()
    expect(read(49)).toMatchObject({
      is: 'stop',
      reason: { rule: 'forward fell', watts: 49, before: 100 },
    })
    // 45 may be 49.5, and 100 may have been 90.
    expect(read(45, rough)).toBeNull()
    expect(read(40, rough)!.is).toBe('stop')
  })

  test('the most dangerous is said first, and a stop before a look', () => {
    const limits = [stress(0, 0.5)]
    const both = stopFor(
      { mostSwr: 2 },
      { forwardW: 160, reflectedW: 40 },
      { meter: exact, expected: expected(), limits },
    )
    expect(both!.reason.rule).toBe('SWR')
    // An SWR that may be over, and a power that is: the power.
    const mixed = stopFor(
      { mostSwr: 2 },
      { forwardW: 160, reflectedW: 17.6 },
      { meter: rough, expected: expected(), limits },
    )
    expect(mixed).toMatchObject({ is: 'stop', reason: { rule: 'part' } })
  })
})

test('the key may be down half as long again as a step says; a rest may be as long as it likes', () => {
  expect(stopForTime({ seconds: 10 }, 15)).toBeNull()
  expect(stopForTime({ seconds: 10 }, 15.1)).toEqual({ rule: 'time', seconds: 15.1, most: 10 })
  expect(stopForTime({ seconds: 10, rest: true }, 99)).toBeNull()
  expect(stopForTime({}, 99)).toBeNull()
})

test('a meter tells a fault from its error where that is a fifth of what it shows', () => {
  const meter: Meter = { kind: 'averaging', rangesW: [100], accuracy: 0.1 }
  expect([40, 49, 50, 60].map((watts) => meterTells(meter, watts))).toEqual([
    ...[false, false, true, true],
  ])
})

describe('the limits that figures of a step are held against', () => {
  const amplifier: RatedChain['stages'][number] = {
    ...{ kind: 'amplifier', gainDb: 10, driveW: 50, fullW: 500, behaviour: 'levelled' },
    ceilings: { FM: 200, data: 160 },
    // On SWR 2 it gives half.
    foldback: [
      [1, 1],
      [2, 0.5],
    ],
    inputOhm: { rOhm: 50, xOhm: 0 },
  }
  const pad: RatedChain['stages'][number] = { kind: 'pad', lossDb: 0, limits: { averageW: 400 } }
  const limitsOf = (
    stages: RatedChain['stages'],
    {
      rOhm = 50,
      mode = 'FM' as RunChannel['mode'],
      carrier = false,
      as = 'on' as 'on' | 'bypass',
    } = {},
  ) => {
    const chain: RatedChain = {
      transmitter: { behaviour: 'levelled', foldback: [] },
      stages,
      load: { kind: 'fixed', rOhm, xOhm: 0 },
    }
    const channel: RunChannel = {
      ...{ id: 'c', name: '', frequencyHz: 14e6, mode, powerW: 10 },
      around: {
        ...{ emission: { mode }, ambientC: 20 },
        licence: { kind: 'PEP', watts: 1 },
      },
    }
    const state = { amplifier: as, load: 'antenna', carrier, watts: 10 } as const
    const step = {
      id: 'x',
      kind: 'read',
      title: '',
      channelId: 'c',
      place: 'output',
      state,
    } as const
    return limitsAt(runModel({ chain, channels: [channel] }).momentOf(step, atTheBeginning))
  }
  const outputOf = (limits: Stress[]) =>
    limits.filter(({ kind, part }) => kind === 'power' && part === 0)

  test('an amplifier’s permitted output is one of them: its own figure, after its foldback', () => {
    const [output, ...others] = outputOf(limitsOf([amplifier, pad]))
    expect(others).toEqual([])
    expect(output).toMatchObject({ part: 0, limit: 200, unit: 'W', basis: 'PEP' })
    expect(output!.stress).toBeCloseTo(100, 6)
    expect(output!.headroomDb).toBeCloseTo(10 * Math.log10(2), 6)
    expect(outputOf(limitsOf([amplifier, pad], { rOhm: 100 }))[0]!.stress).toBeCloseTo(50, 6)
    // A carrier is held to the least ceiling of all modes as steady as it is.
    const [steady] = outputOf(limitsOf([amplifier, pad], { mode: 'voice-plain', carrier: true }))
    expect(steady!.limit).toBe(160)
  })

  test('one that is switched through has none, and a chain without one its parts alone', () => {
    expect(outputOf(limitsOf([amplifier, pad], { as: 'bypass' }))).toEqual([])
    const bare = limitsOf([pad])
    expect(bare.map(({ part, kind }) => [part, kind])).toContainEqual([0, 'heat'])
    expect(bare.every(({ stress }) => Number.isFinite(stress))).toBe(true)
  })

  test('a licence is no figure that a part breaks by', () => {
    expect(limitsOf([amplifier, pad]).map(({ kind }) => kind)).not.toContain('licence')
    expect(limitsOf([pad]).map(({ kind }) => kind)).not.toContain('licence')
  })

  test('where the chain has no answer there are none', () => {
    const negative = { kind: 'line', lengthM: -1 } as unknown as RatedChain['stages'][number]
    const broken = {
      ...negative,
      cable: { z0Ohm: 50, velocityFactor: 0.8, k1DbPer100m: 1, k2DbPer100m: 0 },
    }
    expect(limitsOf([broken])).toEqual([])
  })
})
