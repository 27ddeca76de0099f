/** What is read with a load, an open end or a short in the antenna's place. */
import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import {
  type Case,
  type Cause,
  type Channel,
  diagnose,
  type Load,
  type Meter,
  nextReadings,
  seeded,
  solveChain,
  stationDraws,
  usualTolerances,
  weigh,
  withEnd,
  withLoads,
} from '../src/index.ts'
import { causedWaves } from '../src/diagnosis/causes.ts'
import { candidatesOf } from '../src/diagnosis/explanations.ts'
import { hiddenStation, simulateReadings } from '../src/diagnosis/simulate.ts'
import { predictions } from '../src/chain/predictions.ts'
import { drawChain } from '../src/chain/uncertainty.ts'
import { foamLine, stationOf } from './stations.ts'

const antenna: Load = { kind: 'fixed', rOhm: 25, xOhm: 30 }
const chain = stationOf([foamLine(2), { kind: 'pad', lossDb: 3 }, foamLine(40)], antenna)
const emission = { mode: 'key-down' as const }
const air: Channel = { frequencyHz: 145e6, powerW: 100, mode: 'key-down', emission }
const into = (farEnd: Channel['farEnd']): Channel => ({ ...air, farEnd })
const meter: Meter = {
  kind: 'averaging',
  rangesW: [],
  accuracy: 0.05,
  accuracyOf: 'reading',
  directivityDb: 35,
}
const exact = { length: 0, cable: 0, parts: 0, source: 0, reflection: 0 }

describe('a chain that ends in something else', () => {
  test('into a load nothing comes back, and each part loses what it loses matched', () => {
    const { planes } = solveChain(withEnd(chain, 'load'), air)
    // 3 dB of the pad, whatever the cables lose.
    expect(planes[1]!.forwardW / planes[2]!.forwardW).toBeCloseTo(10 ** 0.3, 6)
    for (const { swr } of planes.slice(1, 3)) expect(swr).toBeCloseTo(1, 1)
    expect(planes[3]!.swr).toBeCloseTo(1, 9)
  })

  test('an open or shorted end returns all there is: at the radio, less the loss of the way, there and back', () => {
    const matched = solveChain(withEnd(chain, 'load'), air).planes
    for (const end of ['open', 'short'] as const) {
      const { planes } = solveChain(withEnd(chain, end), air)
      const last = planes[3]!
      expect(last.reflectedW / last.forwardW).toBeCloseTo(1, 4)
      const db = 10 * Math.log10(planes[2]!.forwardW / planes[2]!.reflectedW)
      const oneWay = 10 * Math.log10(matched[2]!.netW / matched[3]!.netW)
      // Beside the impedance of the cable, which is not quite that of the meter.
      expect(Math.abs(db / (2 * oneWay) - 1)).toBeLessThan(0.1)
    }
  })

  test('the antenna is meant where nothing is said, and what is drawn then is as it was', () => {
    expect(withEnd(chain)).toBe(chain)
    expect(withEnd(chain, 'antenna')).toBe(chain)
    const of = (point: Channel) =>
      stationDraws(chain, [point], usualTolerances)(seeded(3)).reflection[0]
    expect(of(into('antenna'))).toEqual(of(air))
  })

  test('a load is drawn about the match, an open end about all, never over it', () => {
    const draw = stationDraws(chain, [into('load'), into('open')], usualTolerances)
    const random = seeded(5)
    for (let i = 0; i < 200; i++) {
      const [load, open] = draw(random).reflection
      expect(Math.hypot(load!.re, load!.im)).toBeLessThan(0.1)
      expect(Math.hypot(open!.re, open!.im)).toBeGreaterThan(0.9)
      expect(Math.hypot(open!.re, open!.im)).toBeLessThanOrEqual(1)
    }
  })

  test('one setting sends the same power whatever the line ends in; another setting does not', () => {
    const tolerances = { ...exact, source: 0.2 }
    const draws = drawChain(
      chain,
      [air, into('load'), { ...into('load'), powerW: 50 }],
      tolerances,
      {
        ...{ draws: 50, seed: 9 },
      },
    )
    const share = (c: number, of: Channel) => {
      const { planes } = solveChain(withEnd(chain, of.farEnd), of)
      return Array.from(draws[c]!.forwardW.subarray(0, 50), (w) => w / planes[0]!.forwardW)
    }
    share(1, into('load')).forEach((own, i) => expect(own).toBeCloseTo(share(0, air)[i]!, 9))
    const half = share(2, { ...into('load'), powerW: 50 })
    expect(half.some((own, i) => Math.abs(own - share(0, air)[i]!) > 0.01)).toBe(true)
  })

  test('what is predicted of a reading is predicted of the load', () => {
    const { forwardW, swr, ranges } = predictions(chain, into('load'), usualTolerances, {
      ...{ draws: 100, seed: 1 },
    })(100, 3)
    expect(swr).toBeCloseTo(1, 9)
    expect(forwardW).toBeCloseTo(solveChain(withEnd(chain, 'load'), air).planes[3]!.forwardW, 6)
    expect(ranges!.swr.high).toBeLessThan(1.2)
  })
})

