/** What the operating card says of one channel. */
import type { ChainDocument, ChannelDocument, Station } from '@saltline/contract'
import {
  type Chain,
  type Expectation,
  expectOn,
  InputError,
  mostPower,
  type MostPower,
  type RatedChain,
  type Solution,
  swrOf,
  usualMeter,
} from '@saltline/core'
import { answerChannel, operatingPoint, ratedOn, settingOf } from '../chain/answers.ts'
import { elementName, elementValue } from '../lenses/budget/activeWorking.ts'
import { isPart, surroundingsOf } from '../lenses/headroom/words.ts'

export interface MeterReading {
  name: string
  /** On an averaging meter in this mode. */
  forward: Expectation
  forwardPepW: number
  reflectedPepW: number
  swr: number
  /** Up to here it is still the same antenna. */
  normalSwr: number
}

export interface CardRow {
  channel: ChannelDocument
  settingW: number
  antennaW: number
  meters: MeterReading[]
  /** Name of a tuner, what to set, and dial marks. */
  tuners: { name: string; setting: string; dials: string }[]
  most: MostPower
  /** The most that may be set: by parts, the radio's rating and the licence, W. */
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
function metersOf({ stages }: ChainDocument, solution: Solution, channel: ChannelDocument) {
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
      forward: expectOn(usualMeter, forwardW, channel),
      forwardPepW: forwardW,
      reflectedPepW: reflectedW,
      swr,
      normalSwr: normalSwr(swr),
    }
  })
}

function tunersOf({ stages }: ChainDocument, solution: Solution, channelId: string) {
  return stages.flatMap((stage, k) => {
    const state = solution.stages[k]?.tuner
    if (stage.kind !== 'tuner' || stage.bypassed || !state) return []
    const byHand = stage.method === 'network' && !stage.automatic
    return [
      {
        name: stage.name,
        setting: !state.matched
          ? 'cannot match here'
          : byHand
            ? state.elements
                .map(
                  (e, i) =>
                    `${i === 0 ? elementName(e) : elementName(e).toLowerCase()} ${elementValue(e)}`,
                )
                .join(', ')
            : 'sets itself',
        dials: (stage.dials?.[channelId] ?? []).filter(Boolean).join(' · '),
      },
    ]
  })
}

/** null where the chain has no figure on the channel. */
export function cardRow(
  station: Station,
  document: ChainDocument,
  chain: Chain,
  channel: ChannelDocument,
): CardRow | null {
  const { transmitter } = document
  const answer = answerChannel(chain, transmitter, channel)
  if (!answer.ok) return null
  try {
    const at = operatingPoint(transmitter, channel)
    const around = surroundingsOf(document, channel)
    const most = mostPower(chain as RatedChain, at, around, isPart)
    const licensed = mostPower(chain as RatedChain, at, around, ({ kind }) => kind === 'licence')
    const meters = metersOf(document, answer.solution, channel)
    return {
      channel,
      settingW: settingOf(transmitter, channel),
      antennaW: answer.solution.antennaW,
      meters,
      tuners: tunersOf(document, answer.solution, channel.id),
      most,
      allowedW: Math.min(most.powerW, licensed.powerW, ratedOn(transmitter, channel.frequencyHz)),
      stopSwr: Math.max(station.swrLimit, meters[0]!.normalSwr),
    }
  } catch (error) {
    if (!(error instanceof InputError)) throw error
    return null
  }
}
