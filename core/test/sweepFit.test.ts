/** What is fitted to a sweep: against lines solved by hand, against the solver, and by how often the truth is inside. */
import { describe, expect, test } from 'vitest'
import {
  type AnalyserErrors,
  type Chain,
  expectedSweep,
  type FarEnd,
  fitSweep,
  type FittedFigure,
  frequencyGrid,
  InputError,
  type Stage,
  usualAnalyser,
  usualTolerances,
} from '../src/index.ts'
import { fitCurve } from '../src/statistics/curveFit.ts'
import { cascade } from '../src/sweep/cascade.ts'
import { drawSwept } from '../bench/sweptStations.ts'
import { drawn } from './drawn.ts'
import { foam, foamLine, handTuner, stationOf } from './stations.ts'

const C = 299_792_458
const hz = frequencyGrid(2e6, 60e6, 201)
const vee: Chain['load'] = { kind: 'resonator', resonanceHz: 14.1e6, rOhm: 60, q: 9 }
const pad: Stage = { kind: 'pad', lossDb: 0.1, atHz: 30e6 }
const chain = stationOf([foamLine(5), pad, foamLine(31)], vee)
const inside = (truth: number, { low, high }: FittedFigure) => truth >= low && truth <= high

describe('a curve that is fitted', () => {
  /** A straight line through points, of which both figures are expected to be 0 within a deviation. */
  const line = (xs: number[], ys: number[], deviation: number) => ({
    count: xs.length,
    deviations: [deviation, deviation],
    compare(p: Float64Array, residuals: Float64Array, slopes: Float64Array | null) {
      xs.forEach((x, i) => {
        residuals[i] = ys[i]! - (p[0]! + p[1]! * x)
        slopes?.fill(1, i, i + 1).fill(x, xs.length + i, xs.length + i + 1)
      })
    },
  })
  const begin = { parameters: [new Float64Array(2)], error: 1, leastError: 1e-3 }

  test('is the line of least squares where nothing is expected, with its covariance', () => {
    const xs = [-3, -1, 0, 1, 3, 5]
    const ys = [1.1, 2.9, 4.1, 4.9, 7.2, 8.8]
    const fit = fitCurve(line(xs, ys, 1e6), begin)
    // By hand: slope Sxy/Sxx about the means 5/6 and 29/6.
    const [mx, my] = [5 / 6, 29 / 6]
    const sxx = xs.reduce((sum, x) => sum + (x - mx) ** 2, 0)
    const slope = xs.reduce((sum, x, i) => sum + (x - mx) * (ys[i]! - my), 0) / sxx
    expect(fit.parameters[1]).toBeCloseTo(slope, 5)
    expect(fit.parameters[0]).toBeCloseTo(my - slope * mx, 5)
    const left = xs.reduce((sum, x, i) => sum + (ys[i]! - my - slope * (x - mx)) ** 2, 0)
    // Its residuals alternate, so they count for no fewer points than there are.
    expect(fit.covariance[3]).toBeCloseTo(left / (6 - 2) / sxx, 5)
  })

  test('what is expected holds a figure back, less and less the further it is off', () => {
    const xs = [-1, 1]
    const held = fitCurve(line(xs, [0.01, 0.01], 0.01), { ...begin, error: 0.01, leastError: 0.01 })
    // Two points of error 0.01 against an expectation of 0.01: two thirds of the way.
    expect(held.parameters[0]).toBeCloseTo((0.01 * 2) / 3, 3)
    const broken = fitCurve(line(xs, [1, 1], 0.01), { ...begin, error: 0.01, leastError: 0.01 })
    expect(broken.parameters[0]).toBeGreaterThan(0.99)
    // Nothing breaks a firm one: as far off, it is held as much as near.
    const firm = { ...line(xs, [1, 1], 0.01), firm: [true, true] }
    const kept = fitCurve(firm, { ...begin, error: 0.01, leastError: 2 })
    // Two points of error 2 against an expectation of 0.01.
    expect(kept.parameters[0]! / (2 / 2 ** 2 / (2 / 2 ** 2 + 1e4))).toBeCloseTo(1, 2)
  })
})

