import {
  type ChainDocument,
  type ChannelDocument,
  type Instrument,
  type Place,
  placesOf,
  type Station,
} from '@saltline/contract'
import {
  calibratedMeter,
  type Chain,
  compareReading,
  type ExpectedReading,
  outsideLive,
  usualMeter,
} from '@saltline/core'
import { metersOf } from '../model/places.ts'
import type { LiveNow } from '../platform/api/live.ts'
import { useExpectedReading } from './useExpectedReading.ts'

/** Where live figures are held against what is expected. */
export interface LiveAround {
  station: Station
  chainId: string
  document: ChainDocument
  chain: Chain
  channel: ChannelDocument
}

export interface LiveAgainst {
  place: Place
  instrument: Instrument | undefined
  expected: ExpectedReading | undefined
  compared: ReturnType<typeof compareReading> | undefined
  /** What is outside of what it should show; null where nothing is. */
  outside: 'forward' | 'SWR' | null
}

/** A live figure against what its meter should show at its plane. */
export function useLiveAgainst(
  { station, document, chain, channel }: LiveAround,
  { latest }: Pick<LiveNow, 'latest'>,
): LiveAgainst {
  const place = placesOf(document).find(({ plane }) => plane === latest.plane)!
  const instrument = metersOf(station).find(({ id }) => id === latest.instrumentId)
  const meter = instrument ? calibratedMeter(instrument.document) : usualMeter
  const { expected } = useExpectedReading(chain, document, channel, latest.plane, meter)
  const compared = expected && compareReading(latest.forwardW, expected.watts, expected.wattsRange)
  return {
    place,
    instrument,
    expected,
    compared,
    outside: expected ? outsideLive(latest, expected) : null,
  }
}
