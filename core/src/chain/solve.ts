import { type Complex, complex, divide, magnitude } from '../complex.ts'
import { InputError } from '../errors.ts'
import { isExtrapolated } from '../line/cable.ts'
import { lineConstants, matchedLossDb } from '../line/constants.ts'
import {
  type Extreme,
  type LineEnd,
  type LineProfiles,
  lineProfiles,
  maximumOf,
  ONE_WAY_NEPER,
  oneWayProfiles,
  profileAt,
} from '../line/standingWave.ts'
import { reflectionAt } from '../load/load.ts'
import { swrOf } from '../load/reflection.ts'
import { cableToday, type LineStage } from '../stages/line.ts'
import { type ElementState, throughElements } from '../tuner/element.ts'
import type { TunerSetting, TunerStage } from '../tuner/kinds.ts'
import { lossDb } from '../units/decibel.ts'
import { driveCure } from './driveCure.ts'
import { newPhasors, newWaves, type Phasors, powerScaleDb, wavesAt } from './phasors.ts'
import { walk } from './walk.ts'
import { settingsByPhase } from './tunerSettings.ts'
import { driveChain, newDrive } from './drive.ts'
import { checkChain, checkCovered } from './checkChain.ts'
import { type Chain, type OperatingPoint, referenceOf } from './chain.ts'
import type { LineState, PlaneState, Solution, StageState, TunerState } from './solution.ts'

/**
 * Solves a chain exactly at one frequency.
 *
 * @param phaseRad phase of the load's reflection where only its SWR is known
 * @throws InputError with a path; OutOfRangeError where the load's sweep ends
 * @example solveChain(chain, at).planes.map(({ netW }) => netW) // [95.02, 57.53]
 */
export function solveChain(chain: Chain, at: OperatingPoint, phaseRad = 0): Solution {
  checkChain(chain, at)
  checkCovered(chain, at.frequencyHz)
  const reference = referenceOf(chain)
  const phasors = newPhasors(chain.stages.length)
  const settings = settingsByPhase(chain, at)(phaseRad)
  const { frequencyHz } = at
  walk(chain.stages, frequencyHz, reference, loadReflection(chain, at, phaseRad), phasors, settings)
  const drive = newDrive(chain.stages.length)
  driveChain(chain, phasors, at, drive)

  const planes: PlaneState[] = []
  for (let k = 0; k <= chain.stages.length; k++)
    planes.push(planeState(phasors, k, drive.scale[k]!, reference))
  const stages = chain.stages.map((stage, k): StageState => {
    const inW = planes[k]!.netW
    const outW = planes[k + 1]!.netW
    const amplifier = drive.amplifiers[k]
    const state: StageState = {
      lossW: inW - outW,
      lossDb: amplifier ? lossDb(inW, outW) : lossAcross(phasors, k, reference),
    }
    if (stage.bypassed) return state
    if (stage.kind === 'line')
      state.line = lineState(stage, frequencyHz, planes[k]!, planes[k + 1]!)
    if (stage.kind === 'tuner')
      state.tuner = tunerState(stage, settings[k]!, frequencyHz, planes[k]!, planes[k + 1]!)
    if (amplifier)
      state.amplifier = amplifier.overdriven
        ? { ...amplifier, cure: driveCure(chain, at, k, amplifier.mostDriveW, settings) }
        : amplifier
    return state
  })
  const transmitterNetW = planes[0]!.netW
  const antennaW = planes[planes.length - 1]!.netW
  return {
    frequencyHz: at.frequencyHz,
    settingW: at.powerW,
    foldback: drive.foldback,
    transmitterNetW,
    antennaW,
    // Over hundreds of decibels the watts leave what a number can hold; their parts do not.
    chainLossDb:
      antennaW > 1e-200
        ? lossDb(transmitterNetW, antennaW)
        : stages.reduce((sum, stage) => sum + stage.lossDb, 0),
    planes,
    stages,
  }
}

function loadReflection(chain: Chain, at: OperatingPoint, phaseRad: number): Complex {
  try {
    return reflectionAt(chain.load, at.frequencyHz, referenceOf(chain), phaseRad)
  } catch (error) {
    throw error instanceof InputError ? error.within('load') : error
  }
}

/** Loss between two neighbouring planes of one leg, dB; 0 where nothing goes in. */
function lossAcross(phasors: Phasors, k: number, referenceOhm: number): number {
  const inNet = wavesAt(phasors, k, referenceOhm, newWaves()).net
  const outNet = wavesAt(phasors, k + 1, referenceOhm, newWaves()).net
  return lossDb(inNet, outNet) + (inNet > 0 ? powerScaleDb(phasors, k, k + 1) : 0)
}

