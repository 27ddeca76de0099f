/** Resistors that tame a mismatch: what must hold for any value. */
import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import {
  aidedInput,
  bestShunt,
  type Chain,
  equalResistors,
  nearestStandard,
  padValues,
  solveChain,
  stageOfAid,
} from '../src/index.ts'
import { type AmplifierStage } from '../src/source/amplifier.ts'

const between = (min: number, max: number) => fc.double({ min, max, noNaN: true })

describe('standard values', () => {
  test('the nearest is never further than half a step of its series', () => {
    fc.assert(
      fc.property(between(0.01, 1e6), (ohm) => {
        // The widest step of E24 is 1.3 to 1.5, of E12 1.2 to 1.5; half a step by ratio is the root. A
        // value in the very middle lies on the bound, give or take the rounding of two logarithms.
        const off = (series: 'E12' | 'E24') =>
          Math.abs(Math.log(nearestStandard(ohm, series) / ohm))
        expect(off('E24')).toBeLessThanOrEqual(Math.log(1.5 / 1.3) / 2 + 1e-12)
        expect(off('E12')).toBeLessThanOrEqual(Math.log(1.5 / 1.2) / 2 + 1e-12)
      }),
    )
  })

  test('in the very middle of the widest step it is half a step away', () => {
    const middle = Math.sqrt(1.3 * 1.5)
    expect(Math.abs(Math.log(nearestStandard(middle) / middle))).toBeCloseTo(
      Math.log(1.5 / 1.3) / 2,
      12,
    )
  })

  test('a standard value is its own nearest, in every decade', () => {
    for (const decade of [0.1, 1, 10, 100, 1e3, 1e5])
      for (const number of [1, 1.5, 2.2, 4.7, 8.2, 9.1])
        expect(nearestStandard(number * decade)).toBeCloseTo(number * decade, 9)
  })

  test('together, equal resistors come nearer the more there may be', () => {
    fc.assert(
      fc.property(between(5, 500), (ohm) => {
        const error = (most: number) => Math.abs(equalResistors(ohm, most)[0]!.error)
        expect(error(10)).toBeLessThanOrEqual(error(3) + 0.0005)
        expect(error(3)).toBeLessThanOrEqual(error(1) + 0.0005)
        for (const { count } of equalResistors(ohm, 4)) expect(count).toBeLessThanOrEqual(4)
      }),
    )
  })
})

describe('pads', () => {
  /** Both forms as resistors in the chain: what they show and take at the end of a matched line. */
  const between50 = (stages: Chain['stages']) =>
    solveChain(
      {
        transmitter: { behaviour: 'peaked', foldback: [] },
        stages,
        load: { kind: 'fixed', rOhm: 50, xOhm: 0 },
      },
      { frequencyHz: 7e6, powerW: 1 },
    )

  test('their resistors, put into a chain one by one, are matched and take what they should', () => {
    fc.assert(
      fc.property(between(0.2, 20), (db) => {
        const { pi, tee } = padValues(db, 50)
        const shunt = (rOhm: number) => ({ kind: 'shunt' as const, rOhm, xOhm: 0 })
        const series = (rOhm: number) => ({ kind: 'series' as const, rOhm, xOhm: 0 })
        for (const [stages, heat] of [
          [[shunt(pi.shuntOhm), series(pi.seriesOhm), shunt(pi.shuntOhm)], pi.heat],
          [[series(tee.seriesOhm), shunt(tee.shuntOhm), series(tee.seriesOhm)], tee.heat],
        ] as const) {
          const { planes, antennaW, stages: solved } = between50(stages)
          expect(planes[0]!.swr).toBeCloseTo(1, 6)
          expect(-10 * Math.log10(antennaW)).toBeCloseTo(db, 6)
          solved.forEach(({ lossW }, k) => expect(lossW).toBeCloseTo(heat[k]!, 9))
        }
      }),
    )
  })
})

describe('an amplifier’s input', () => {
  const amplifier = fc
    .record({ rOhm: between(20, 400), xOhm: between(-150, 150) })
    .map((inputOhm): AmplifierStage => ({
      kind: 'amplifier',
      gainDb: 12,
      driveW: 40,
      fullW: 500,
      behaviour: 'levelled',
      foldback: [],
      inputOhm,
    }))
  const leg = (stage: AmplifierStage): Chain => ({
    transmitter: { behaviour: 'levelled', foldback: [] },
    stages: [stage],
    load: { kind: 'fixed', rOhm: 50, xOhm: 0 },
  })
  const at = { frequencyHz: 7e6, powerW: 30 }

  test('the best resistor betters it, and no other standard one betters it more', () => {
    fc.assert(
      fc.property(amplifier, between(25, 2000), (stage, any) => {
        const ohm = bestShunt(stage, [7e6], 50)
        const bare = aidedInput(leg(stage), 0, { kind: 'none' }, at).swr
        if (ohm === null) return
        const best = aidedInput(leg(stage), 0, { kind: 'shunt', ohm }, at).swr
        expect(best).toBeLessThan(bare)
        const other = nearestStandard(any)
        const swr = aidedInput(leg(stage), 0, { kind: 'shunt', ohm: other }, at).swr
        // The grid of candidates is a little coarser than the series.
        expect(best).toBeLessThan(swr * 1.03)
      }),
    )
  })

  test('any aid lowers the drive, and what it takes is heat: nothing is lost from the account', () => {
    fc.assert(
      fc.property(amplifier, between(0.5, 10), between(30, 500), (stage, db, ohm) => {
        const bare = aidedInput(leg(stage), 0, { kind: 'none' }, at)
        for (const aid of [
          { kind: 'pad' as const, db },
          { kind: 'shunt' as const, ohm },
        ]) {
          const aided = aidedInput(leg(stage), 0, aid, at)
          const { planes } = solveChain({ ...leg(stage), stages: [stageOfAid(aid)!, stage] }, at)
          expect(aided.driveW + aided.heatW).toBeCloseTo(planes[0]!.netW, 9)
          expect(aided.driveW).toBeLessThan(
            bare.driveW / (1 - ((bare.swr - 1) / (bare.swr + 1)) ** 2),
          )
        }
        expect(stageOfAid({ kind: 'none' })).toBeNull()
      }),
    )
  })
})
