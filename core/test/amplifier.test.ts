import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import {
  aidedInput,
  amplifierOutputW,
  bestShunt,
  type Chain,
  compareReading,
  driveForW,
  equalResistors,
  expectReading,
  type Meter,
  type ModeId,
  heatShareOf,
  ledgerOf,
  meanToPeakOf,
  modeIds,
  modeTable,
  nearestStandard,
  padValues,
  solveChain,
  sweepBand,
  usualMeter,
  worthOfTuner,
} from '../src/index.ts'
import { type AmplifierStage } from '../src/source/amplifier.ts'
import { withTunerAt } from '../src/chain/worthTuner.ts'

const linear: AmplifierStage = {
  kind: 'amplifier',
  gainDb: 10,
  driveW: 50,
  fullW: 500,
  ceilings: { data: 250 },
  behaviour: 'levelled',
  foldback: [],
  inputOhm: { rOhm: 75, xOhm: 0 },
}
const compressed: AmplifierStage = { ...linear, gainDb: 12, driveW: 40 }

const chain = (amplifier: AmplifierStage = linear, rOhm = 50): Chain => ({
  transmitter: { behaviour: 'levelled', foldback: [] },
  stages: [amplifier, { kind: 'pad', lossDb: 1 }],
  load: { kind: 'fixed', rOhm, xOhm: 0 },
})
const at = { frequencyHz: 7e6, powerW: 50 }

describe('two legs, as worked by hand in docs/how-it-computes.md', () => {
  const solution = solveChain(chain(), at)

  test('the exciter sees 75 Ω: ρ = 0.2, so 48 of 50 W go in', () => {
    expect(solution.planes[0]!.swr).toBeCloseTo(1.5, 12)
    expect(solution.planes[0]!.netW).toBeCloseTo(48, 12)
  })

  test('ten times as much comes out, and a decibel later 381.3 W arrive', () => {
    expect(solution.planes[1]!.netW).toBeCloseTo(480, 10)
    expect(solution.planes[1]!.swr).toBeCloseTo(1, 12)
    expect(solution.antennaW).toBeCloseTo(480 * 10 ** -0.1, 10)
    expect(solution.stages[0]).toMatchObject({ amplifier: { driveW: expect.closeTo(48, 9) } })
  })

  test('on data it may make 250 W: too much drive by 1.92, or 2.83 dB', () => {
    const { amplifier } = solveChain(chain(), { ...at, mode: 'data' }).stages[0]!
    expect(amplifier!.overdriven).toBe(true)
    // 26.04 W, rounded down.
    expect(amplifier!.cure!.turnDownToW).toBe(26)
    // 2.83 dB, rounded up: into a levelled source without foldback a better match gives nothing back.
    expect(amplifier!.cure!.padDb).toBe(2.9)
    const cured = solveChain(chain(), { ...at, mode: 'data', powerW: 50 / 1.92 })
    expect(cured.stages[0]!.amplifier!.overdriven).toBe(false)
    expect(cured.planes[1]!.netW).toBeCloseTo(250, 9)
  })

  test('either cure holds when it is put in, and the pad is not a tenth of a decibel too large', () => {
    const input = fc.record({
      rOhm: fc.double({ min: 5, max: 500, noNaN: true }),
      xOhm: fc.double({ min: -300, max: 300, noNaN: true }),
    })
    const foldback = fc.constantFrom<[number, number][]>(
      [],
      [
        [1.5, 1],
        [3, 0.4],
        [10, 0.05],
      ],
    )
    fc.assert(
      fc.property(
        input,
        foldback,
        fc.double({ min: 5, max: 2000, noNaN: true }),
        fc.constantFrom('levelled' as const, 'peaked' as const),
        fc.double({ min: 0, max: 20, noNaN: true }),
        (inputOhm, foldback, powerW, behaviour, lengthM) => {
          const driven: Chain = {
            transmitter: { behaviour, foldback },
            stages: [
              {
                kind: 'line',
                lengthM,
                cable: { z0Ohm: 50, velocityFactor: 0.66, k1DbPer100m: 2, k2DbPer100m: 0 },
              },
              { ...compressed, inputOhm },
            ],
            load: { kind: 'fixed', rOhm: 50, xOhm: 0 },
          }
          const { cure, mostDriveW } = solveChain(driven, { ...at, powerW }).stages[1]!.amplifier!
          if (!cure) return
          const turned = solveChain(driven, { ...at, powerW: cure.turnDownToW })
          expect(turned.stages[1]!.amplifier!.driveW).toBeLessThanOrEqual(mostDriveW * (1 + 1e-9))
          if (cure.padDb === null) return
          const driveWith = (lossDb: number) =>
            solveChain(
              { ...driven, stages: driven.stages.toSpliced(1, 0, { kind: 'pad', lossDb }) },
              { ...at, powerW },
            ).stages[2]!.amplifier!.driveW
          expect(driveWith(cure.padDb)).toBeLessThanOrEqual(mostDriveW * (1 + 1e-9))
          expect(driveWith(Math.max(0, cure.padDb - 0.11))).toBeGreaterThan(mostDriveW)
        },
      ),
    )
  })

  test('a mode’s ceiling above full output permits no more than full output', () => {
    const generous = { ...compressed, ceilings: { data: 5000 } }
    const { amplifier: state } = solveChain(
      { ...chain(), stages: [generous] },
      { ...at, mode: 'data' },
    ).stages[0]!
    expect(state!.ceilingW).toBe(generous.fullW)
    expect(Number.isFinite(state!.mostDriveW)).toBe(true)
  })

  test('the ledger adds up, the amplifier giving instead of taking', () => {
    const { rows, lostW } = ledgerOf(solution)
    expect(rows.reduce((sum, row) => sum + row.lossW, 0)).toBeCloseTo(50 - solution.antennaW, 9)
    expect(lostW).toBeCloseTo(50 - solution.antennaW, 9)
    expect(rows[1]!.lossW).toBeCloseTo(-432, 9)
  })

  test('in bypass the exciter’s power goes straight through', () => {
    const bypassed = solveChain(
      { ...chain(), stages: [{ ...linear, bypassed: true }, chain().stages[1]!] },
      at,
    )
    expect(bypassed.antennaW).toBeCloseTo(50 * 10 ** -0.1, 10)
  })

  test('a band sweep solves the same two legs', () => {
    const band = sweepBand(chain(linear, 80), Float64Array.of(7e6), 50)
    expect(band.antennaW[0]).toBeCloseTo(solveChain(chain(linear, 80), at).antennaW, 9)
    expect(band.transmitterNetW[0]).toBeCloseTo(48, 9)
  })
})

