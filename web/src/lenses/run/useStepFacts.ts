import type { Run, RunStepDocument } from '@saltline/contract'
import { isKeyed, type Meter, usualTolerances } from '@saltline/core'
import { useEffect, useMemo, useRef, useState } from 'react'
import type { StepFigures } from '../../compute/tasks/stepFigures.ts'
import { useTask } from '../../compute/useTask.ts'
import type { LensProps } from '../../editor/lens.ts'
import { doneOf, runStationOf } from '../../model/runs.ts'

export interface StepFacts {
  /** Null until it is worked out. */
  facts: StepFigures | null
  /** Why nothing is expected. */
  why: string | null
  /** What is worked out, once it is; rejects with why it cannot be. */
  known: () => Promise<StepFigures>
}

/** What the meter should show at a step, and whether it may be keyed: worked out off the page. */
export function useStepFacts({
  run,
  step,
  chain,
  document,
  station,
  meter,
}: Pick<LensProps, 'chain' | 'document' | 'station'> & {
  run: Run
  step: RunStepDocument
  meter: Meter
}): StepFacts {
  const [nowS, setNowS] = useState(() => Date.now() / 1000)
  const wanted = isKeyed(step) || step.makes?.load !== undefined
  const { gear } = station
  const request = useMemo(
    () =>
      wanted
        ? {
            station: runStationOf(document, chain, { gear }),
            steps: [step],
            tolerances: document.tolerances ?? usualTolerances,
            meter,
            run: { steps: run.steps, done: doneOf(run), nowS },
          }
        : null,
    [wanted, run, step, chain, document, gear, meter, nowS],
  )
  const { last, problem: trouble } = useTask('stepFigures', request)
  const facts = last?.[step.id] ?? null
  const restS = facts?.against.find(({ violation }) => violation.rule === 'rest')?.violation
  const seconds = restS?.rule === 'rest' ? restS.seconds : null
  useEffect(() => {
    if (seconds === null) return
    const timer = setTimeout(() => setNowS(Date.now() / 1000), Math.min(seconds * 1000 + 50, 5000))
    return () => clearTimeout(timer)
  }, [seconds, nowS])
  const waiting = useRef<{ tell: (facts: StepFigures) => void; fail: (why: Error) => void }[]>([])
  useEffect(() => {
    if (!facts && trouble === null) return
    for (const { tell, fail } of waiting.current) {
      if (facts) tell(facts)
      else fail(new Error(trouble!))
    }
    waiting.current = []
  }, [facts, trouble])
  const known = () =>
    facts
      ? Promise.resolve(facts)
      : trouble !== null
        ? Promise.reject(new Error(trouble))
        : new Promise<StepFigures>((tell, fail) => waiting.current.push({ tell, fail }))
  const expected = facts?.expected
  return {
    facts,
    why: typeof expected === 'string' ? expected : trouble,
    known,
  }
}
