import { complex } from '../complex.ts'
import { phaseUnknown, writeReflection } from '../load/load.ts'
import { swrOf } from '../load/reflection.ts'
import { newPhasors, newWaves, wavesAt, wavesOf } from './phasors.ts'
import { matricesOf, walk } from './walk.ts'
import { settingsByPhase } from './tunerSettings.ts'
import { driveChain, newDrive, sourceScale } from './drive.ts'
import { foldbackAt } from '../source/transmitter.ts'
import { type BandPhasors, isPassive, newBandPhasors, walkBand } from './walkBand.ts'
import { checkChain } from './checkChain.ts'
import { type Chain, type OperatingPoint, referenceOf, type TunerSettings } from './chain.ts'
import { extremesOf } from './allRound.ts'
import { roundOf, turnChain } from './turnChain.ts'

/**
 * One chain over n frequencies; every array has n entries. NaN where the load was not measured.
 * Where only the antenna's SWR is known the figures are the middle of their range over all phases (see `turnChain`),
 * and `antennaWLow`/`antennaWHigh` bound the watts; elsewhere these equal `antennaW`.
 */
export interface BandSweep {
  frequencyHz: Float64Array
  antennaW: Float64Array
  antennaWLow: Float64Array
  antennaWHigh: Float64Array
  transmitterNetW: Float64Array
  swrAtTransmitter: Float64Array
  swrAtAntenna: Float64Array
}

/**
 * `count` frequencies from `lowHz` to `highHz`, evenly spaced.
 *
 * @example frequencyGrid(1e6, 2e6, 3) // [1000000, 1500000, 2000000]
 */
export const frequencyGrid = (lowHz: number, highHz: number, count: number): Float64Array =>
  Float64Array.from({ length: count }, (_, i) => lowHz + ((highHz - lowHz) * i) / (count - 1))

/**
 * Watts and SWR of a chain over frequency at one power setting. O(n · stages); without tuners nothing is
 * allocated per frequency.
 *
 * @param tunedHz where tuners with knobs were set; without it they are set anew at every frequency
 * @example sweepBand(chain, frequencyGrid(9e6, 11e6, 3), 100).antennaW // [58.68, 57.53, 56.64]
 */
export function sweepBand(
  chain: Chain,
  frequencyHz: Float64Array,
  powerW: number,
  tunedHz?: number,
): BandSweep {
  const at: OperatingPoint = { frequencyHz: frequencyHz[0] ?? NaN, powerW, tunedHz }
  checkChain(chain, at)
  const n = frequencyHz.length
  const antennaW = new Float64Array(n)
  const turning = phaseUnknown(chain.load)
  const out: BandSweep = {
    frequencyHz,
    antennaW,
    antennaWLow: turning ? new Float64Array(n) : antennaW,
    antennaWHigh: turning ? new Float64Array(n) : antennaW,
    transmitterNetW: new Float64Array(n),
    swrAtTransmitter: new Float64Array(n),
    swrAtAntenna: new Float64Array(n),
  }
  const sweep = isPassive(chain.stages)
    ? passiveBand(chain, at, frequencyHz)
    : anyBand(chain, at, frequencyHz)
  const point = newPoint()
  // Knobs stay where they are; a tuner that sets itself starts from nothing at every frequency.
  const knobs = settingsByPhase(chain, { tunedHz })
  for (let i = 0; i < n; i++) {
    sweep(i, 0, knobs(0), point)
    put(out, i, point)
    // What was not measured is nothing at any phase.
    if (turning && !Number.isNaN(point.antennaW) && phaseUnknown(chain.load, frequencyHz[i]))
      putRound(out, i, { chain, at: { ...at, frequencyHz: frequencyHz[i]! }, sweep, knobs })
  }
  return out
}

/** What a chain comes to on one frequency, at one phase of its load. */
interface Point {
  antennaW: number
  transmitterNetW: number
  swrAtTransmitter: number
  swrAtAntenna: number
}

const newPoint = (): Point => ({
  antennaW: 0,
  transmitterNetW: 0,
  swrAtTransmitter: 0,
  swrAtAntenna: 0,
})

/** Writes the point at frequency `i` and a phase (rad) of the load; tuners that have no setting set themselves. */
type PointSolver = (i: number, phase: number, settings: TunerSettings, out: Point) => void

function put(out: BandSweep, i: number, point: Point): void {
  out.antennaW[i] = point.antennaW
  out.antennaWLow[i] = point.antennaW
  out.antennaWHigh[i] = point.antennaW
  out.transmitterNetW[i] = point.transmitterNetW
  out.swrAtTransmitter[i] = point.swrAtTransmitter
  out.swrAtAntenna[i] = point.swrAtAntenna
}

/** One frequency of a band whose load is turned. */
interface TurnedPoint {
  chain: Chain
  at: OperatingPoint
  sweep: PointSolver
  knobs: (phase: number) => TunerSettings
}