describe('an amplifier', () => {
  test('gives its full output at its full drive, compressed there and straight far below', () => {
    expect(amplifierOutputW(compressed, 40)).toBeCloseTo(500, 9)
    expect(amplifierOutputW(compressed, 0.4) / 0.4).toBeCloseTo(10 ** 1.2, 4)
    const gain = (w: number) => 10 * Math.log10(amplifierOutputW(compressed, w) / w)
    expect(gain(40)).toBeCloseTo(10 * Math.log10(500 / 40), 9)
    expect(gain(20)).toBeGreaterThan(gain(40))
  })

  test('drive for an output and output for a drive undo each other; more drive never gives less', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.01, max: 200, noNaN: true }), (drive) => {
        const out = amplifierOutputW(compressed, drive)
        // Deep in saturation the drive can no longer be told from the output.
        if (out < 620) expect(driveForW(compressed, out) / drive).toBeCloseTo(1, 6)
        expect(amplifierOutputW(compressed, drive * 1.1)).toBeGreaterThanOrEqual(out)
      }),
    )
    expect(driveForW(compressed, 5000)).toBe(Infinity)
  })

  test('trips by SWR and by reflected power, and says by how much', () => {
    const bad = (over: Partial<AmplifierStage>) =>
      solveChain(chain({ ...linear, ...over }, 400), at).stages[0]!.amplifier!.trips
    expect(bad({})).toBeUndefined()
    expect(bad({ tripSwr: 3 })).toMatchObject({ by: 'SWR', limit: 3 })
    expect(bad({ tripReflectedW: 50 })).toMatchObject({ by: 'reflected power', limit: 50 })
    expect(bad({ tripSwr: 20, tripReflectedW: 500 })).toBeUndefined()
  })

  test('folds back on its own SWR, and its input is that of the band', () => {
    const shy = solveChain(
      chain(
        {
          ...linear,
          foldback: [
            [1, 1],
            [4, 0.4],
          ],
        },
        150,
      ),
      at,
    )
    expect(shy.stages[0]!.amplifier!.foldback).toBeLessThan(1)
    const banded = { ...linear, inputBands: [{ lowHz: 6e6, highHz: 8e6, rOhm: 50, xOhm: 0 }] }
    expect(solveChain(chain(banded), at).planes[0]!.swr).toBeCloseTo(1, 12)
    expect(solveChain(chain(banded), { ...at, frequencyHz: 14e6 }).planes[0]!.swr).toBeCloseTo(
      1.5,
      12,
    )
  })
})

