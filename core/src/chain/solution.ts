/** What is known of a chain once it is solved. */
import type { Complex } from '../complex.ts'
import type { Extreme } from '../line/standingWave.ts'
import type { AmplifierState } from '../source/amplifier.ts'
import type { ElementState } from '../tuner/element.ts'

/** What a perfect instrument would read at one plane. Phasors are RMS, powers PEP watts. */
export interface PlaneState {
  /** Looking toward the antenna. */
  impedanceOhm: Complex
  reflection: Complex
  /** Infinite where everything comes back. */
  swr: number
  forwardW: number
  reflectedW: number
  netW: number
  /** V and A; the common phase is arbitrary. */
  voltage: Complex
  current: Complex
  voltageRms: number
  currentRms: number
}

/** What only a cable section has. Places are metres from its antenna end. */
export interface LineState {
  matchedLossDb: number
  maxVoltageRms: Extreme
  maxCurrentRms: Extreme
  maxHeatWPerM: Extreme
  /** True where the attenuation is beyond the cable's data. */
  extrapolated: boolean
}

/** What a tuner does for the chain, and what its parts bear. */
export interface TunerState {
  matched: boolean
  /** Why it does not match. */
  reason?: string
  /** What the transmitter's side sees, and what stays on the cable beyond. */
  swrIn: number
  swrOut: number
  /** From the transmitter's side; empty where only loss and residue are known. */
  elements: ElementState[]
}

export interface StageState {
  /** Net power in less net power out: the ledger's watts add up. An amplifier's is negative. */
  lossW: number
  lossDb: number
  line?: LineState
  tuner?: TunerState
  amplifier?: AmplifierState
}

export interface Solution {
  frequencyHz: number
  /** What the transmitter is set to, PEP. */
  settingW: number
  /** Fraction of it that foldback leaves. */
  foldback: number
  /** Net power that leaves the transmitter. */
  transmitterNetW: number
  /** What reaches the antenna. */
  antennaW: number
  /** From plane 0 to the antenna. */
  chainLossDb: number
  /** Plane k is before stage k; the last one is the load. */
  planes: PlaneState[]
  stages: StageState[]
}
