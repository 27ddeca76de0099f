import { complex } from '../complex.ts'
import { isConstant, phaseUnknown, writeReflection } from '../load/load.ts'
import { swrOf } from '../load/reflection.ts'
import { newPhasors, newWaves, wavesAt, wavesOf } from './phasors.ts'
import { walk } from './walk.ts'
import { settingsFor } from './tunerSettings.ts'
import { driveChain, newDrive, sourceScale } from './drive.ts'
import { foldbackAt } from '../source/transmitter.ts'
import { type BandPhasors, isPassive, walkBand } from './walkBand.ts'
import { checkChain } from './checkChain.ts'
import { type Chain, type OperatingPoint, referenceOf } from './chain.ts'
import { hasRelays, phases, vertexValue } from './allRound.ts'

/**
 * One chain over n frequencies; every array has n entries. NaN where the load was not measured.
 * Where only the antenna's SWR is known the figures are the middle of their range over all phases,
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
  const result: BandSweep = {
    frequencyHz,
    antennaW: new Float64Array(n),
    antennaWLow: new Float64Array(n).fill(Infinity),
    antennaWHigh: new Float64Array(n).fill(-Infinity),
    transmitterNetW: new Float64Array(n),
    swrAtTransmitter: new Float64Array(n),
    swrAtAntenna: new Float64Array(n),
  }
  const smooth = !hasRelays(chain)
  const turns = phaseUnknown(chain.load) ? phases(smooth ? SWEEP_PHASES : RELAY_PHASES) : [0]
  const pass = isPassive(chain.stages) ? sweepPassive : sweepOnce
  const watts = turns.map((phase) => pass(chain, at, phase, 1 / turns.length, result))
  if (turns.length > 1 && smooth) sharpen(watts, result)
  for (let i = 0; i < n; i++)
    result.antennaW[i] = (result.antennaWLow[i]! + result.antennaWHigh[i]!) / 2
  return result
}

/** Extremes of one figure over smooth phases are sharpened; those of relays are as they are found. */
const SWEEP_PHASES = 72
const RELAY_PHASES = 120

/** Takes the extremes of watts over the phases to the vertex of the parabola through their neighbours. */
function sharpen(watts: readonly Float64Array[], { antennaWLow, antennaWHigh }: BandSweep): void {
  const n = watts.length
  for (let i = 0; i < antennaWLow.length; i++) {
    const at = (k: number) => watts[(k + n) % n]![i]!
    let low = 0
    let high = 0
    for (let k = 1; k < n; k++) {
      if (at(k) < at(low)) low = k
      if (at(k) > at(high)) high = k
    }
    antennaWLow[i] = Math.max(0, vertexValue(at(low - 1), at(low), at(low + 1)))
    antennaWHigh[i] = vertexValue(at(high - 1), at(high), at(high + 1))
  }
}

/** One pass at one load phase; averages are accumulated with `weight`. @returns watts at the antenna */
function sweepOnce(
  chain: Chain,
  at: OperatingPoint,
  phase: number,
  weight: number,
  out: BandSweep,
): Float64Array {
  const watts = new Float64Array(out.frequencyHz.length)
  const reference = referenceOf(chain)
  const last = chain.stages.length
  const phasors = newPhasors(last)
  const waves = newWaves()
  const drive = newDrive(last)
  const knobs = at.tunedHz === undefined ? [] : settingsFor(chain, at.tunedHz, phase)
  const rho = new Float64Array(2)
  const { load } = chain
  const steady = isConstant(load)
  const reflection = complex(0)
  for (let i = 0; i < out.frequencyHz.length; i++) {
    const hz = out.frequencyHz[i]!
    if (i === 0 || !steady) {
      writeReflection(load, hz, reference, phase, rho)
      reflection.re = rho[0]!
      reflection.im = rho[1]!
    }
    // Knobs stay where they are; a tuner that sets itself starts from nothing at every frequency.
    walk(chain.stages, hz, reference, reflection, phasors, knobs.length > 0 ? [...knobs] : [])
    driveChain(chain, phasors, at, drive)
    wavesAt(phasors, 0, reference, waves)
    out.swrAtTransmitter[i]! += swrOf(waves.rho) * weight
    out.transmitterNetW[i]! += waves.net * drive.scale[0]! * weight
    wavesAt(phasors, last, reference, waves)
    const antennaW = waves.net * drive.scale[last]!
    watts[i] = antennaW
    if (!(antennaW >= out.antennaWLow[i]!)) out.antennaWLow[i] = antennaW
    if (!(antennaW <= out.antennaWHigh[i]!)) out.antennaWHigh[i] = antennaW
    out.swrAtAntenna[i]! += swrOf(waves.rho) * weight
  }
  return watts
}

/** The same of a chain in which nothing sets itself and nothing amplifies: all frequencies at once. */
function sweepPassive(
  chain: Chain,
  { powerW }: OperatingPoint,
  phase: number,
  weight: number,
  out: BandSweep,
): Float64Array {
  const { frequencyHz } = out
  const n = frequencyHz.length
  const { load, stages, transmitter } = chain
  const reference = referenceOf(chain)
  const at: BandPhasors = {
    vRe: new Float64Array(n),
    vIm: new Float64Array(n),
    iRe: new Float64Array(n),
    iIm: new Float64Array(n),
    log: new Float64Array(n),
  }
  const ends = { net: new Float64Array(n), rho: new Float64Array(n) }
  const waves = newWaves()
  const rho = new Float64Array(2)
  const steady = isConstant(load)
  for (let i = 0; i < n; i++) {
    if (i === 0 || !steady) writeReflection(load, frequencyHz[i]!, reference, phase, rho)
    at.vRe[i] = 1 + rho[0]!
    at.vIm[i] = rho[1]!
    at.iRe[i] = (1 - rho[0]!) / reference
    at.iIm[i] = -rho[1]! / reference
    wavesOf(at.vRe[i]!, at.vIm[i]!, at.iRe[i]!, at.iIm[i]!, reference, waves)
    ends.net[i] = waves.net
    ends.rho[i] = waves.rho
  }
  walkBand(stages, frequencyHz, reference, at)
  const watts = new Float64Array(n)
  for (let i = 0; i < n; i++) {
    wavesOf(at.vRe[i]!, at.vIm[i]!, at.iRe[i]!, at.iIm[i]!, reference, waves)
    const foldback = foldbackAt(transmitter.foldback, swrOf(waves.rho))
    const scale = sourceScale(transmitter, powerW, foldback, waves)
    out.swrAtTransmitter[i]! += swrOf(waves.rho) * weight
    out.transmitterNetW[i]! += waves.net * scale * weight
    const log = at.log[i]!
    const antennaW = ends.net[i]! * scale * (log === 0 ? 1 : Math.exp(-2 * log))
    watts[i] = antennaW
    if (!(antennaW >= out.antennaWLow[i]!)) out.antennaWLow[i] = antennaW
    if (!(antennaW <= out.antennaWHigh[i]!)) out.antennaWHigh[i] = antennaW
    out.swrAtAntenna[i]! += swrOf(ends.rho[i]!) * weight
  }
  return watts
}
