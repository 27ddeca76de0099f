import { reflectionAt } from '../load/load.ts'
import type { Stage } from '../stages/stage.ts'
import { type Chain, type OperatingPoint, referenceOf, type TunerSettings } from './chain.ts'
import { newPhasors } from './phasors.ts'
import { walk } from './walk.ts'

/** Where all tuners of a chain stand at an operating point. */
export function settingsNow(chain: Chain, { frequencyHz }: OperatingPoint): TunerSettings {
  const { stages } = chain
  const settings: TunerSettings = []
  const reference = referenceOf(chain)
  const reflection = reflectionAt(chain.load, frequencyHz, reference)
  walk(stages, frequencyHz, reference, reflection, newPhasors(stages.length), settings)
  return settings
}

/**
 * Settings of the tuners with knobs for another frequency than the one that is looked at; tuners that
 * set themselves are left to do so.
 */
function settingsFor(chain: Chain, tunedHz: number, phaseRad: number): TunerSettings {
  const { stages } = chain
  const settings: TunerSettings = []
  const turned = (stage: Stage) =>
    stage.kind === 'tuner' && stage.method === 'network' && !stage.automatic
  if (!stages.some((stage) => turned(stage) && !stage.bypassed)) return settings
  const reference = referenceOf(chain)
  const reflection = reflectionAt(chain.load, tunedHz, reference, phaseRad)
  walk(stages, tunedHz, reference, reflection, newPhasors(stages.length), settings)
  return settings.map((setting, k) => (turned(stages[k]!) ? setting : undefined))
}

/**
 * Where tuners stand, by the phase of the load (rad): those with knobs that were turned for another frequency. The others
 * are set anew. Each phase is worked out once.
 */
export function settingsByPhase(
  chain: Chain,
  { tunedHz, settings }: Pick<OperatingPoint, 'tunedHz' | 'settings'>,
): (phaseRad: number) => TunerSettings {
  if (settings) return () => [...settings]
  if (tunedHz === undefined) return () => []
  const known = new Map<number, TunerSettings>()
  return (phaseRad) => {
    let own = known.get(phaseRad)
    if (!own) known.set(phaseRad, (own = settingsFor(chain, tunedHz, phaseRad)))
    return [...own]
  }
}
