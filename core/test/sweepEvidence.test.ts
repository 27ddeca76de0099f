/** Sweeps as evidence: what they make likelier, and what they may not. */
import { describe, expect, test } from 'vitest'
import {
  type Case,
  type Cause,
  type Chain,
  type Channel,
  diagnose,
  expectedSweep,
  fitSweep,
  hiddenStation,
  nextSweep,
  reflectionAt,
  seeded,
  type Site,
  type Stage,
  simulateReadings,
  usualTolerances,
} from '../src/index.ts'
import { fittedCurve } from '../src/sweep/fit.ts'
import { likelihoodOfFigures, sweepEvidence } from '../src/diagnosis/sweepEvidence.ts'
import { foamLine, stationOf } from './stations.ts'
import { drawn } from './drawn.ts'

const pad: Stage = { kind: 'pad', lossDb: 0.1, atHz: 30e6 }
const load: Chain['load'] = { kind: 'resonator', resonanceHz: 8.3e6, rOhm: 70, q: 6 }
// A lead, an arrester, a run, a choke.
const chain = stationOf([foamLine(4), pad, foamLine(40), pad], load)
const channels: Channel[] = [6.3e6, 8.3e6, 12.4e6].map((frequencyHz) => ({
  ...{ frequencyHz, powerW: 100, emission: { mode: 'FM' as const } },
}))
const meter = { kind: 'averaging' as const, rangesW: [20, 200], accuracy: 0.05, directivityDb: 28 }
const rest = { chain, channels, instruments: [meter], tolerances: usualTolerances }
const frequencyHz = Float64Array.from({ length: 201 }, (_, k) => 3e6 + (k * 25e6) / 200)

const sweepOf = (cause: Cause, seed: number, plane = 0) => ({
  ...hiddenStation(rest, [cause], seed).sweep(
    plane,
    frequencyHz,
    'antenna',
    { noise: 0.001, directivityDb: 40 },
    seeded(seed + 99),
  ),
  ...{ plane, farEnd: 'antenna' as const },
})

const joint = (from: number, to: number, db: number): Cause => ({
  kind: 'loss',
  from,
  to,
  db,
  joint: true,
})
const causes = {
  none: { kind: 'none' },
  transmitter: { kind: 'transmitter', db: -3, point: null },
  atArrester: joint(1, 1, 0.8),
  inFront: joint(0, 0, 0.8),
  aged: { kind: 'aged', stage: 2, factor: 2 },
  moved: { kind: 'antenna', change: { kind: 'moved', share: -0.04 }, point: null },
} as const satisfies Record<string, Cause>

/** What a sweep of a station with a cause adds to the logarithm of each, by name; the best has 0. */
function weighedBy(cause: Cause, seed: number, plane = 0): Record<keyof typeof causes, number> {
  const logs = sweepEvidence(
    chain,
    [sweepOf(cause, seed, plane)],
    usualTolerances,
    Object.values(causes),
  )
  return Object.fromEntries(Object.keys(causes).map((name, i) => [name, logs[i]!])) as never
}

