import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import {
  cableClasses,
  lengthForLoss,
  lossTable,
  rhoOfSwr,
  solveChain,
  swrAtLoad,
} from '../src/index.ts'

describe('SWR seen through a cable', () => {
  test('by hand: 3 dB of cable, SWR 1.5 at the radio is |ρ| 0.2·2 = 0.4, SWR 2.33', () => {
    const seen = swrAtLoad(1.5, 10 * Math.log10(2))
    expect(seen).toMatchObject({ possible: true, rho: expect.closeTo(0.4, 9) as number })
    expect((seen as { swr: number }).swr).toBeCloseTo(1.4 / 0.6, 9)
  })

  test('SWR 4 through 3 dB is impossible: even an open end would read 3', () => {
    expect(swrAtLoad(4, 10 * Math.log10(2))).toEqual({
      possible: false,
      rho: expect.closeTo(1.2, 9) as number,
      highestSwrSeen: expect.closeTo(3, 9) as number,
    })
  })

  test('agrees with the solver on a cable whose Zc is real', () => {
    const cable = { z0Ohm: 50, velocityFactor: 0.8, k1DbPer100m: 0, k2DbPer100m: 0.02 }
    fc.assert(
      fc.property(
        fc.double({ min: 1.05, max: 20, noNaN: true }),
        fc.double({ min: 0, max: 6, noNaN: true }),
        fc.double({ min: 1, max: 80, noNaN: true }),
        (swr, phase, lengthM) => {
          const s = solveChain(
            {
              transmitter: { behaviour: 'levelled', foldback: [] },
              stages: [{ kind: 'line', lengthM, cable }],
              load: { kind: 'swr', swr },
            },
            { frequencyHz: 100e6, powerW: 100 },
            phase,
          )
          const seen = swrAtLoad(s.planes[0]!.swr, s.stages[0]!.line!.matchedLossDb)
          // Dielectric loss leaves Zc a little complex; the flat-line law takes it as real.
          expect(Math.abs(seen.rho - rhoOfSwr(swr))).toBeLessThan(0.002)
        },
      ),
    )
  })
})

describe('a loss table', () => {
  const cable = cableClasses.find(({ id }) => id === 'foam-7')!
  const table = lossTable(cable, 40, [4e6, 8e6, 145e6], [1, 2, 5, 10], 100)

  test('matched and additional part make the total, and watts follow from it', () => {
    for (const cell of table.flat()) {
      expect(cell.matchedDb + cell.additionalDb).toBeCloseTo(cell.totalDb, 12)
      expect(cell.outW).toBeCloseTo(100 * 10 ** (-cell.totalDb / 10), 9)
    }
  })

  test('rises with frequency along a column and with SWR along a row; nothing is added at SWR 1', () => {
    for (let r = 0; r < 3; r++) {
      expect(Math.abs(table[r]![0]!.additionalDb)).toBeLessThan(0.01)
      for (let c = 1; c < 4; c++)
        expect(table[r]![c]!.totalDb).toBeGreaterThan(table[r]![c - 1]!.totalDb)
    }
    for (let c = 0; c < 4; c++) expect(table[2]![c]!.totalDb).toBeGreaterThan(table[0]![c]!.totalDb)
  })

  test('the length for a loss has that loss', () => {
    const per100 = 2.5
    expect(lengthForLoss(per100, 1)).toBeCloseTo(40, 12)
  })
})
