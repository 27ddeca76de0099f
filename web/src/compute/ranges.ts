/** The ranges of a chain's figures, for whoever shows one. */
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
import { type UncertaintyRun, useUncertainty } from './useUncertainty.ts'

/** How the drawing of ranges stands. */
export interface RangesRun {
  /** Share that is done; null while nothing runs. */
  progress: number | null
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
  progress: null,
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
            task: 'ranges' as const,
            chain,
            at: channels.map((channel) => operatingPoint(transmitter, channel)),
            tolerances: tolerances ?? usualTolerances,
          }
        : null,
    [on, chain, channels, transmitter, tolerances],
  )
  const { result, progress, stop } = useUncertainty(request)
  return useMemo(
    () => ({
      ...rangesRun({ result, progress, stop }),
      on,
      setOn,
      of: (id) => (result && 'ranges' in result ? result.ranges[indexOf(channels, id)] : undefined),
    }),
    [on, result, progress, stop, channels],
  )
}

const setOn = (wanted: boolean) => setPreferences({ ranges: wanted })

const rangesRun = ({ result, progress, stop }: UncertaintyRun): RangesRun => ({
  progress,
  stop: () => {
    stop()
    setOn(false)
  },
  problem: result && 'problem' in result ? result.problem : null,
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
            task: 'limits' as const,
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
  const run = useUncertainty(request)
  const { result } = run
  return {
    ...rangesRun(run),
    of: (id) =>
      result && 'limits' in result ? (result.limits[indexOf(document.channels, id)] ?? null) : null,
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
            task: 'worth' as const,
            chain,
            tuner,
            at: channels.map((channel) => operatingPoint(transmitter, channel)),
            tolerances: tolerances ?? usualTolerances,
          }
        : null,
    [on, chain, tuner, channels, transmitter, tolerances],
  )
  const run = useUncertainty(request)
  const { result } = run
  return {
    ...rangesRun(run),
    of: (id) =>
      result && 'worth' in result ? (result.worth[indexOf(channels, id)] ?? null) : null,
  }
}

const indexOf = (channels: readonly ChannelDocument[], id: string): number =>
  channels.findIndex((channel) => channel.id === id)
