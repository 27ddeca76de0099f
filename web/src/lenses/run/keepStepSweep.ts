import type { ChainDocument, Run, RunStepDocument } from '@saltline/contract'
import type { AnalyserErrors } from '@saltline/core'
import type { NewEntry } from '../../model/stepEntry.ts'
import { stopOf } from '../../model/stepEntry.ts'
import { type SweptStep, sweptLook, sweptWords } from '../../model/sweptStep.ts'
import { enterLineSweep } from '../../platform/outbox/enter.ts'

/**
 * Puts the sweep of a step into the log, and what it said into the record of the step, with that the operator went on despite
 * it. Kept again, it is there once.
 */
export async function keepStepSweep(
  swept: SweptStep,
  {
    step,
    run,
    chainId,
    document,
    analyser,
  }: {
    step: RunStepDocument
    run: Run
    chainId: string
    document: ChainDocument
    /** How far the analyser may be off. */
    analyser: AnalyserErrors
  },
): Promise<Partial<NewEntry>> {
  const { id, text, name, readAt, wrong } = swept
  const words = sweptWords(swept)
  const found = { ...(words && { words }), ...(wrong && { stop: stopOf('sweep', words, true) }) }
  const look = step.sweep && sweptLook(step.sweep, document)
  if (!look) return found
  await enterLineSweep(
    chainId,
    {
      ...{ before: look.before, alone: look.alone, farEnd: step.sweep!.farEnd },
      ...{ readAt, name, by: run.by, analyser },
      ...{ touchstone: text, note: `${run.title}: ${step.title}`.slice(0, 200) },
    },
    id,
  )
  return { ...found, sweepId: id }
}
