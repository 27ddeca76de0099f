import { swrOf } from '../load/reflection.ts'
import { type AmplifierState, amplifierOutputW, amplifierState } from '../source/amplifier.ts'
import { foldbackAt, type Transmitter } from '../source/transmitter.ts'
import { type Chain, type OperatingPoint, referenceOf } from './chain.ts'
import { newWaves, type Phasors, powerScale, type Waves, wavesAt } from './phasors.ts'

/**
 * Factor on power that brings the unscaled waves at plane 0 to what the source delivers. 0 where
 * a peaked source meets a load that takes no power at all.
 */
export function sourceScale(
  transmitter: Pick<Transmitter, 'behaviour'>,
  settingW: number,
  foldback: number,
  plane0: Waves,
): number {
  const held = transmitter.behaviour === 'levelled' ? plane0.forward : plane0.net
  return held > 1e-12 * plane0.forward ? (settingW * foldback) / held : 0
}

/** What the sources of a chain make of its unscaled waves. */
export interface Drive {
  /** Factor on power for every plane: one value up to an amplifier's input, another behind it. */
  scale: Float64Array
  /** Fraction that the transmitter's foldback leaves. */
  foldback: number
  amplifiers: (AmplifierState | undefined)[]
}

/**
 * Room for a drive solution of so many stages, to be filled without allocating.
 *
 * @internal
 */
export const newDrive = (stageCount: number): Drive => ({
  scale: new Float64Array(stageCount + 1),
  foldback: 1,
  amplifiers: [],
})

const waves = newWaves()

/** Finds the scale of every leg: the transmitter's drives the first amplifier, and so on. */
export function driveChain(
  chain: Chain,
  phasors: Phasors,
  { powerW, mode }: OperatingPoint,
  out: Drive,
): void {
  const reference = referenceOf(chain)
  const { stages, transmitter } = chain
  wavesAt(phasors, 0, reference, waves)
  out.foldback = foldbackAt(transmitter.foldback, swrOf(waves.rho))
  /** Where the present leg begins, and the factor on power there. */
  let leg = 0
  let scale = sourceScale(transmitter, powerW, out.foldback, waves)
  out.scale[0] = scale
  for (let k = 0; k < stages.length; k++) {
    const stage = stages[k]!
    if (stage.kind === 'amplifier' && !stage.bypassed) {
      const driveW = wavesAt(phasors, k, reference, waves).net * out.scale[k]!
      wavesAt(phasors, k + 1, reference, waves)
      const swr = swrOf(waves.rho)
      const foldback = foldbackAt(stage.foldback, swr)
      scale = sourceScale(stage, amplifierOutputW(stage, driveW), foldback, waves)
      leg = k + 1
      out.amplifiers[k] = amplifierState(stage, {
        driveW,
        mode,
        swr,
        reflectedW: waves.reflected * scale,
        foldback,
      })
    }
    out.scale[k + 1] = scale * powerScale(phasors, k + 1, leg)
  }
}
