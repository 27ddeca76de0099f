/** What must hold for any chain that has tuners and amplifiers in it. */
import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import {
  answerChain,
  type Chain,
  ledgerOf,
  mostPower,
  type RatedChain,
  solveChain,
  type Stage,
  sweepBand,
  type TunerStage,
  worthOfTuner,
} from '../src/index.ts'
import { type AmplifierStage } from '../src/source/amplifier.ts'
import { tunerNetworks } from '../src/tuner/kinds.ts'
import { withTunerAt } from '../src/chain/worthTuner.ts'
import { line, load, pad, transmitter } from './arbitrary.ts'

const between = (min: number, max: number) => fc.double({ min, max, noNaN: true })

const tuner: fc.Arbitrary<TunerStage> = fc.oneof(
  fc.record({
    kind: fc.constant('tuner' as const),
    method: fc.constant('network' as const),
    network: fc.constantFrom(...tunerNetworks),
    shuntAt: fc.constantFrom('either' as const, 'antenna' as const, 'transmitter' as const),
    coilH: fc.constant<[number, number]>([1e-7, 30e-6]),
    capacitorF: fc.constant<[number, number]>([15e-12, 500e-12]),
    coilQ: between(50, 400),
    capacitorQ: between(200, 3000),
  }),
  fc.record({
    kind: fc.constant('tuner' as const),
    method: fc.constant('stepped' as const),
    coilBits: fc.integer({ min: 3, max: 6 }),
    coilStepH: between(0.05e-6, 0.4e-6),
    capacitorBits: fc.integer({ min: 3, max: 6 }),
    capacitorStepF: between(5e-12, 40e-12),
    coilQ: between(50, 400),
    capacitorQ: between(200, 3000),
    contentSwr: fc.constant(1.5),
  }),
  fc.record({
    kind: fc.constant('tuner' as const),
    method: fc.constant('given' as const),
    lossDb: between(0, 2),
    residualSwr: between(1, 2),
    reachSwr: fc.constantFrom(undefined, 3, 10),
  }),
)

const amplifier: fc.Arbitrary<AmplifierStage> = fc
  .record({ fullW: between(50, 1000), gainDb: between(8, 20), spare: between(0, 2) })
  .chain(({ fullW, gainDb, spare }) =>
    fc.record({
      kind: fc.constant('amplifier' as const),
      gainDb: fc.constant(gainDb),
      // Small-signal gain is never less than what full output needs.
      driveW: fc.constant((fullW / 10 ** (gainDb / 10)) * 10 ** (spare / 10)),
      fullW: fc.constant(fullW),
      behaviour: fc.constantFrom('levelled' as const, 'peaked' as const),
      foldback: fc.constantFrom<[number, number][]>(
        [],
        [
          [1.5, 1],
          [3, 0.4],
        ],
      ),
      inputOhm: fc.record({ rOhm: between(10, 200), xOhm: between(-50, 50) }),
    }),
  )

const passive = fc.oneof(line, pad)

const chain: fc.Arbitrary<Chain> = fc.record({
  transmitter: transmitter(),
  stages: fc
    .tuple(
      fc.array(passive, { maxLength: 2 }),
      fc.option(amplifier),
      fc.array(passive, { maxLength: 2 }),
      fc.option(tuner),
      fc.array(passive, { maxLength: 2 }),
    )
    .map(([a, amp, b, t, c]): Stage[] => [
      ...a,
      ...(amp ? [amp] : []),
      ...b,
      ...(t ? [t] : []),
      ...c,
    ]),
  load,
})
const point = fc.record({ frequencyHz: between(2e6, 30e6), powerW: between(1, 200) })