test('an unlikely begin is followed where it explains more, and is no better for being unlikely', () => {
  // Far from what is expected, at 30, all is explained; near 0, all but a twentieth.
  const curve = (explained: number) => ({
    count: 20,
    deviations: [0.5],
    compare([p]: Float64Array, residuals: Float64Array, slopes: Float64Array | null) {
      const near = Math.exp(-(p! ** 2))
      const far = explained * Math.exp(-((p! - 30) ** 2))
      residuals.fill(1 - 0.95 * near - far)
      slopes?.fill(-2 * p! * 0.95 * near - 2 * (p! - 30) * far)
    },
  })
  const from = (explained: number, unlikely?: Float64Array[]) =>
    fitCurve(curve(explained), {
      ...{ parameters: [Float64Array.of(0.1)], error: 0.02, leastError: 0.005 },
      ...(unlikely && { unlikely }),
    }).parameters[0]!
  expect(from(1)).toBeCloseTo(0, 1)
  expect(from(1, [Float64Array.of(29.8)])).toBeCloseTo(30, 1)
  expect(from(0.95, [Float64Array.of(29.8)])).toBeCloseTo(0, 1)
})

test('of several begins the one that leads furthest down is taken, whichever comes first', () => {
  // p² = 4, and p = 2 a tenth as much: of its two valleys that at 2 is the deeper one.
  const valleys = {
    count: 2,
    deviations: [1e6],
    compare([p]: Float64Array, residuals: Float64Array, slopes: Float64Array | null) {
      residuals.set([4 - p! * p!, 0.1 * (2 - p!)])
      slopes?.set([2 * p!, 0.1])
    },
  }
  const [near, far] = [Float64Array.of(1.5), Float64Array.of(-2.5)]
  const from = (...parameters: Float64Array[]) =>
    fitCurve(valleys, { parameters, error: 1, leastError: 0.01 }).parameters[0]!
  expect(from(far)).toBeCloseTo(-2, 1)
  for (const begins of [
    [near, far],
    [far, near],
  ])
    expect(from(...begins)).toBeCloseTo(2, 6)
})

