import { REFERENCE_OHM } from '../constants.ts'
import type { Load } from '../load/load.ts'
import type { ModeId } from '../source/modes.ts'
import type { Transmitter } from '../source/transmitter.ts'
import type { Stage } from '../stages/stage.ts'
import type { TunerSetting } from '../tuner/kinds.ts'

/** One path from a transmitter to an antenna. Stage k sits between plane k and plane k + 1. */
export interface Chain {
  transmitter: Transmitter
  stages: readonly Stage[]
  load: Load
  /** Impedance on which forward, reflected and SWR are stated, Ω; 50 unless given. */
  referenceOhm?: number | undefined
}

/** Where on the air, and with how much set power (PEP). */
export interface OperatingPoint {
  frequencyHz: number
  powerW: number
  /** Amplifiers have ceilings by mode. */
  mode?: ModeId | undefined
  /** Where tuners with knobs were set, if not here. Auto tuners set themselves anew everywhere. */
  tunedHz?: number | undefined
  /** Where tuners stand, if it is not what they would find now: a fault does not wait for them. */
  settings?: TunerSettings | undefined
}

/** The impedance that forward power, reflected power and SWR of a chain refer to, Ω: 50 unless it states its own. */
export const referenceOf = (chain: Chain): number => chain.referenceOhm ?? REFERENCE_OHM

/** The setting of every tuner, by its stage's index; empty elsewhere. */
export type TunerSettings = (TunerSetting | undefined)[]
