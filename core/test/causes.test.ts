/** What each cause does to the waves: against the exact solver with the same fault built in. */
import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { type Case, type Chain, complex, solveChain, usualTolerances } from '../src/index.ts'
import type { Complex } from '../src/complex.ts'
import { reflectionOf } from '../src/load/reflection.ts'
import {
  aged,
  type Cause,
  causedWaves,
  changedReflection,
  hasKnobs,
  insertLoss,
  standing,
} from '../src/diagnosis/causes.ts'
import { candidatesOf, stageGroups } from '../src/diagnosis/explanations.ts'
import { likelihoodOf, prepare } from '../src/diagnosis/likelihood.ts'
import { observablesOf } from '../src/diagnosis/evidence.ts'
import { covarianceOf, spreadOf } from '../src/diagnosis/spread.ts'
import { foamLine as line, handTuner as hand, stationOf as station } from './stations.ts'
import { cholesky, whiten } from '../src/statistics/gaussian.ts'

const plain = station([
  line(2),
  { kind: 'pad', lossDb: 0.2 },
  line(30),
  { kind: 'pad', lossDb: 0.1 },
])
const at = { frequencyHz: 8e6, powerW: 100 }

/** Planes of the solver for a chain, as forward power and |ρ|. */
const exact = (chain: Chain, powerW = 100, settings?: ReturnType<typeof standing>) =>
  solveChain(chain, { ...at, powerW, ...(settings && { settings }) }).planes.map(
    ({ forwardW, reflection }) => [forwardW, Math.hypot(reflection.re, reflection.im)] as const,
  )

function expectSame(
  waves: { forwardW: Float64Array; rho: Float64Array },
  planes: (readonly [number, number])[],
  digits = 6,
) {
  expect(waves.forwardW).toHaveLength(planes.length)
  planes.forEach(([forwardW, rho], k) => {
    expect(waves.forwardW[k]! / forwardW).toBeCloseTo(1, digits)
    expect(waves.rho[k]).toBeCloseTo(rho, digits)
  })
}

