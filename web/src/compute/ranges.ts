/** The ranges of a chain's figures, for whoever shows one. */
import { Store } from '../platform/store.ts'
import type { ChainDocument, ChannelDocument } from '@saltline/contract'
import {
  type Chain,
  type ChannelUncertainty,
  type LimitsUncertainty,
  type PlaceRanges,
  type RatedChain,
  type TunerStage,
  type Use,
  usualTolerances,
} from '@saltline/core'
import { createContext, useContext, useMemo } from 'react'
import { setPreferences, usePreferences } from '../platform/preferences.ts'
import { operatingPoint } from '../model/answers.ts'
import { noProgress, type Tasked, useTask, type Watched } from './useTask.ts'

/** How the drawing of ranges stands. */
export interface RangesRun {
  running: boolean
  /** The share that is done. */
  progress: Watched
  /** Ends it, and no ranges are wanted any more. */
  stop: () => void
  problem: string | null
}

export interface Ranges extends RangesRun {
  /** Whether they are wanted. */
  on: boolean
  setOn: (on: boolean) => void
  of: (channelId: string) => ChannelUncertainty | undefined
}

const none: Ranges = {
  on: false,
  setOn: () => undefined,
  of: () => undefined,
  running: false,
  progress: new Store(noProgress),
  stop: () => undefined,
  problem: null,
}

export const RangesContext = createContext<Ranges>(none)

export const useRanges = (): Ranges => useContext(RangesContext)

/** Draws all channels of a chain whenever it changes, while ranges are wanted. */
export function useChainRanges(document: ChainDocument, chain: Chain | null): Ranges {
  const { ranges: on } = usePreferences()
  const { channels, transmitter, tolerances } = document
  const request = useMemo(
    () =>
      on && chain
        ? {
            chain,
            at: channels.map((channel) => operatingPoint(transmitter, channel)),
            tolerances: tolerances ?? usualTolerances,
          }
        : null,
    [on, chain, channels, transmitter, tolerances],
  )
  const { result, running, progress, problem, stop } = useTask('ranges', request)
  return useMemo(
    () => ({
      ...rangesRun({ running, progress, problem, stop }),
      on,
      setOn,
      of: (id) => result?.[indexOf(channels, id)],
    }),
    [on, result, running, progress, problem, stop, channels],
  )
}

const setOn = (wanted: boolean) => setPreferences({ ranges: wanted })

const rangesRun = ({
  running,
  progress,
  problem,
  stop,
}: Pick<Tasked<unknown>, 'running' | 'progress' | 'problem' | 'stop'>): RangesRun => ({
  running,
  progress,
  problem,
  stop: () => {
    stop()
    setOn(false)
  },
})

/** What a channel's parts bear and may bear in each use, while ranges are wanted; null while it is not there. */
export function useLimitRanges(
  document: ChainDocument,
  chain: RatedChain,
  usesOf: (channel: ChannelDocument) => Use[],
): RangesRun & { of: (channelId: string) => LimitsUncertainty[] | null } {
  const { on } = useRanges()
  const request = useMemo(
    () =>
      on
        ? {
            chain,
            channels: document.channels.map((channel) => ({
              at: operatingPoint(document.transmitter, channel),
              uses: usesOf(channel),
            })),
            tolerances: document.tolerances ?? usualTolerances,
          }
        : null,
    [on, chain, document, usesOf],
  )
  const drawn = useTask('limits', request)
  return {
    ...rangesRun(drawn),
    of: (id) => drawn.result?.[indexOf(document.channels, id)] ?? null,
  }
}

/** How sure it is what a tuner is worth in each place, while ranges are wanted; null while it is not there. */
export function useWorthRanges(
  document: ChainDocument,
  chain: Chain,
  tuner: TunerStage,
): RangesRun & { of: (channelId: string) => PlaceRanges[] | null } {
  const { on } = useRanges()
  const { channels, transmitter, tolerances } = document
  const request = useMemo(
    () =>
      on
        ? {
            chain,
            tuner,
            at: channels.map((channel) => operatingPoint(transmitter, channel)),
            tolerances: tolerances ?? usualTolerances,
          }
        : null,
    [on, chain, tuner, channels, transmitter, tolerances],
  )
  const drawn = useTask('worth', request)
  return {
    ...rangesRun(drawn),
    of: (id) => drawn.result?.[indexOf(channels, id)] ?? null,
  }
}

const indexOf = (channels: readonly ChannelDocument[], id: string): number =>
  channels.findIndex((channel) => channel.id === id)
