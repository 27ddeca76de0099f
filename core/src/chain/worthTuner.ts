/** Is a tuner worth it here? One chain without, with one at the radio, with one at the feed point. */
import { OutOfRangeError } from '../errors.ts'
import type { Stage } from '../stages/stage.ts'
import type { TunerStage } from '../tuner/kinds.ts'
import type { Chain, OperatingPoint } from './chain.ts'
import type { Range } from '../statistics/quantile.ts'
import { answerChain } from './phaseRange.ts'

/** Where a tuner may stand: nowhere, at the radio, at the feed point. */
export const tunerPlaces = ['none', 'radio', 'feedPoint'] as const
export type TunerPlace = (typeof tunerPlaces)[number]

export interface PlaceAnswer {
  place: TunerPlace
  antennaW: number
  /** Where the antenna's phase is not known. */
  antennaWRange: Range | null
  /** Heat in the tuner, and in everything else on the way. */
  tunerW: number
  cableW: number
  /** What never leaves the transmitter: foldback and reflection. */
  heldBackW: number
  /** What the transmitter sees. */
  swr: number
  matched: boolean
}

/** Index behind the last amplifier: no tuner for the antenna belongs before it. */
const outputLeg = (stages: readonly Stage[]): number =>
  stages.findLastIndex(({ kind, bypassed }) => kind === 'amplifier' && !bypassed) + 1

/** The chain with its tuners taken out and one put in at a place. */
export function withTunerAt(chain: Chain, tuner: TunerStage, place: TunerPlace): Chain {
  const rest = chain.stages.filter(({ kind }) => kind !== 'tuner')
  if (place === 'none') return { ...chain, stages: rest }
  const index = place === 'radio' ? outputLeg(rest) : rest.length
  return { ...chain, stages: rest.toSpliced(index, 0, tuner) }
}

/** What of a setting (W) is not given out (W); what rounding leaves of nothing is nothing. */
export const heldBackOf = (settingW: number, transmitterNetW: number): number => {
  const heldBackW = settingW - transmitterNetW
  return heldBackW > 1e-9 * settingW ? heldBackW : 0
}

/**
 * One tuner in all three places.
 *
 * @example worthOfTuner(chain, { kind: 'tuner', method: 'given', lossDb: 0.3, residualSwr: 1.1 }, at).map(({ place }) => place)
 *   // ['none', 'radio', 'feedPoint']
 */
export function worthOfTuner(chain: Chain, tuner: TunerStage, at: OperatingPoint): PlaceAnswer[] {
  return tunerPlaces.map((place) => {
    const placed = withTunerAt(chain, tuner, place)
    const { solution, spread } = answerChain(placed, at)
    const index = placed.stages.findIndex(({ kind }) => kind === 'tuner')
    const heat = solution.stages.reduce((sum, { lossW }) => sum + Math.max(0, lossW), 0)
    const tunerW = index < 0 ? 0 : solution.stages[index]!.lossW
    return {
      place,
      antennaW: solution.antennaW,
      antennaWRange: spread?.antennaW ?? null,
      tunerW,
      cableW: heat - tunerW,
      heldBackW: heldBackOf(solution.settingW, solution.transmitterNetW),
      swr: solution.planes[0]!.swr,
      matched: index < 0 || solution.stages[index]!.tuner!.matched,
    }
  })
}

/** Watts at the antenna over frequency for every place; NaN where the antenna was not measured. */
export type WorthSweep = Record<TunerPlace, Float64Array>

/**
 * The same over a band, the tuner set anew on every frequency.
 *
 * @param onPoint told how many frequencies are done
 */
export function worthOverBand(
  chain: Chain,
  tuner: TunerStage,
  frequencyHz: Float64Array,
  at: Omit<OperatingPoint, 'frequencyHz'>,
  onPoint: (done: number) => void = () => {},
): WorthSweep {
  const n = frequencyHz.length
  const sweep: WorthSweep = {
    none: new Float64Array(n),
    radio: new Float64Array(n),
    feedPoint: new Float64Array(n),
  }
  frequencyHz.forEach((hz, i) => {
    try {
      for (const { place, antennaW } of worthOfTuner(chain, tuner, { ...at, frequencyHz: hz }))
        sweep[place][i] = antennaW
    } catch (error) {
      if (!(error instanceof OutOfRangeError)) throw error
      for (const place of tunerPlaces) sweep[place][i] = NaN
    }
    onPoint(i + 1)
  })
  return sweep
}