describe('causes', () => {
  const waves = causedWaves(chain, into('load'), 0, 0.1)
  const broken: Cause = {
    kind: 'antenna',
    change: { kind: 'broken', reflection: { re: 0.95, im: 0 } },
    point: null,
  }

  test('an antenna that is not connected changes nothing, whatever becomes of it', () => {
    expect(waves.under(broken)).toBe(waves.nominal)
    expect(causedWaves(chain, air, 0, 0.1).under(broken)).not.toEqual(waves.nominal)
  })

  test('the transmitter is the same one: what it lacks on a channel it lacks into the load, and a loss is there as well', () => {
    const down: Cause = { kind: 'transmitter', db: -3, point: 0 }
    expect(waves.under(down).forwardW[3]! / waves.nominal.forwardW[3]!).toBeCloseTo(10 ** -0.3, 9)
    const lost: Cause = { kind: 'loss', from: 2, to: 2, db: 2 }
    expect(waves.under(lost).forwardW[3]! / waves.nominal.forwardW[3]!).toBeCloseTo(10 ** -0.2, 2)
  })

  test('a hidden station keeps to it, in any order of the channels', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 1e6 }), fc.boolean(), (seed, first) => {
        const channels = first ? [into('load'), air] : [air, into('load')]
        const [load, aired] = first ? [0, 1] : [1, 0]
        const kase = { chain, channels, instruments: [meter], tolerances: exact }
        const sound = hiddenStation(kase, [{ kind: 'none' }], seed)
        const ill = hiddenStation(kase, [broken], seed)
        const down = hiddenStation(kase, [{ kind: 'transmitter', db: -3, point: 0 }], seed)
        expect(ill.wavesAt(load)).toEqual(sound.wavesAt(load))
        expect(ill.wavesAt(aired)[3]!.rho).toBeGreaterThan(0.9)
        for (const point of [load, aired])
          expect(down.wavesAt(point)[1]!.forwardW / sound.wavesAt(point)[1]!.forwardW).toBeCloseTo(
            10 ** -0.3,
            6,
          )
        // An analyser sees the antenna all the same.
        const hz = Float64Array.of(144e6, 145e6, 146e6)
        const seen = (own: typeof sound) =>
          own.sweep(2, hz, 'antenna', { noise: 0, directivityDb: 300 }, seeded(1))
        const written = hiddenStation({ ...kase, channels: [air] }, [{ kind: 'none' }], seed)
        seen(sound).re.forEach((re, k) => expect(re).toBeCloseTo(seen(written).re[k]!, 9))
      }),
      { numRuns: 10 },
    )
  })
})

describe('a diagnosis', () => {
  const channels = withLoads([air])
  const kase = (readings: Case['readings']): Case => ({
    ...{ chain, channels, instruments: [meter], tolerances: usualTolerances, readings },
  })
  const shack = { point: 0, plane: 0, instrument: 0 }
  const onLoad = { ...shack, point: 1 }
  const share = (readings: Case['readings'], kind: Cause['kind']) =>
    diagnose(kase(readings))
      .explanations.filter(({ cause }) => cause.kind === kind)
      .reduce((sum, { probability }) => sum + probability, 0)

  test('the same fault of the antenna is told better with one reading into a load', () => {
    const changed: Cause = {
      kind: 'antenna',
      change: { kind: 'other', by: { re: 0.5, im: 0.2 } },
      point: null,
    }
    let better = 0
    for (let seed = 1; seed <= 8; seed++) {
      const read = simulateReadings(kase([]), [shack, onLoad], changed, seed)
      better += Number(share(read, 'antenna') > share(read.slice(0, 1), 'antenna'))
    }
    expect(better).toBeGreaterThanOrEqual(7)
  })

  test('readings into a load alone leave the antenna as likely as it was', () => {
    const read = simulateReadings(kase([]), [onLoad], { kind: 'loss', from: 2, to: 2, db: 3 }, 2)
    const { explanations } = diagnose(kase(read))
    const now = (kind: Cause['kind']) =>
      explanations.find(({ cause }) => cause.kind === kind)!.probability
    const before = (kind: Cause['kind']) =>
      candidatesOf(kase(read)).find(({ sizes }) => sizes[0]!.kind === kind)!.prior
    expect(now('antenna') / now('none')).toBeCloseTo(before('antenna') / before('none'), 9)
  })

  test('advice may ask for a load; it costs the way to the antenna, and is none where nobody can go there', () => {
    const readings = simulateReadings(kase([]), [shack], { kind: 'loss', from: 2, to: 2, db: 3 }, 4)
    const weighed = weigh(kase(readings))
    const planes = [0, 1, 2, 3]
    const far = 3
    const cost = (plane: number) => (plane === far ? 2.5 : 1)
    const all = nextReadings(weighed, meter, planes, cost)
    const loads = all.filter(({ farEnd }) => farEnd === 'load')
    expect(loads.length).toBeGreaterThan(0)
    for (const { plane, cost: price, share: part, point } of loads) {
      expect(channels[point]!.farEnd).toBe('load')
      if (part === 1) expect(price).toBe(cost(plane) + 2.5)
    }
    expect(loads.some(({ settles }) => settles > 0.05)).toBe(true)
    const shut = nextReadings(weighed, meter, planes, (plane) => (plane === far ? Infinity : 1))
    expect(shut.length).toBeGreaterThan(0)
    expect(shut.every(({ farEnd }) => farEnd === 'antenna')).toBe(true)
  })
})
