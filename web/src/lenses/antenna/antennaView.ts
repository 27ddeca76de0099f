import {
  type BandSweep,
  type Chain,
  drawingGrid,
  impedanceOf,
  phaseUnknown,
  REFERENCE_OHM,
  reflectionAt,
  sweepBand,
  usableBands,
  type FrequencySpan,
} from '@saltline/core'
import type { Band } from '../../model/reach.ts'

/** An antenna over a band, at its feed point and as the transmitter sees it. */
export interface AntennaView {
  frequencyHz: Float64Array
  /** False where only the size of the reflection is known: R, X and the angle then mean nothing. */
  phaseKnown: boolean
  /** At the feed point. */
  reflection: { re: number; im: number }[]
  rOhm: Float64Array
  xOhm: Float64Array
  band: BandSweep
  /** Where the SWR stays under the station's limit: at the feed point, and as seen at the radio. */
  usable: FrequencySpan[]
  seemsUsable: FrequencySpan[]
}

const POINTS = 200

/** Computes the view; null where there is only one SWR for all frequencies. */
export function antennaView(
  chain: Chain,
  { lowHz, highHz }: Band,
  { powerW, tunedHz }: { powerW: number; tunedHz: number },
  swrLimit: number,
): AntennaView | null {
  const { load } = chain
  if (load.kind === 'swr' || (load.kind === 'bands' && load.bands.length === 0)) return null
  const frequencyHz = drawingGrid(load.kind === 'sweep' ? load : undefined, lowHz, highHz, POINTS)
  const reflection = Array.from(frequencyHz, (hz) => reflectionAt(load, hz, REFERENCE_OHM))
  const z = reflection.map((rho) => impedanceOf(rho, REFERENCE_OHM))
  const band = sweepBand(chain, frequencyHz, powerW, tunedHz)
  return {
    frequencyHz,
    phaseKnown: !phaseUnknown(load, (lowHz + highHz) / 2),
    reflection,
    rOhm: Float64Array.from(z, ({ re }) => re),
    xOhm: Float64Array.from(z, ({ im }) => im),
    band,
    usable: usableBands(load, frequencyHz, swrLimit, REFERENCE_OHM),
    seemsUsable: spansUnder(frequencyHz, band.swrAtTransmitter, swrLimit),
  }
}

/** Stretches of a sampled curve at or under a limit, edges by straight lines between samples. */
export function spansUnder(
  x: ArrayLike<number>,
  y: ArrayLike<number>,
  limit: number,
): FrequencySpan[] {
  const cross = (a: number, b: number) =>
    x[a]! + ((x[b]! - x[a]!) * (limit - y[a]!)) / (y[b]! - y[a]!)
  const spans: FrequencySpan[] = []
  let start: number | null = null
  for (let i = 0; i < x.length; i++) {
    const good = y[i]! <= limit
    if (good && start === null) start = i === 0 ? x[0]! : cross(i - 1, i)
    if (start !== null && (!good || i === x.length - 1)) {
      spans.push({
        lowHz: start,
        highHz: good ? x[i]! : cross(i - 1, i),
        openLow: start === x[0],
        openHigh: good,
      })
      start = null
    }
  }
  return spans
}