describe('a sweep', () => {
  test.each(['atArrester', 'aged', 'moved'] as const)(
    'of a station with %s tells it from all others',
    (name) => {
      for (let seed = 1; seed <= drawn(2, 30); seed++) {
        const logs = weighedBy(causes[name], seed)
        expect(logs[name]).toBe(0)
        for (const [other, log] of Object.entries(logs))
          // A joint at the end of the lead is the joint at the arrester.
          if (other !== name && other !== 'inFront')
            expect([other, log < -1.5]).toEqual([other, true])
      }
    },
  )

  test('of a sound station speaks for none, and as much for what it cannot see', () => {
    for (let seed = 1; seed <= drawn(2, 30); seed++) {
      const logs = weighedBy(causes.none, seed)
      expect(logs.none).toBe(0)
      expect(logs.transmitter).toBe(0)
      for (const name of ['atArrester', 'aged', 'moved'] as const)
        expect([name, logs[name] < -1.5]).toEqual([name, true])
    }
  })

  describe('far from what is written down', () => {
    // At VHF the run turns many times: an antenna that moved looks like other lengths, much loss like a bent analyser.
    const over = Float64Array.from({ length: 201 }, (_, k) => 150e6 + (k * 20e6) / 200)
    const measured = Array.from(over, (frequencyHz) =>
      reflectionAt({ kind: 'resonator', resonanceHz: 158e6, rOhm: 42, q: 12 }, frequencyHz, 50),
    )
    const vhf: Chain = stationOf([foamLine(1), pad, foamLine(38), pad, foamLine(1.5)], {
      ...{ kind: 'sweep', frequencyHz: over },
      re: Float64Array.from(measured, ({ re }) => re),
      im: Float64Array.from(measured, ({ im }) => im),
    })
    const from = { ...rest, chain: vhf, channels: [{ ...channels[0]!, frequencyHz: 156.5e6 }] }
    const seenOf = (cause: Cause, seed: number) => ({
      ...hiddenStation(from, [cause], seed).sweep(
        ...([0, over, 'antenna', { noise: 0.001, directivityDb: 40 }] as const),
        seeded(seed + 99),
      ),
      ...{ plane: 0, farEnd: 'antenna' as const },
    })
    const far = {
      none: causes.none,
      moved: { kind: 'antenna', change: { kind: 'moved', share: -0.05 }, point: null },
      lossy: { kind: 'loss', from: 3, to: 3, db: 5.7 },
      aged: { kind: 'aged', stage: 4, factor: 3.5 },
    } as const satisfies Record<string, Cause>

    test.each(['moved', 'lossy'] as const)('an antenna or a loss is found: %s', (name) => {
      for (let seed = 1; seed <= drawn(3, 30); seed++) {
        const logs = sweepEvidence(
          ...([vhf, [seenOf(far[name], seed)], usualTolerances, Object.values(far)] as const),
        )
        const own = Object.keys(far).indexOf(name)
        expect(logs[own]).toBe(0)
        logs.forEach((log, i) => expect([seed, i, i === own || log < -3]).toEqual([seed, i, true]))
      }
    })

    test.each([2.4, 5.7])('a loss of %f dB is found where it is, not in the analyser', (db) => {
      const hf = stationOf([foamLine(4), pad, foamLine(46), pad], load)
      const lossy: Cause = { kind: 'loss', from: 1, to: 1, db }
      const others: Cause[] = [causes.none, { ...lossy, from: 3, to: 3 }, causes.aged, causes.moved]
      for (let seed = 1; seed <= drawn(2, 30); seed++) {
        const sweep = hiddenStation({ ...rest, chain: hf }, [lossy], seed).sweep(
          ...([0, frequencyHz, 'antenna', { noise: 0.001, directivityDb: 40 }] as const),
          seeded(seed + 99),
        )
        const seen = { ...sweep, plane: 0, farEnd: 'antenna' as const }
        const [own, ...rivals] = sweepEvidence(hf, [seen], usualTolerances, [lossy, ...others])
        expect(own).toBe(0)
        expect([seed, Math.max(...rivals) < -3]).toEqual([seed, true])
      }
    })

    test('what is shown too small on all frequencies is a loss, since an analyser is no more off than it is said to be', () => {
      const { re, im } = sweepOf(causes.none, 1)
      const small = { frequencyHz, re: re.map((v) => 0.6 * v), im: im.map((v) => 0.6 * v) }
      const { curve, fit } = fittedCurve(chain, 0, small, 'antenna', usualTolerances)!
      curve.figures.forEach(({ kind, deviation }, p) => {
        expect([kind, curve.firm?.[p]]).toEqual([kind, kind === 'analyser'])
        if (kind === 'analyser') expect(Math.abs(fit.parameters[p]!)).toBeLessThan(3 * deviation)
      })
    })

    test('a size between two that are weighed costs no more than another', () => {
      // Weighed sizes lie a tenth apart: what is there may lie anywhere between two of them.
      const sizes = [4.93, 5.42, 5.96, 6.56].map((db): Cause => ({ ...far.lossy, db }))
      for (const db of [5.42, 5.69]) {
        const seen = seenOf({ ...far.lossy, db }, 2)
        const logs = sweepEvidence(vhf, [seen], usualTolerances, [causes.none, ...sizes])
        expect(logs[0]).toBeLessThan(-5)
        expect(Math.max(logs[2]!, logs[3]!)).toBe(0)
        // A neighbour that the sweep allows is not out of the question.
        expect(Math.min(logs[2]!, logs[3]!)).toBeGreaterThan(-6)
      }
    })
  })

  test('of an antenna that reflects nearly all, a little other than written down, blames no joint at it', () => {
    // A short whip, as it was measured: far off its resonance hardly anything goes in, and it cannot be less than nothing.
    const x = Array.from(frequencyHz, (hz) => 60 * 12 * (hz / 4e6 - 4e6 / hz))
    const size = x.map((xOhm) => (12 + 50) ** 2 + xOhm ** 2)
    const whip = stationOf([foamLine(4), pad, foamLine(12)], {
      ...{ kind: 'sweep', frequencyHz },
      re: Float64Array.from(x, (xOhm, k) => (12 ** 2 - 50 ** 2 + xOhm ** 2) / size[k]!),
      im: Float64Array.from(x, (xOhm, k) => (100 * xOhm) / size[k]!),
    })
    const atWhip = joint(2, 2, 1)
    for (let seed = 1; seed <= drawn(6, 30); seed++) {
      const sweep = hiddenStation({ ...rest, chain: whip }, [causes.none], seed).sweep(
        ...([0, frequencyHz, 'antenna', { noise: 0.001, directivityDb: 40 }] as const),
        seeded(seed),
      )
      const seen = { ...sweep, plane: 0, farEnd: 'antenna' as const }
      const [none, blamed] = sweepEvidence(whip, [seen], usualTolerances, [causes.none, atWhip])
      expect([seed, blamed! - none! < 2]).toEqual([seed, true])
    }
    // Where it did move, far off, that is what is found: nothing passive gives back more than it gets.
    const moved: Cause = { kind: 'antenna', change: { kind: 'moved', share: 0.065 }, point: null }
    for (let seed = 1; seed <= drawn(3, 30); seed++) {
      const sweep = hiddenStation({ ...rest, chain: whip }, [moved], seed).sweep(
        ...([0, frequencyHz, 'antenna', { noise: 0.001, directivityDb: 40 }] as const),
        seeded(seed),
      )
      const seen = { ...sweep, plane: 0, farEnd: 'antenna' as const }
      const asked = [moved, causes.none, atWhip]
      const [own, ...others] = sweepEvidence(whip, [seen], usualTolerances, asked)
      expect([seed, own]).toEqual([seed, 0])
      expect([seed, Math.max(...others) < -3]).toEqual([seed, true])
    }
  })

  test('says nothing of what lies in front of the analyser', () => {
    const { none, inFront, aged } = weighedBy(causes.none, 3, 2)
    expect(inFront).toBe(none)
    expect(aged).toBeLessThan(-1.5)
  })

  test('says nothing of what lies behind so much loss that nothing comes back', () => {
    const lossy = stationOf([{ ...(foamLine(4000) as Stage & { kind: 'line' }) }, pad], load)
    const seen = {
      ...expectedSweep(lossy, 0, frequencyHz, 'open'),
      plane: 0,
      farEnd: 'open' as const,
    }
    const [none, far] = sweepEvidence(lossy, [seen], usualTolerances, [causes.none, joint(1, 1, 2)])
    expect(far).toBeCloseTo(none!, 1)
  })

  test('that no cause explains speaks for something else', () => {
    const other = { kind: 'other' } as const
    const [none, beyond] = sweepEvidence(chain, [sweepOf(causes.aged, 1)], usualTolerances, [
      causes.none,
      other,
    ])
    expect(none).toBe(0)
    expect(beyond).toBeLessThan(0)
    const [unlikely, least] = sweepEvidence(chain, [sweepOf(causes.aged, 1)], usualTolerances, [
      ...[causes.none, other, causes.aged],
    ])
    expect(unlikely).toBeLessThan(least!)
  })

  test.each<[string, () => number]>([
    ['nothing comes back', () => 0],
    ['everything comes back', () => 1],
    ['there is only noise', seeded(5)],
  ])('in which %s is a figure all the same, behind a line without loss too', (_, rho) => {
    const lossless = { ...(foamLine(20) as Stage & { kind: 'line' }) }
    lossless.cable = { ...lossless.cable, k1DbPer100m: 0, k2DbPer100m: 0 }
    const seen = {
      ...{ frequencyHz, plane: 0, farEnd: 'antenna' as const },
      re: Float64Array.from(frequencyHz, () => rho()),
      im: new Float64Array(frequencyHz.length),
    }
    const own = stationOf([lossless, pad, lossless], load)
    const logs = sweepEvidence(own, [seen], usualTolerances, Object.values(causes).slice(0, 4))
    expect(logs.every((log) => Number.isFinite(log) && log <= 0)).toBe(true)
    for (const { lengthM, lossDb } of fitSweep(own, 0, seen, 'antenna', usualTolerances)!.lines)
      for (const { value, low, high } of [lengthM, lossDb])
        expect([value, low, high].every(Number.isFinite)).toBe(true)
  })

  test('that cannot be fitted adds nothing', () => {
    const short = {
      frequencyHz: [1e6, 2e6],
      re: [0, 0],
      im: [0, 0],
      plane: 0,
      farEnd: 'antenna' as const,
    }
    expect([...sweepEvidence(chain, [short], usualTolerances, Object.values(causes))]).toEqual(
      Object.values(causes).map(() => 0),
    )
    const unknown: Chain = { ...chain, load: { kind: 'swr', swr: 2 } }
    const seen = sweepEvidence(unknown, [sweepOf(causes.aged, 1)], usualTolerances, [
      causes.none,
      causes.aged,
    ])
    expect([...seen]).toEqual([0, 0])
  })
})

