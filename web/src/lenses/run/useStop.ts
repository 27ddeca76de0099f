import type { RunEntry, RunStepDocument } from '@saltline/contract'
import { correctedW, type Judged, type Meter, stopFor, stopForTime } from '@saltline/core'
import { useEffect, useState } from 'react'
import type { StepFigures } from '../../compute/tasks/stepFigures.ts'
import type { Typed } from '../../model/stepEntry.ts'

/** How long a figure must stand before it is judged, ms: half a number means nothing. */
const STANDS_MS = 700

/**
 * A rule that says unkey now, or look. Figures are judged when they have stood for a moment, or at once when they are entered.
 */
export function useStop(
  step: RunStepDocument,
  {
    typed,
    points,
    meter,
    facts,
    earlier,
    seconds,
  }: {
    typed: Typed
    points: Parameters<typeof correctedW>[0]
    meter: Meter
    facts: StepFigures | null
    earlier: RunEntry | undefined
    seconds: number
  },
): {
  judged: Judged | null
  /** What is typed, judged at once with what is known now. */
  judgeNow: (now: StepFigures | null) => Judged | null
} {
  const [stood, setStood] = useState(typed)
  useEffect(() => {
    const timer = setTimeout(() => setStood(typed), STANDS_MS)
    return () => clearTimeout(timer)
  }, [typed])
  const corrected = (read: Partial<RunEntry> | Typed) => ({
    ...(read.forwardW != null && { forwardW: correctedW(points, read.forwardW) }),
    ...(read.reflectedW != null && { reflectedW: correctedW(points, read.reflectedW) }),
    ...(read.swr != null && { swr: read.swr }),
  })
  const judge = (now: StepFigures | null): Judged | null => {
    if (step.kind !== 'read') return null
    const { expected } = now ?? {}
    return stopFor(step, corrected(typed), {
      meter,
      expected: typeof expected === 'object' && expected ? expected : undefined,
      earlier: earlier && corrected(earlier),
      limits: now?.limits,
    })
  }
  const late = stopForTime(step, seconds)
  // What stood and is being changed is no longer what the meter shows.
  const stands =
    stood.forwardW === typed.forwardW &&
    stood.reflectedW === typed.reflectedW &&
    stood.swr === typed.swr
  return {
    judged: late ? { is: 'stop', reason: late } : stands ? judge(facts) : null,
    judgeNow: (now) => {
      setStood(typed)
      return judge(now)
    },
  }
}
