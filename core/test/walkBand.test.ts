import fc from 'fast-check'
import { expect, test } from 'vitest'
import { type Chain, frequencyGrid, solveChain, type Stage, sweepBand } from '../src/index.ts'
import { line } from './arbitrary.ts'

const part: fc.Arbitrary<Stage> = fc.oneof(
  line,
  fc.record({
    kind: fc.constant('pad' as const),
    lossDb: fc.double({ min: 0, max: 300, noNaN: true }),
    atHz: fc.option(fc.constant(7e6), { nil: undefined }),
  }),
  fc.record({
    kind: fc.constant('series' as const),
    rOhm: fc.double({ min: 0, max: 200, noNaN: true }),
    xOhm: fc.double({ min: -300, max: 300, noNaN: true }),
    atHz: fc.option(fc.constant(7e6), { nil: undefined }),
  }),
  fc.record({
    kind: fc.constant('shunt' as const),
    rOhm: fc.double({ min: 1, max: 2000, noNaN: true }),
    xOhm: fc.double({ min: -300, max: 300, noNaN: true }),
  }),
)

test('many frequencies at once are what each is alone, however much is lost', () => {
  fc.assert(
    fc.property(
      fc.array(part, { maxLength: 9 }),
      fc.double({ min: 0.1, max: 500, noNaN: true }),
      fc.double({ min: -400, max: 400, noNaN: true }),
      fc.nat(8),
      (stages, rOhm, xOhm, bypassed) => {
        const chain: Chain = {
          transmitter: {
            behaviour: 'levelled',
            foldback: [
              [1.5, 1],
              [3, 0.5],
            ],
          },
          stages: stages.map((stage, k) => (k === bypassed ? { ...stage, bypassed: true } : stage)),
          load: { kind: 'fixed', rOhm, xOhm },
        }
        const grid = frequencyGrid(1.8e6, 52e6, 7)
        const sweep = sweepBand(chain, grid, 100)
        grid.forEach((frequencyHz, i) => {
          const { antennaW, transmitterNetW, planes } = solveChain(chain, {
            frequencyHz,
            powerW: 100,
          })
          const near = (a: number, b: number) =>
            expect(Math.abs(a - b)).toBeLessThanOrEqual(1e-9 * Math.abs(b) + 1e-300)
          near(sweep.antennaW[i]!, antennaW)
          near(sweep.transmitterNetW[i]!, transmitterNetW)
          near(sweep.swrAtAntenna[i]!, planes.at(-1)!.swr)
          // Where nearly all comes back, one is the difference of two.
          if (planes[0]!.swr < 1e5)
            expect(sweep.swrAtTransmitter[i]! / planes[0]!.swr).toBeCloseTo(1, 6)
        })
      },
    ),
    { numRuns: 150 },
  )
})
