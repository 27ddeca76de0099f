import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import {
  answerChain,
  type Chain,
  middleW,
  type OperatingPoint,
  solveChain,
  type Stage,
} from '../src/index.ts'
import { drawn } from './drawn.ts'

const flat = (lengthM: number, z0Ohm: number, lossDb = 0, at = 3.927e6): Stage => ({
  kind: 'line',
  lengthM,
  cable: {
    z0Ohm,
    velocityFactor: 1,
    k1DbPer100m: lengthM > 0 ? ((lossDb / lengthM) * 100) / Math.sqrt(at / 1e6) : 0,
    k2DbPer100m: 0,
  },
})
const transmitter: Chain['transmitter'] = {
  behaviour: 'levelled',
  foldback: [
    [1.5, 1],
    [3, 0.4],
    [8, 0.1],
  ],
}
const at: OperatingPoint = { frequencyHz: 3.927e6, powerW: 100 }

/** How far two powers are apart. */
const db = (a: number, b: number) => Math.abs(10 * Math.log10(a / b))

describe('the middle of an unknown phase', () => {
  test('is the mean of least and most, and the drawn solution has it', () => {
    const chain: Chain = {
      transmitter,
      stages: [flat(15.55, 93, 0.2), flat(3.91, 50)],
      load: { kind: 'swr', swr: 4.7 },
    }
    const answer = answerChain(chain, at)
    const { low, high } = answer.spread!.antennaW
    expect(answer.solution.antennaW).toBeCloseTo((low + high) / 2, 5)
    // Looked at in every tenth of a degree, with nothing but the solver.
    const watts = Array.from(
      { length: 3600 },
      (_, i) => solveChain(chain, at, (2 * Math.PI * i) / 3600).antennaW,
    )
    const middle = (Math.min(...watts) + Math.max(...watts)) / 2
    expect(db(answer.solution.antennaW, middle)).toBeLessThan(0.005)
    expect(middleW(answer)).toBeCloseTo(answer.solution.antennaW, 5)
  })

  const network: Stage = {
    kind: 'tuner',
    method: 'network',
    network: 'T',
    shuntAt: 'either',
    coilH: [0.2e-6, 25e-6],
    capacitorF: [18e-12, 330e-12],
    coilQ: 180,
    capacitorQ: 1200,
  }
  test('moves by less than 0.02 dB when a line is cut in two, or 5 cm of lossless line is added', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 2, max: 40, noNaN: true }),
        fc.constantFrom(50, 75, 93),
        fc.double({ min: 0.05, max: 1.5, noNaN: true }),
        fc.double({ min: 1.2, max: 8, noNaN: true }),
        fc.double({ min: 0.1, max: 0.9, noNaN: true }),
        fc.boolean(),
        (lengthM, z0Ohm, lossDb, swr, share, tuned) => {
          const watts = (...stages: Stage[]) =>
            answerChain(
              {
                transmitter,
                stages: [...(tuned ? [network] : []), ...stages],
                load: { kind: 'swr', swr },
              },
              at,
            ).solution
          const whole = watts(flat(lengthM, z0Ohm, lossDb))
          const cut = watts(
            flat(lengthM * share, z0Ohm, lossDb * share),
            flat(lengthM * (1 - share), z0Ohm, lossDb * (1 - share)),
          )
          const longer = watts(flat(lengthM, z0Ohm, lossDb), flat(0.05, 50))
          for (const other of [cut, longer]) {
            expect(db(other.antennaW, whole.antennaW)).toBeLessThan(0.02)
            // What is drawn is the same phase, and so are its other figures.
            expect(db(other.planes[0]!.forwardW, whole.planes[0]!.forwardW)).toBeLessThan(0.05)
          }
        },
      ),
      { numRuns: drawn(15, 300) },
    )
  })
})
