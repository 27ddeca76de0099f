import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { withTunerAt } from '../src/chain/worthTuner.ts'
import { answerChain, type Chain, type OperatingPoint, type TunerStage } from '../src/index.ts'
import { largestEfficiency, lossBounds } from '../src/plan/bounds.ts'
import { plan, type PlanMember, type PlanRequest } from '../src/plan/plan.ts'
import { withCable } from '../src/stages/withCable.ts'
import { writeLine } from '../src/stages/line.ts'
import { newAbcd } from '../src/stages/twoPort.ts'
import { cable, line, load, pad, transmitter } from './arbitrary.ts'

const tuners = [
  { kind: 'tuner', method: 'given', lossDb: 0.4, residualSwr: 1.1, reachSwr: 10 },
  {
    kind: 'tuner',
    method: 'network',
    network: 'L-low-pass',
    shuntAt: 'either',
    coilH: [1e-8, 30e-6],
    capacitorF: [1e-12, 1e-9],
    coilQ: 150,
    capacitorQ: 1000,
  },
] satisfies TunerStage[]

/** Every combination solved, and what none of the others beats. */
function bruteForce({ chain, at, counts, sections, tuner, costPerSection = 0 }: PlanRequest) {
  const places = [null, ...(tuner?.cost === undefined ? [] : tuner.places)]
  let all: { cost: number; lossDb: number }[] = []
  for (const place of places) {
    const placed = place === null ? chain : withTunerAt(chain, tuner!.tuner, place)
    let picks: { cost: number; stages: Chain['stages'] }[] = [
      { cost: place === null || place === 'none' ? 0 : tuner!.cost!, stages: placed.stages },
    ]
    for (const { stage, candidates } of sections) {
      const section = chain.stages[stage]!
      picks = picks.flatMap(({ cost, stages }) => [
        { cost, stages },
        ...candidates.map((candidate) => ({
          cost:
            cost + candidate.costPerM! * (section as { lengthM: number }).lengthM + costPerSection,
          stages: stages.map((each) =>
            each === section ? withCable(each, candidate.cable) : each,
          ),
        })),
      ])
    }
    all = all.concat(
      picks.map(({ cost, stages }) => {
        const losses = at.map(
          (point) =>
            10 *
            Math.log10(point.powerW / answerChain({ ...placed, stages }, point).solution.antennaW),
        )
        const sum = losses.reduce(
          (total, loss, c) => total + loss * (counts === 'worst' ? 0 : counts[c]!),
          0,
        )
        return {
          cost,
          lossDb:
            counts === 'worst' ? Math.max(...losses) : sum / counts.reduce((a, b) => a + b, 0),
        }
      }),
    )
  }
  return all
    .filter(
      (own, i) =>
        !all.some(
          (other, j) =>
            i !== j &&
            other.cost <= own.cost &&
            // Of equals, the first; a difference of rounding is none.
            (other.lossDb < own.lossDb - 1e-9 ||
              (other.lossDb <= own.lossDb + 1e-9 && (other.cost < own.cost || j < i))),
        ),
    )
    .map(({ cost, lossDb }) => [cost, lossDb] as const)
    .sort((a, b) => a[0] - b[0])
}

const candidate = fc.record({
  id: fc.constant('c'),
  cable,
  costPerM: fc.double({ min: 0.1, max: 20, noNaN: true }),
})
const point = fc.record({
  frequencyHz: fc.double({ min: 1.8e6, max: 150e6, noNaN: true }),
  powerW: fc.double({ min: 1, max: 500, noNaN: true }),
})
const request: fc.Arbitrary<PlanRequest> = fc
  .record({
    transmitter: transmitter(),
    first: line,
    between: pad,
    last: line,
    load,
    at: fc.array(point, { minLength: 1, maxLength: 2 }),
    worst: fc.boolean(),
    candidates: fc.array(fc.array(candidate, { maxLength: 3 }), { minLength: 2, maxLength: 2 }),
    tuner: fc.option(
      fc.record({
        tuner: fc.constantFrom(...tuners),
        cost: fc.constantFrom(0, 50, undefined),
        places: fc.constant(['none', 'radio', 'feedPoint'] as const),
      }),
      { nil: undefined },
    ),
    stands: fc.boolean(),
  })
  .map(({ transmitter: source, first, between, last, load: end, worst, stands, ...rest }) => {
    const own = stands && rest.tuner ? [rest.tuner.tuner] : []
    return {
      chain: { transmitter: source, stages: [first, ...own, between, last], load: end },
      at: rest.at,
      counts: worst ? 'worst' : rest.at.map((_, c) => c + 1),
      sections: [
        { stage: 0, candidates: rest.candidates[0]!, presentCost: 0 },
        { stage: 2 + own.length, candidates: rest.candidates[1]!, presentCost: 0 },
      ],
      tuner: rest.tuner,
      costPerSection: 7,
    }
  })