describe('taming an input', () => {
  test('a shunt of 150 Ω makes 75 Ω into 50, at a price in drive', () => {
    expect(bestShunt(linear, [7e6], 50)).toBe(150)
    const bare = aidedInput(chain(), 0, { kind: 'none' }, at)
    const shunted = aidedInput(chain(), 0, { kind: 'shunt', ohm: 150 }, at)
    expect(bare.swr).toBeCloseTo(1.5, 9)
    expect(shunted.swr).toBeCloseTo(1, 9)
    // Of 50 W a third is in the shunt: 50/150.
    expect(shunted.heatW).toBeCloseTo(50 / 3, 9)
    expect(shunted.driveW).toBeCloseTo(100 / 3, 9)
    expect(bare.heatW).toBe(0)
  })

  test('a low input is not helped by a shunt', () => {
    expect(bestShunt({ inputOhm: { rOhm: 25, xOhm: 0 } }, [7e6], 50)).toBeNull()
  })

  test('a pad of 3 dB halves |ρ|', () => {
    const { swr, driveW } = aidedInput(chain(), 0, { kind: 'pad', db: 3 }, at)
    expect((swr - 1) / (swr + 1)).toBeCloseTo(0.2 * 10 ** -0.3, 9)
    expect(driveW).toBeLessThan(25)
  })
})

describe('resistors', () => {
  test.each([
    [48, 47],
    [49.5, 51],
    [150.2, 150],
    [9.7, 10],
    [0.23, 0.24],
    [99, 100],
  ])('nearest to %d Ω of E24 is %d', (ohm, standard) => expect(nearestStandard(ohm)).toBe(standard))

  test('equal ones make 50 Ω: two of 100, and others', () => {
    const [first] = equalResistors(50)
    expect(first).toMatchObject({ count: 2, together: 'parallel', ohmEach: 100, error: 0 })
    for (const r of equalResistors(37)) {
      const made = r.together === 'parallel' ? r.ohmEach / r.count : r.ohmEach * r.count
      expect(made).toBeCloseTo(r.ohm, 12)
    }
  })

  test('pads of 3 and 10 dB by the usual table', () => {
    const three = padValues(3, 50)
    expect(three.pi.shuntOhm).toBeCloseTo(292.4, 1)
    expect(three.pi.seriesOhm).toBeCloseTo(17.61, 2)
    expect(three.tee.seriesOhm).toBeCloseTo(8.55, 2)
    expect(three.tee.shuntOhm).toBeCloseTo(141.93, 2)
    const ten = padValues(10, 50)
    expect(ten.pi.shuntOhm).toBeCloseTo(96.25, 2)
    expect(ten.pi.seriesOhm).toBeCloseTo(71.15, 2)
    for (const { heat } of [ten.pi, ten.tee, three.pi]) expect(Math.min(...heat)).toBeGreaterThan(0)
    expect(ten.pi.heat.reduce((a, b) => a + b)).toBeCloseTo(0.9, 12)
    expect(() => padValues(0, 50)).toThrow(/more than 0 dB/)
    expect(() => nearestStandard(-1)).toThrow(/more than 0/)
  })
})

