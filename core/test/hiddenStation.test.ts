/** What is hidden in a station that no meter has a name for: a piece of another cable, a joint that does not touch. */
import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import {
  type Chain,
  type Channel,
  frequencyGrid,
  seeded,
  type Stage,
  usualTolerances,
} from '../src/index.ts'
import { type HiddenCause, hiddenStation } from '../src/diagnosis/simulate.ts'
import { foam, foamLine, stationOf } from './stations.ts'

const pad: Stage = { kind: 'pad', lossDb: 0.2 }
const load: Chain['load'] = { kind: 'fixed', rOhm: 50, xOhm: 0 }
const channels: Channel[] = [
  { frequencyHz: 145e6, powerW: 25, emission: { mode: 'FM' } },
  { frequencyHz: 14e6, powerW: 25, emission: { mode: 'FM' } },
]
const meter = { kind: 'averaging' as const, rangesW: [30], accuracy: 0, directivityDb: 100 }
const perfect = { noise: 0, directivityDb: 300 }
const hz = frequencyGrid(10e6, 200e6, 41)
const chain = stationOf([foamLine(4), pad, foamLine(20), pad], load)
const hidden = (causes: HiddenCause[], own: Chain = chain) =>
  hiddenStation(
    { chain: own, channels, instruments: [meter], tolerances: usualTolerances },
    causes,
    7,
  )
const seenAt = (station: ReturnType<typeof hidden>, plane: number) =>
  station.sweep(plane, hz, 'load', perfect, seeded(1))

describe('a piece of a cable', () => {
  test('that is like the rest changes nothing, wherever it lies', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.05, max: 0.9, noNaN: true }),
        fc.double({ min: 0.01, max: 1, noNaN: true }),
        (share, lengthM) => {
          const whole = hidden([{ kind: 'none' }])
          const cut = hidden([{ kind: 'piece', stage: 2, fromM: share * 19, lengthM, cable: foam }])
          for (const point of [0, 1])
            cut.wavesAt(point).forEach(({ forwardW, rho }, plane) => {
              const own = whole.wavesAt(point)[plane]!
              // Cables are drawn a little off; the piece is as written down.
              expect(forwardW / own.forwardW).toBeCloseTo(1, 1)
              expect(Math.abs(rho - own.rho)).toBeLessThan(0.03)
            })
        },
      ),
      { numRuns: 20 },
    )
  })

  test('leaves every plane where it was, with other faults before and behind it', () => {
    const causes: HiddenCause[] = [
      { kind: 'loss', from: 0, to: 0, db: 1 },
      { kind: 'piece', stage: 2, fromM: 5, lengthM: 1, cable: { ...foam, z0Ohm: 30 } },
      { kind: 'gap', plane: 3, farad: 20e-12 },
      { kind: 'loss', from: 3, to: 3, db: 2 },
    ]
    const all = hidden(causes).wavesAt(0)
    expect(all).toHaveLength(5)
    // Behind the last loss there is the load alone, which reflects what it reflects without all that.
    expect(all[4]!.rho).toBeCloseTo(hidden([{ kind: 'none' }]).wavesAt(0)[4]!.rho, 9)
    // A dummy load in front of a fault hides it.
    const dummy = hidden(causes).wavesAt(0, 25, 2)
    expect(dummy).toHaveLength(3)
    expect(dummy[2]!.rho).toBeLessThan(1e-9)
  })

  test('of less impedance reflects as a quarter-wave transformer does', () => {
    // By hand: λ/4 of 25 Ω in front of 50 Ω shows 25²/50 = 12.5 Ω, |ρ| = 37.5/62.5.
    const quarterM = (0.85 * 299_792_458) / 145e6 / 4
    const lossless = { z0Ohm: 50, velocityFactor: 0.85, k1DbPer100m: 0, k2DbPer100m: 0 }
    const line: Stage = { kind: 'line', lengthM: 10, cable: lossless }
    const station = hidden(
      [
        {
          ...{ kind: 'piece', stage: 0, fromM: 3, lengthM: quarterM },
          cable: { ...lossless, z0Ohm: 25 },
        },
      ],
      stationOf([line], load),
    )
    const { re, im } = station.sweep(0, Float64Array.of(145e6, 146e6), 'load', perfect, seeded(1))
    expect(Math.hypot(re[0]!, im[0]!)).toBeCloseTo(0.6, 2)
  })
})

describe('a joint whose pins do not touch', () => {
  test('reflects as a capacitor in series, the more the lower the frequency', () => {
    const { re, im } = seenAt(hidden([{ kind: 'gap', plane: 2, farad: 20e-12 }]), 2)
    const rho = (k: number) => Math.hypot(re[k]!, im[k]!)
    // By hand: |X|/√(100² + X²), behind no cable; the line behind it reflects little of its own.
    for (const k of [0, 10, 40]) {
      const x = 1 / (2 * Math.PI * hz[k]! * 20e-12)
      expect(rho(k)).toBeCloseTo(x / Math.hypot(100, x), 1)
    }
    expect(rho(0)).toBeGreaterThan(rho(40))
  })

  test('is none where the capacitance is large', () => {
    const [whole, shut] = [
      hidden([{ kind: 'none' }]),
      hidden([{ kind: 'gap', plane: 2, farad: 1 }]),
    ]
    shut
      .wavesAt(0)
      .forEach(({ forwardW }, plane) =>
        expect(forwardW).toBeCloseTo(whole.wavesAt(0)[plane]!.forwardW, 6),
      )
  })
})
