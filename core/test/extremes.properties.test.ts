/** Chains at the far ends of what a document may hold: each solves to finite figures, or says why not. */
import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import {
  answerChain,
  type Chain,
  InputError,
  ledgerOf,
  type Load,
  type Solution,
  solveChain,
  type Stage,
  sweepBand,
} from '../src/index.ts'

const between = (min: number, max: number) => fc.double({ min, max, noNaN: true })
/** Small and large alike, and now and then just an end. */
const over = (min: number, max: number) =>
  fc.oneof(
    { weight: 4, arbitrary: between(Math.log(min), Math.log(max)).map(Math.exp) },
    fc.constantFrom(min, max),
  )
const orZero = (arbitrary: fc.Arbitrary<number>) =>
  fc.oneof({ weight: 4, arbitrary }, fc.constant(0))
const signed = (max: number) =>
  fc.tuple(orZero(over(1e-6, max)), fc.boolean()).map(([v, minus]) => (minus ? -v : v))

const cable = fc.record({
  z0Ohm: between(10, 500),
  velocityFactor: between(0.3, 1),
  k1DbPer100m: orZero(over(1e-6, 200)),
  k2DbPer100m: orZero(over(1e-9, 5)),
})
const line = fc.record({
  kind: fc.constant('line' as const),
  lengthM: orZero(over(1e-3, 5000)),
  cable,
})
const pad = fc.record({
  kind: fc.constant('pad' as const),
  lossDb: orZero(over(1e-4, 60)),
  atHz: fc.option(over(1e4, 6e9), { nil: undefined }),
})
const series = fc.record({
  kind: fc.constant('series' as const),
  rOhm: orZero(over(1e-3, 1e5)),
  xOhm: signed(1e5),
})
const shunt = fc.record({
  kind: fc.constant('shunt' as const),
  rOhm: over(1e-3, 1e5),
  xOhm: signed(1e5),
})
const measured = fc.record({
  kind: fc.constant('measured' as const),
  frequencyHz: fc.constant([1e4, 6e9]),
  s: fc.array(between(-1.1, 1.1), { minLength: 16, maxLength: 16 }),
})
const givenTuner = fc.record({
  kind: fc.constant('tuner' as const),
  method: fc.constant('given' as const),
  lossDb: between(0, 60),
  residualSwr: between(1, 10),
  reachSwr: fc.option(over(1, 1000), { nil: undefined }),
})
const range = (min: number, max: number) =>
  fc
    .tuple(over(min, max), over(min, max))
    .map(([a, b]): [number, number] => [Math.min(a, b), Math.max(a, b) * 1.01])
const networkTuner = fc.record({
  kind: fc.constant('tuner' as const),
  method: fc.constant('network' as const),
  network: fc.constantFrom('L-low-pass', 'L-high-pass', 'T', 'pi'),
  shuntAt: fc.constantFrom('either', 'antenna', 'transmitter'),
  coilH: range(1e-10, 1),
  capacitorF: range(1e-14, 1e-3),
  coilQ: between(5, 2000),
  capacitorQ: between(20, 20_000),
})
const amplifier = fc
  .record({ gainDb: between(0, 60), driveW: over(1e-3, 1e5), share: between(0.01, 1) })
  .map(({ gainDb, driveW, share }) => ({
    kind: 'amplifier' as const,
    gainDb,
    driveW,
    fullW: driveW * 10 ** (gainDb / 10) * share,
    behaviour: 'levelled' as const,
    foldback: [],
    inputOhm: { rOhm: 50, xOhm: 0 },
  }))
const stage = fc.oneof(
  { weight: 3, arbitrary: line },
  pad,
  series,
  shunt,
  measured,
  givenTuner,
  networkTuner,
  amplifier,
) as fc.Arbitrary<Stage>

const load: fc.Arbitrary<Load> = fc.oneof(
  fc.record({
    kind: fc.constant('fixed' as const),
    rOhm: orZero(over(1e-3, 1e5)),
    xOhm: signed(1e5),
  }),
  fc.record({ kind: fc.constant('swr' as const), swr: over(1, 1000) }),
  fc.record({
    kind: fc.constant('resonator' as const),
    resonanceHz: over(1e4, 6e9),
    rOhm: over(0.1, 1e4),
    q: over(0.5, 2000),
  }),
)
const foldback = fc.constantFrom<[number, number][]>(
  [],
  [
    [1.5, 1],
    [3, 0],
  ],
  [[1, 0]],
)
const chain: fc.Arbitrary<Chain> = fc.record({
  transmitter: fc.record({
    behaviour: fc.constantFrom('levelled' as const, 'peaked' as const),
    foldback,
  }),
  stages: fc.array(stage, { maxLength: 6 }),
  load,
})
const at = fc.record({ frequencyHz: over(1e4, 6e9), powerW: over(1e-3, 1e6) })

