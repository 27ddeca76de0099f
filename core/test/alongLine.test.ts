/** Distance from a sweep: against lines solved by hand, a direct sum, and by properties. */
import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import {
  alongLine,
  cableClasses,
  type Chain,
  complex,
  type FarEnd,
  InputError,
  type Reflections,
  seeded,
  type Stage,
} from '../src/index.ts'
import { newPhasors } from '../src/chain/phasors.ts'
import { walk } from '../src/chain/walk.ts'
import { kaiser, widthOf } from '../src/sweep/window.ts'

const C = 299_792_458
const lossless = (velocityFactor: number, z0Ohm = 50) => ({
  z0Ohm,
  velocityFactor,
  k1DbPer100m: 0,
  k2DbPer100m: 0,
})
const line = (lengthM: number, cable = lossless(0.8)): Stage => ({ kind: 'line', lengthM, cable })
const chainOf = (...stages: Stage[]): Chain => ({
  transmitter: { behaviour: 'levelled', foldback: [] },
  stages,
  load: { kind: 'fixed', rOhm: 50, xOhm: 0 },
})
const grid = (lowHz: number, highHz: number, n: number) =>
  Float64Array.from({ length: n }, (_, i) => lowHz + ((highHz - lowHz) * i) / (n - 1))

/** The sweep of a chain by the solver's own walk, with another end or other parts than are written down. */
function swept(stages: Stage[], hz: Float64Array, end: FarEnd, noise = 0): Reflections {
  const random = seeded(9)
  const rho = { open: complex(1), short: complex(-1), load: complex(0), antenna: complex(0) }[end]
  const phasors = newPhasors(stages.length)
  const re = new Float64Array(hz.length)
  const im = new Float64Array(hz.length)
  hz.forEach((each, k) => {
    walk(stages, each, 50, rho, phasors)
    const [vRe = 0, vIm = 0, iRe = 0, iIm = 0] = phasors
    const [aRe, aIm] = [vRe + 50 * iRe, vIm + 50 * iIm]
    const [bRe, bIm] = [vRe - 50 * iRe, vIm - 50 * iIm]
    const size = aRe * aRe + aIm * aIm
    re[k] = (bRe * aRe + bIm * aIm) / size + noise * (random() - 0.5)
    im[k] = (bIm * aRe - bRe * aIm) / size + noise * (random() - 0.5)
  })
  return { frequencyHz: hz, re, im }
}

describe('the window', () => {
  test('is even, one in the middle, and as narrow as it says', () => {
    const w = kaiser(101, 6)
    expect(w[50]).toBeCloseTo(1, 12)
    for (let i = 0; i < 50; i++) expect(w[i]).toBeCloseTo(w[100 - i]!, 12)
    // I₀(6) = 67.234.
    expect(w[0]).toBeCloseTo(1 / 67.2344, 5)
    expect([...kaiser(3, 0)]).toEqual([1, 1, 1])
  })

  test('without weights half height lies 0.6034 of 1/span to either side', () => {
    // sin(x)/x = 1/2 at x = 1.8955: t = 1.8955/(π·span).
    const width = widthOf(kaiser(2001, 0), 1e5)
    expect(width * 200.1e6).toBeCloseTo((2 * 1.89549) / Math.PI, 2)
  })
})

