import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import {
  answerChain,
  type Chain,
  type Complex,
  complex,
  impedanceOf,
  solveChain,
  type Stage,
  sweepBand,
  swrOf,
  type TunerStage,
} from '../src/index.ts'
import { matchL } from '../src/tuner/matchL.ts'
import { type NetworkTuner, type SteppedTuner, tunerNetworks } from '../src/tuner/kinds.ts'
import { seeded } from '../src/statistics/random.ts'
import { setStepped } from '../src/tuner/stepped.ts'
import { setTuner } from '../src/tuner/tuner.ts'
import { lossFactor, seriesUnit, shuntUnit, throughElements } from '../src/tuner/element.ts'
import { add, divide, magnitude } from '../src/complex.ts'
import { reflectionOf } from '../src/load/reflection.ts'
import { line } from './arbitrary.ts'
import { drawn } from './drawn.ts'

const HZ = 7e6

const wide = (network: NetworkTuner['network']): TunerStage & NetworkTuner => ({
  kind: 'tuner',
  method: 'network',
  network,
  shuntAt: 'either',
  coilH: [1e-9, 1e-3],
  capacitorF: [1e-13, 1e-6],
  coilQ: 200,
  capacitorQ: 1000,
})

const stepped: TunerStage & SteppedTuner = {
  kind: 'tuner',
  method: 'stepped',
  coilBits: 7,
  coilStepH: 0.1e-6,
  capacitorBits: 7,
  capacitorStepF: 10e-12,
  coilQ: 150,
  capacitorQ: 800,
  contentSwr: 1.5,
}

/** Loads up to SWR 20 of any phase. */
const load = fc
  .record({
    rho: fc.double({ min: 0.05, max: 0.9, noNaN: true }),
    phase: fc.double({ min: 0, max: 2 * Math.PI, noNaN: true }),
  })
  .map(({ rho, phase }) => impedanceOf(complex(rho * Math.cos(phase), rho * Math.sin(phase)), 50))

type Elements = Parameters<typeof throughElements>[0]

/** SWR and loss in front of elements, worked anew from voltage and current. */
function seen(tuner: NetworkTuner | SteppedTuner, elements: Elements, z: Complex, hz = HZ) {
  const p = Float64Array.of(z.re, z.im, 1, 0)
  throughElements(elements, tuner, hz, p)
  const [vRe = 0, vIm = 0, iRe = 0, iIm = 0] = p
  const rho =
    Math.hypot(vRe - 50 * iRe, vIm - 50 * iIm) / Math.hypot(vRe + 50 * iRe, vIm + 50 * iIm)
  return { swr: swrOf(rho), lossDb: 10 * Math.log10((vRe * iRe + vIm * iIm) / z.re) }
}

/**
 * Least loss at SWR under 1.01 without any formula: the last part on a grid (where there are three),
 * the other two walked downhill in SWR from many starts.
 */
function leastLossBySearch(tuner: NetworkTuner, shape: Elements, z: Complex): number {
  const grid = (part: 'coil' | 'capacitor', n: number) => {
    const [low, high] = part === 'coil' ? tuner.coilH : tuner.capacitorF
    return Array.from({ length: n }, (_, i) => low * (high / low) ** (i / (n - 1)))
  }
  let least = Infinity
  const free = shape.slice(0, 2)
  for (const last of shape[2] ? grid(shape[2].part, drawn(25, 50)) : [NaN]) {
    const rest = shape[2] ? [{ ...shape[2], value: last }] : []
    const at = (values: number[]) =>
      seen(tuner, [...free.map((e, k) => ({ ...e, value: values[k]! })), ...rest], z)
    for (const a of grid(free[0]!.part, 6))
      for (const b of grid(free[1]!.part, 6)) {
        let values = [a, b]
        let best = at(values)
        for (let step = 1.5; step > 1.0005;) {
          let moved = false
          for (const [fa, fb] of [
            [step, 1],
            [1 / step, 1],
            [1, step],
            [1, 1 / step],
          ] as const) {
            const next = free.map(({ part }, k) => {
              const [low, high] = part === 'coil' ? tuner.coilH : tuner.capacitorF
              return Math.min(high, Math.max(low, values[k]! * [fa, fb][k]!))
            })
            const there = at(next)
            if (there.swr < best.swr) [values, best, moved] = [next, there, true]
          }
          if (!moved) step = 1 + (step - 1) / 2
        }
        if (best.swr < 1.01) least = Math.min(least, best.lossDb)
      }
  }
  return least
}

