import {
  type ChainDocument,
  type ChannelDocument,
  placesOf,
  type Reading,
  type Station,
} from '@saltline/contract'
import {
  type Answer,
  calibratedMeter,
  type Emission,
  expectReading,
  usualMeter,
} from '@saltline/core'
import type { LiveNow } from '../platform/api/live.ts'
import { beyondTuner, settingOf } from './answers.ts'
import { metersOf } from './places.ts'

/** What is read at one place now. */
export interface EndReading {
  plane: number
  name: string
  watts: number
  /** By how much it differs from what its meter should show, dB; as from its readings, so from live figures. */
  offDb: number
  /** How far the meter alone may be off, dB either way. */
  meterDb: number
  live: boolean
  by: string
}

export interface Between {
  from: EndReading
  to: EndReading
  /** Forward power at the first over that at the second, dB; less than nothing where there is gain. */
  measuredDb: number
  expectedDb: number
  /** What two meters that are off may make of it, dB either way. */
  doubtDb: number
}

interface Known {
  station: Station
  document: ChainDocument
  channel: ChannelDocument
  answer: Answer
}

interface How {
  instrumentId: string | null | undefined
  talks: boolean
  emission: Emission
  /** Power that was set, over that of the channel. */
  share: number
}

/** The newest figure at each place on a channel: of a live meter, or else of a reading. */
export function endReadings(
  { station, document, channel, answer }: Known,
  readings: readonly Reading[],
  live: readonly LiveNow[],
): EndReading[] {
  const meters = new Map(metersOf(station).map(({ id, document: own }) => [id, own]))
  // Speech moves both ends of a line at once: live figures are compared as those of a carrier.
  const steady: Emission = { mode: 'key-down' }
  const readAt = (plane: number, watts: number, how: How) => {
    const own = how.instrumentId ? meters.get(how.instrumentId) : undefined
    const meter = own ? calibratedMeter(own) : usualMeter
    const { forwardW, swr } = answer.solution.planes[plane]!
    const state = { forwardW: forwardW * how.share, swr }
    const { low, high } = expectReading(state, meter, how.talks ? steady : how.emission).wattsRange
    return {
      offDb: 10 * Math.log10(watts / expectReading(state, meter, how.emission).watts),
      meterDb: 5 * Math.log10(high / low),
    }
  }
  const setW = settingOf(document.transmitter, channel)
  return placesOf(document).flatMap(({ plane, before, name }) => {
    if (beyondTuner(document.stages, plane)) return []
    const heard = live.find((meter) => meter.latest.plane === plane && !meter.lost)
    const read = readings.findLast(
      (reading) =>
        reading.before === before &&
        reading.channelId === channel.id &&
        reading.farEnd === 'antenna',
    )
    const watts = heard?.latest.forwardW ?? read?.forwardW ?? 0
    if (!(watts > 0)) return []
    const talks = heard !== undefined
    // A reading was taken in a mode and at a power of its own.
    const how: How =
      heard || !read
        ? { instrumentId: heard?.latest.instrumentId, talks, emission: channel, share: 1 }
        : {
            instrumentId: read.instrumentId,
            talks,
            emission: { mode: read.mode, meanToPeak: read.meanToPeak ?? undefined },
            share: read.powerW > 0 && setW > 0 ? read.powerW / setW : 1,
          }
    const against = readAt(plane, watts, how)
    if (!Number.isFinite(against.offDb) || !Number.isFinite(against.meterDb)) return []
    return [{ plane, name, watts, ...against, live: talks, by: read?.by ?? '' }]
  })
}

/**
 * The loss from each place to the next that is read. Each figure counts as far as it is off from what its own meter
 * should show there, so that a meter for peaks and one for means can stand at the two ends.
 */
export function betweenPlaces(known: Known, ends: readonly EndReading[]): Between[] {
  const { planes } = known.answer.solution
  return ends.slice(1).map((to, i) => {
    const from = ends[i]!
    const expectedDb = 10 * Math.log10(planes[from.plane]!.forwardW / planes[to.plane]!.forwardW)
    return {
      from,
      to,
      expectedDb,
      measuredDb: expectedDb + from.offDb - to.offDb,
      doubtDb: Math.hypot(from.meterDb, to.meterDb),
    }
  })
}
