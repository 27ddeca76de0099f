/** Isolators and duplexers: by hand, and by what must hold for any of them. */
import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { type Chain, solveChain, stressesOf, usualTolerances } from '../src/index.ts'
import { duplexerBranch, type DuplexerStage } from '../src/stages/duplexer.ts'
import type { IsolatorStage } from '../src/stages/isolator.ts'
import { modelOf } from '../src/stages/stage.ts'

const transmitter: Chain['transmitter'] = { behaviour: 'levelled', foldback: [] } as never
const chain = (stages: Chain['stages'], load: Chain['load']): Chain => ({
  transmitter,
  stages,
  load,
})
const at = { frequencyHz: 156.8e6, powerW: 100 }
const around = { emission: { mode: 'key-down' as const }, ambientC: 20 }

const isolator: IsolatorStage = { kind: 'isolator', lossDb: 0.5, isolationDb: 30, loadW: 10 }

describe('an isolator', () => {
  test('by hand: 100 W into SWR 3 behind it', () => {
    // |ρ| = 0.5: a quarter comes back, and ends in the load but for a thousandth.
    const { planes, stages, antennaW } = solveChain(
      chain([isolator], { kind: 'fixed', rOhm: 150, xOhm: 0 }),
      at,
    )
    const forward = 100 * 10 ** -0.05
    expect(planes[1]!.forwardW).toBeCloseTo(forward, 1)
    expect(antennaW).toBeCloseTo(forward * 0.75, 1)
    // What still comes back: −0.5 dB, a quarter, −30 dB.
    const back = 10 ** -0.05 * 0.25 * 1e-3
    expect(planes[0]!.reflectedW / planes[0]!.forwardW).toBeCloseTo(back, 6)
    expect(stages[0]!.lossW).toBeCloseTo(100 - 100 * back - forward * 0.75, 1)
  })

  test('its load bears what comes back, and is over its rating where that is more', () => {
    const own = chain([isolator], { kind: 'fixed', rOhm: 150, xOhm: 0 })
    const heat = stressesOf(own.stages as never, solveChain(own, at), around).filter(
      ({ kind, limit }) => kind === 'heat' && limit === 10,
    )
    expect(heat).toHaveLength(1)
    expect(heat[0]!.stress).toBeCloseTo(100 * 10 ** -0.05 * 0.25, 1)
    expect(heat[0]!.headroomDb!).toBeLessThan(0)
  })

  test('whatever stands behind it, the transmitter sees a match as good as its isolation', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 2000, noNaN: true }),
        fc.double({ min: -2000, max: 2000, noNaN: true }),
        fc.double({ min: 0, max: 3, noNaN: true }),
        fc.double({ min: 10, max: 60, noNaN: true }),
        (rOhm, xOhm, lossDb, isolationDb) => {
          const stage = { kind: 'isolator', lossDb, isolationDb } as const
          const { planes, stages, antennaW } = solveChain(
            chain([stage], { kind: 'fixed', rOhm, xOhm }),
            at,
          )
          const seen = planes[0]!.reflectedW / planes[0]!.forwardW
          expect(seen).toBeLessThanOrEqual(10 ** (-(isolationDb + lossDb) / 10) + 1e-9)
          // Nothing is made: what goes in is lost in it or arrives.
          expect(stages[0]!.lossW).toBeGreaterThanOrEqual(-1e-9)
          expect(stages[0]!.lossW + antennaW).toBeCloseTo(planes[0]!.netW, 9)
        },
      ),
    )
  })

  test('that holds back less than it takes is refused', () => {
    const wrong = { ...isolator, isolationDb: 0.2 }
    expect(() => solveChain(chain([wrong], { kind: 'fixed', rOhm: 50, xOhm: 0 }), at)).toThrow(
      /raise the isolation/,
    )
  })
})

const duplexer: DuplexerStage = {
  kind: 'duplexer',
  transmitLowHz: 160e6,
  transmitHighHz: 161e6,
  lossDb: 1.5,
  receiveLowHz: 155.4e6,
  receiveHighHz: 156.4e6,
  receiveLossDb: 1.1,
  isolationDb: 80,
}