function putRound(out: BandSweep, i: number, { chain, at, sweep, knobs }: TurnedPoint): void {
  const solve = (phase: number, settings: TunerSettings) => {
    const point = newPoint()
    sweep(i, phase, settings, point)
    return point
  }
  const all = turnChain(roundOf(chain, at, knobs), {
    solve,
    figuresOf: ({ antennaW }) => [antennaW],
  })
  const { low, high } = extremesOf(all, ({ antennaW }) => antennaW)
  const middle = (pick: (point: Point) => number) => {
    const range = extremesOf(all, pick)
    return (range.low + range.high) / 2
  }
  out.antennaW[i] = (low + high) / 2
  out.antennaWLow[i] = low
  out.antennaWHigh[i] = high
  out.transmitterNetW[i] = middle((point) => point.transmitterNetW)
  out.swrAtTransmitter[i] = middle((point) => point.swrAtTransmitter)
  out.swrAtAntenna[i] = middle((point) => point.swrAtAntenna)
}

/** Of any chain: walked frequency by frequency. */
function anyBand(chain: Chain, at: OperatingPoint, hz: Float64Array): PointSolver {
  const reference = referenceOf(chain)
  const last = chain.stages.length
  const phasors = newPhasors(last)
  const waves = newWaves()
  const drive = newDrive(last)
  const rho = new Float64Array(2)
  const reflection = complex(0)
  let matrices: Float64Array = new Float64Array(0)
  let walked = -1
  return (i, phase, settings, out) => {
    if (i !== walked) matrices = matricesOf(chain.stages, hz[i]!, reference)
    walked = i
    writeReflection(chain.load, hz[i]!, reference, phase, rho)
    reflection.re = rho[0]!
    reflection.im = rho[1]!
    walk(chain.stages, hz[i]!, reference, reflection, phasors, settings, matrices)
    driveChain(chain, phasors, at, drive)
    wavesAt(phasors, 0, reference, waves)
    out.swrAtTransmitter = swrOf(waves.rho)
    out.transmitterNetW = waves.net * drive.scale[0]!
    wavesAt(phasors, last, reference, waves)
    out.swrAtAntenna = swrOf(waves.rho)
    out.antennaW = waves.net * drive.scale[last]!
  }
}

/**
 * Of a chain in which nothing sets itself and nothing amplifies: all frequencies are walked at once. It is linear, so where
 * the phase is unknown the incident and the reflected wave are walked apart, and one is turned and sized against the other.
 */
function passiveBand(chain: Chain, { powerW }: OperatingPoint, hz: Float64Array): PointSolver {
  const n = hz.length
  const { load, stages, transmitter } = chain
  const reference = referenceOf(chain)
  const turning = phaseUnknown(load)
  const whole = newBandPhasors(n)
  const turned = turning ? newBandPhasors(n) : null
  const waves = newWaves()
  const rho = new Float64Array(2)
  for (let i = 0; i < n; i++) {
    writeReflection(load, hz[i]!, reference, 0, rho)
    putWaves(whole, i, 1, turned ? 0 : rho[0]!, turned ? 0 : rho[1]!, reference)
    if (turned) putWaves(turned, i, 0, 1, 0, reference)
  }
  walkBand(stages, hz, reference, whole)
  if (turned) walkBand(stages, hz, reference, turned)
  return (i, phase, _, out) => {
    let vRe = whole.vRe[i]!
    let vIm = whole.vIm[i]!
    let iRe = whole.iRe[i]!
    let iIm = whole.iIm[i]!
    const log = whole.log[i]!
    writeReflection(load, hz[i]!, reference, phase, rho)
    if (turned) {
      const size = Math.exp(turned.log[i]! - log)
      const re = size * rho[0]!
      const im = size * rho[1]!
      vRe += re * turned.vRe[i]! - im * turned.vIm[i]!
      vIm += re * turned.vIm[i]! + im * turned.vRe[i]!
      iRe += re * turned.iRe[i]! - im * turned.iIm[i]!
      iIm += re * turned.iIm[i]! + im * turned.iRe[i]!
    }
    wavesOf(vRe, vIm, iRe, iIm, reference, waves)
    out.swrAtTransmitter = swrOf(waves.rho)
    const foldback = foldbackAt(transmitter.foldback, out.swrAtTransmitter)
    const scale = sourceScale(transmitter, powerW, foldback, waves)
    out.transmitterNetW = waves.net * scale
    const [re, im] = [rho[0]!, rho[1]!]
    wavesOf(1 + re, im, (1 - re) / reference, -im / reference, reference, waves)
    out.swrAtAntenna = swrOf(waves.rho)
    out.antennaW = waves.net * scale * (log === 0 ? 1 : Math.exp(-2 * log))
  }
}

/** Voltage and current at the load of an incident and a reflected wave. */
function putWaves(
  out: BandPhasors,
  i: number,
  incident: number,
  re: number,
  im: number,
  referenceOhm: number,
): void {
  out.vRe[i] = incident + re
  out.vIm[i] = im
  out.iRe[i] = (incident - re) / referenceOhm
  out.iIm[i] = -im / referenceOhm
}
