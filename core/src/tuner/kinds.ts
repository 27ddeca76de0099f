/** Antenna tuners: what there is of them, and what one's setting is. */
import type { Complex } from '../complex.ts'
import type { NetworkElement, PartQuality } from './element.ts'

/** Known only by its loss and how well it matches: crude, and said to be. */
export interface GivenTuner {
  method: 'given'
  lossDb: number
  residualSwr: number
  /** The worst SWR it can still match; beyond it the rest stays. */
  reachSwr?: number | undefined
}

/** Networks of a tuner whose parts are known. */
export const tunerNetworks = ['L-low-pass', 'L-high-pass', 'T', 'pi'] as const
export type TunerNetwork = (typeof tunerNetworks)[number]

/** A network with knobs: continuous parts between two ends. */
export interface NetworkTuner extends PartQuality {
  method: 'network'
  network: TunerNetwork
  /** True where motors set it anew on every frequency, not a hand. */
  automatic?: boolean | undefined
  /** L networks: where the shunt part may sit. A tuner with a switch has either. */
  shuntAt: 'either' | 'antenna' | 'transmitter'
  /** H. */
  coilH: readonly [least: number, most: number]
  /** F; both capacitors of a T or π. */
  capacitorF: readonly [least: number, most: number]
}

/** Relays that add up coils in line and capacitors across, on either side. */
export interface SteppedTuner extends PartQuality {
  method: 'stepped'
  coilBits: number
  coilStepH: number
  capacitorBits: number
  capacitorStepF: number
  /** SWR that it is content with. */
  contentSwr: number
}

export type TunerStage = { kind: 'tuner' } & (GivenTuner | NetworkTuner | SteppedTuner)

/** Where a tuner stands for one load at one frequency. */
export interface TunerSetting {
  /** From the transmitter's side to the antenna's; empty where only loss and residue are known. */
  elements: NetworkElement[]
  /** |ρ| it presents on the frequency it was set on. */
  rho: number
  lossDb: number
  matched: boolean
  /** Why not, where it does not match. */
  reason?: string
  /**
   * Where only what it presents to the transmitter and what it loses count, and not its parts: it then
   * has no elements.
   */
  presents?: Complex
}
