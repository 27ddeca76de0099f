import { describe, expect, test } from 'vitest'
import { allRound, extremesOf, phases } from '../src/chain/allRound.ts'
import {
  answerChain,
  type Chain,
  checkLimits,
  InputError,
  mostPower,
  type RatedChain,
  seeded,
  solveChain,
  type Stage,
  sweepBand,
} from '../src/index.ts'
import {
  chainFigures,
  ofPlane,
  ofStage,
  PLANE_FIGURES,
  STAGE_FIGURES,
} from '../src/chain/chainFigures.ts'
import { foamLine as line, handTuner } from './stations.ts'
import { drawn } from './drawn.ts'

const relays: Stage = {
  kind: 'tuner',
  method: 'stepped',
  coilBits: 6,
  coilStepH: 0.16e-6,
  capacitorBits: 6,
  capacitorStepF: 20e-12,
  coilQ: 150,
  capacitorQ: 800,
  contentSwr: 1.5,
}
const chain = (swr: number, stages: Stage[]): Chain => ({
  transmitter: {
    behaviour: 'levelled',
    foldback: [
      [1.5, 1],
      [3, 0.5],
      [10, 0.1],
    ],
  },
  stages,
  load: { kind: 'swr', swr },
})
const at = { frequencyHz: 3.9e6, powerW: 100 }