/** What depends on the power is scaled by it; what does not is told even where there is none. */
function planeState(
  phasors: Phasors,
  plane: number,
  powerScale: number,
  referenceOhm: number,
): PlaneState {
  const o = 4 * plane
  const own = complex(phasors[o]!, phasors[o + 1])
  const through = complex(phasors[o + 2]!, phasors[o + 3])
  const { forward, reflected, net, rho } = wavesAt(phasors, plane, referenceOhm, newWaves())
  const across = complex(through.re * referenceOhm, through.im * referenceOhm)
  const root = Math.sqrt(powerScale)
  const voltage = complex(own.re * root, own.im * root)
  const current = complex(through.re * root, through.im * root)
  return {
    impedanceOhm: divide(own, through),
    reflection: divide(
      complex(own.re - across.re, own.im - across.im),
      complex(own.re + across.re, own.im + across.im),
    ),
    swr: swrOf(rho),
    forwardW: forward * powerScale,
    reflectedW: reflected * powerScale,
    netW: net * powerScale,
    voltage,
    current,
    voltageRms: magnitude(voltage),
    currentRms: magnitude(current),
  }
}

function tunerState(
  stage: TunerStage,
  { elements, matched, reason }: TunerSetting,
  frequencyHz: number,
  before: PlaneState,
  behind: PlaneState,
): TunerState {
  const { voltage, current } = behind
  const p = Float64Array.of(voltage.re, voltage.im, current.re, current.im)
  const borne: ElementState[] = []
  if (stage.method !== 'given')
    throughElements(elements, stage, frequencyHz, p, (state, k) => (borne[k] = state))
  return {
    matched,
    ...(reason !== undefined && { reason }),
    swrIn: before.swr,
    swrOut: behind.swr,
    elements: borne,
  }
}

const endOf = ({ voltage, current }: PlaneState): LineEnd => ({
  vRe: voltage.re,
  vIm: voltage.im,
  iRe: current.re,
  iIm: current.im,
})

function profilesOf(
  { lengthM, ...stage }: LineStage,
  frequencyHz: number,
  before: PlaneState,
  behind: PlaneState,
): LineProfiles {
  const constants = lineConstants(cableToday({ ...stage, lengthM }), frequencyHz)
  return constants.alpha * lengthM > ONE_WAY_NEPER
    ? oneWayProfiles(constants, endOf(before), lengthM)
    : lineProfiles(constants, endOf(behind))
}

function lineState(
  stage: LineStage,
  frequencyHz: number,
  before: PlaneState,
  behind: PlaneState,
): LineState {
  const profiles = profilesOf(stage, frequencyHz, before, behind)
  const root = ({ value, fromLoadM }: Extreme): Extreme => ({ value: Math.sqrt(value), fromLoadM })
  return {
    matchedLossDb: matchedLossDb(lineConstants(cableToday(stage), frequencyHz), stage.lengthM),
    maxVoltageRms: root(maximumOf(profiles.voltageSquared, stage.lengthM)),
    maxCurrentRms: root(maximumOf(profiles.currentSquared, stage.lengthM)),
    maxHeatWPerM: maximumOf(profiles.heatPerM, stage.lengthM),
    extrapolated: isExtrapolated(stage.cable, frequencyHz),
  }
}

/**
 * Net power along a cable section of a solved chain, at `points` equal steps from its transmitter
 * end to its antenna end, W.
 *
 * @example netAlongLine(line, solveChain(chain, at), 0, 3) // [95.02, 74.94, 57.53]
 */
export function netAlongLine(
  stage: LineStage,
  solution: Solution,
  index: number,
  points: number,
): number[] {
  const { frequencyHz, planes } = solution
  const { netW } = profilesOf(stage, frequencyHz, planes[index]!, planes[index + 1]!)
  return Array.from({ length: points }, (_, p) => netW(stage.lengthM * (1 - p / (points - 1))))
}

/** Voltage and heat along a cable section, at equal steps from its transmitter end. */
export interface LineProfile {
  voltageRms: number[]
  heatWPerM: number[]
}

/** The same steps as `netAlongLine`, for voltage (V rms at PEP) and heat (W/m at PEP). */
export function stressAlongLine(
  stage: LineStage,
  solution: Solution,
  index: number,
  points: number,
): LineProfile {
  const { frequencyHz, planes } = solution
  const { voltageSquared, heatPerM } = profilesOf(
    stage,
    frequencyHz,
    planes[index]!,
    planes[index + 1]!,
  )
  const along = Array.from({ length: points }, (_, p) => stage.lengthM * (1 - p / (points - 1)))
  return {
    voltageRms: along.map((x) => Math.sqrt(Math.max(0, profileAt(voltageSquared, x)))),
    heatWPerM: along.map((x) => profileAt(heatPerM, x)),
  }
}