describe('modes and meters', () => {
  test('every mode is in the table once, with ratios between 0 and 1 and a source', () => {
    expect(modeTable.map(({ id }) => id)).toEqual([...modeIds])
    for (const { meanToPeak, keyDown, source } of modeTable) {
      expect(meanToPeak).toBeGreaterThan(0)
      expect(meanToPeak).toBeLessThanOrEqual(1)
      expect(keyDown).toBeLessThanOrEqual(1)
      expect(source.length).toBeGreaterThan(10)
    }
  })

  test('a channel may carry figures of its own', () => {
    expect(meanToPeakOf({ mode: 'voice-plain' })).toBe(0.2)
    expect(meanToPeakOf({ mode: 'voice-plain', meanToPeak: 0.3 })).toBe(0.3)
    expect(heatShareOf({ mode: 'CW' })).toBeCloseTo(0.44, 12)
    expect(heatShareOf({ mode: 'own', meanToPeak: 0.5, keyDown: 0.1 })).toBeCloseTo(0.05, 12)
  })

  const on = (meter: Meter, forwardW: number, mode: ModeId) =>
    expectReading({ forwardW, swr: 1 }, meter, { mode })

  test('an averaging meter shows a fifth of a plain voice, on the range that holds it', () => {
    expect(on(usualMeter, 125, 'voice-plain')).toMatchObject({ watts: 25, rangeW: 50 })
    expect(on({ ...usualMeter, kind: 'peak' }, 125, 'voice-plain').rangeW).toBe(200)
    expect(on(usualMeter, 5000, 'FM')).toMatchObject({ watts: 5000, rangeW: null })
  })

  test('a reading is compared in dB, and half of it is recognised', () => {
    const { watts, wattsRange } = on(usualMeter, 100, 'FM')
    expect(compareReading(97, watts, wattsRange)).toMatchObject({ is: 'inside' })
    const half = compareReading(50, watts, wattsRange)
    expect(half.db).toBeCloseTo(-3.01, 2)
    expect(half.is).toBe('half')
    expect(compareReading(80, watts, wattsRange).is).toBe('less')
    expect(compareReading(140, watts, wattsRange).is).toBe('more')
  })
})

describe('is a tuner worth it?', () => {
  const tuner = { kind: 'tuner', method: 'given', lossDb: 0.3, residualSwr: 1 } as const
  const cable = { z0Ohm: 50, velocityFactor: 0.66, k1DbPer100m: 1.4, k2DbPer100m: 0.005 }
  const station = (rOhm: number): Chain => ({
    transmitter: {
      behaviour: 'levelled',
      foldback: [
        [1.5, 1],
        [3, 0.4],
        [6, 0.1],
      ],
    },
    stages: [{ kind: 'line', lengthM: 30, cable }, tuner],
    load: { kind: 'fixed', rOhm, xOhm: 0 },
  })
  const watts = (rOhm: number) =>
    Object.fromEntries(worthOfTuner(station(rOhm), tuner, at).map((a) => [a.place, a.antennaW]))

  test('on a good match it costs more than it saves', () => {
    const w = watts(52)
    expect(w['none']).toBeGreaterThan(w['radio']!)
    expect(w['none']).toBeGreaterThan(w['feedPoint']!)
  })

  test('on a bad one it wins, most at the feed point, where the cable is flat again', () => {
    const w = watts(400)
    expect(w['feedPoint']).toBeGreaterThan(w['radio']!)
    expect(w['radio']).toBeGreaterThan(w['none']! * 1.5)
  })

  test('it stands behind an amplifier, and the account is complete', () => {
    const placed = withTunerAt(
      { ...chain(), stages: [linear, ...station(400).stages] },
      tuner,
      'radio',
    )
    expect(placed.stages.map(({ kind }) => kind)).toEqual(['amplifier', 'tuner', 'line'])
    for (const answer of worthOfTuner(station(400), tuner, at))
      expect(answer.antennaW + answer.tunerW + answer.cableW + answer.heldBackW).toBeCloseTo(50, 9)
  })
})
