import type { ChainDocument, ChannelDocument } from '@saltline/contract'
import {
  type Answer,
  answerChain,
  type Chain,
  InputError,
  type Load,
  type SweepLoad,
} from '@saltline/core'

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

export function answerChannel(chain: Chain, channel: ChannelDocument): ChannelAnswer {
  try {
    const { frequencyHz, powerW } = channel
    return { ok: true, ...answerChain(chain, { frequencyHz, powerW }) }
  } catch (error) {
    if (!(error instanceof InputError)) throw error
    return { ok: false, message: error.message }
  }
}
