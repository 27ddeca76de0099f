/** What the operating card says of one channel. */
import { dialText } from '../../model/dials.ts'
import type { ChainDocument, ChannelDocument, Station } from '@saltline/contract'
import {
  answerChain,
  type Chain,
  type ChannelUncertainty,
  type ExpectedReading,
  expectReading,
  floorPower,
  InputError,
  mostPower,
  type MostPower,
  type Solution,
  swrOf,
  type Meter,
  type Range,
} from '@saltline/core'
import { operatingPoint, ratedOn, settingOf } from '../../model/answers.ts'
import { meterChoices } from '../../model/places.ts'
import { elementValue } from '../../model/tunerWords.ts'
import { isPart, surroundingsOf } from '../../model/headroomWords.ts'

export interface MeterReading {
  name: string
  /** On the station's first meter in this mode, with what that meter leaves open. */
  forward: ExpectedReading
  shows: Meter['kind']
  forwardPepW: number
  reflectedPepW: number
  swr: number
  /** Up to here it is still the same antenna. */
  normalSwr: number
}

export interface CardRow {
  channel: ChannelDocument
  /** What to set, W PEP, and what the channel asks for; all other figures are at what to set. */
  setW: number
  wantedW: number
  antennaW: number
  /** 5 to 95 % of it; missing until they are drawn. */
  antennaRange?: Range | undefined
  meters: MeterReading[]
  /** Name of a tuner, what to set, and dial marks. */
  tuners: { name: string; setting: string; dials: string }[]
  most: MostPower
  /** The most that may be set: by parts, the radio's rating and the licence, W, rounded down. */
  allowedW: number
  /** Stop when the first meter shows more. */
  stopSwr: number
}

/** So much more |ρ| is the instrument or the weather, not a fault. */
const NORMAL_RHO = 0.05

const normalSwr = (swr: number): number => {
  const rho = swr === Infinity ? 1 : (swr - 1) / (swr + 1)
  return swrOf(Math.min(1, rho + NORMAL_RHO))
}

/** Meters where they stand, or what one at the radio's output would show. */
function metersOf(
  { stages }: ChainDocument,
  solution: Solution,
  channel: ChannelDocument,
  { meter, ranges }: { meter: Meter; ranges: ChannelUncertainty | undefined },
) {
  const standing = stages.flatMap((stage, k) =>
    stage.kind === 'pad' && stage.part === 'meter' && !stage.bypassed
      ? [{ name: stage.name, plane: k }]
      : [],
  )
  const all = standing.length > 0 ? standing : [{ name: 'at the radio', plane: 0 }]
  return all.map(({ name, plane }): MeterReading => {
    const { forwardW, reflectedW, swr } = solution.planes[plane]!
    return {
      name,
      forward: expectReading({ forwardW, swr, ranges: ranges?.planes[plane] }, meter, channel),
      shows: meter.kind,
      forwardPepW: forwardW,
      reflectedPepW: reflectedW,
      swr,
      normalSwr: normalSwr(swr),
    }
  })
}

function tunersOf({ stages }: ChainDocument, solution: Solution, channelId: string) {
  return stages.flatMap((stage, k) => {
    // Tune and load of an amplifier belong to the same look at the front panels.
    if (stage.kind === 'amplifier' && !stage.bypassed && dialText(stage.dials?.[channelId]))
      return [
        { name: stage.name, setting: 'tune · load', dials: dialText(stage.dials?.[channelId]) },
      ]
    const state = solution.stages[k]?.tuner
    if (stage.kind !== 'tuner' || stage.bypassed || !state) return []
    const byHand = stage.method === 'network' && !stage.automatic
    return [
      {
        name: stage.name,
        setting: !state.matched
          ? 'cannot match here'
          : byHand
            ? // From the transmitter's side; the units say which is coil and which capacitor.
              state.elements.map(elementValue).join(' · ')
            : 'sets itself',
        dials: dialText(stage.dials?.[channelId]),
      },
    ]
  })
}

/** What a row says, or why the chain has no figure on the channel. */
export type CardLine = { ok: true; row: CardRow } | { ok: false; message: string }

/** A row of the card, solved at the power that it tells the operator to set. */
export function cardRow(
  station: Station,
  document: ChainDocument,
  chain: Chain,
  channel: ChannelDocument,
  /** Of the chain at the power that the row tells to set. */
  ranges?: ChannelUncertainty,
): CardLine {
  const { transmitter } = document
  try {
    const at = operatingPoint(transmitter, channel)
    const around = surroundingsOf(document, channel)
    const most = mostPower(chain, at, around, isPart)
    const licensed = mostPower(chain, at, around, ({ kind }) => kind === 'licence')
    const allowedW = floorPower(
      Math.min(most.powerW, licensed.powerW, ratedOn(transmitter, channel.frequencyHz)),
    )
    const wantedW = settingOf(transmitter, channel)
    const setW = Math.min(wantedW, allowedW)
    const { solution } = answerChain(chain, { ...at, powerW: setW })
    const { meter } = meterChoices(station)[0]!
    const meters = metersOf(document, solution, channel, { meter, ranges })
    return {
      ok: true,
      row: {
        channel,
        setW,
        wantedW,
        antennaW: solution.antennaW,
        antennaRange: ranges?.antennaW,
        meters,
        tuners: tunersOf(document, solution, channel.id),
        most,
        allowedW,
        stopSwr: Math.max(station.swrLimit, meters[0]!.normalSwr),
      },
    }
  } catch (error) {
    if (!(error instanceof InputError)) throw error
    return { ok: false, message: error.message }
  }
}