describe('causes in the chain', () => {
  test('none, and those of meters and readings, leave it as it is', () => {
    const { under, nominal } = causedWaves(plain, at, 0, 0.1)
    expectSame(nominal, exact(plain))
    for (const cause of [
      { kind: 'none' },
      { kind: 'meter', instrument: 0, factor: 2, why: 'off' },
      { kind: 'slip', reading: 0 },
      { kind: 'common mode', rho: 0.2 },
    ] as Cause[])
      expect(under(cause)).toBe(nominal)
  })

  test('a transmitter that is down lowers every plane, and no reflection', () => {
    const { under } = causedWaves(plain, at, 0, 0.1)
    expectSame(under({ kind: 'transmitter', db: -3, point: null }), exact(plain, 100 * 10 ** -0.3))
  })

  test('on one channel it leaves the others', () => {
    const { under, nominal } = causedWaves(plain, at, 1, 0.1)
    expect(under({ kind: 'transmitter', db: -3, point: 0 })).toBe(nominal)
    expect(under({ kind: 'transmitter', db: -3, point: 1 })).not.toBe(nominal)
  })

  test('a loss is a pad behind its stage, and that stage’s far plane is behind the pad', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 3 }),
        fc.double({ min: 0.1, max: 8, noNaN: true }),
        (stage, db) => {
          const { under } = causedWaves(plain, at, 0, 0.1)
          const padded = exact({ ...plain, stages: insertLoss(plain.stages, stage, { db }, 50) })
          expectSame(
            under({ kind: 'loss', from: stage, to: stage, db }),
            padded.filter((_, plane) => plane !== stage + 1),
          )
        },
      ),
      { numRuns: 40 },
    )
  })

  test('a joint of resistance between matched halves: 2·Z₀/(2·Z₀ + R) passes, R/(2·Z₀ + R) comes back', () => {
    const matched = station([line(2), { kind: 'pad', lossDb: 0 }], {
      kind: 'fixed',
      rOhm: 50,
      xOhm: 0,
    })
    const { under } = causedWaves(matched, at, 0, 0.1)
    // 50 Ω in series of 50: 20·log₁₀ 1.5 = 3.52 dB, a third comes back.
    const db = 20 * Math.log10(1.5)
    const before = under({ kind: 'loss', from: 1, to: 1, db })
    const joint = under({ kind: 'loss', from: 1, to: 1, db, joint: true })
    expect(before.rho[1]).toBeCloseTo(0, 6)
    expect(joint.rho[1]).toBeCloseTo(1 / 3, 6)
    expect(10 * Math.log10(joint.forwardW[1]! / joint.forwardW[2]!)).toBeCloseTo(db, 6)
  })

  test('a cable ages by its factor, on top of what it has', () => {
    const { under } = causedWaves(plain, at, 0, 0.1)
    const old = plain.stages.map((s, k) =>
      k === 2 && s.kind === 'line' ? { ...s, ageing: { factor: 2 } } : s,
    )
    expectSame(under({ kind: 'aged', stage: 2, factor: 2 }), exact({ ...plain, stages: old }))
    expect(aged(old, { stage: 2, factor: 1.5 })[2]).toMatchObject({ ageing: { factor: 3 } })
    expect(aged(plain.stages, { stage: 1, factor: 2 })).toEqual(plain.stages)
  })

  test('an antenna that changed has another reflection, everywhere', () => {
    const { under } = causedWaves(plain, at, 0, 0.1)
    const change = { kind: 'other', by: complex(0.2, -0.1) } as const
    const rho = changedReflection(plain.load, change, at.frequencyHz, 50)
    const waves = under({ kind: 'antenna', change, point: null })
    expect(waves.rho.at(-1)).toBeCloseTo(Math.hypot(rho.re, rho.im), 9)
    expect(waves.rho[0]).toBeLessThan(waves.rho.at(-1)!)
  })

  test('a curve that moved is read at another frequency; at its end the end counts', () => {
    const sweep = {
      kind: 'sweep' as const,
      frequencyHz: [7e6, 8e6, 9e6],
      re: [0.5, 0, -0.5],
      im: [0, 0, 0],
    }
    const moved = (share: number) => changedReflection(sweep, { kind: 'moved', share }, 8e6, 50).re
    expect(moved(0)).toBeCloseTo(0, 12)
    // Moved upward by 8/7.5, what was at 7.5 MHz is at 8 MHz now.
    expect(moved(8 / 7.5 - 1)).toBeCloseTo(0.25, 9)
    expect(moved(0.5)).toBeCloseTo(0.5, 9)
    expect(moved(-0.5)).toBeCloseTo(-0.5, 9)
  })

  test('nothing passive reflects more than it gets', () => {
    const far = changedReflection(plain.load, { kind: 'other', by: complex(3, 4) }, 8e6, 50)
    expect(Math.hypot(far.re, far.im)).toBeCloseTo(0.999, 9)
  })

  test('a tuner with knobs stands where it stood, unless it was tuned again', () => {
    const tuned = station([line(2), hand, line(20)])
    expect(hasKnobs(hand)).toBe(true)
    expect(hasKnobs({ ...hand, bypassed: true })).toBe(false)
    expect(standing(tuned, at)[1]).toBeDefined()
    const change = { kind: 'other', by: complex(0.25, 0.2) } as const
    const { under } = causedWaves(tuned, at, 0, 0.1)
    const stood = under({ kind: 'antenna', change, point: null })
    const again = under({ kind: 'antenna', change, point: null, retuned: true })
    expect(stood.rho[1]).toBeGreaterThan(0.1)
    expect(again.rho[1]).toBeLessThan(0.01)
  })
})