describe('the chain as a curve', () => {
  const curve = (end: FarEnd, sweep = expectedSweep(chain, 0, hz, end)) =>
    cascade(chain, 0, sweep, end, usualTolerances, usualAnalyser)!

  test('no antenna gives back more than it gets, whatever is added, and each bit added is seen', () => {
    const far: Chain['load'] = { kind: 'resonator', resonanceHz: 1e6, rOhm: 5, q: 80 }
    const bare = stationOf([], far)
    const seen = expectedSweep(bare, 0, hz, 'antenna')
    const own = cascade(bare, 0, seen, 'antenna', usualTolerances, usualAnalyser)!
    const residuals = new Float64Array(own.count)
    const shownAt = (offRe: number): number[] => {
      const figures = new Float64Array(own.figures.length)
      figures[own.figures.findIndex(({ kind }) => kind === 'offRe')] = offRe
      own.compare(figures, residuals, null)
      const m = hz.length
      return Array.from(hz, (_, k) =>
        Math.hypot(seen.re[k]! - residuals[k]!, seen.im[k]! - residuals[m + k]!),
      )
    }
    for (const offRe of [-1, 0.02, 0.1, 1])
      expect([offRe, Math.max(...shownAt(offRe)) <= 1]).toEqual([offRe, true])
    const [less, more] = [shownAt(0.0005), shownAt(0.001)]
    expect(less.some((size, k) => size !== more[k])).toBe(true)
  })

  test.each<FarEnd>(['antenna', 'open', 'short', 'load'])(
    'as it is written down it is what the solver shows, %s',
    (end) => {
      const own = curve(end)
      const residuals = new Float64Array(own.count)
      own.compare(new Float64Array(own.figures.length), residuals, null)
      expect(Math.max(...residuals.map(Math.abs))).toBeLessThan(1e-9)
    },
  )

  test('whatever was looked at before, the same figures give the same curve and the same slopes', () => {
    const used = curve('antenna')
    const n = used.figures.length
    const slopesOf = (own: typeof used, at: Float64Array) => {
      const residuals = new Float64Array(own.count)
      const slopes = new Float64Array(own.count * n)
      own.compare(at, residuals, slopes)
      return [residuals, slopes]
    }
    const from = new Float64Array(n)
    // One figure after the other is changed, and an earlier one back.
    for (let p = 0; p < n; p++) {
      from[p] = used.deviations[p]! * (0.2 + 0.1 * (p % 5))
      if (p >= 4) from[p - 4] = 0
      expect([p, slopesOf(used, from)]).toEqual([p, slopesOf(curve('antenna'), from)])
    }
    const asWritten = new Float64Array(n)
    expect(slopesOf(used, asWritten)).toEqual(slopesOf(curve('antenna'), asWritten))
  })

  test('what it gains by each figure is what a step of that figure makes', () => {
    const own = curve('antenna')
    // Away from what is written down, so that no figure is at a corner.
    const at = Float64Array.from(
      own.figures,
      ({ deviation }, p) => deviation * (0.3 + 0.1 * (p % 4)),
    )
    const n = own.count
    const slopes = new Float64Array(n * own.figures.length)
    const [here, there] = [new Float64Array(n), new Float64Array(n)]
    own.compare(at, here, slopes)
    own.figures.forEach(({ deviation }, p) => {
      const beside = Float64Array.from(at)
      const step = 1e-3 * deviation
      beside[p]! += step
      own.compare(beside, there, null)
      const scale = 1 / deviation
      for (let i = 0; i < n; i += 17)
        expect(Math.abs((here[i]! - there[i]!) / step - slopes[p * n + i]!)).toBeLessThan(
          0.02 * scale * 0.1,
        )
    })
  })
})