test('what a sweep says of figures expected elsewhere is the integral over all that they may be', () => {
  const deviations = [0.5, 2]
  const fit = {
    information: Float64Array.of(9, 3, 3, 4),
    pull: Float64Array.of(6, -2),
  }
  /** The integral of exp(g·x − ½·x·A·x) over what is expected, by sums over a fine grid. */
  const integral = (expected: { mean: number; variance: number }[]) => {
    const [x, y] = expected as [(typeof expected)[0], (typeof expected)[0]]
    const density = (at: number, { mean, variance }: typeof x) =>
      Math.exp(-((at - mean) ** 2) / (2 * variance)) / Math.sqrt(2 * Math.PI * variance)
    let sum = 0
    for (let a = -12; a <= 12; a += 0.02)
      for (let b = -12; b <= 12; b += 0.02)
        sum +=
          0.0004 *
          Math.exp(6 * a - 2 * b - (9 * a * a + 6 * a * b + 4 * b * b) / 2) *
          density(a, x) *
          density(b, y)
    return Math.log(sum)
  }
  const usual = { mean: 0, variance: 1 }
  const nowhere = integral([usual, usual])
  const likelihood = likelihoodOfFigures(fit, deviations)
  expect(likelihood([])).toBe(0)
  for (const [by, spread] of [
    [0.4, 0.3],
    [-0.7, 0.01],
  ] as const)
    expect(likelihood([{ figure: 0, by, spread }])).toBeCloseTo(
      integral([{ mean: by / 0.5, variance: 1 + (spread / 0.5) ** 2 }, usual]) - nowhere,
      5,
    )
  expect(
    likelihood([
      { figure: 0, by: 0.5, spread: 0.25 },
      { figure: 1, by: -3, spread: 1 },
    ]),
  ).toBeCloseTo(
    integral([
      { mean: 1, variance: 1 + 0.25 },
      { mean: -1.5, variance: 1 + 0.25 },
    ]) - nowhere,
    5,
  )
})

