import type { RunStepDocument } from '@saltline/contract'
import { type Chain, chainOfStep, type RunChannel } from '@saltline/core'

/** The plane of the chain that a step is read at. */
export const planeOfStep = (chain: Chain, step: RunStepDocument, channel: RunChannel): number =>
  chainOfStep(chain, step, channel).plane
