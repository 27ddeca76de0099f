/** Readings of a round as a case for the diagnosis. */
import {
  type ChainDocument,
  type LineSweep,
  placesOf,
  planeOfReading,
  type Reading,
  type Station,
  type Suspect,
} from '@saltline/contract'
import {
  calibratedMeter,
  type Case,
  type Chain,
  type Channel,
  formatFrequency,
  type Meter,
  usualMeter,
  usualTolerances,
  withLoads,
} from '@saltline/core'
import { settingOf } from '../../model/answers.ts'
import type { CaseNames, OwnChannel } from '../../model/causeWords.ts'
import { planesAlong } from '../../model/alongLine.ts'
import { instrumentsOf } from '../../model/places.ts'

export interface RoundCase {
  kase: Case
  names: CaseNames
  places: string[]
  /** Index of the operating points, as the readings have them. */
  pointsHz: number[]
  /** Of each point the chain's channel: of that frequency, and of that power where there is one. Null where it is gone. */
  own: (OwnChannel | null)[]
}

/** What came of swapping leads, by their stages: the reading came right, or it is the same as before. */
export type Swaps = Readonly<Record<string, 'right' | 'same' | undefined>>

/** Null where no reading has a place on the chain as it stands. */
export function caseOf(
  station: Station,
  document: ChainDocument,
  chain: Chain,
  readings: readonly Reading[],
  suspects: readonly Suspect[] = [],
  sweeps: readonly LineSweep[] = [],
  swaps: Swaps = {},
): RoundCase | null {
  const placed = readings.flatMap((reading) => {
    const plane = planeOfReading(document, reading)
    return plane === null ? [] : [{ reading, plane }]
  })
  if (placed.length === 0) return null
  const read: Channel[] = []
  const keys: string[] = []
  const pointOf = ({ frequencyHz, powerW, mode, meanToPeak, farEnd }: Reading): number => {
    const key = `${frequencyHz} ${powerW} ${mode} ${meanToPeak} ${farEnd}`
    const known = keys.indexOf(key)
    if (known >= 0) return known
    const emission = { mode, meanToPeak: meanToPeak ?? undefined }
    read.push({ frequencyHz, powerW, mode, emission, farEnd })
    return keys.push(key) - 1
  }
  const known = new Map(instrumentsOf(station).map(({ id, document: own }) => [id, own]))
  const used = [...new Set(placed.map(({ reading }) => reading.instrumentId))]
  const instruments: Meter[] = used.map((id) => {
    const own = id ? known.get(id) : undefined
    return own ? calibratedMeter(own) : usualMeter
  })
  const places = placesOf(document).map(({ name }) => name)
  const figures = placed.map(({ reading, plane }) => ({
    point: pointOf(reading),
    plane,
    instrument: used.indexOf(reading.instrumentId),
    forwardW: reading.forwardW ?? undefined,
    reflectedW: reading.reflectedW ?? undefined,
    swr: reading.swr ?? undefined,
    rangeW: reading.rangeW ?? undefined,
  }))
  // What was not read into a load yet may be read so next.
  const channels = withLoads(read)
  return {
    kase: {
      chain,
      channels,
      instruments,
      readings: figures,
      tolerances: document.tolerances ?? usualTolerances,
      priors: document.priors,
      suspects: suspects.flatMap(({ stageId }) => {
        const at = document.stages.findIndex(({ id }) => id === stageId)
        return at < 0 ? [] : [at]
      }),
      swaps: document.stages.flatMap(({ id }, stage) => {
        const came = Object.hasOwn(swaps, id) ? swaps[id] : undefined
        return came ? [{ stage, cameRight: came === 'right' }] : []
      }),
      // A cable that was taken off says nothing of the line as it was read.
      sweeps: sweeps
        .filter(({ alone }) => !alone)
        .flatMap(({ before, farEnd, analyser, frequencyHz, re, im }) => {
          const plane = planeOfReading(document, { before })
          return plane === null || !planesAlong(document).some((each) => each.plane === plane)
            ? []
            : [{ plane, farEnd, analyser, frequencyHz, re, im }]
        }),
    },
    names: {
      stages: document.stages.map(({ name }) => name),
      channels: channels.map(({ frequencyHz }) => formatFrequency(frequencyHz)),
      instruments: used.map((id) => (id && known.get(id)?.name) || 'the meter'),
      readings: placed.map(
        ({ reading }) => `${reading.place}, ${formatFrequency(reading.frequencyHz)}`,
      ),
    },
    places,
    pointsHz: channels.map(({ frequencyHz }) => frequencyHz),
    own: channels.map((point) => {
      const on = document.channels
        .filter(({ frequencyHz }) => frequencyHz === point.frequencyHz)
        .map((channel) => ({ id: channel.id, powerW: settingOf(document.transmitter, channel) }))
      return on.find(({ powerW }) => powerW === point.powerW) ?? on[0] ?? null
    }),
  }
}