describe('what a sweep says', () => {
  test('an open line without loss is as long as its first dip says', () => {
    const lossless = { z0Ohm: 50, velocityFactor: 0.8, k1DbPer100m: 0, k2DbPer100m: 0 }
    const of = (lengthM: number) => stationOf([{ kind: 'line', lengthM, cable: lossless }], vee)
    // By hand: ρ of an open line is e^(−2jβℓ).
    const lengthM = 24.4
    const phase = (each: number) => (-4 * Math.PI * each * lengthM) / (0.8 * C)
    const sweep = {
      frequencyHz: hz,
      re: hz.map((each) => Math.cos(phase(each))),
      im: hz.map((each) => Math.sin(phase(each))),
    }
    const fit = fitSweep(of(25), 0, sweep, 'open', usualTolerances)!
    expect(fit.lines[0]!.lengthM.value).toBeCloseTo(lengthM, 2)
    // Also where what is written down is off by a third of a turn of the lowest frequency and ten of the highest.
    const far = fitSweep(of(30), 0, sweep, 'open', usualTolerances)!
    expect(far.lines[0]!.lengthM.value).toBeCloseTo(lengthM, 1)
  })

  test('of a chain with one thing amiss it says which, and no more', () => {
    const bad: Stage = { kind: 'series', rOhm: 4, xOhm: 0 }
    const [first, second, third] = chain.stages as [Stage, Stage, Stage]
    const really = { ...chain, stages: [first, bad, second, third] }
    const fit = fitSweep(
      chain,
      0,
      expectedSweep(really, 0, hz, 'antenna'),
      'antenna',
      usualTolerances,
    )!
    const [atAnalyser, found, atAntenna] = fit.joints
    expect(found!.stage).toBe(1)
    expect(found!.rOhm.value).toBeCloseTo(4, 1)
    expect(found!.rho).toBeCloseTo(0.04, 2)
    for (const sound of [atAnalyser!, atAntenna!]) {
      expect(inside(0, sound.rOhm)).toBe(true)
      expect(inside(0, sound.extraDb)).toBe(true)
    }
    expect(fit.fits).toBe(true)
    for (const { lengthM, lossDb } of fit.lines) {
      expect(inside(lengthM.written, lengthM)).toBe(true)
      expect(inside(lossDb.written, lossDb)).toBe(true)
    }
    // Four ohms in the way take 20·lg(1 + 4/100) = 0.34 dB.
    expect(fit.lossDb.value - fit.lossDb.written).toBeCloseTo(0.34, 1)
  })

  test('an antenna that moved is found where it is, with its Q', () => {
    const really = { ...chain, load: { ...vee, resonanceHz: 13.7e6, q: 11 } }
    const fit = fitSweep(
      chain,
      0,
      expectedSweep(really, 0, hz, 'antenna'),
      'antenna',
      usualTolerances,
    )!
    const { resonanceHz, q } = fit.antenna!.resonator!
    expect(resonanceHz.value / 13.7e6).toBeCloseTo(1, 3)
    expect(q.value).toBeCloseTo(11, 0)
  })

  test('what cannot be told apart is said', () => {
    // Two lengths of one cable without anything between them that reflects.
    const two = stationOf([foamLine(14), foamLine(17)], vee)
    const fit = fitSweep(two, 0, expectedSweep(two, 0, hz, 'open'), 'open', usualTolerances)!
    expect(fit.together).toContainEqual({ what: 'length', stages: [0, 1] })
    const width = ({ low, high }: FittedFigure) => high - low
    expect(width(fit.lengthM)).toBeLessThan(0.2 * width(fit.lines[0]!.lengthM))
  })

  test('a reactance at a shorted end is the same as more length, and is not told', () => {
    const one = stationOf([foamLine(30)], vee)
    const fit = fitSweep(one, 0, expectedSweep(one, 0, hz, 'short'), 'short', usualTolerances)!
    const { xOhm } = fit.joints.at(-1)!
    expect(xOhm.told).toBe(false)
    // Five to 95 % of half an ohm.
    expect(xOhm.high - xOhm.low).toBeGreaterThan(1.2)
  })

  test('a longer cable loses more, and so does the way', () => {
    const really = stationOf([foamLine(5), pad, foamLine(33)], vee)
    const fit = fitSweep(chain, 0, expectedSweep(really, 0, hz, 'open'), 'open', usualTolerances)!
    const [, long] = fit.lines
    expect(long!.lengthM.value).toBeCloseTo(33, 1)
    expect(long!.lossDb.value / long!.lossDb.written).toBeCloseTo(33 / 31, 2)
    expect(long!.lossPerMetre.value).toBeCloseTo(1, 2)
    expect(fit.lossDb.value - fit.lossDb.written).toBeCloseTo((long!.lossDb.written * 2) / 31, 2)
  })

  test('something that is no part of it is said not to fit', () => {
    // Ten metres of 75 Ω cable in a run of 50 Ω.
    const other = { ...foam, z0Ohm: 75 }
    const really = stationOf(
      [foamLine(10), { kind: 'line', lengthM: 8, cable: other }, foamLine(18)],
      vee,
    )
    const written = stationOf([foamLine(36)], vee)
    const fit = fitSweep(written, 0, expectedSweep(really, 0, hz, 'open'), 'open', usualTolerances)!
    expect(fit.fits).toBe(false)
  })

  test('knows less by an analyser that may be off by more', () => {
    const sweep = expectedSweep(chain, 0, hz, 'open')
    const widths = (analyser: AnalyserErrors) => {
      const { lossDb } = fitSweep(chain, 0, sweep, 'open', usualTolerances, { analyser })!
      return lossDb.high - lossDb.low
    }
    const usual = widths(usualAnalyser)
    expect(widths({ ...usualAnalyser, directivityDb: 26 })).toBeGreaterThan(1.3 * usual)
  })

  test('takes for the analyser’s what its source match explains', () => {
    const { re, im, ...rest } = expectedSweep(chain, 0, hz, 'open')
    // By hand: ρ + S·ρ², S = 0.1.
    const seen = {
      ...rest,
      re: re.map((own, k) => own + 0.1 * (own * own - im[k]! * im[k]!)),
      im: im.map((own, k) => own + 0.2 * re[k]! * own),
    }
    const of = (analyser: AnalyserErrors) =>
      fitSweep(chain, 0, seen, 'open', usualTolerances, { analyser })!.joints[0]!.rOhm
    const worst = (analyser: AnalyserErrors) => Math.abs(of(analyser).value)
    const poor = { ...usualAnalyser, sourceMatchDb: 20 }
    expect(inside(0, of(poor))).toBe(true)
    expect(worst(poor)).toBeLessThan(worst(usualAnalyser))
  })

  test('of a long line swept at 20 001 points it is done in bounded work', () => {
    const long = stationOf([foamLine(900), pad, foamLine(60)], vee)
    const many = frequencyGrid(1e6, 200e6, 20_001)
    const fit = fitSweep(long, 0, expectedSweep(long, 0, many, 'open'), 'open', usualTolerances)!
    expect(fit.fits).toBe(true)
    expect(fit.lengthM.value).toBeCloseTo(960, 0)
  })

  test('nothing is said where the antenna’s phase is not known, or something hides it', () => {
    const sweep = expectedSweep(chain, 0, hz, 'antenna')
    const unknown: Chain = { ...chain, load: { kind: 'swr', swr: 2 } }
    expect(fitSweep(unknown, 0, sweep, 'antenna', usualTolerances)).toBeNull()
    expect(
      fitSweep(unknown, 0, expectedSweep(unknown, 0, hz, 'open'), 'open', usualTolerances),
    ).not.toBeNull()
    const hidden = stationOf([foamLine(3), handTuner, foamLine(9)], vee)
    expect(() => fitSweep(hidden, 0, sweep, 'antenna', usualTolerances)).toThrow(InputError)
  })
})

