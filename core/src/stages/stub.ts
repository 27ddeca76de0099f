import { cableRatings } from './rating.ts'
import { heatPerMetreStress, voltageStress, voltsAcross } from './stress.ts'
import { type Complex, complex, divide } from '../complex.ts'
import type { Cable } from '../line/cable.ts'
import { lineConstants } from '../line/constants.ts'
import { lineProfiles, maximumOf, profileAt } from '../line/standingWave.ts'
import { half } from '../statistics/random.ts'
import { checkCable, losslessCable, writeLine } from './line.ts'
import type { StageModel } from './model.ts'
import { type Abcd, newAbcd, writeThrough } from './twoPort.ts'

/** A length of cable across the line, open or shorted at its far end. */
export interface StubStage {
  kind: 'stub'
  lengthM: number
  cable: Cable
  end: 'open' | 'short'
}

const own = newAbcd()

const asLine = ({ lengthM, cable }: Pick<StubStage, 'lengthM' | 'cable'>) =>
  ({ kind: 'line', lengthM, cable }) as const

/** Its admittance across the line: C/A with an open far end, D/B with a shorted one. */
function writeStub(stage: StubStage, frequencyHz: number, out: Abcd): void {
  writeLine(asLine(stage), frequencyHz, own)
  const [num, den] = stage.end === 'open' ? [4, 0] : [6, 2]
  const re = own[den]!
  const im = own[den + 1]!
  const size = re * re + im * im
  writeThrough(out)
  out[4] = (own[num]! * re + own[num + 1]! * im) / size
  out[5] = (own[num + 1]! * re - own[num]! * im) / size
}

/**
 * Its impedance across the line, Ω: infinite parts where it lets everything past.
 *
 * @example stubImpedance({ kind: 'stub', cable, lengthM: 2, end: 'open' }, 10e6) // { re: 0.6291, im: -67.33 }
 */
export function stubImpedance(stage: StubStage, frequencyHz: number): Complex {
  const m = newAbcd()
  writeStub(stage, frequencyHz, m)
  return divide(complex(1, 0), complex(m[4]!, m[5]))
}

/** What a stub withstands for one volt (RMS) across its input: exact, as along any line. */
export interface StubStress {
  /** Highest voltage along it, V rms. */
  voltageRms: number
  /** Heat of its hottest metre, W/m: goes with the square of the voltage. */
  heatWPerM: number
}

/** Beyond this many nepers nothing comes back from the far end. */
const NO_RETURN_NEPER = 50

/**
 * The highest voltage and the hottest metre along a stub, for one volt at its input. An open stub of a quarter wave has the
 * voltage at its far end, and far more of it than the line: it may arc there.
 *
 * @example stubStress({ kind: 'stub', cable, lengthM: 6, end: 'open' }, 10e6).voltageRms // 2.689
 */
export function stubStress({ lengthM, cable, end }: StubStage, frequencyHz: number): StubStress {
  if (lengthM === 0) return { voltageRms: 1, heatWPerM: 0 }
  const constants = lineConstants(cable, frequencyHz)
  const seenM = Math.min(lengthM, NO_RETURN_NEPER / constants.alpha)
  const { voltageSquared, heatPerM } = lineProfiles(
    constants,
    end === 'open'
      ? { vRe: 1, vIm: 0, iRe: 0, iIm: 0 }
      : { vRe: 0, vIm: 0, iRe: 1 / constants.zcRe, iIm: 0 },
  )
  const input = profileAt(voltageSquared, seenM)
  return {
    voltageRms: Math.sqrt(maximumOf(voltageSquared, seenM).value / input),
    heatWPerM: maximumOf(heatPerM, seenM).value / input,
  }
}

/** The highest voltage along a stub over that at its input, ≥ 1. */
export const stubVoltageRise = (stage: StubStage, frequencyHz: number): number =>
  stubStress(stage, frequencyHz).voltageRms

/**
 * Checks, matrix and tolerances of a stub.
 *
 * @internal
 */
export const stubModel: StageModel<StubStage> = {
  check: ({ lengthM, cable, end }, checks) => {
    checks.notNegative(lengthM, 'Length', 'lengthM')
    checkCable(cable, checks)
    if (end === 'short' && lengthM === 0)
      checks.refuse(
        'A shorted stub of no length is a short circuit: nothing gets past it.',
        'lengthM',
      )
  },
  write: (stage, hz, _reference, out) => writeStub(stage, hz, out),
  varied: {
    copy: (stage) => ({ ...stage, cable: { ...stage.cable } }),
    draw: (from, to, tolerances, random) => {
      to.lengthM = from.lengthM * Math.max(0, 1 + half(random) * tolerances.length)
      const loss = Math.max(0, 1 + half(random) * tolerances.cable)
      to.cable.k1DbPer100m = from.cable.k1DbPer100m * loss
      to.cable.k2DbPer100m = from.cable.k2DbPer100m * loss
    },
  },
  stresses: (stage, at) => {
    const along = stubStress(stage, at.frequencyHz)
    const volts = voltsAcross(at)
    return [
      voltageStress(at, volts * along.voltageRms),
      heatPerMetreStress(at, stage.cable, along.heatWPerM * volts ** 2),
    ]
  },
  ratings: ({ cable }) => cableRatings(cable),
  lossless: (stage) => ({ ...stage, cable: losslessCable(stage.cable) }),
}