describe('any chain with tuners and amplifiers', () => {
  test('its ledger adds up from the setting to the antenna', () => {
    fc.assert(
      fc.property(chain, point, (c, at) => {
        const { rows, takenW, addedW, antennaW, settingW } = ledgerOf(solveChain(c, at))
        const sum = rows.reduce((total, row) => total + row.lossW, 0)
        const size = Math.max(settingW, takenW, 1)
        expect(Math.abs(sum - (settingW - antennaW)) / size).toBeLessThan(1e-9)
        expect(Math.abs(settingW + addedW - takenW - antennaW) / size).toBeLessThan(1e-9)
      }),
    )
  })

  test('only an amplifier makes power, and each says what it does', () => {
    fc.assert(
      fc.property(chain, point, (c, at) => {
        const { stages, planes } = solveChain(c, at)
        stages.forEach((state, k) => {
          const { kind } = c.stages[k]!
          if (kind !== 'amplifier')
            expect(state.lossW).toBeGreaterThanOrEqual(-1e-9 * Math.max(1, planes[k]!.netW))
          expect(state.amplifier !== undefined).toBe(kind === 'amplifier')
          expect(state.tuner !== undefined).toBe(kind === 'tuner')
        })
      }),
    )
  })

  test('a tuner that matches leaves what it promises, one that does not says why', () => {
    fc.assert(
      fc.property(tuner, load, point, (t, l, at) => {
        const { stages, planes } = solveChain(
          { transmitter: { behaviour: 'peaked', foldback: [] }, stages: [t], load: l },
          at,
        )
        const state = stages[0]!.tuner!
        const promised =
          t.method === 'network' ? 1.011 : t.method === 'stepped' ? 1.5 : t.residualSwr
        if (state.matched) expect(planes[0]!.swr).toBeLessThanOrEqual(promised + 1e-6)
        else expect(state.reason!.length).toBeGreaterThan(10)
      }),
    )
  })

  test('bypassed, tuner and amplifier are as if they were not there', () => {
    fc.assert(
      fc.property(chain, point, (c, at) => {
        const active = ({ kind }: Stage) => kind === 'tuner' || kind === 'amplifier'
        const bypassed = c.stages.map((s) => (active(s) ? { ...s, bypassed: true } : s))
        const removed = c.stages.filter((s) => !active(s))
        const a = solveChain({ ...c, stages: bypassed }, at).antennaW
        const b = solveChain({ ...c, stages: removed }, at).antennaW
        expect(Math.abs(a - b)).toBeLessThanOrEqual(1e-9 * Math.max(1, b))
      }),
    )
  })

  test('a sweep of one frequency is the solution there', () => {
    fc.assert(
      fc.property(chain, point, (c, at) => {
        const one = solveChain(c, at)
        const band = sweepBand(c, Float64Array.of(at.frequencyHz), at.powerW)
        const size = Math.max(1, one.antennaW)
        expect(Math.abs(band.antennaW[0]! - one.antennaW) / size).toBeLessThan(1e-9)
        expect(Math.abs(band.transmitterNetW[0]! - one.transmitterNetW)).toBeLessThan(1e-7)
      }),
      { numRuns: 60 },
    )
  })

  test('watts rise with the setting, in proportion where there is no amplifier', () => {
    fc.assert(
      fc.property(chain, point, (c, at) => {
        const once = solveChain(c, at).antennaW
        const twice = solveChain(c, { ...at, powerW: 2 * at.powerW }).antennaW
        expect(twice).toBeGreaterThanOrEqual(once * (1 - 1e-9))
        if (c.stages.every(({ kind }) => kind !== 'amplifier'))
          expect(Math.abs(twice - 2 * once)).toBeLessThanOrEqual(1e-9 * Math.max(1, twice))
        else expect(twice).toBeLessThanOrEqual(2 * once * (1 + 1e-9))
      }),
    )
  })
})

describe('one tuner in each place', () => {
  const bare = chain.map((c) => ({
    ...c,
    stages: c.stages.filter(({ kind }) => kind !== 'tuner' && kind !== 'amplifier'),
  }))

  test('is never worse than the best of what it says, and its accounts are complete', () => {
    fc.assert(
      fc.property(bare, tuner, point, (c, t, at) => {
        const answers = worthOfTuner(c, t, at)
        expect(answers.map(({ place }) => place)).toEqual(['none', 'radio', 'feedPoint'])
        for (const a of answers) {
          const total = a.antennaW + a.tunerW + a.cableW + a.heldBackW
          expect(Math.abs(total - at.powerW)).toBeLessThan(1e-6 * at.powerW + 1e-9)
        }
        const none = answerChain(withTunerAt(c, t, 'none'), at).solution.antennaW
        expect(answers[0]!.antennaW).toBeCloseTo(none, 9)
      }),
      { numRuns: 60 },
    )
  })

  test('a lossless, perfect one at the feed point makes the cable flat', () => {
    fc.assert(
      fc.property(line, load, point, (cable, l, at) => {
        const perfect: TunerStage = { kind: 'tuner', method: 'given', lossDb: 0, residualSwr: 1 }
        const c: Chain = {
          transmitter: { behaviour: 'levelled', foldback: [] },
          stages: [cable],
          load: l,
        }
        const there = solveChain(withTunerAt(c, perfect, 'feedPoint'), at)
        expect(there.planes[1]!.swr).toBeCloseTo(1, 9)
        const flat = solveChain({ ...c, load: { kind: 'fixed', rOhm: 50, xOhm: 0 } }, at)
        expect(there.antennaW).toBeCloseTo(flat.antennaW, 8)
      }),
      { numRuns: 60 },
    )
  })
})

test('the most power of a chain does not depend on where the search begins', () => {
  const rated = fc.tuple(amplifier, line, load).map(([a, l, antenna]): RatedChain => ({
    transmitter: { behaviour: 'levelled', foldback: [] },
    stages: [a, { ...l, limits: { voltageRms: 300, averageW: 200 } }],
    load: antenna,
  }))
  fc.assert(
    fc.property(rated, between(0.01, 500), between(0.01, 500), (c, a, b) => {
      const most = (powerW: number) =>
        mostPower(c, { frequencyHz: 7e6, powerW }, { emission: { mode: 'FM' }, ambientC: 40 })
          .powerW
      const [first, second] = [most(a), most(b)]
      if (Number.isFinite(first)) expect(Math.abs(first / second - 1)).toBeLessThan(2e-3)
      else expect(second).toBe(Infinity)
    }),
    { numRuns: 60 },
  )
})
