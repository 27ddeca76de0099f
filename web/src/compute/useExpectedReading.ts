import type { ChainDocument, ChannelDocument } from '@saltline/contract'
import {
  type Chain,
  type ExpectedReading,
  expectReading,
  type FarEnd,
  type Meter,
  usualTolerances,
  withEnd,
} from '@saltline/core'
import { useMemo } from 'react'
import { answerChannel, type ChannelAnswer, operatingPoint } from '../model/answers.ts'
import { useTask } from './useTask.ts'

/**
 * What a meter should show at a plane, with everything that is not known about chain and meter: the same wherever it is
 * asked. The range is the meter's alone until that of the chain has been drawn.
 */
export function useExpectedReading(
  chain: Chain,
  { transmitter, tolerances = usualTolerances }: ChainDocument,
  channel: ChannelDocument,
  plane: number,
  meter: Meter,
  farEnd?: FarEnd,
): { answer: ChannelAnswer; expected: ExpectedReading | undefined } {
  const answer = useMemo(
    () => answerChannel(withEnd(chain, farEnd), transmitter, channel),
    [chain, transmitter, channel, farEnd],
  )
  const request = useMemo(
    () => ({
      chain,
      at: [{ ...operatingPoint(transmitter, channel), farEnd }],
      tolerances,
    }),
    [chain, transmitter, tolerances, channel, farEnd],
  )
  const { result } = useTask('ranges', answer.ok ? request : null)
  const state = answer.ok ? answer.solution.planes[plane] : undefined
  const ranges = result?.[0]?.planes[plane]
  return { answer, expected: state && expectReading({ ...state, ranges }, meter, channel) }
}
