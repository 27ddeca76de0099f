/**
 * How fast the core is: single solves, a 1 000-point sweep of a 12-stage chain, and the same
 * cascade written with mathjs complex matrices, in the same run.
 */
import {
  complex,
  type Complex,
  cosh,
  divide,
  type Matrix,
  matrix,
  multiply,
  sinh,
  sqrt,
  add,
} from 'mathjs'
import { Bench } from 'tinybench'
import { type Chain, frequencyGrid, solveChain, type Stage, sweepBand } from '../src/index.ts'
import { conductorDbPer100m, dielectricDbPer100m } from '../src/line/cable.ts'
import { NEPER_PER_M, REFERENCE_OHM, SPEED_OF_LIGHT } from '../src/constants.ts'

const cable = { z0Ohm: 50, velocityFactor: 0.83, k1DbPer100m: 0.72, k2DbPer100m: 0.0025 }
const line = (lengthM: number): Stage => ({ kind: 'line', lengthM, cable })
const pad = (lossDb: number): Stage => ({ kind: 'pad', lossDb })
const stages: Stage[] = [
  line(1.2),
  pad(0.06),
  line(4),
  pad(0.07),
  line(46),
  pad(0.15),
  line(2),
  { kind: 'series', rOhm: 1, xOhm: 40 },
  line(8),
  { kind: 'shunt', rOhm: 900, xOhm: -300 },
  pad(0.1),
  line(12),
]
const chain: Chain = {
  transmitter: {
    behaviour: 'levelled',
    foldback: [
      [1.5, 1],
      [3, 0.5],
      [10, 0.1],
    ],
  },
  stages,
  load: { kind: 'fixed', rOhm: 67, xOhm: -41 },
}
const grid = frequencyGrid(2e6, 18e6, 1000)

/** The ABCD matrix of a stage the readable way, in mathjs. */
function mathjsMatrix(stage: Stage, hz: number): Matrix {
  const c = (re: number, im = 0) => complex(re, im)
  switch (stage.kind) {
    case 'line': {
      const { z0Ohm, velocityFactor } = stage.cable
      const omega = 2 * Math.PI * hz
      const r = 2 * z0Ohm * conductorDbPer100m(stage.cable, hz) * NEPER_PER_M
      const g = (2 * dielectricDbPer100m(stage.cable, hz) * NEPER_PER_M) / z0Ohm
      const z = c(r, (omega * z0Ohm) / (velocityFactor * SPEED_OF_LIGHT) + r)
      const y = c(g, omega / (z0Ohm * velocityFactor * SPEED_OF_LIGHT))
      const gl = multiply(sqrt(multiply(z, y) as Complex) as Complex, stage.lengthM) as Complex
      const zc = sqrt(divide(z, y) as Complex) as Complex
      const sh = sinh(gl) as Complex
      const ch = cosh(gl) as Complex
      return matrix([
        [ch, multiply(zc, sh) as Complex],
        [divide(sh, zc) as Complex, ch],
      ] as never)
    }
    case 'pad': {
      const a = (stage.lossDb * Math.LN10) / 20
      return matrix([
        [c(Math.cosh(a)), c(REFERENCE_OHM * Math.sinh(a))],
        [c(Math.sinh(a) / REFERENCE_OHM), c(Math.cosh(a))],
      ] as never)
    }
    case 'series':
      return matrix([
        [c(1), c(stage.rOhm, stage.xOhm)],
        [c(0), c(1)],
      ] as never)
    case 'shunt':
      return matrix([
        [c(1), c(0)],
        [divide(1, c(stage.rOhm, stage.xOhm)) as Complex, c(1)],
      ] as never)
    default:
      throw new Error(`The benchmark’s chain has no ${stage.kind}.`)
  }
}

/** Fraction of the net input that reaches the load. */
function mathjsEfficiency(hz: number): number {
  const total = stages.map((stage) => mathjsMatrix(stage, hz)).reduce((a, b) => multiply(a, b))
  const zl = complex(67, -41)
  const at = (i: number, j: number) => total.get([i, j]) as Complex
  const v = add(multiply(at(0, 0), zl), at(0, 1)) as Complex
  const i = add(multiply(at(1, 0), zl), at(1, 1)) as Complex
  return 67 / (v.re * i.re + v.im * i.im)
}

// The two must agree before they may be compared.
const ours = sweepBand(chain, grid, 100)
for (const k of [0, 500, 999]) {
  const efficiency = ours.antennaW[k]! / ours.transmitterNetW[k]!
  const theirs = mathjsEfficiency(grid[k]!)
  if (Math.abs(efficiency / theirs - 1) > 1e-9)
    throw new Error(`disagree at ${grid[k]}: ${efficiency} ${theirs}`)
}

const bench = new Bench({ time: 1500 })
bench
  .add('single', () => void solveChain(chain, { frequencyHz: 8.294e6, powerW: 125 }))
  .add('sweep', () => void sweepBand(chain, grid, 125))
  .add('mathjs', () => {
    for (const hz of grid) mathjsEfficiency(hz)
  })
await bench.run()

const milliseconds = (name: string): number => {
  const { result } = bench.getTask(name)!
  if (!result || !('latency' in result)) throw new Error(`${name} did not run`)
  return result.latency.p50
}
const single = milliseconds('single')
const sweep = milliseconds('sweep')
const mathjs = milliseconds('mathjs')
console.log(
  `12-stage chain, one solution with all extremes:  ${(1000 / single).toFixed(0)} a second`,
)
console.log(`12-stage chain, sweep of 1 000 frequencies:      ${sweep.toFixed(2)} ms`)
console.log(`the same cascade in mathjs complex matrices:     ${mathjs.toFixed(0)} ms`)
console.log(
  `ratio:                                           ${(mathjs / sweep).toFixed(0)} times (aim: 100 and more)`,
)
