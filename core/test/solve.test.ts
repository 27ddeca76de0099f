import { describe, expect, test } from 'vitest'
import {
  type Chain,
  InputError,
  answerChain,
  bothSchools,
  frequencyGrid,
  ledgerOf,
  netAlongLine,
  solveChain,
  sweepBand,
  textbookLineLossDb,
} from '../src/index.ts'
import { OutOfRangeError } from '../src/errors.ts'

const lossless = { z0Ohm: 50, velocityFactor: 0.66, k1DbPer100m: 0, k2DbPer100m: 0 }
const thin = { z0Ohm: 50, velocityFactor: 0.66, k1DbPer100m: 1.45, k2DbPer100m: 0.006 }

const chainOf = (over: Partial<Chain>): Chain => ({
  transmitter: { behaviour: 'levelled', foldback: [] },
  stages: [],
  load: { kind: 'fixed', rOhm: 50, xOhm: 0 },
  ...over,
})

describe('worked by hand', () => {
  test('a 3 dB pad into 50 Ω halves 100 W', () => {
    const s = solveChain(chainOf({ stages: [{ kind: 'pad', lossDb: 10 * Math.log10(2) }] }), {
      frequencyHz: 10e6,
      powerW: 100,
    })
    expect(s.antennaW).toBeCloseTo(50, 9)
    expect(s.planes[0]!.voltageRms).toBeCloseTo(Math.sqrt(100 * 50), 9)
  })

  test('150 Ω is 3 : 1: a levelled source delivers three quarters, a peaked one all', () => {
    const load = { kind: 'fixed', rOhm: 150, xOhm: 0 } as const
    const at = { frequencyHz: 10e6, powerW: 100 }
    const { lost, resent } = bothSchools(chainOf({ load }), at)
    expect(lost.solution.planes[0]!.swr).toBeCloseTo(3, 12)
    expect(lost.solution.antennaW).toBeCloseTo(75, 9)
    expect(lost.solution.planes[0]!.reflectedW).toBeCloseTo(25, 9)
    expect(resent.solution.antennaW).toBeCloseTo(100, 9)
  })

  test('foldback takes its share first: SWR 3 at half power leaves 37.5 W net', () => {
    const s = solveChain(
      chainOf({
        transmitter: {
          behaviour: 'levelled',
          foldback: [
            [1.5, 1],
            [3, 0.5],
          ],
        },
        load: { kind: 'fixed', rOhm: 150, xOhm: 0 },
      }),
      { frequencyHz: 10e6, powerW: 100 },
    )
    expect(s.antennaW).toBeCloseTo(37.5, 9)
    expect(ledgerOf(s).heldBack).toEqual({
      foldbackW: 50,
      reflectedW: expect.closeTo(12.5, 9) as number,
    })
  })

  test('the peak on a lossless line at SWR 3 is √(P·Z₀·S), a quarter wave from a low load', () => {
    // 50/3 Ω: the voltage is least at the load and largest λ/4 away.
    const quarterM = (0.66 * 299_792_458) / 10e6 / 4
    const s = solveChain(
      chainOf({
        transmitter: { behaviour: 'peaked', foldback: [] },
        stages: [{ kind: 'line', lengthM: 12, cable: lossless }],
        load: { kind: 'fixed', rOhm: 50 / 3, xOhm: 0 },
      }),
      { frequencyHz: 10e6, powerW: 100 },
    )
    const peak = s.stages[0]!.line!.maxVoltageRms
    expect(peak.value).toBeCloseTo(Math.sqrt(100 * 50 * 3), 6)
    expect(peak.fromLoadM).toBeCloseTo(quarterM, 3)
  })

  test('an open line carries twice the forward voltage; a lead too short holds no maximum', () => {
    const open = chainOf({
      stages: [{ kind: 'line', lengthM: 1, cable: lossless }],
      load: { kind: 'fixed', rOhm: Infinity, xOhm: 0 },
    })
    const fixed = { ...open, load: { kind: 'fixed', rOhm: 1e12, xOhm: 0 } as const }
    const s = solveChain(fixed, { frequencyHz: 10e6, powerW: 100 })
    const { maxVoltageRms, maxCurrentRms } = s.stages[0]!.line!
    expect(maxVoltageRms.value).toBeCloseTo(2 * Math.sqrt(100 * 50), 4)
    expect(maxVoltageRms.fromLoadM).toBe(0)
    // The current still rises toward the source: its maximum lies beyond the end of this lead.
    expect(maxCurrentRms.fromLoadM).toBe(1)
    expect(() => solveChain(open, { frequencyHz: 10e6, powerW: 100 })).toThrow(InputError)
  })

  test('power falls along a line from one plane to the next', () => {
    const stage = { kind: 'line', lengthM: 30, cable: thin } as const
    const s = solveChain(
      chainOf({ stages: [stage], load: { kind: 'fixed', rOhm: 20, xOhm: 60 } }),
      {
        frequencyHz: 8e6,
        powerW: 100,
      },
    )
    const along = netAlongLine(stage, s, 0, 50)
    expect(along[0]).toBeCloseTo(s.planes[0]!.netW, 9)
    expect(along[49]).toBeCloseTo(s.antennaW, 9)
    for (let i = 1; i < along.length; i++) expect(along[i]!).toBeLessThan(along[i - 1]!)
  })

  test('the textbook loss formula is close on a good line and wrong on thin cable at low HF', () => {
    const at = (frequencyHz: number) => {
      const s = solveChain(
        chainOf({
          stages: [{ kind: 'line', lengthM: 30, cable: thin }],
          load: { kind: 'fixed', rOhm: 5, xOhm: 0 },
        }),
        { frequencyHz, powerW: 100 },
      )
      const { swr } = s.planes[1]!
      return {
        exact: s.stages[0]!.lossDb,
        textbook: textbookLineLossDb(s.stages[0]!.line!.matchedLossDb, (swr - 1) / (swr + 1)),
      }
    }
    const vhf = at(100e6)
    expect(Math.abs(vhf.exact - vhf.textbook) / vhf.exact).toBeLessThan(0.02)
    const low = at(1.8e6)
    expect(Math.abs(low.exact - low.textbook) / low.exact).toBeGreaterThan(0.02)
  })
})