describe('distance', () => {
  test('an open end without loss peaks where it is, for any length, span and number of points', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 3, max: 80, noNaN: true }),
        fc.double({ min: 0.6, max: 0.95, noNaN: true }),
        fc.double({ min: 40e6, max: 900e6, noNaN: true }),
        fc.double({ min: 1e6, max: 100e6, noNaN: true }),
        (lengthM, velocityFactor, spanHz, lowHz) => {
          const metres = (velocityFactor * C) / 2
          // Points enough that the end is not beyond what is unambiguous.
          const n = Math.max(51, Math.ceil((1.5 * lengthM * spanHz) / metres) + 2)
          fc.pre(n <= 1601)
          const stages = [line(lengthM, lossless(velocityFactor))]
          const hz = grid(lowHz, lowHz + spanHz, n)
          const seen = alongLine(chainOf(...stages), 0, swept(stages, hz, 'open'), 'open')
          expect(Math.abs(seen.end!.atM - lengthM)).toBeLessThan(seen.resolutionM / 10)
          expect(seen.end!.extraLossDb).toBeCloseTo(0, 2)
          expect(seen.unambiguousM).toBeCloseTo(metres / (spanHz / (n - 1)), 6)
          expect(seen.findings).toEqual([])
        },
      ),
      { numRuns: 40 },
    )
  })

  test('height by height it is the windowed sum of the sweep, turned back by the delay', () => {
    const stages = [line(20)]
    const hz = grid(50e6, 250e6, 101)
    const sweep = swept(stages, hz, 'short', 0.03)
    const { distanceM, measured } = alongLine(chainOf(...stages), 0, sweep, 'short')
    const w = kaiser(101, 6)
    const total = w.reduce((a, b) => a + b, 0)
    for (const i of [0, 7, 30, distanceM.length - 1]) {
      const time = (2 * distanceM[i]!) / (0.8 * C)
      let re = 0
      let im = 0
      hz.forEach((f, k) => {
        const angle = 2 * Math.PI * f * time
        re += w[k]! * (sweep.re[k]! * Math.cos(angle) - sweep.im[k]! * Math.sin(angle))
        im += w[k]! * (sweep.re[k]! * Math.sin(angle) + sweep.im[k]! * Math.cos(angle))
      })
      expect(measured[i]).toBeCloseTo(Math.hypot(re, im) / total, 9)
    }
  })

  describe('of a sweep that begins at its own step', () => {
    const harmonic = (stepHz: number, n: number) => grid(stepHz, n * stepHz, n)

    test('height by height it is the windowed sum over frequencies of both signs and none', () => {
      const stages = [line(20)]
      const hz = harmonic(2e6, 101)
      const sweep = swept(stages, hz, 'short', 0.03)
      const { distanceM, measured, lowPass } = alongLine(chainOf(...stages), 0, sweep, 'short')
      expect(lowPass).toBe(true)
      const w = kaiser(203, 6)
      const total = w.reduce((a, b) => a + b, 0)
      for (const i of [0, 7, 30, distanceM.length - 1]) {
        const time = (2 * distanceM[i]!) / (0.8 * C)
        // Even at 0 Hz: a parabola through the first two on both sides.
        let sum = (w[101]! * (4 * sweep.re[0]! - sweep.re[1]!)) / 3
        for (let k = 1; k <= 101; k++)
          for (const sign of [1, -1]) {
            const angle = 2 * Math.PI * sign * hz[k - 1]! * time
            const [re, im] = [sweep.re[k - 1]!, sign * sweep.im[k - 1]!]
            sum += w[101 + sign * k]! * (re * Math.cos(angle) - im * Math.sin(angle))
          }
        expect(measured[i]).toBeCloseTo(Math.abs(sum / total), 9)
      }
    })

    test('an end peaks where it is, and what lies apart by half of what else is told is told', () => {
      fc.assert(
        fc.property(
          fc.double({ min: 3, max: 60, noNaN: true }),
          fc.double({ min: 0.5e6, max: 1.5e6, noNaN: true }),
          fc.integer({ min: 201, max: 601 }),
          fc.constantFrom('open' as const, 'short' as const),
          (lengthM, stepHz, n, end) => {
            const stages = [line(lengthM)]
            const chain = chainOf(...stages)
            const low = alongLine(chain, 0, swept(stages, harmonic(stepHz, n), end), end)
            fc.pre(low.unambiguousM > 1.6 * lengthM)
            expect(Math.abs(low.end!.atM - lengthM)).toBeLessThan(low.resolutionM / 10)
            expect(low.end!.extraLossDb).toBeCloseTo(0, 2)
            expect(low.findings).toEqual([])
            const shifted = grid(1.5 * stepHz, (n + 0.5) * stepHz, n)
            const band = alongLine(chain, 0, swept(stages, shifted, end), end)
            expect(band.lowPass).toBe(false)
            expect(low.resolutionM / band.resolutionM).toBeCloseTo(0.5, 1)
          },
        ),
        { numRuns: 25 },
      )
    })

    test.each([
      ['a resistance in series', { kind: 'series', rOhm: 12, xOhm: 0 }, true],
      ['a resistance across', { kind: 'shunt', rOhm: 150, xOhm: 0 }, false],
      ['half a metre of 70 Ω', { ...line(0.5, lossless(0.8, 70)) }, true],
      ['half a metre of 35 Ω', { ...line(0.5, lossless(0.8, 35)) }, false],
    ] as [string, Stage, boolean][])('%s: whether the impedance rises', (_, part, rises) => {
      const bad = [line(18), part, line(22)]
      const hz = harmonic(0.5e6, 401)
      const { findings } = alongLine(chainOf(line(40)), 0, swept(bad, hz, 'load', 0.002), 'load')
      expect(findings[0]!.atM).toBeCloseTo(18, 0)
      expect(findings[0]!.rises).toBe(rises)
    })

    test('a sound chain is as expected, and its band-passed twin says nothing of rises', () => {
      const cable = cableClasses.find(({ id }) => id === 'pe-5')!
      const stages: Stage[] = [
        line(3, cable),
        { kind: 'pad', lossDb: 0.2 },
        line(22, lossless(0.83, 75)),
        line(2, cable),
      ]
      for (const end of ['open', 'short', 'load'] as const)
        expect(
          alongLine(chainOf(...stages), 0, swept(stages, harmonic(1e6, 501), end, 0.01), end)
            .findings,
        ).toEqual([])
      const bad = [line(18), { kind: 'series' as const, rOhm: 12, xOhm: 0 }, line(22)]
      const [found] = alongLine(
        ...([chainOf(line(40)), 0, swept(bad, grid(10e6, 400e6, 401), 'load'), 'load'] as const),
      ).findings
      expect(found!.rises).toBeNull()
    })
  })

  test('two cables of other velocity: the joint between them stands at its metre, and so does the end', () => {
    const good = [line(12, lossless(0.66)), line(25, lossless(0.88))]
    const bad: Stage[] = [good[0]!, { kind: 'series', rOhm: 12, xOhm: 0 }, good[1]!]
    const hz = grid(10e6, 500e6, 401)
    const seen = alongLine(chainOf(...good), 0, swept(bad, hz, 'open'), 'open')
    expect(seen.placesM).toEqual([0, 12, 37])
    expect(seen.findings).toHaveLength(1)
    const [joint] = seen.findings
    expect(joint!.atM).toBeCloseTo(12, 1)
    expect(joint).toMatchObject({ stage: 1, atJoint: true })
    // R/(R + 2·Z₀) comes back.
    expect(joint!.measured).toBeCloseTo(12 / 112, 2)
    expect(Math.abs(seen.end!.atM - 37)).toBeLessThan(seen.resolutionM / 10)
  })

  test('the loss of real cable is made good, and what is lost beyond it is said', () => {
    const cable = cableClasses.find(({ id }) => id === 'foam-7')!
    const good: Stage[] = [line(46, cable)]
    const hz = grid(5e6, 205e6, 401)
    const sound = alongLine(chainOf(...good), 0, swept(good, hz, 'open'), 'open')
    expect(sound.end!.atM).toBeCloseTo(46, 1)
    expect(Math.max(...sound.measured)).toBeCloseTo(1, 1)
    expect(sound.end!.extraLossDb).toBeCloseTo(0, 6)
    const lossy: Stage[] = [...good, { kind: 'pad', lossDb: 1.3 }]
    const seen = alongLine(chainOf(...good), 0, swept(lossy, hz, 'open'), 'open')
    expect(seen.end!.extraLossDb).toBeCloseTo(1.3, 2)
  })

  test('a cable that ends at two thirds of what is written down is found to end there', () => {
    const hz = grid(5e6, 305e6, 301)
    const seen = alongLine(chainOf(line(30)), 0, swept([line(20)], hz, 'open'), 'open')
    expect(seen.end!.atM).toBeCloseTo(20, 1)
  })

  test('a cable that is longer than written down is found to end further out', () => {
    const hz = grid(5e6, 305e6, 301)
    const seen = alongLine(chainOf(line(30)), 0, swept([line(31.2)], hz, 'short'), 'short')
    expect(seen.end!.atM).toBeCloseTo(31.2, 1)
  })

  test('a sound chain is as expected, with noise, parts and a cable of 75 Ω in it', () => {
    const cable = cableClasses.find(({ id }) => id === 'pe-5')!
    const stages: Stage[] = [
      line(3, cable),
      { kind: 'pad', lossDb: 0.2 },
      line(22, lossless(0.83, 75)),
      line(2, cable),
    ]
    const hz = grid(10e6, 510e6, 501)
    for (const end of ['open', 'short', 'load'] as const) {
      const seen = alongLine(chainOf(...stages), 0, swept(stages, hz, end, 0.01), end)
      expect(seen.findings).toEqual([])
      // What the 75 Ω part reflects at its ends is expected: (75 − 50)/(75 + 50).
      const at = seen.distanceM.findIndex((m) => m >= 3)
      expect(seen.expected[at]).toBeCloseTo(0.2, 1)
    }
  })

  test('a bad joint is found at every plane: at the analyser, between the parts, and before a load', () => {
    const cable = cableClasses.find(({ id }) => id === 'foam-10')!
    const good: Stage[] = [line(6, cable), { kind: 'pad', lossDb: 0.1 }, line(31, cable)]
    const hz = grid(10e6, 400e6, 401)
    ;[0, 6, 6, 37].forEach((atM, k) => {
      const bad = [
        ...good.slice(0, k),
        { kind: 'series' as const, rOhm: 12, xOhm: 0 },
        ...good.slice(k),
      ]
      const { findings } = alongLine(chainOf(...good), 0, swept(bad, hz, 'load'), 'load')
      expect(findings).toHaveLength(1)
      expect(findings[0]!.atM).toBeCloseTo(atM, 0)
      expect(findings[0]!.measured).toBeCloseTo(12 / 112, 1)
    })
  })

  test('a wet place inside a run is found in the run', () => {
    const hz = grid(20e6, 420e6, 401)
    const wet = [
      line(14),
      { kind: 'line' as const, lengthM: 0.3, cable: lossless(0.8, 32) },
      line(15.7),
    ]
    const seen = alongLine(chainOf(line(30)), 0, swept(wet, hz, 'load'), 'load')
    expect(seen.findings).toHaveLength(1)
    expect(seen.findings[0]!.atM).toBeCloseTo(14.15, 1)
    expect(seen.findings[0]).toMatchObject({ stage: 0, atJoint: false })
  })

  test('beside a tuner it begins behind it', () => {
    const tuner: Stage = { kind: 'tuner', method: 'given', lossDb: 0.2, residualSwr: 1.2 }
    const hz = grid(20e6, 120e6, 101)
    const chain = chainOf(line(2), tuner, line(20))
    expect(() => alongLine(chain, 0, swept([line(20)], hz, 'open'), 'open')).toThrow(/tuner hides/)
    expect(alongLine(chain, 2, swept([line(20)], hz, 'open'), 'open').end!.atM).toBeCloseTo(20, 1)
  })

  test('of an antenna that is not known over the sweep nothing is expected, and that is said', () => {
    const hz = grid(5e6, 205e6, 201)
    const chain: Chain = { ...chainOf(line(30)), load: { kind: 'swr', swr: 1.5 } }
    expect(alongLine(chain, 0, swept([line(30)], hz, 'load'), 'antenna').endKnown).toBe(false)
    expect(alongLine(chainOf(line(30)), 0, swept([line(30)], hz, 'load'), 'antenna').endKnown).toBe(
      true,
    )
  })
})