describe('beside readings', () => {
  // At the radio and at the antenna: what lies between is one to them.
  const sites: Site[] = channels.flatMap((_, point) =>
    [0, 4].map((plane) => ({ point, plane, instrument: 0 })),
  )
  const named = (kase: Case) => diagnose(kase).explanations[0]!

  test('it tells an aged run from a bad joint, which readings at both ends do not', () => {
    let alone = 0
    let together = 0
    const tries = drawn(4, 40)
    for (let seed = 1; seed <= tries; seed++) {
      const cause: Cause = seed % 2 === 0 ? { kind: 'aged', stage: 2, factor: 1.9 } : joint(1, 1, 1)
      const readings = simulateReadings(rest, sites, cause, seed)
      const right = (kase: Case) => named(kase).cause.kind === cause.kind
      alone += Number(right({ ...rest, readings }))
      together += Number(right({ ...rest, readings, sweeps: [sweepOf(cause, seed)] }))
    }
    expect(together).toBe(tries)
    expect(together).toBeGreaterThan(alone)
  })

  test('says of each explanation what the sweep adds; without one nothing', () => {
    const readings = simulateReadings(rest, sites, causes.none, 4)
    const { explanations } = diagnose({ ...rest, readings, sweeps: [sweepOf(causes.none, 4)] })
    expect(explanations[0]!.cause.kind).toBe('none')
    for (const { sweepLog } of explanations) expect(sweepLog).toBeLessThanOrEqual(0)
    expect(diagnose({ ...rest, readings }).explanations[0]!.sweepLog).toBeUndefined()
  })
})

