/** Transformers and stubs against sums by hand. */
import { describe, expect, test } from 'vitest'
import {
  type Chain,
  type InputError,
  solveChain,
  type Stage,
  stressesOf,
  stubStress,
  stubVoltageRise,
} from '../src/index.ts'

const MHZ = 7e6
const C = 299_792_458
const lossless = { z0Ohm: 50, velocityFactor: 0.66, k1DbPer100m: 0, k2DbPer100m: 0 }
const wave = (C * 0.66) / MHZ

const chain = (stages: Stage[], rOhm: number, xOhm = 0): Chain => ({
  transmitter: { behaviour: 'levelled', foldback: [] },
  stages,
  load: { kind: 'fixed', rOhm, xOhm },
})
const solved = (stages: Stage[], rOhm: number, xOhm = 0) =>
  solveChain(chain(stages, rOhm, xOhm), { frequencyHz: MHZ, powerW: 100 })

describe('a transformer', () => {
  const bare = { kind: 'transformer', ratio: 4, lossDb: 0, atHz: 1.8e6 } as const

  test('of 1:4 makes 50 Ω of 200 Ω, and twice the voltage', () => {
    const { planes, antennaW } = solved([bare], 200)
    expect(planes[0]!.swr).toBeCloseTo(1, 12)
    expect(planes[0]!.impedanceOhm.re).toBeCloseTo(50, 9)
    expect(antennaW).toBeCloseTo(100, 9)
    expect(planes[1]!.voltageRms).toBeCloseTo(2 * planes[0]!.voltageRms, 9)
  })

  test('with a loss of 0.5 dB on a matched load loses 0.5 dB', () => {
    expect(solved([{ ...bare, lossDb: 0.5 }], 200).chainLossDb).toBeCloseTo(0.5, 9)
  })

  test('shows its leakage in series and its magnetising reactance in parallel, both with f', () => {
    const f = MHZ / 1.8e6
    const series = solved([{ ...bare, leakageOhm: 10 }], 200).planes[0]!.impedanceOhm
    expect([series.re, series.im]).toEqual([expect.closeTo(50, 9), expect.closeTo(10 * f, 9)])
    const { impedanceOhm: z } = solved([{ ...bare, magnetisingOhm: 100 }], 200).planes[0]!
    // 50 Ω beside jX: Z = 50·jX/(50 + jX).
    const x = 100 * f
    expect(z.re).toBeCloseTo((50 * x * x) / (2500 + x * x), 9)
    expect(z.im).toBeCloseTo((2500 * x) / (2500 + x * x), 9)
  })

  test('loses in its core what the voltage across it drives through it', () => {
    const { planes, stages } = solved([{ ...bare, coreOhm: 1000 }], 200)
    expect(stages[0]!.lossW).toBeCloseTo(planes[0]!.voltageRms ** 2 / 1000, 9)
  })

  test('of no ratio is refused at its field', () => {
    expect(() => solved([{ ...bare, ratio: 0 }], 200)).toThrowError(
      expect.objectContaining({ path: ['stages', 0, 'ratio'] }) as InputError,
    )
  })

  test('is judged by the higher voltage of its sides and by the power that goes in', () => {
    const stages = [{ ...bare, limits: { voltageRms: 100, averageW: 50 } }]
    const solution = solved(stages, 200)
    const [volts, heat] = stressesOf(stages, solution, {
      emission: { mode: 'key-down' },
      ambientC: 20,
    }).filter(({ part }) => part === 0)
    expect(volts!.stress).toBeCloseTo(Math.sqrt(100 * 200), 6)
    expect(heat!.stress).toBeCloseTo(100, 6)
    expect(heat!.headroomDb).toBeLessThan(0)
  })
})

describe('a stub', () => {
  const stub = (lengthM: number, end: 'open' | 'short', cable = lossless): Stage => ({
    kind: 'stub',
    lengthM,
    cable,
    end,
  })

  test('of an eighth wave is ±j·Z₀ across the line', () => {
    for (const [end, x] of [
      ['open', -50],
      ['short', 50],
    ] as const) {
      const { re, im } = solved([stub(wave / 8, end)], 50).planes[0]!.impedanceOhm
      // 50 Ω beside jX.
      expect(re).toBeCloseTo((50 * x * x) / (2500 + x * x), 9)
      expect(im).toBeCloseTo((2500 * x) / (2500 + x * x), 9)
    }
  })

  test('shorted, of a quarter wave, is not noticed; open, it lets nothing past', () => {
    expect(solved([stub(wave / 4, 'short')], 50).planes[0]!.swr).toBeCloseTo(1, 9)
    expect(solved([stub(wave / 4, 'open')], 50).antennaW).toBeLessThan(1e-9)
  })

  test('with loss takes power, and the ledger has it', () => {
    const lossy = { ...lossless, k1DbPer100m: 2 }
    const { stages, transmitterNetW, antennaW } = solved([stub(3, 'open', lossy)], 50)
    expect(stages[0]!.lossW).toBeGreaterThan(0.01)
    expect(transmitterNetW - stages[0]!.lossW).toBeCloseTo(antennaW, 9)
  })

  test('has its highest voltage at an open end: 1/|cos βℓ| of that on the line', () => {
    const rise = (part: number, end: 'open' | 'short') =>
      stubVoltageRise(stub(wave * part, end) as never, MHZ)
    expect(rise(0.2, 'open')).toBeCloseTo(1 / Math.cos(0.4 * Math.PI), 9)
    expect(rise(0.1, 'short')).toBe(1)
    // Beyond a quarter wave the maximum lies a quarter wave from the short.
    expect(rise(0.4, 'short')).toBeCloseTo(1 / Math.sin(0.8 * Math.PI), 2)
  })

  test('has its hottest metre where the current is, up to three times the mean on a short open stub', () => {
    const lossy = { ...lossless, k1DbPer100m: 2 }
    // Far below a quarter wave the current rises straight from the open end: its square has three times its mean at the input.
    const short = stub(wave * 0.01, 'open', lossy) as never
    const { heatWPerM } = stubStress(short, MHZ)
    const { lossW } = solved([short], 50).stages[0]!
    const { voltageRms } = solved([short], 50).planes[0]!
    const mean = lossW / (wave * 0.01)
    expect((heatWPerM * voltageRms ** 2) / mean).toBeCloseTo(3, 1)
  })

  test('shorted and of no length is refused', () => {
    expect(() => solved([stub(0, 'short')], 50)).toThrowError(/short circuit/)
  })
})