describe('sweeps as they come', () => {
  const stages = [line(20)]
  const hz = grid(50e6, 250e6, 201)
  const sweep = swept(stages, hz, 'open')
  const see = (own: Reflections) => alongLine(chainOf(...stages), 0, own, 'open')

  test('descending, or with steps a little unequal, they say the same', () => {
    const turned = {
      frequencyHz: hz.toReversed(),
      re: [...(sweep.re as Float64Array)].toReversed(),
      im: [...(sweep.im as Float64Array)].toReversed(),
    }
    expect(see(turned).end).toEqual(see(sweep).end)
    const shaken = hz.map((each, i) => each + (i % 3) * 2e4)
    expect(see(swept(stages, shaken, 'open')).end!.atM).toBeCloseTo(20, 1)
  })

  test.each<[string, Reflections, RegExp]>([
    ['two points', { frequencyHz: [1e6, 2e6], re: [0, 0], im: [0, 0] }, /16 or more/],
    [
      'a hole',
      {
        frequencyHz: hz.filter((_, i) => i < 80 || i > 120),
        re: (sweep.re as Float64Array).filter((_, i) => i < 80 || i > 120),
        im: (sweep.im as Float64Array).filter((_, i) => i < 80 || i > 120),
      },
      /hole from 129.* to 171/,
    ],
    ['more than everything', { ...sweep, re: hz.map(() => 1.2) }, /\|ρ\| is more than 1/],
    ['no figures', { ...sweep, im: hz.map(() => NaN) }, /\|ρ\| is more than 1/],
    ['one frequency', { ...sweep, frequencyHz: hz.map(() => 7e6) }, /several points on one/],
    [
      'too many points',
      {
        frequencyHz: grid(1e6, 2e6, 30_000),
        re: new Float64Array(30_000),
        im: new Float64Array(30_000),
      },
      /more than 20001/,
    ],
  ])('%s are refused in words', (_, own, words) => {
    expect(() => see(own)).toThrow(InputError)
    expect(() => see(own)).toThrow(words)
  })

  test('no cable, no distance', () => {
    expect(() => alongLine(chainOf({ kind: 'pad', lossDb: 1 }), 0, sweep, 'open')).toThrow(
      /no cable/,
    )
  })
})
