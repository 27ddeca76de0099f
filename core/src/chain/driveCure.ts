/** What brings an over-driven amplifier back: less power from the transmitter, or a pad before it. */
import { complex } from '../complex.ts'
import type { Stage } from '../stages/stage.ts'
import { newPhasors } from './phasors.ts'
import { walk } from './walk.ts'
import { driveChain, newDrive } from './drive.ts'
import { type Chain, type OperatingPoint, referenceOf, type TunerSettings } from './chain.ts'

export interface DriveCure {
  /** Setting of the transmitter that gives just the drive allowed, W PEP, rounded down. */
  turnDownToW: number
  /** The least pad right before the amplifier that does the same, dB, rounded up; null where none does. */
  padDb: number | null
}

const MOST_PAD_DB = 60
const ROUNDS = 40

/**
 * Finds both cures by solving with them: a pad also improves the match that the transmitter sees, which
 * gives back some of what it takes. Tuners before the amplifier stay as they are set.
 *
 * @param index of the amplifier among the stages
 * @param mostDriveW net drive that is allowed in this mode, W
 */
export function driveCure(
  chain: Chain,
  at: OperatingPoint,
  index: number,
  mostDriveW: number,
  settings: TunerSettings,
): DriveCure {
  const before = chain.stages.slice(0, index)
  const amplifier = chain.stages[index]!
  const driveW = (stages: readonly Stage[], powerW: number): number => {
    const own = { ...chain, stages: [...stages, amplifier] }
    const phasors = newPhasors(own.stages.length)
    // An amplifier hides what lies behind it.
    walk(own.stages, at.frequencyHz, referenceOf(chain), complex(0), phasors, [...settings])
    const drive = newDrive(own.stages.length)
    driveChain(own, phasors, { ...at, powerW }, drive)
    return drive.amplifiers[stages.length]!.driveW
  }
  const padded = (db: number) => driveW([...before, { kind: 'pad', lossDb: db }], at.powerW)

  let [low, high] = [0, at.powerW]
  for (let round = 0; round < ROUNDS; round++) {
    const middle = (low + high) / 2
    if (driveW(before, middle) <= mostDriveW) low = middle
    else high = middle
  }
  const turnDownToW = floorTo(low, 3)

  let [short, enough] = [0, MOST_PAD_DB]
  if (padded(enough) > mostDriveW) return { turnDownToW, padDb: null }
  for (let round = 0; round < ROUNDS; round++) {
    const middle = (short + enough) / 2
    if (padded(middle) <= mostDriveW) enough = middle
    else short = middle
  }
  return { turnDownToW, padDb: Math.ceil(enough * 10 - 1e-9) / 10 }
}

/** So many significant digits, never more than the value. */
function floorTo(value: number, digits: number): number {
  if (!(value > 0)) return 0
  const step = 10 ** (Math.floor(Math.log10(value)) + 1 - digits)
  return Number((Math.floor(value / step + 1e-9) * step).toPrecision(digits))
}
