/** What a step of a run becomes in its record, and what keeps it from being done. */
import type { RunEntry, RunStepDocument } from '@saltline/contract'
import type { ExpectedStep } from '@saltline/core'

/** What is typed at a step: figures as the meter shows them, dials as they read. */
export interface Typed {
  forwardW: number | null
  reflectedW: number | null
  swr: number | null
  dials: readonly string[]
}

/** An entry but for its identity, its step and its time. */
export type NewEntry = Omit<RunEntry, 'id' | 'stepId' | 'at'>

/** The figures that were typed. */
export const readOf = ({ forwardW, reflectedW, swr }: Typed) => ({
  ...(forwardW !== null && { forwardW }),
  ...(reflectedW !== null && { reflectedW }),
  ...(swr !== null && { swr }),
})

/** The longest reason of a stop that a record takes. */
const MOST_WHY = 300

export const stopOf = (
  rule: NonNullable<RunEntry['stop']>['rule'],
  why: string,
  wentOn: boolean,
): NonNullable<RunEntry['stop']> => ({ rule, why: why.slice(0, MOST_WHY), wentOn })

/** @param dialCount how many dials the step notes; their places count: the second stays the second where the first was not noted */
export function entryOfStep(
  step: RunStepDocument,
  {
    typed,
    expected,
    seconds,
    dialCount,
    stop,
  }: {
    typed: Typed
    expected: ExpectedStep | null
    /** How long the key was down. */
    seconds: number
    dialCount: number
    stop: RunEntry['stop'] | null
  },
): NewEntry {
  return {
    outcome: 'done',
    ...(step.kind === 'read' && readOf(typed)),
    ...(expected && {
      expectedW: expected.watts,
      lowW: expected.wattsRange.low,
      highW: expected.wattsRange.high,
      expectedSwr: expected.swr,
    }),
    ...(seconds > 0 && !step.rest && { keyedS: Math.round(seconds * 10) / 10 }),
    ...(step.dials &&
      typed.dials.some(Boolean) && {
        dials: Array.from({ length: dialCount }, (_, i) => (typed.dials[i] ?? '').trim()),
      }),
    ...(stop && { stop }),
  }
}

const UNKEY = 'Unkey first. Going on is a press of its own, above.'
const NOT_YET = 'Not yet: see above.'

/**
 * Why a step cannot be done now, in words; null where nothing is in its way.
 *
 * @param known what stands against it, once that is known; nothing is said of it before
 */
export function whyNotDone(
  step: RunStepDocument,
  {
    typed,
    hasChannel,
    stopped,
    wentOn,
    despite,
    known,
  }: {
    typed: Typed
    /** Whether the chain still has the channel of the step. */
    hasChannel: boolean
    /** A rule says unkey. */
    stopped: boolean
    /** Somebody said: go on all the same. */
    wentOn: boolean
    /** Somebody said to key against what stands against it. */
    despite: boolean
    known?: { against: readonly unknown[]; stopped: boolean } | undefined
  },
): string | null {
  if ((step.kind === 'read' || step.dials) && !hasChannel)
    return 'The channel of this step is no longer in the chain: skip the step, with a reason.'
  if (step.kind === 'read' && typed.forwardW === null && typed.swr === null)
    return 'Enter what the meter shows, or skip the step with a reason.'
  if (stopped && !wentOn) return UNKEY
  if (!known) return null
  if (!despite && known.against.length > 0) return NOT_YET
  return !wentOn && known.stopped ? UNKEY : null
}