describe('a network with knobs', () => {
  test('an L of textbook size: 200 Ω to 50 Ω without loss', () => {
    // Q = √(200/50 − 1) = √3: X in line 50·√3, across 200/√3.
    const [match] = matchL(
      { series: 'coil', shunt: 'capacitor', shuntAt: 'antenna' },
      complex(200),
      50,
      { series: 0, shunt: 0 },
    )
    expect(match!.seriesOhm).toBeCloseTo(50 * Math.sqrt(3), 9)
    expect(1 / match!.shuntSiemens).toBeCloseTo(200 / Math.sqrt(3), 9)
  })

  test.each(['T', 'pi'] as const)(
    '%s: every load has a match, and its SWR is under 1.01',
    (network) => {
      fc.assert(
        fc.property(load, (z) => {
          const setting = setTuner(wide(network), z, HZ, 50)
          const { swr, lossDb } = seen(wide(network), setting.elements, z)
          expect(setting.matched).toBe(true)
          expect(swr).toBeLessThan(1.01)
          expect(lossDb).toBeCloseTo(setting.lossDb, 9)
        }),
        { numRuns: 60 },
      )
    },
  )

  test('one of the two L networks matches any load', () => {
    fc.assert(
      fc.property(load, (z) => {
        const settings = (['L-low-pass', 'L-high-pass'] as const).map((n) =>
          setTuner(wide(n), z, HZ, 50),
        )
        const matched = settings.filter((s) => s.matched)
        expect(matched.length).toBeGreaterThan(0)
        for (const { elements } of matched)
          expect(seen(wide('L-low-pass'), elements, z).swr).toBeLessThan(1.01)
      }),
      { numRuns: 100 },
    )
  })

  test.each(tunerNetworks)(
    '%s: a search by brute force finds no match that loses less',
    (network) => {
      const tuner = {
        ...wide(network),
        coilH: [0.05e-6, 20e-6] as const,
        capacitorF: [10e-12, 500e-12] as const,
      }
      let compared = 0
      for (const z of [complex(18, -30), complex(220, 90), complex(60, 140), complex(400, -300)]) {
        const setting = setTuner(tuner, z, HZ, 50)
        if (!setting.matched) continue
        const least = leastLossBySearch(tuner, setting.elements, z)
        expect(least).toBeLessThan(Infinity)
        // Within SWR 1.01 a point may sit beside the match and lose a trifle less.
        expect(setting.lossDb).toBeLessThan(least * 1.02 + 1e-3)
        compared++
      }
      expect(compared).toBeGreaterThanOrEqual(2)
    },
  )

  test('outside its ranges it says so, which part is at its end, and gets as near as it can', () => {
    const tuner = {
      ...wide('T'),
      coilH: [0.1e-6, 0.5e-6] as const,
      capacitorF: [20e-12, 250e-12] as const,
    }
    const z = complex(12, -400)
    const setting = setTuner(tuner, z, 2e6, 50)
    expect(setting.matched).toBe(false)
    expect(setting.reason).toMatch(/coil is at its largest, 500\snH/)
    const mine = seen(tuner, setting.elements, z, 2e6).swr
    for (let i = 0; i < 3000; i++) {
      const at = (k: number, [low, high]: readonly [number, number]) =>
        low + (high - low) * (((i + 1) * [0.618, 0.755, 0.569][k]!) % 1)
      const elements = setting.elements.map((e, k) => ({
        ...e,
        value: at(k, e.part === 'coil' ? tuner.coilH : tuner.capacitorF),
      }))
      expect(seen(tuner, elements, z, 2e6).swr).toBeGreaterThan(mine * 0.999)
    }
  })

  test('out of reach, each shape is looked into: the least SWR of a fine grid over both', () => {
    const low: NetworkTuner = {
      method: 'network',
      network: 'L-low-pass',
      shuntAt: 'either',
      coilH: [0.05e-6, 30e-6],
      capacitorF: [15e-12, 3e-9],
      coilQ: 300,
      capacitorQ: 1000,
    }
    const z = complex(50.28, -97.47)
    let least = Infinity
    for (let i = 0; i <= 150; i++)
      for (let j = 0; j <= 150; j++) {
        const coil = { place: 'series', part: 'coil', value: 2.2e-6 + i * 2e-9 } as const
        const cap = { place: 'shunt', part: 'capacitor', value: 15e-12 + j * 1e-12 } as const
        for (const parts of [
          [coil, cap],
          [cap, coil],
        ])
          least = Math.min(least, seen(low, parts, z, 6.728e6).swr)
      }
    expect(least).toBeCloseTo(1.013, 3)
    expect(swrOf(setTuner({ kind: 'tuner', ...low }, z, 6.728e6, 50).rho)).toBeLessThanOrEqual(
      least + 1e-9,
    )
  })

  test('a stretch of matches shorter than any grid is found to its end', () => {
    const narrow: NetworkTuner = {
      method: 'network',
      network: 'T',
      shuntAt: 'either',
      coilH: [0.1e-6, 28e-6],
      capacitorF: [12e-12, 140e-12],
      coilQ: 200,
      capacitorQ: 800,
    }
    // 0.516 980 dB: the least of 400 000 values of the antenna’s capacitor, with the other one at its largest.
    const { lossDb, elements } = setTuner(
      { kind: 'tuner', ...narrow },
      complex(116.5, -153.6),
      2.018e6,
      50,
    )
    expect(lossDb).toBeCloseTo(0.51698, 5)
    expect(elements[0]!.value).toBeCloseTo(140e-12, 15)
  })

  test('a load that takes no power cannot be matched', () => {
    for (const z of [complex(0, 30), complex(Infinity)])
      expect(setTuner(wide('pi'), z, HZ, 50)).toMatchObject({ matched: false, reason: /no power/ })
  })

  test('a coil whose Q rises as √f loses less high up', () => {
    const rising = { ...wide('L-low-pass'), coilQAtHz: 1.75e6 }
    const flat = wide('L-low-pass')
    const z = complex(200)
    expect(setTuner(rising, z, HZ, 50).lossDb).toBeLessThan(setTuner(flat, z, HZ, 50).lossDb)
    expect(setTuner(rising, z, 1.75e6, 50).lossDb).toBeCloseTo(
      setTuner(flat, z, 1.75e6, 50).lossDb,
      9,
    )
  })
})