describe('a tuner at the edge of what it matches', () => {
  // At 8 MHz 63 steps of 0.13 µH are 412 Ω: as much as this whip has, which is not known to the ohm.
  const tuner = {
    ...({ kind: 'tuner', method: 'stepped', coilBits: 6, coilStepH: 0.13e-6 } as const),
    ...{ capacitorBits: 7, capacitorStepF: 20e-12, contentSwr: 2, coilQ: 150, capacitorQ: 1000 },
  }
  const edge = station([line(2), tuner], { kind: 'fixed', rOhm: 20, xOhm: -400 })
  const moved = (xOhm: number): Cause => {
    const [from, to] = [-400, xOhm].map((x) => reflectionOf(complex(20, x), 50)) as [
      Complex,
      Complex,
    ]
    const by = complex(to.re - from.re, to.im - from.im)
    return { kind: 'antenna', change: { kind: 'other', by }, point: null }
  }
  const shorted: Cause & { kind: 'antenna' } = {
    ...{ kind: 'antenna', point: null },
    change: { kind: 'broken', reflection: complex(-0.995) },
  }
  const meter = { kind: 'averaging' as const, rangesW: [20, 200], accuracy: 0.05 }
  const kase: Case = {
    chain: edge,
    channels: [{ ...at, emission: { mode: 'FM' } }],
    instruments: [meter],
    readings: [0, 1].map((plane) => ({
      ...{ point: 0, plane, instrument: 0, forwardW: 100, reflectedW: 0.3 },
    })),
    tolerances: { ...usualTolerances, reflection: 0.02 },
  }
  const logOf = () => {
    const observables = kase.readings.flatMap((reading, i) =>
      observablesOf(reading, i, meter, kase.channels[0]!),
    )
    const likelihood = likelihoodOf(kase, prepare(kase), observables)
    return (cause: Cause) => likelihood(cause).log
  }

  test('matches some of the antennas that it may have, and the fewer the further one is off', () => {
    const { matchShare } = causedWaves(edge, at, 0, 0.02)
    const shares = [moved(-330), moved(-400), moved(-430), shorted].map((cause) =>
      matchShare(cause),
    )
    expect(shares[0]).toBeGreaterThan(0.9)
    expect(shares[3]).toBeLessThan(0.1)
    for (const [i, share] of shares.entries()) if (i > 0) expect(share).toBeLessThan(shares[i - 1]!)
    // On another channel it is as it was.
    expect(matchShare({ ...(moved(-600) as Cause & { kind: 'antenna' }), point: 1 })).toBe(
      shares[1],
    )
    expect(matchShare({ kind: 'none' })).toBe(shares[1])
  })

  test('does not rule out an antenna that it may still match, and does one that it cannot', () => {
    const log = logOf()
    const none = log({ kind: 'none' })
    const near = none - log(moved(-430))
    // Beyond the edge as it is written down, within it as it may be.
    expect(near).toBeGreaterThan(0)
    expect(near).toBeLessThan(2)
    expect(none - log(shorted)).toBeGreaterThan(near + 0.5)
  })
})

describe('explanations', () => {
  const kase: Case = {
    chain: plain,
    channels: [8e6, 12e6].map((frequencyHz) => ({
      frequencyHz,
      powerW: 100,
      emission: { mode: 'FM' as const },
    })),
    instruments: [{ kind: 'averaging', rangesW: [5, 50, 500], accuracy: 0.05 }],
    readings: [0, 1].flatMap((point) => [
      { point, plane: 0, instrument: 0, forwardW: 100, reflectedW: 1 },
      { point, plane: 3, instrument: 0, forwardW: 80, reflectedW: 1 },
    ]),
    tolerances: usualTolerances,
  }

  test('their priors make one', () => {
    const candidates = candidatesOf(kase)
    expect(candidates.reduce((sum, { prior }) => sum + prior, 0)).toBeCloseTo(1, 12)
    expect(candidates.every(({ sizes }) => sizes.length > 0)).toBe(true)
  })

  test('every kind is among them, the wrong scale by the meter’s own ranges', () => {
    const sizes = candidatesOf(kase).flatMap((candidate) => candidate.sizes)
    const kinds = new Set(sizes.map(({ kind }) => kind))
    for (const kind of [
      'none',
      'transmitter',
      'loss',
      'aged',
      'antenna',
      'meter',
      'common mode',
      'slip',
    ])
      expect(kinds).toContain(kind)
    const scales = sizes.flatMap((c) => (c.kind === 'meter' && c.why === 'scale' ? [c.factor] : []))
    expect(scales).toEqual(expect.arrayContaining([10, 0.1]))
    // An averaging meter cannot show the average by mistake.
    expect(kinds).not.toContain('averaging')
  })

  test('stages that no reading separates stay together; a bypassed one alone is none', () => {
    expect(stageGroups(plain.stages, [0, 3])).toEqual([
      { from: 0, to: 2 },
      { from: 3, to: 3 },
    ])
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 4 }), { maxLength: 5 }), (planes) => {
        const groups = stageGroups(plain.stages, planes)
        const covered = groups.flatMap(({ from, to }) =>
          Array.from({ length: to - from + 1 }, (_, i) => from + i),
        )
        expect(covered).toEqual([0, 1, 2, 3])
      }),
    )
    const bypassed = plain.stages.map((s, k) => (k === 3 ? { ...s, bypassed: true } : s))
    expect(stageGroups(bypassed, [3])).toEqual([{ from: 0, to: 2 }])
  })

  test('a single reading is no slip: there is nothing to compare it with', () => {
    const one = candidatesOf({ ...kase, readings: kase.readings.slice(0, 1) })
    expect(one.some(({ sizes }) => sizes[0]!.kind === 'slip')).toBe(false)
  })
})

