/** The setting that an antenna tuner finds for a load, and what it then does. */
import type { Complex } from '../complex.ts'
import { swrOf } from '../load/reflection.ts'
import { type PhasorPair, throughElements } from './element.ts'
import type { GivenTuner, TunerSetting, TunerStage } from './kinds.ts'
import { setNetwork } from './network.ts'
import { setStepped } from './stepped.ts'

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