describe('a tuner of relays', () => {
  const bits = fc.integer({ min: 1, max: 5 })
  const anyRelays = fc
    .record({
      coilBits: bits,
      capacitorBits: bits,
      coilH: fc.double({ min: 0.5e-6, max: 30e-6, noNaN: true }),
      capacitorF: fc.double({ min: 100e-12, max: 3e-9, noNaN: true }),
      coilQ: fc.double({ min: 15, max: 400, noNaN: true }),
      capacitorQ: fc.double({ min: 15, max: 2000, noNaN: true }),
    })
    .map(({ coilH, capacitorF, ...rest }): SteppedTuner => ({
      ...stepped,
      ...rest,
      coilStepH: coilH / 2 ** rest.coilBits,
      capacitorStepF: capacitorF / 2 ** rest.capacitorBits,
    }))

  test('finds the least SWR of all its steps, and the least loss near it', () => {
    fc.assert(
      fc.property(
        anyRelays,
        load,
        fc.double({ min: 1.5e6, max: 50e6, noNaN: true }),
        (own, z, hz) => {
          const all: ReturnType<typeof seen>[] = []
          for (let i = 0; i < 2 ** own.coilBits; i++)
            for (let j = 0; j < 2 ** own.capacitorBits; j++) {
              const coil = { place: 'series', part: 'coil', value: i * own.coilStepH } as const
              const cap = {
                place: 'shunt',
                part: 'capacitor',
                value: j * own.capacitorStepF,
              } as const
              all.push(seen(own, [coil, cap], z, hz), seen(own, [cap, coil], z, hz))
            }
          const least = Math.min(...all.map((s) => s.swr))
          const near = (swr: number) => all.filter((s) => s.swr <= swr).map((s) => s.lossDb)
          const setting = setStepped(own, z, hz, 50)
          expect(swrOf(setting.rho)).toBeLessThanOrEqual((least + 0.05) * (1 + 1e-9))
          // What lies on the edge may count or not.
          expect(setting.lossDb).toBeGreaterThanOrEqual(
            Math.min(...near((least + 0.05) * (1 + 1e-9))) - 1e-9,
          )
          expect(setting.lossDb).toBeLessThanOrEqual(
            Math.min(...near((least + 0.05) * (1 - 1e-9))) + 1e-9,
          )
          expect(setting.matched).toBe(swrOf(setting.rho) <= 1.5)
          const { swr, lossDb } = seen(own, setting.elements, z, hz)
          expect(swr).toBeCloseTo(swrOf(setting.rho), 6)
          expect(lossDb).toBeCloseTo(setting.lossDb, 9)
        },
      ),
      { numRuns: 150 },
    )
  })

  test('takes no setting where the load takes no power', () => {
    expect(setStepped(stepped, complex(0, 70), HZ, 50)).toMatchObject({
      elements: [],
      matched: false,
      reason: 'the load takes no power at all',
    })
  })

  test(
    'of ten bits each it finds what looking at all two million finds',
    { timeout: 60_000 },
    () => {
      const ten = {
        ...stepped,
        coilBits: 10,
        capacitorBits: 10,
        coilStepH: 2e-8,
        capacitorStepF: 2e-12,
      }
      const z = complex(31, 212)
      const omega = 2 * Math.PI * HZ
      let least = Infinity
      const all: { swr: number; power: number }[] = []
      const w = shuntUnit('capacitor', lossFactor('capacitor', ten, HZ))
      const u = seriesUnit('coil', lossFactor('coil', ten, HZ))
      const swrAt = (seen: Complex) => swrOf(magnitude(reflectionOf(seen, 50)))
      for (let i = 0; i < 1024; i++) {
        const x = omega * i * ten.coilStepH
        const series = complex(x * u.re, x * u.im)
        for (let j = 0; j < 1024; j++) {
          const b = omega * j * ten.capacitorStepF
          const y = complex(b * w.re, b * w.im)
          // At the antenna: of one volt across the load, what load, capacitor and coil take.
          const g = add(divide(complex(1), z), y)
          const near = add(divide(complex(1), g), series)
          const taken = g.re + series.re * (g.re ** 2 + g.im ** 2)
          // At the transmitter.
          const behind = add(z, series)
          const g2 = add(divide(complex(1), behind), y)
          const options = [
            { swr: swrAt(near), power: taken / divide(complex(1), z).re },
            {
              swr: swrAt(divide(complex(1), g2)),
              power: (behind.re + y.re * (behind.re ** 2 + behind.im ** 2)) / z.re,
            },
          ]
          for (const option of options) {
            if (option.swr < least) least = option.swr
            if (option.swr <= least + 0.05) all.push(option)
          }
        }
      }
      const loss = Math.min(...all.filter(({ swr }) => swr <= least + 0.05).map((o) => o.power))
      const setting = setTuner(ten, z, HZ, 50)
      expect(setting.lossDb).toBeCloseTo(10 * Math.log10(loss), 9)
      expect(swrOf(setting.rho)).toBeLessThanOrEqual(least + 0.05 + 1e-9)
    },
  )

  test('a matched load is left alone', () => {
    const { elements, lossDb } = setTuner(stepped, complex(50), HZ, 50)
    expect(elements.every(({ value }) => value === 0)).toBe(true)
    expect(lossDb).toBeCloseTo(0, 12)
  })

  test('what it cannot match it names', () => {
    const setting = setTuner(stepped, complex(2, -2000), 1.8e6, 50)
    expect(setting.matched).toBe(false)
    expect(setting.reason).toMatch(/nearest of its steps is SWR .*12\.7\sµH/)
  })
})