describe('evidence', () => {
  const meter = {
    kind: 'averaging' as const,
    rangesW: [50, 500],
    accuracy: 0.05,
    directivityDb: 30,
  }
  const channel = { ...at, emission: { mode: 'FM' as const } }
  const site = { point: 0, plane: 0, instrument: 0 }

  test('a reading has a power in dB and a reflection', () => {
    const [forward, rho] = observablesOf(
      { ...site, forwardW: 40, reflectedW: 1.6 },
      0,
      meter,
      channel,
    )
    expect(forward!.value).toBeCloseTo(10 * Math.log10(40), 9)
    expect(rho!.value).toBeCloseTo(0.2, 9)
  })

  test('a low reading on a coarse range is known badly', () => {
    const variance = (forwardW: number, rangeW: number) => {
      const [own] = observablesOf({ ...site, forwardW, rangeW }, 0, meter, channel)
      return own!.ownVariance + own!.sharedVariance
    }
    expect(variance(40, 50)).toBeLessThan(variance(40, 500) / 20)
    expect(variance(0, 50)).toBeGreaterThan(0.5)
  })

  test('speech on an averaging meter is known worse than a carrier', () => {
    const own = (mode: 'FM' | 'voice-plain') =>
      observablesOf({ ...site, forwardW: 40 }, 0, meter, { ...channel, emission: { mode } })[0]!
        .ownVariance
    expect(own('voice-plain')).toBeGreaterThan(own('FM') + 0.9)
  })

  test('errors hang together: of one meter, and of one transmitter', () => {
    const kase: Case = {
      chain: plain,
      channels: [channel],
      instruments: [meter, meter],
      readings: [],
      tolerances: usualTolerances,
    }
    const spread = spreadOf(kase)
    const read = (plane: number, instrument: number) =>
      observablesOf({ point: 0, plane, instrument, forwardW: 40 }, 0, meter, channel)[0]!
    const same = covarianceOf([read(0, 0), read(4, 0)], spread)
    const two = covarianceOf([read(0, 0), read(4, 1)], spread)
    const correlation = (c: Float64Array) => c[1]! / Math.sqrt(c[0]! * c[3]!)
    expect(correlation(two)).toBeGreaterThan(0.1)
    expect(correlation(same)).toBeGreaterThan(correlation(two))
    expect(correlation(same)).toBeLessThan(1)
  })

  test('whitened, figures lose what hangs them together', () => {
    const l = cholesky(Float64Array.of(2, 1.8, 1.8, 2), 2)
    const [a, b] = whiten(l, [1, 0.9])
    expect(a).toBeCloseTo(1 / Math.SQRT2, 9)
    // 0.9 is just what 1 lets expect.
    expect(b).toBeCloseTo(0, 9)
  })
})