describe('a load of which only the SWR is known', () => {
  const at = { frequencyHz: 8e6, powerW: 100 }

  test('behind pads only, nothing depends on the phase: one number', () => {
    const { spread } = answerChain(
      chainOf({ stages: [{ kind: 'pad', lossDb: 1 }], load: { kind: 'swr', swr: 3 } }),
      at,
    )
    expect(spread!.antennaW.high - spread!.antennaW.low).toBeLessThan(1e-9)
    expect(spread!.planes[0]!.swr.high).toBeCloseTo(spread!.planes[0]!.swr.low, 9)
  })

  test('behind a thin lead the loss is a range, and every phase lies inside it', () => {
    const chain = chainOf({
      stages: [{ kind: 'line', lengthM: 3, cable: thin }],
      load: { kind: 'swr', swr: 6 },
    })
    const { solution, spread } = answerChain(chain, at)
    expect(spread!.stages[0]!.lossW.high).toBeGreaterThan(1.2 * spread!.stages[0]!.lossW.low)
    for (const phase of [0.1, 1.234, 3.3, 5.9]) {
      const s = solveChain(chain, at, phase)
      expect(s.antennaW).toBeGreaterThan(spread!.antennaW.low * 0.999)
      expect(s.antennaW).toBeLessThan(spread!.antennaW.high * 1.001)
    }
    const middle = (spread!.antennaW.low + spread!.antennaW.high) / 2
    expect(Math.abs(solution.antennaW - middle)).toBeLessThan(0.02 * middle)
  })
})

describe('a band sweep', () => {
  const sweep = {
    kind: 'sweep' as const,
    frequencyHz: [3e6, 4e6, 5e6],
    re: [0.8, 0.1, 0.6],
    im: [-0.2, 0, 0.3],
  }
  const chain = chainOf({
    transmitter: {
      behaviour: 'levelled',
      foldback: [
        [1.5, 1],
        [3, 0.4],
      ],
    },
    stages: [
      { kind: 'line', lengthM: 20, cable: thin },
      { kind: 'pad', lossDb: 0.2, atHz: 30e6 },
    ],
    load: sweep,
  })

  test('agrees with single solutions at every frequency', () => {
    const grid = frequencyGrid(3e6, 5e6, 21)
    const band = sweepBand(chain, grid, 100)
    grid.forEach((frequencyHz, i) => {
      const s = solveChain(chain, { frequencyHz, powerW: 100 })
      expect(band.antennaW[i]).toBeCloseTo(s.antennaW, 9)
      expect(band.transmitterNetW[i]).toBeCloseTo(s.transmitterNetW, 9)
      expect(band.swrAtTransmitter[i]).toBeCloseTo(s.planes[0]!.swr, 9)
      expect(band.swrAtAntenna[i]).toBeCloseTo(s.planes[2]!.swr, 9)
    })
  })

  test('has no figure where the antenna was not measured', () => {
    const band = sweepBand(chain, Float64Array.of(2e6, 4e6, 6e6), 100)
    expect([...band.antennaW].map(Number.isNaN)).toEqual([true, false, true])
    expect(Number.isNaN(band.swrAtAntenna[0]!)).toBe(true)
  })

  test('bounds the watts where only the SWR is known', () => {
    const band = sweepBand({ ...chain, load: { kind: 'swr', swr: 4 } }, Float64Array.of(4e6), 100)
    const { spread } = answerChain(
      { ...chain, load: { kind: 'swr', swr: 4 } },
      { frequencyHz: 4e6, powerW: 100 },
    )
    expect(band.antennaWLow[0]).toBeCloseTo(spread!.antennaW.low, 0)
    expect(band.antennaWHigh[0]).toBeCloseTo(spread!.antennaW.high, 0)
  })

  test('a single solution outside the sweep names the range', () => {
    const solve = () => solveChain(chain, { frequencyHz: 6e6, powerW: 100 })
    expect(solve).toThrow(OutOfRangeError)
    expect(solve).toThrow(/3\.000.MHz to 5\.000.MHz/)
  })
})

test.each([
  [{ stages: [{ kind: 'line', lengthM: -1, cable: thin }] }, ['stages', 0, 'lengthM']],
  [{ stages: [{ kind: 'pad', lossDb: NaN }] }, ['stages', 0, 'lossDb']],
  [{ stages: [{ kind: 'shunt', rOhm: 0, xOhm: 0 }] }, ['stages', 0, 'rOhm']],
  [{ load: { kind: 'swr', swr: 0.5 } }, ['load', 'swr']],
] as [Partial<Chain>, (string | number)[]][])(
  'what no circuit can be is refused by its path',
  (over, path) => {
    try {
      solveChain(chainOf(over), { frequencyHz: 1e7, powerW: 1 })
      expect.unreachable()
    } catch (error) {
      expect((error as InputError).path).toEqual(path)
    }
  },
)