describe('a plan', () => {
  test('is the Pareto front that brute force finds', () => {
    fc.assert(
      fc.property(request, (asked) => {
        const found = plan(asked).front.map(({ cost, lossDb }) => [cost, lossDb] as const)
        const expected = bruteForce(asked)
        expect(found.length).toBe(expected.length)
        found.forEach(([cost, loss], i) => {
          expect(cost).toBeCloseTo(expected[i]![0], 9)
          expect(loss).toBeCloseTo(expected[i]![1], 6)
        })
      }),
      { numRuns: 60 },
    )
  })

  test('no bound is above the loss it bounds', () => {
    fc.assert(
      fc.property(request, ({ chain, at, sections }) => {
        const choices = sections.map(({ stage, candidates }) => ({
          stage,
          cables: [null, ...candidates.map((each) => each.cable)],
        }))
        for (const one of at) {
          const bounds = lossBounds(chain, one, choices)
          bounds.forEach((bound, index) => {
            let rest = index
            let { stages } = chain
            for (const { stage, cables } of choices.toReversed()) {
              const picked = cables[rest % cables.length]!
              rest = Math.floor(rest / cables.length)
              if (picked) stages = stages.with(stage, withCable(stages[stage]!, picked))
            }
            const { antennaW } = answerChain({ ...chain, stages }, one).solution
            // Both walk the same circuit; what is left is rounding.
            expect(bound).toBeLessThanOrEqual(10 * Math.log10(one.powerW / antennaW) + 1e-7)
          })
        }
      }),
      { numRuns: 60 },
    )
  })

  test('by hand: one lead that is worth its price, and a dear one that is not', () => {
    // Matched, so that dB simply add: 10 m at 10 and at 2 dB per 100 m, then a dear one that loses as much.
    const lossy = { z0Ohm: 50, velocityFactor: 0.66, k1DbPer100m: 10, k2DbPer100m: 0 }
    const good = { ...lossy, k1DbPer100m: 2 }
    const { front, unknown } = plan({
      chain: {
        transmitter: { behaviour: 'levelled', foldback: [] },
        stages: [{ kind: 'line', lengthM: 10, cable: lossy }],
        load: { kind: 'fixed', rOhm: 50, xOhm: 0 },
      },
      at: [{ frequencyHz: 1e6, powerW: 100 }] satisfies OperatingPoint[],
      counts: 'worst',
      sections: [
        {
          stage: 0,
          presentCost: 0,
          candidates: [
            { id: 'good', cable: good, costPerM: 3 },
            { id: 'dear', cable: good, costPerM: 5 },
            { id: 'unpriced', cable: good },
          ],
        },
      ],
      costPerSection: 8,
    })
    expect(front.map(({ cables, cost }) => [cables[0], cost])).toEqual([
      [null, 0],
      ['good', 38],
    ])
    // Zc of a lossy cable is not quite 50 Ω: a few thousandths of a dB.
    expect(front[0]!.lossDb).toBeCloseTo(1, 1)
    expect(front[1]!.lossDb).toBeCloseTo(0.2, 1)
    expect(unknown).toEqual([{ section: 0, id: 'unpriced' }])
  })

  test('what is over the budget is not on the front', () => {
    fc.assert(
      fc.property(request, fc.double({ min: 0, max: 500, noNaN: true }), (asked, budget) => {
        const { front } = plan({ ...asked, budget })
        expect(front.every(({ cost }: PlanMember) => cost <= budget)).toBe(true)
      }),
      { numRuns: 15 },
    )
  })

  test('the largest efficiency of a matched line is its matched loss', () => {
    const abcd = newAbcd()
    const stage = {
      kind: 'line' as const,
      lengthM: 30,
      cable: { z0Ohm: 50, velocityFactor: 0.66, k1DbPer100m: 0.6, k2DbPer100m: 0.02 },
    }
    writeLine(stage, 100e6, abcd)
    // Its own impedance is not quite real: the best load does a little better than 50 Ω.
    const least = -10 * Math.log10(largestEfficiency(abcd))
    expect(least).toBeLessThan(0.3 * (6 + 2))
    expect(least).toBeCloseTo(0.3 * (6 + 2), 2)
  })

  test('refuses what is no plan', () => {
    const asked = {
      chain: {
        transmitter: { behaviour: 'levelled' as const, foldback: [] },
        stages: [{ kind: 'pad' as const, lossDb: 1 }],
        load: { kind: 'fixed' as const, rOhm: 50, xOhm: 0 },
      },
      at: [{ frequencyHz: 1e6, powerW: 100 }],
      counts: 'worst' as const,
    }
    expect(() => plan({ ...asked, sections: [] })).toThrow('Tick at least one')
    expect(() => plan({ ...asked, sections: [{ stage: 0, candidates: [] }] })).toThrow(
      'Only a length of cable',
    )
    expect(() => plan({ ...asked, sections: [{ stage: 0, candidates: [] }], counts: [0] })).toThrow(
      'weight',
    )
  })
})
