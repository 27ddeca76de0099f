/** The ranges of a chain's figures, for whoever shows one. */
import type { ChainDocument } from '@saltline/contract'
import { type Chain, type ChannelUncertainty, usualTolerances } from '@saltline/core'
import { createContext, useContext, useMemo } from 'react'
import { setPreferences, usePreferences } from '../platform/preferences.ts'
import { operatingPoint } from '../model/answers.ts'
import { type UncertaintyRun, useUncertainty } from './useUncertainty.ts'

export interface Ranges {
  /** Whether they are wanted. */
  on: boolean
  setOn: (on: boolean) => void
  of: (channelId: string) => ChannelUncertainty | undefined
  progress: number | null
  stop: () => void
  problem: string | null
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
  const { result, progress, stop }: UncertaintyRun = useUncertainty(request)
  return useMemo(
    () => ({
      on,
      setOn: (wanted) => setPreferences({ ranges: wanted }),
      of: (id) =>
        result && 'ranges' in result
          ? result.ranges[channels.findIndex((channel) => channel.id === id)]
          : undefined,
      progress,
      stop: () => {
        stop()
        setPreferences({ ranges: false })
      },
      problem: result && 'problem' in result ? result.problem : null,
    }),
    [on, result, progress, stop, channels],
  )
}