describe('a tuner in a chain', () => {
  const chain = (tuner: Stage, ...behind: Stage[]): Chain => ({
    transmitter: {
      behaviour: 'levelled',
      foldback: [
        [1.5, 1],
        [3, 0.4],
      ],
    },
    stages: [{ kind: 'pad', lossDb: 0.2 }, tuner, ...behind],
    load: { kind: 'fixed', rOhm: 22, xOhm: 60 },
  })
  const tuners = [
    ...tunerNetworks.map(wide),
    stepped,
    { kind: 'tuner', method: 'given', lossDb: 0.5, residualSwr: 1.2 } as const,
  ]

  test('its own parts take exactly what the stage loses', () => {
    fc.assert(
      fc.property(fc.constantFrom(...tuners.slice(0, -1)), line, (tuner, cable) => {
        const { stages } = solveChain(chain(tuner, cable), { frequencyHz: HZ, powerW: 100 })
        const parts = stages[1]!.tuner!.elements.reduce((sum, e) => sum + e.lossW, 0)
        expect(parts).toBeCloseTo(stages[1]!.lossW, 8)
      }),
      { numRuns: 60 },
    )
  })

  test('it never changes the SWR beyond it', () => {
    fc.assert(
      fc.property(fc.constantFrom(...tuners), line, (tuner, cable) => {
        const at = { frequencyHz: HZ, powerW: 100 }
        const without = solveChain(chain({ ...tuner, bypassed: true }, cable), at)
        const having = solveChain(chain(tuner, cable), at)
        for (const k of [2, 3]) expect(having.planes[k]!.swr).toBeCloseTo(without.planes[k]!.swr, 8)
        expect(having.stages[1]!.tuner!.swrOut).toBe(having.planes[2]!.swr)
      }),
      { numRuns: 60 },
    )
  })

  test('power: what goes in comes out or heats it, and a match brings the transmitter back', () => {
    for (const tuner of tuners) {
      const { planes, foldback } = solveChain(chain(tuner), { frequencyHz: HZ, powerW: 100 })
      expect(planes[2]!.netW).toBeLessThanOrEqual(planes[1]!.netW)
      expect(foldback).toBeGreaterThan(0.95)
    }
  })

  test('known only by its loss: residue, loss, and reach', () => {
    const given = {
      kind: 'tuner',
      method: 'given',
      lossDb: 0.5,
      residualSwr: 1.2,
      reachSwr: 3,
    } as const
    const { planes, stages } = solveChain(chain(given), { frequencyHz: HZ, powerW: 100 })
    const swr = planes[2]!.swr
    expect(swr).toBeGreaterThan(3)
    expect(planes[1]!.swr).toBeCloseTo(swr / 3, 9)
    expect(stages[1]!.lossDb).toBeCloseTo(0.5, 9)
    expect(stages[1]!.tuner).toMatchObject({ matched: false, reason: /up to SWR 3/ })
    const within = { ...given, reachSwr: 10 }
    expect(solveChain(chain(within), { frequencyHz: HZ, powerW: 100 }).planes[1]!.swr).toBeCloseTo(
      1.2,
      9,
    )
  })

  test('knobs stay where they were set; a tuner that sets itself follows', () => {
    const at = { frequencyHz: 7.3e6, powerW: 100 }
    const fixed = solveChain(chain(wide('T')), { ...at, tunedHz: 7e6 })
    expect(fixed.planes[1]!.swr).toBeGreaterThan(1.05)
    expect(solveChain(chain(wide('T')), at).planes[1]!.swr).toBeLessThan(1.01)
    const auto = solveChain(chain(stepped), { ...at, tunedHz: 7e6 })
    expect(auto.planes[1]!.swr).toBeCloseTo(solveChain(chain(stepped), at).planes[1]!.swr, 9)
    const grid = Float64Array.of(7e6, 7.3e6)
    const band = sweepBand(chain(wide('T')), grid, 100, 7e6)
    expect(band.antennaW[1]).toBeCloseTo(fixed.antennaW, 8)
    expect(sweepBand(chain(wide('T')), grid, 100).antennaW[1]).toBeCloseTo(
      solveChain(chain(wide('T')), at).antennaW,
      8,
    )
  })

  test('with only an SWR known, its loss is a range', () => {
    const swr: Chain = { ...chain(wide('T')), load: { kind: 'swr', swr: 6 } }
    const { spread } = answerChain(swr, { frequencyHz: HZ, powerW: 100 })
    expect(spread!.stages[1]!.lossW.high).toBeGreaterThan(spread!.stages[1]!.lossW.low * 1.2)
  })
})