describe('the sweep to take next', () => {
  const anywhere = () => 1
  const both = (one: Cause, other: Cause, costOf = anywhere as (plane: number) => number) =>
    nextSweep(rest, [one, other], costOf)

  test('is advised where it tells the two apart, from the nearest place that can be reached', () => {
    const advised = both(causes.aged, causes.atArrester)!
    expect(advised).toMatchObject({ plane: 0, between: [causes.aged, causes.atArrester] })
    expect(advised.db).toBeGreaterThan(6)
    // Half of the lowest channel, twice the highest.
    expect([advised.lowHz, advised.highHz]).toEqual([6.3e6 / 2, 12.4e6 * 2])
    expect(both(causes.aged, causes.none, (plane) => (plane === 0 ? Infinity : 1))!.plane).toBe(1)
  })

  test('taken, it brings what it promised, for either of them', () => {
    const { db } = both(causes.aged, causes.moved)!
    for (const [truth, other] of [
      [causes.aged, causes.moved],
      [causes.moved, causes.aged],
    ] as const) {
      const [own, rival] = sweepEvidence(chain, [sweepOf(truth, 7)], usualTolerances, [
        truth,
        other,
      ])
      expect((10 / Math.LN10) * (own! - rival!)).toBeGreaterThan(db / 2)
    }
  })

  test('asks for something else in the antenna’s place where that tells more for the way there, and nobody bars it', () => {
    const chains = {
      known: chain,
      'by its SWR alone': stationOf([...chain.stages], { kind: 'swr', swr: 2 }),
    }
    const barred = (plane: number) => (plane === chain.stages.length ? Infinity : 1)
    const of = (own: Chain, costOf: (plane: number) => number) =>
      nextSweep({ ...rest, chain: own }, [causes.aged, causes.none], costOf)
    expect(of(chains.known, anywhere)!.farEnd).toBe('antenna')
    const advised = of(chains['by its SWR alone'], anywhere)!
    expect(['load', 'open']).toContain(advised.farEnd)
    // What an antenna of unknown phase returns says nothing of the line.
    expect(of(chains['by its SWR alone'], barred)).toBeNull()
    expect(of(chains.known, barred)!.farEnd).toBe('antenna')
  })

  test('is none where the line shows neither, or nothing can be connected', () => {
    const meterOff: Cause = { kind: 'meter', instrument: 0, factor: 2, why: 'off' }
    expect(both(causes.transmitter, meterOff)).toBeNull()
    expect(both(causes.aged, causes.none, () => Infinity)).toBeNull()
    const air = { ...rest, chain: stationOf([pad], load) }
    expect(nextSweep(air, [causes.none, causes.moved], anywhere)).toBeNull()
  })
})