describe('all round the circle', () => {
  test.each([
    ['a sharp minimum', 0.97],
    ['a flat one', 0.2],
  ])('%s of |1 + ρ| is found to its end', (_, rho) => {
    const f = (phase: number) =>
      Math.hypot(1 + rho * Math.cos(phase + 1.234), rho * Math.sin(phase + 1.234))
    const all = allRound(phases(24), f, (v) => [v])
    const { low, high } = extremesOf(all, (v) => v)
    expect(low / (1 - rho)).toBeLessThan(1.004)
    expect(high / (1 + rho)).toBeGreaterThan(0.998)
    expect(all.length).toBeLessThan(90)
  })

  test('a sharp bend between two phases is found, on a slope and at its foot', () => {
    const bentAt = 0.7
    const f = (phase: number) => 100 + (phase < bentAt ? 13 : -40) * (phase - bentAt)
    const all = allRound(phases(48), f, (v) => [v])
    expect(extremesOf(all, (v) => v).high).toBeGreaterThan(99.9)
  })

  test('between two settings, what either would come to is found to its end', () => {
    // Each setting is best for a stretch; at the end of its stretch it comes to the most.
    const ends = [0.31, 0.345, 2.02, 4.4, 2 * Math.PI]
    const settingAt = (phase: number) => ends.findIndex((end) => phase < end)
    const beyond = (phase: number, end: number) =>
      Math.atan2(Math.sin(phase - end), Math.cos(phase - end))
    const held = (setting: number, phase: number) => [
      1 + setting + beyond(phase, ends[setting]!) / 3,
    ]
    const at = (phase: number) => ({ setting: settingAt(phase), phase })
    const all = allRound(phases(48), at, ({ setting, phase }) => held(setting, phase), {
      same: (a, b) => a.setting === b.setting,
      held: ({ setting }, phase) => held(setting, phase),
      near: 0.02,
      downTo: 0.001,
    })
    const { low, high } = extremesOf(all, ({ setting, phase }) => held(setting, phase)[0]!)
    expect(high).toBeCloseTo(5, 2)
    // Setting 0 at phase 0 is the least.
    expect(low).toBeCloseTo(1 - 0.31 / 3, 6)
    expect(all.length).toBeLessThan(90)
  })

  test('a figure that is the same everywhere, or no number, costs nothing more', () => {
    expect(
      allRound(
        phases(12),
        () => 1,
        () => [1, NaN, 0],
      ),
    ).toHaveLength(12)
  })

  test.each([
    ['no tuner', [line(3), { kind: 'pad', lossDb: 0.1 }, line(27)], drawn(3600, 7200)],
    ['a hand tuner', [line(3), handTuner, line(27)], 1200],
    ['relays', [line(3), relays, line(27)], drawn(1200, 3600)],
  ] as [string, Stage[], number][])(
    'with %s the extremes are those of looking everywhere, to 0.5 %%',
    (_, stages, everywhere) => {
      for (const swr of [1.6, 4, 11]) {
        const own = chain(swr, stages)
        const { spread } = answerChain(own, at)
        const all = phases(everywhere).map((phase) => solveChain(own, at, phase))
        for (const [range, pick] of [
          [spread!.antennaW, (s: (typeof all)[number]) => s.antennaW],
          [spread!.transmitterNetW, (s: (typeof all)[number]) => s.transmitterNetW],
          [spread!.planes[2]!.voltageRms, (s: (typeof all)[number]) => s.planes[2]!.voltageRms],
          [spread!.planes[1]!.netW, (s: (typeof all)[number]) => s.planes[1]!.netW],
        ] as const) {
          const { low, high } = extremesOf(all, pick)
          expect(range.high / high).toBeGreaterThan(0.995)
          expect(range.low / low).toBeLessThan(1.005)
        }
      }
    },
  )

  test.each([
    ['nothing that sets itself', null, 3600],
    ['an automatic L that runs out of its range', 'L-low-pass', drawn(240, 600)],
    ['relays', 'relays', drawn(1200, 3600)],
  ] as const)(
    'over a band, with %s, the edges are those of looking everywhere, to 0.5 %%',
    (_, kind, everywhere) => {
      const random = seeded(9)
      for (let i = 0; i < drawn(3, 5); i++) {
        const short: Stage = {
          ...(handTuner as Extract<Stage, { method: 'network' }>),
          network: 'L-low-pass',
          coilH: [0.2e-6, (4 + 16 * random()) * 1e-6],
          automatic: true,
        }
        const tuner = kind === null ? [] : [kind === 'relays' ? relays : short]
        const own = chain(2 + 6 * random(), [line(2), ...tuner, line(10 + 40 * random())])
        const hz = Float64Array.of(2e6 + 6e6 * random(), 8e6 + 6e6 * random())
        const band = sweepBand(own, hz, 100)
        hz.forEach((frequencyHz, k) => {
          const all = phases(everywhere).map(
            (phase) => solveChain(own, { frequencyHz, powerW: 100 }, phase).antennaW,
          )
          expect(band.antennaWLow[k]! / Math.min(...all)).toBeLessThan(1.005)
          expect(band.antennaWHigh[k]! / Math.max(...all)).toBeGreaterThan(0.995)
        })
      }
    },
  )

  test('the figures of a chain at a phase are those of solving it', () => {
    for (const stages of [
      [line(3), handTuner, line(27)],
      [relays, line(300)],
    ])
      for (const phase of [0, 1, 4]) {
        const own = chain(3, stages)
        const figures = chainFigures(own, at)(phase, [])
        const solved = solveChain(own, at, phase)
        solved.planes.forEach((plane, k) =>
          PLANE_FIGURES.forEach((name, f) =>
            expect(figures[ofPlane(k) + f]! / plane[name]).toBeCloseTo(1, 9),
          ),
        )
        solved.stages.forEach((stage, k) =>
          STAGE_FIGURES.forEach((name, f) =>
            expect(figures[ofStage(own, k) + f]).toBeCloseTo(stage[name], 9),
          ),
        )
      }
  })

  test.each([
    ['a line of no length at all', { ...line(3), lengthM: -1 }, ['stages', 1, 'lengthM']],
    ['a pad that gives power', { kind: 'pad', lossDb: -1 }, ['stages', 1, 'lossDb']],
  ] as [string, Stage, (string | number)[]][])(
    '%s is refused with its place, at whatever phase',
    (_, bad, path) => {
      const own = chain(4, [relays, bad])
      const around = { emission: { mode: 'FM' as const }, ambientC: 40 }
      for (const run of [
        () => answerChain(own, at),
        () => checkLimits(own, at, around),
        () => mostPower(own, at, around),
      ]) {
        let error: unknown
        try {
          run()
        } catch (caught) {
          error = caught
        }
        expect(error).toBeInstanceOf(InputError)
        expect((error as InputError).path).toEqual(path)
      }
    },
  )

  test('no stress is missed behind relays', () => {
    const stages = [
      line(3),
      { ...relays, limits: { voltageRms: 500 } },
      { ...line(27), limits: { voltageRms: 500 } },
    ]
    const own = chain(8, stages) as RatedChain
    const around = { emission: { mode: 'FM' as const }, ambientC: 40 }
    const found = checkLimits(own, at, around).stresses
    const most = new Map<number, number>()
    for (let i = 0; i < 1200; i++) {
      const fixed = { ...own, load: { kind: 'fixed' as const, ...ohmsAt(8, (i * Math.PI) / 600) } }
      checkLimits(fixed, at, around).stresses.forEach(({ stress }, k) =>
        most.set(k, Math.max(stress, most.get(k) ?? 0)),
      )
    }
    found.forEach(({ stress, limit }, k) => {
      if (limit !== null) expect(stress / most.get(k)!).toBeGreaterThan(0.995)
    })
  })
})

function ohmsAt(swr: number, phase: number): { rOhm: number; xOhm: number } {
  const rho = (swr - 1) / (swr + 1)
  const [re, im] = [rho * Math.cos(phase), rho * Math.sin(phase)]
  const d = (1 - re) ** 2 + im ** 2
  return { rOhm: (50 * (1 - rho * rho)) / d, xOhm: (100 * im) / d }
}
