/** Antenna tuners: what they are, and the setting one finds for a load. */
import type { Complex } from '../complex.ts'
import { swrOf } from '../load/reflection.ts'
import {
  type NetworkElement,
  type PartQuality,
  type PhasorPair,
  throughElements,
} from './element.ts'
import { setNetwork } from './network.ts'
import { setStepped } from './stepped.ts'

/** Known only by its loss and how well it matches: crude, and said to be. */
export interface GivenTuner {
  method: 'given'
  lossDb: number
  residualSwr: number
  /** The worst SWR it can still match; beyond it the rest stays. */
  reachSwr?: number | undefined
}

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

/** The setting that a tuner finds for a load, on `referenceOhm`. */
export function setTuner(
  stage: TunerStage,
  load: Complex,
  frequencyHz: number,
  referenceOhm: number,
): TunerSetting {
  switch (stage.method) {
    case 'given':
      return setGiven(stage, load, referenceOhm)
    case 'network':
      return setNetwork(stage, load, frequencyHz, referenceOhm)
    case 'stepped':
      return setStepped(stage, load, frequencyHz, referenceOhm)
  }
}

function setGiven(
  { lossDb, residualSwr, reachSwr = Infinity }: GivenTuner,
  load: Complex,
  referenceOhm: number,
): TunerSetting {
  const swr = swrOf(
    Math.hypot(load.re - referenceOhm, load.im) / Math.hypot(load.re + referenceOhm, load.im),
  )
  const matched = swr <= reachSwr
  const rest = matched ? residualSwr : Math.max(residualSwr, swr / reachSwr)
  return {
    elements: [],
    rho: Number.isFinite(rest) ? (rest - 1) / (rest + 1) : 1,
    lossDb,
    matched,
    ...(!matched && { reason: `it matches up to SWR ${reachSwr} and sees ${swr.toPrecision(3)}` }),
  }
}

/**
 * Carries voltage and current through a set tuner to its transmitter's side, in place. One known only
 * by its loss presents its residue, and so much more power goes in than comes out.
 */
export function throughTuner(
  stage: TunerStage,
  setting: TunerSetting,
  frequencyHz: number,
  referenceOhm: number,
  p: PhasorPair,
): void {
  if (stage.method !== 'given') {
    throughElements(setting.elements, stage, frequencyHz, p)
    return
  }
  const outW = p[0]! * p[2]! + p[1]! * p[3]!
  // What takes no power at all is not matched by anything: it is seen as it is.
  if (!(outW > 0)) return
  const inW = outW * 10 ** (setting.lossDb / 10)
  // Nothing can be said of a phase: the residue is taken as a resistance.
  const ohm = referenceOhm * Math.min(swrOf(setting.rho), 1e9)
  p[0] = Math.sqrt(inW * ohm)
  p[1] = 0
  p[2] = p[0] / ohm
  p[3] = 0
}