describe('a duplexer', () => {
  const solved = (frequencyHz: number, stage = duplexer) =>
    solveChain(chain([stage], { kind: 'fixed', rOhm: 50, xOhm: 0 }), { ...at, frequencyHz })

  test('loses what its branch loses', () => {
    expect(solved(160.6e6).stages[0]!.lossDb).toBeCloseTo(1.5, 9)
    expect(solved(156e6).stages[0]!.lossDb).toBeCloseTo(1.1, 9)
    expect([160e6, 156.4e6, 158e6].map((hz) => duplexerBranch(duplexer, hz))).toEqual([
      'transmit',
      'receive',
      null,
    ])
  })

  test('says that it blocks a channel in neither branch; bypassed it does not', () => {
    expect(() => solved(158e6)).toThrow(/does not pass 158.*its branches are 160.*155/)
    const bypassed = { ...duplexer, bypassed: true }
    expect(solved(158e6, bypassed).antennaW).toBeCloseTo(100, 9)
  })

  test.each([
    [{ transmitHighHz: 159e6 }, /ends before it begins/],
    [{ receiveHighHz: 150e6 }, /ends before it begins/],
    [{ receiveHighHz: 160.5e6 }, /overlap/],
  ])('%j is refused', (wrong, words) => {
    expect(() => solved(160.6e6, { ...duplexer, ...wrong })).toThrow(words)
  })
})

describe('what they bear and would be', () => {
  const { stresses, lossless, varied } = modelOf(isolator)
  test('without loss they do what they do, and take nothing for it', () => {
    expect(lossless(isolator)).toEqual({ ...isolator, lossDb: 0 })
    expect(modelOf(duplexer).lossless(duplexer)).toEqual({
      ...duplexer,
      lossDb: 0,
      receiveLossDb: 0,
    })
  })

  test('their losses vary with the tolerance of parts, their bands and isolation do not', () => {
    const most = () => 0.999999
    const drawn = varied!.copy(isolator) as IsolatorStage
    varied!.draw(isolator, drawn, { ...usualTolerances, parts: 0.5 }, most)
    expect(drawn.lossDb / isolator.lossDb).toBeGreaterThan(1.1)
    expect(drawn.isolationDb).toBe(isolator.isolationDb)
    const own = modelOf(duplexer).varied!
    const other = own.copy(duplexer) as DuplexerStage
    own.draw(duplexer, other, { ...usualTolerances, parts: 0.5 }, most)
    expect(other.lossDb / duplexer.lossDb).toBeCloseTo(
      other.receiveLossDb / duplexer.receiveLossDb,
      9,
    )
    expect({ ...other, lossDb: 1.5, receiveLossDb: 1.1 }).toEqual(duplexer)
  })

  test('voltage, power on the transmitter’s side, and the load: each against its own limit', () => {
    const solution = solveChain(chain([isolator], { kind: 'fixed', rOhm: 150, xOhm: 0 }), at)
    const found = stresses(isolator, {
      part: 0,
      before: solution.planes[0]!,
      behind: solution.planes[1]!,
      state: solution.stages[0]!,
      ratings: { voltageRms: 500, averageW: [[1, 200]] },
      frequencyHz: at.frequencyHz,
      share: 0.5,
      ambientC: 20,
    })
    expect(found.map(({ kind, limit, unit }) => [kind, limit, unit])).toEqual([
      ['voltage', 500, 'V rms'],
      ['heat', 200, 'W'],
      ['heat', 10, 'W'],
    ])
    // The higher voltage is behind it: √(forward·50)·(1 + |ρ|).
    expect(found[0]!.stress).toBeCloseTo(Math.sqrt(100 * 10 ** -0.05 * 50) * 1.5, 0)
    expect(found[0]!.headroomDb).toBeCloseTo(20 * Math.log10(500 / found[0]!.stress), 9)
    // Nearly a match in front of it: half of the hundred watts on average, and the little that the isolation lets back.
    const rho = Math.sqrt(10 ** -0.05 * 0.25 * 1e-3)
    expect(found[1]!.stress).toBeCloseTo(50 * (1 + rho) ** 2, 1)
    expect(found[2]!.stress).toBeCloseTo(0.5 * 100 * 10 ** -0.05 * 0.25, 1)
  })
})
