import type { ChainDocument, Run, RunStepDocument } from '@saltline/contract'
import type { AnalyserErrors, Chain } from '@saltline/core'
import type { NewEntry } from '../../model/stepEntry.ts'
import { stopOf } from '../../model/stepEntry.ts'
import { type SweptStep, sweptPart, sweptWords } from '../../model/sweptStep.ts'
import { enterLineSweep } from '../../platform/outbox/enter.ts'

/**
 * What a sweep adds to the record of its step: what it said, and that the operator went on despite it. One of the line as it
 * stands goes into the log; that of a cable alone stays with the run. Kept again, it is there once.
 */
export async function keepStepSweep(
  swept: SweptStep,
  {
    step,
    run,
    chainId,
    document,
    chain,
    analyser,
  }: {
    step: RunStepDocument
    run: Run
    chainId: string
    document: ChainDocument
    chain: Chain
    /** How far the analyser may be off. */
    analyser: AnalyserErrors
  },
): Promise<Partial<NewEntry>> {
  const { id, text, name, readAt, wrong } = swept
  const words = sweptWords(swept)
  const found = { ...(words && { words }), ...(wrong && { stop: stopOf('sweep', words, true) }) }
  const part = step.sweep?.of === 'line' ? sweptPart(step.sweep, document, chain) : null
  if (!part) return found
  await enterLineSweep(
    chainId,
    {
      ...{ before: part.stages[0]!.id, farEnd: step.sweep!.farEnd, readAt, name, by: run.by },
      analyser,
      ...{ touchstone: text, note: `${run.title}: ${step.title}`.slice(0, 200) },
    },
    id,
  )
  return { ...found, sweepId: id }
}
