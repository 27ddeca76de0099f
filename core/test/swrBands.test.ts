import { describe, expect, test } from 'vitest'
import fc from 'fast-check'
import {
  answerChain,
  type Chain,
  fitOfBand,
  InputError,
  type SwrBand,
  sweepBand,
  withReading,
} from '../src/index.ts'
import { fitResonator } from '../src/load/resonator.ts'
import { type SwrBandsLoad } from '../src/load/swrBands.ts'

const single = (mhz: number, swr: number): SwrBand => ({
  readings: [{ frequencyHz: mhz * 1e6, swr }],
})
const load = (...bands: SwrBand[]): SwrBandsLoad => ({ kind: 'bands', bands })
const chain = (bands: SwrBandsLoad): Chain => ({
  transmitter: { behaviour: 'levelled', foldback: [] },
  stages: [{ kind: 'pad', lossDb: 1 }],
  load: bands,
})
const at = (mhz: number) => ({ frequencyHz: mhz * 1e6, powerW: 100 })

describe('an antenna whose SWR is known on each band separately', () => {
  const antenna = load(single(3.6, 1.8), single(7.1, 1.3), single(14.2, 3))

  test('has each band’s own SWR, and no phase', () => {
    for (const [mhz, swr] of [
      [3.6, 1.8],
      [7.1, 1.3],
      [14.2, 3],
    ] as const) {
      const { solution, spread } = answerChain(chain(antenna), at(mhz))
      expect(solution.planes.at(-1)!.swr).toBeCloseTo(swr, 9)
      expect(spread?.phaseUnknown).toBe(true)
    }
  })

  test('between its bands there is no figure, and the message names what is known', () => {
    expect(() => answerChain(chain(antenna), at(10.1))).toThrow(
      /known from 3\.528.MHz to 3\.672.MHz, 6\.958.*no figure at 10\.100.MHz.*Add a reading/,
    )
    expect(() => answerChain(chain(load()), at(7))).toThrow(
      /No SWR of this antenna has been entered/,
    )
    const swept = sweepBand(chain(antenna), Float64Array.of(7.1e6, 10.1e6, 14.2e6), 100)
    expect(Number.isFinite(swept.antennaW[0]!)).toBe(true)
    expect(swept.antennaW[1]).toBeNaN()
    expect(Number.isFinite(swept.antennaW[2]!)).toBe(true)
  })

  test('two readings: between them |ρ| is interpolated, beyond them there is nothing', () => {
    const two = load({
      readings: [
        { frequencyHz: 7.0e6, swr: 3 },
        { frequencyHz: 7.2e6, swr: 1 },
      ],
    })
    const swr = answerChain(chain(two), at(7.1)).solution.planes.at(-1)!.swr
    expect(swr).toBeCloseTo(1.25 / 0.75, 9)
    expect(() => answerChain(chain(two), at(7.21))).toThrow(InputError)
  })

  test('three readings of one resonance fit it, a band each', () => {
    const band: SwrBand = {
      readings: [
        { frequencyHz: 7.0e6, swr: 1.9 },
        { frequencyHz: 7.1e6, swr: 1.2 },
        { frequencyHz: 7.2e6, swr: 1.8 },
      ],
    }
    const fit = fitOfBand(band, 50)!
    expect(fit.rms).toBeLessThan(0.05)
    const both = load(single(3.6, 1.8), band)
    expect(answerChain(chain(both), at(7.1)).spread).toBeNull()
    expect(answerChain(chain(both), at(3.6)).spread?.phaseUnknown).toBe(true)
    expect(() => answerChain(chain(both), at(8))).toThrow(InputError)
  })

  test('readings of no resonance are no fit: the SWR is interpolated instead', () => {
    const band: SwrBand = {
      readings: [
        { frequencyHz: 7.0e6, swr: 1.2 },
        { frequencyHz: 7.1e6, swr: 4 },
        { frequencyHz: 7.2e6, swr: 1.3 },
      ],
    }
    expect(fitOfBand(band, 50)).toBeNull()
    expect(answerChain(chain(load(band)), at(7.1)).solution.planes.at(-1)!.swr).toBeCloseTo(4, 9)
  })

  test('a reading goes to the band that it lies in or next to, else to a new one', () => {
    const one = withReading([], { frequencyHz: 7.1e6, swr: 1.3 })
    const two = withReading(one, { frequencyHz: 14.2e6, swr: 2 })
    const three = withReading(two, { frequencyHz: 7.0e6, swr: 1.5 })
    expect(three.map(({ readings }) => readings.map((r) => r.frequencyHz / 1e6))).toEqual([
      [7, 7.1],
      [14.2],
    ])
    const again = withReading(three, { frequencyHz: 7.1e6, swr: 1.4 })
    expect(again[0]!.readings[1]).toEqual({ frequencyHz: 7.1e6, swr: 1.4 })
  })
})

describe('the fit of a resonator, with hostile readings', () => {
  test('readings at 14, 7.1 and 7.206 MHz come to an end, and fit badly', () => {
    const fit = fitResonator(
      [
        { frequencyHz: 14e6, swr: 1.5 },
        { frequencyHz: 7.1e6, swr: 1.2 },
        { frequencyHz: 7.206e6, swr: 2.4 },
      ],
      50,
    )
    expect(fit.load.resonanceHz).toBeGreaterThan(0)
    expect(fit.rms).toBeGreaterThan(0.15)
  })

  test('whatever the readings, it ends within the bounds of a document', () => {
    const reading = fc.record({
      frequencyHz: fc.double({ min: Math.log(1e4), max: Math.log(6e9), noNaN: true }).map(Math.exp),
      swr: fc.oneof(fc.double({ min: 1, max: 1000, noNaN: true }), fc.constantFrom(1, 1000)),
    })
    fc.assert(
      fc.property(fc.array(reading, { minLength: 3, maxLength: 8 }), (readings) => {
        if (new Set(readings.map((r) => r.frequencyHz)).size < 3) return
        const { load, alternative, rms } = fitResonator(readings, 50)
        expect(Number.isFinite(rms)).toBe(true)
        for (const each of [load, alternative]) {
          expect(each.q).toBeGreaterThanOrEqual(0.5)
          expect(each.q).toBeLessThanOrEqual(2000)
          expect(each.rOhm).toBeGreaterThanOrEqual(0.1)
          expect(each.rOhm).toBeLessThanOrEqual(10_000)
          expect(each.resonanceHz).toBeGreaterThan(0)
        }
      }),
      { numRuns: 25 },
    )
  })
})
