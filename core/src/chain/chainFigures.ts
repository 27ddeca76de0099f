/** All figures of a chain on one frequency at many phases of its load: what does not turn with it is worked out once. */
import { complex } from '../complex.ts'
import { writeReflection } from '../load/load.ts'
import { swrOf } from '../load/reflection.ts'
import { lossDb } from '../units/decibel.ts'
import { type Chain, type OperatingPoint, referenceOf, type TunerSettings } from './chain.ts'
import { driveChain, newDrive } from './drive.ts'
import { newPhasors, newWaves, powerScaleDb, wavesAt } from './phasors.ts'
import { matricesOf, walk } from './walk.ts'

/** What is told of a plane, W, V rms at PEP. */
export const PLANE_FIGURES = ['netW', 'swr', 'forwardW', 'reflectedW', 'voltageRms'] as const
/** What is told of a stage, W and dB. */
export const STAGE_FIGURES = ['lossW', 'lossDb'] as const

/** All figures of a chain: of its planes, then of its stages. */
export type Figures = Float64Array

/** Where the figures of a plane begin. */
export const ofPlane = (plane: number): number => PLANE_FIGURES.length * plane
/** Where those of a stage begin. */
export const ofStage = (chain: Pick<Chain, 'stages'>, k: number): number =>
  ofPlane(chain.stages.length + 1) + STAGE_FIGURES.length * k

/**
 * Works out the figures of a chain at a phase of its load (rad) and settings of its tuners, as `solveChain` would, without
 * what the parts bear. The chain has been checked.
 */
export function chainFigures(
  chain: Chain,
  at: OperatingPoint,
): (phaseRad: number, settings: TunerSettings) => Figures {
  const { stages, load } = chain
  const { frequencyHz } = at
  const reference = referenceOf(chain)
  const last = stages.length
  const matrices = matricesOf(stages, frequencyHz, reference)
  const phasors = newPhasors(last)
  const drive = newDrive(last)
  const waves = newWaves()
  const rho = new Float64Array(2)
  const nets = new Float64Array(last + 1)
  return (phaseRad, settings) => {
    writeReflection(load, frequencyHz, reference, phaseRad, rho)
    const reflection = complex(rho[0]!, rho[1])
    walk(stages, frequencyHz, reference, reflection, phasors, settings, matrices)
    driveChain(chain, phasors, at, drive)
    const out = new Float64Array(ofStage(chain, last))
    for (let k = 0; k <= last; k++) {
      const { forward, reflected, net, rho } = wavesAt(phasors, k, reference, waves)
      const scale = drive.scale[k]!
      nets[k] = net
      const o = ofPlane(k)
      out[o] = net * scale
      out[o + 1] = swrOf(rho)
      out[o + 2] = forward * scale
      out[o + 3] = reflected * scale
      out[o + 4] = Math.sqrt((phasors[4 * k]! ** 2 + phasors[4 * k + 1]! ** 2) * scale)
    }
    for (let k = 0; k < last; k++) {
      const o = ofStage(chain, k)
      const inW = out[ofPlane(k)]!
      const outW = out[ofPlane(k + 1)]!
      out[o] = inW - outW
      out[o + 1] = drive.amplifiers[k]
        ? lossDb(inW, outW)
        : lossDb(nets[k]!, nets[k + 1]!) + (nets[k]! > 0 ? powerScaleDb(phasors, k, k + 1) : 0)
    }
    return out
  }
}