describe('on drawn stations, seen by an analyser of other errors than those it is fitted with', () => {
  test('the truth is inside nine times in ten', () => {
    let all = 0
    let right = 0
    for (let seed = 1; seed <= drawn(8, 600); seed++) {
      const { chain: own, farEnd, sweep, truth } = drawSwept(seed, { analyser: 0.01 })
      const fit = fitSweep(own, 0, sweep, farEnd, usualTolerances)!
      expect([seed, fit.fits]).toEqual([seed, true])
      const note = (value: number, figure: FittedFigure) => {
        all++
        right += Number(inside(value, figure))
      }
      for (const { stage, lengthM, lossDb } of fit.lines) {
        note(truth.lines.get(stage)!.lengthM, lengthM)
        note(truth.lines.get(stage)!.lossDb, lossDb)
      }
      for (const { stage, rOhm, xOhm } of fit.joints) {
        note(truth.joints.get(stage)!.rOhm, rOhm)
        note(truth.joints.get(stage)!.xOhm, xOhm)
      }
    }
    expect(all).toBeGreaterThan(60)
    // Over thousands of them 90 %: core/bench/sweeps.ts.
    expect(right / all).toBeGreaterThan(0.84)
    expect(right / all).toBeLessThan(0.97)
  })

  test('a bad joint is found, and no other', () => {
    let tried = 0
    let found = 0
    for (let seed = 1000; tried < drawn(4, 150); seed++) {
      const {
        chain: own,
        farEnd,
        sweep,
        truth,
      } = drawSwept(seed, { analyser: 0.01, badJointOhm: 6 })
      const [bad] = [...truth.joints].find(([, { rOhm }]) => rOhm === 6) ?? []
      if (bad === undefined) continue
      tried++
      const { joints } = fitSweep(own, 0, sweep, farEnd, usualTolerances)!
      const worst = joints.reduce((a, b) => (b.rOhm.value > a.rOhm.value ? b : a))
      found += Number(worst.stage === bad && Math.abs(worst.rOhm.value - 6) < 1)
    }
    expect(found / tried).toBeGreaterThan(0.9)
  })
})