function expectSound(solution: Solution): void {
  const finite = [
    solution.antennaW,
    solution.transmitterNetW,
    solution.foldback,
    ...solution.planes.flatMap((p) => [
      p.netW,
      p.forwardW,
      p.reflectedW,
      p.voltageRms,
      p.currentRms,
    ]),
    ...solution.stages.flatMap((s) => [
      s.lossW,
      ...(s.line
        ? [
            s.line.matchedLossDb,
            s.line.maxVoltageRms.value,
            s.line.maxCurrentRms.value,
            s.line.maxHeatWPerM.value,
          ]
        : []),
    ]),
  ]
  for (const figure of finite) expect(Number.isFinite(figure)).toBe(true)
  // A loss or an SWR may be infinite; it is never unknown.
  for (const db of [solution.chainLossDb, ...solution.stages.map((s) => s.lossDb)])
    expect(db).not.toBeNaN()
  for (const { swr } of solution.planes) expect(swr).toBeGreaterThanOrEqual(1)
  const most = Math.max(...solution.planes.map((p) => p.forwardW))
  for (const s of solution.stages)
    if (!s.amplifier) expect(s.lossW).toBeGreaterThanOrEqual(-1e-9 * most)
  expect(ledgerOf(solution).rows.every((row) => Number.isFinite(row.lossW))).toBe(true)
}

describe('a chain at the ends of what a document may hold', () => {
  test('solves to finite figures, or is refused with a reason', () => {
    fc.assert(
      fc.property(chain, at, (chain, at) => {
        let solution
        try {
          solution = solveChain(chain, at)
        } catch (error) {
          expect(error).toBeInstanceOf(InputError)
          return
        }
        expectSound(solution)
      }),
      { numRuns: 600 },
    )
  })

  test('hundreds of decibels: the loss of a line is its matched loss, whatever ends it', () => {
    const long = (lengthM: number): Chain => ({
      transmitter: { behaviour: 'levelled', foldback: [] },
      stages: [
        {
          kind: 'line',
          lengthM,
          cable: { z0Ohm: 50, velocityFactor: 0.66, k1DbPer100m: 0, k2DbPer100m: 2 },
        },
      ],
      load: { kind: 'fixed', rOhm: 50, xOhm: 0 },
    })
    // k₂ = 2 dB per 100 m and MHz at 6 GHz is 120 dB a metre.
    for (const [metres, db] of [
      [2.5, 300],
      [3000, 360_000],
    ] as const) {
      const solution = solveChain(long(metres), { frequencyHz: 6e9, powerW: 100 })
      expectSound(solution)
      // So lossy a line is no longer a low-loss one: its α is 0.3 % off k₂·f.
      const { matchedLossDb } = solution.stages[0]!.line!
      expect(matchedLossDb / db).toBeCloseTo(1, 2)
      // Its complex Zc is not quite 50 Ω.
      expect(Math.abs(solution.chainLossDb - matchedLossDb)).toBeLessThan(0.05)
      expect(solution.planes[0]!.netW).toBeCloseTo(100, 0)
    }
    const { antennaW } = solveChain(long(2.5), { frequencyHz: 6e9, powerW: 100 })
    expect(Math.abs(10 * Math.log10(100 / antennaW) - 300)).toBeLessThan(1)
  })

  test('a long line is the same in one piece and in forty', () => {
    const piece = (lengthM: number): Stage => ({
      kind: 'line',
      lengthM,
      cable: { z0Ohm: 50, velocityFactor: 0.66, k1DbPer100m: 20, k2DbPer100m: 0.5 },
    })
    const of = (stages: Stage[]): Chain => ({
      transmitter: { behaviour: 'levelled', foldback: [] },
      stages,
      load: { kind: 'fixed', rOhm: 30, xOhm: 90 },
    })
    const point = { frequencyHz: 145e6, powerW: 50 }
    for (const lengthM of [20, 90, 900]) {
      const whole = solveChain(of([piece(lengthM)]), point)
      const parts = solveChain(of(Array.from({ length: 40 }, () => piece(lengthM / 40))), point)
      expect(parts.chainLossDb / whole.chainLossDb).toBeCloseTo(1, 9)
      expect(parts.stages[0]!.line!.maxVoltageRms.value).toBeCloseTo(
        whole.stages[0]!.line!.maxVoltageRms.value,
        6,
      )
    }
  })

  test('foldback to nothing leaves the SWR known', () => {
    const nothing: Chain = {
      transmitter: {
        behaviour: 'levelled',
        foldback: [
          [3, 1],
          [5, 0],
        ],
      },
      stages: [{ kind: 'pad', lossDb: 0.5 }],
      load: { kind: 'fixed', rOhm: 750, xOhm: 0 },
    }
    const { planes, antennaW, stages } = solveChain(nothing, { frequencyHz: 7e6, powerW: 100 })
    expect(antennaW).toBe(0)
    expect(planes.at(-1)!.swr).toBeCloseTo(15, 9)
    expect(planes.at(-1)!.impedanceOhm.re).toBeCloseTo(750, 6)
    expect(stages[0]!.lossDb).toBeGreaterThan(0.5)
  })

  test('an antenna of unknown phase, and a sweep across a band, hold as well', () => {
    fc.assert(
      fc.property(chain, at, (chain, at) => {
        const swept = sweepBand(
          chain,
          Float64Array.of(at.frequencyHz, at.frequencyHz * 1.01),
          at.powerW,
        )
        // NaN is a gap: only where the part or the load was not measured or is none.
        const gap = chain.stages.some(({ kind }) => kind === 'measured')
        if (!gap) for (const watts of swept.antennaW) expect(Number.isFinite(watts)).toBe(true)
        if (chain.load.kind !== 'swr' || gap) return
        const answer = answerChain(chain, at)
        expect(Number.isFinite(answer.spread!.antennaW.high)).toBe(true)
      }),
      { numRuns: 60 },
    )
  })
})
