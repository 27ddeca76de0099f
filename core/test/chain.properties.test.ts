import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { REFERENCE_OHM, type Stage, ledgerOf, solveChain } from '../src/index.ts'
import { lineConstants, matchedLossDb } from '../src/line/constants.ts'
import * as arb from './arbitrary.ts'

const relative = (a: number, b: number, scale = Math.max(Math.abs(a), Math.abs(b))) =>
  scale === 0 ? 0 : Math.abs(a - b) / scale

describe('any chain', () => {
  test('its ledger adds up to the net output, to 1e-9', () => {
    fc.assert(
      fc.property(arb.chain, arb.operatingPoint, (chain, at) => {
        const solution = solveChain(chain, at)
        const stages = solution.stages.reduce((sum, s) => sum + s.lossW, 0)
        expect(relative(stages + solution.antennaW, solution.transmitterNetW)).toBeLessThan(1e-9)
        const ledger = ledgerOf(solution)
        const rows = ledger.rows.reduce((sum, row) => sum + row.lossW, 0)
        expect(relative(rows + ledger.antennaW, at.powerW)).toBeLessThan(1e-9)
        const { foldbackW, reflectedW } = ledger.heldBack
        expect(relative(foldbackW + reflectedW, ledger.rows[0]!.lossW, at.powerW)).toBeLessThan(
          1e-9,
        )
      }),
    )
  })

  test('no passive stage makes power', () => {
    fc.assert(
      fc.property(arb.chain, arb.operatingPoint, (chain, at) => {
        const { stages, transmitterNetW } = solveChain(chain, at)
        for (const stage of stages) expect(stage.lossW).toBeGreaterThan(-1e-9 * transmitterNetW)
      }),
    )
  })

  test('net = forward − reflected at every plane', () => {
    fc.assert(
      fc.property(arb.chain, arb.operatingPoint, (chain, at) => {
        for (const p of solveChain(chain, at).planes)
          expect(relative(p.forwardW - p.reflectedW, p.netW, p.forwardW)).toBeLessThan(1e-9)
      }),
    )
  })

  test('a line cut in two solves as one', () => {
    fc.assert(
      fc.property(
        arb.chain,
        arb.line,
        fc.double({ min: 0.01, max: 0.99, noNaN: true }),
        arb.operatingPoint,
        (chain, line, cut, at) => {
          const first = { ...line, lengthM: line.lengthM * cut }
          const second = { ...line, lengthM: line.lengthM * (1 - cut) }
          const whole = solveChain({ ...chain, stages: [line, ...chain.stages] }, at)
          const parts = solveChain({ ...chain, stages: [first, second, ...chain.stages] }, at)
          expect(relative(whole.antennaW, parts.antennaW)).toBeLessThan(1e-8)
          expect(relative(whole.planes[0]!.voltageRms, parts.planes[0]!.voltageRms)).toBeLessThan(
            1e-8,
          )
          const most = Math.max(
            parts.stages[0]!.line!.maxVoltageRms.value,
            parts.stages[1]!.line!.maxVoltageRms.value,
          )
          expect(relative(whole.stages[0]!.line!.maxVoltageRms.value, most)).toBeLessThan(1e-6)
        },
      ),
    )
  })

  test('a matched chain loses exactly the sum of matched losses', () => {
    const matched = fc.array(
      fc.oneof(
        arb.pad,
        fc.record({
          kind: fc.constant('line' as const),
          lengthM: fc.double({ min: 0.1, max: 80, noNaN: true }),
          // Equal conductor and dielectric shares without internal reactance would be needed for a
          // real Zc; a line of dielectric loss only and 1 MHz up is real to 1e-6.
          cable: fc.constant({ z0Ohm: 50, velocityFactor: 0.7, k1DbPer100m: 0, k2DbPer100m: 1e-3 }),
        }),
      ),
      { minLength: 1, maxLength: 8 },
    )
    fc.assert(
      fc.property(matched, arb.operatingPoint, (stages, at) => {
        const solution = solveChain(
          {
            transmitter: { behaviour: 'levelled', foldback: [] },
            stages,
            load: { kind: 'fixed', rOhm: REFERENCE_OHM, xOhm: 0 },
          },
          at,
        )
        const sum = stages.reduce(
          (total, s) =>
            total +
            (s.kind === 'pad'
              ? s.lossDb
              : matchedLossDb(lineConstants(s.cable, at.frequencyHz), s.lengthM)),
          0,
        )
        expect(Math.abs(solution.chainLossDb - sum)).toBeLessThan(1e-6)
      }),
    )
  })

  test('reversing a reciprocal two-port keeps its transducer gain', () => {
    // Between a 50 Ω source and a 50 Ω load, levelled: antenna power / setting is |S21|².
    fc.assert(
      fc.property(
        // A transformer is not the same from both sides.
        fc.array(
          arb.stage.filter(({ kind }) => kind !== 'transformer'),
          { minLength: 1, maxLength: 6 },
        ),
        arb.operatingPoint,
        (stages, at) => {
          const gain = (order: readonly Stage[]) =>
            solveChain(
              {
                transmitter: { behaviour: 'levelled', foldback: [] },
                stages: order,
                load: { kind: 'fixed', rOhm: REFERENCE_OHM, xOhm: 0 },
              },
              at,
            ).antennaW
          expect(relative(gain(stages), gain([...stages].reverse()))).toBeLessThan(1e-8)
        },
      ),
    )
  })

  test('results scale linearly with power where there is no foldback', () => {
    fc.assert(
      fc.property(
        arb.chain,
        arb.operatingPoint,
        fc.double({ min: 0.1, max: 10, noNaN: true }),
        (chain, at, factor) => {
          const plain = { ...chain, transmitter: { ...chain.transmitter, foldback: [] } }
          const one = solveChain(plain, at)
          const more = solveChain(plain, { ...at, powerW: at.powerW * factor })
          expect(relative(more.antennaW, one.antennaW * factor)).toBeLessThan(1e-9)
          expect(
            relative(more.planes[0]!.voltageRms, one.planes[0]!.voltageRms * Math.sqrt(factor)),
          ).toBeLessThan(1e-9)
          expect(relative(more.planes[0]!.swr, one.planes[0]!.swr)).toBeLessThan(1e-9)
        },
      ),
    )
  })

  test('a bypassed stage changes nothing', () => {
    fc.assert(
      fc.property(arb.chain, arb.stage, arb.operatingPoint, (chain, stage, at) => {
        const without = solveChain(chain, at)
        const bypassed = solveChain(
          { ...chain, stages: [{ ...stage, bypassed: true }, ...chain.stages] },
          at,
        )
        expect(bypassed.antennaW).toBe(without.antennaW)
        expect(bypassed.stages[0]!.lossW).toBe(0)
      }),
    )
  })
})