test('a whip behind a π: the valley on a face of the ranges is found', () => {
  const tuner: TunerStage = {
    kind: 'tuner',
    method: 'network',
    network: 'pi',
    shuntAt: 'either',
    coilH: [73.4675e-9, 13.06e-6],
    capacitorF: [8.778e-12, 419.28e-12],
    coilQ: 69.746,
    coilQAtHz: 7e6,
    capacitorQ: 997.53,
  }
  const { rho } = setTuner(tuner, complex(0.97535, -238.2017), 28.759839714e6, 50)
  expect(swrOf(rho)).toBeCloseTo(1.7299, 3)
})

test.each(['pi', 'T', 'L-low-pass', 'L-high-pass'] as const)(
  'no values tried at random, at ends and in steps from there, bring %s nearer to a whip',
  (network) => {
    const random = seeded(network.length)
    for (let i = 0; i < 4; i++) {
      const hz = 1.8e6 * 16 ** random()
      const tuner: NetworkTuner & { kind: 'tuner' } = {
        kind: 'tuner',
        method: 'network',
        network,
        shuntAt: 'antenna',
        coilH: [50e-9 * 4 ** random(), 5e-6 * 6 ** random()],
        capacitorF: [5e-12 * 4 ** random(), 150e-12 * 6 ** random()],
        coilQ: 60 * 5 ** random(),
        capacitorQ: 300 * 6 ** random(),
      }
      const load = complex(0.3 * 30 ** random(), -1500 * random())
      const { elements, rho } = setTuner(tuner, load, hz, 50)
      const ranges = elements.map(({ part }) => (part === 'coil' ? tuner.coilH : tuner.capacitorF))
      const rhoOf = (values: readonly number[]) => {
        const p = Float64Array.of(load.re, load.im, 1, 0)
        throughElements(
          elements.map((element, k) => ({ ...element, value: values[k]! })),
          tuner,
          hz,
          p,
        )
        return (
          Math.hypot(p[0]! - 50 * p[2]!, p[1]! - 50 * p[3]!) /
          Math.hypot(p[0]! + 50 * p[2]!, p[1]! + 50 * p[3]!)
        )
      }
      for (let start = 0; start < 30; start++) {
        let values = ranges.map(([least, most]) => {
          const at = random()
          return at < 0.15 ? least : at > 0.85 ? most : least * (most / least) ** random()
        })
        let best = rhoOf(values)
        for (let step = 2; step > 1.001;) {
          const better = values.flatMap((_, k) =>
            [step, 1 / step].map((by) =>
              values.with(k, Math.min(ranges[k]![1], Math.max(ranges[k]![0], values[k]! * by))),
            ),
          )
          const rhos = better.map(rhoOf)
          const least = Math.min(...rhos)
          if (least < best) [values, best] = [better[rhos.indexOf(least)]!, least]
          else step = Math.sqrt(step)
        }
        expect(swrOf(rho) / swrOf(best)).toBeLessThan(1.001)
      }
    }
  },
)
