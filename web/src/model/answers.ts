import type {
  ChainDocument,
  ChannelDocument,
  StageDocument,
  TransmitterDocument,
} from '@saltline/contract'
import {
  type Answer,
  answerChain,
  type Chain,
  InputError,
  type Load,
  type OperatingPoint,
  type SweepLoad,
} from '@saltline/core'

/**
 * Whether a plane lies behind the last tuner with no line there or further on: then no wave travels, and
 * forward power, reflected power and SWR on 50 Ω say nothing; impedance, voltage and current do.
 */
export function beyondTuner(
  stages: readonly Pick<StageDocument, 'kind' | 'bypassed'>[],
  plane: number,
): boolean {
  const tuner = stages.findLastIndex(
    ({ kind, bypassed }, k) => kind === 'tuner' && !bypassed && k < plane,
  )
  return (
    tuner >= 0 &&
    !stages.slice(tuner + 1).some(({ kind, bypassed }) => kind === 'line' && !bypassed)
  )
}

/** What a channel comes to, or why it comes to nothing. */
export type ChannelAnswer = ({ ok: true } & Answer) | { ok: false; message: string }

/** The chain a document describes; null while its antenna's sweep is on the way. */
export function chainOfDocument(
  document: ChainDocument,
  sweep: SweepLoad | undefined,
): Chain | null {
  const load: Load | undefined = document.load.kind === 'antenna' ? sweep : document.load
  return load ? { transmitter: document.transmitter, stages: document.stages, load } : null
}

/** What the transmitter gives on a channel, PEP: its setting, or less while power is reduced. */
export const settingOf = ({ reduced }: TransmitterDocument, { powerW }: ChannelDocument): number =>
  reduced?.on ? Math.min(powerW, reduced.powerW) : powerW

/** What the transmitter is rated for on a frequency, W. */
export const ratedOn = ({ ratedW, bands = [] }: TransmitterDocument, hz: number): number =>
  bands.find(({ lowHz, highHz }) => hz >= lowHz && hz <= highHz)?.ratedW ?? ratedW

/** How a chain is run on a channel; tuners with knobs are set on its frequency. */
export const operatingPoint = (
  transmitter: TransmitterDocument,
  channel: ChannelDocument,
): OperatingPoint => ({
  frequencyHz: channel.frequencyHz,
  powerW: settingOf(transmitter, channel),
  mode: channel.mode,
})

export function answerChannel(
  chain: Chain,
  transmitter: TransmitterDocument,
  channel: ChannelDocument,
): ChannelAnswer {
  try {
    return { ok: true, ...answerChain(chain, operatingPoint(transmitter, channel)) }
  } catch (error) {
    if (!(error instanceof InputError)) throw error
    return { ok: false, message: error.message }
  }
}

/** The same while the antenna's sweep is on the way (null) or could not be loaded. */
export const answerOf = (
  chain: Chain | null,
  transmitter: TransmitterDocument,
  channel: ChannelDocument,
  sweepError: Error | null,
): ChannelAnswer | null =>
  chain
    ? answerChannel(chain, transmitter, channel)
    : sweepError && { ok: false, message: sweepError.message }
