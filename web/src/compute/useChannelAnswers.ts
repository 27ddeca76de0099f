import type { ChannelDocument, TransmitterDocument } from '@saltline/contract'
import type { Chain } from '@saltline/core'
import { useMemo } from 'react'
import { answerOf, type ChannelAnswer } from '../model/answers.ts'

/**
 * What every channel of the bar comes to, with the change that was made. The one that is looked at is given, solved
 * already.
 */
export function useChannelAnswers(
  chain: Chain | null,
  transmitter: TransmitterDocument,
  channels: readonly ChannelDocument[],
  here: { id: string; answer: ChannelAnswer | null },
  sweepError: Error | null,
): (id: string) => ChannelAnswer | null {
  const others = useMemo(
    () =>
      new Map(
        channels.map((each) => [
          each.id,
          lazily(() => answerOf(chain, transmitter, each, sweepError)),
        ]),
      ),
    [chain, channels, sweepError], // oxlint-disable-line react/exhaustive-deps
  )
  return (id) => (id === here.id ? here.answer : (others.get(id)?.() ?? null))
}

/** Computed when it is first asked for: the channel that is looked at never is. */
function lazily<T>(compute: () => T): () => T {
  let known: { value: T } | null = null
  return () => (known ??= { value: compute() }).value
}
