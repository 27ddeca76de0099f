/** Dangers of a sheet, at the steps that it was written with. */
import type { ChainDocument, RunSheetDocument } from '@saltline/contract'
import type { Danger, PowerUnit } from '@saltline/core'
import { stepsOf } from './ownSheets.ts'
import { violationWords } from './violationWords.ts'

export interface StepDanger {
  why: string
  cure: string
  /** Whether the chain, not the sheet, does not allow it: the step is then left out. */
  leftOut: boolean
}

/** By the id of the step in the sheet: a step of a loop is named once, however many rounds it is dangerous in. */
export function dangersByStep(
  { steps }: Pick<RunSheetDocument, 'steps'>,
  dangers: readonly Danger[],
  document: ChainDocument,
  power: PowerUnit,
): Record<string, StepDanger[]> {
  const ids = stepsOf(steps).map(({ id }) => id)
  const all: Record<string, StepDanger[]> = {}
  for (const { stepId, violation, of } of dangers) {
    const own = ids.find((id) => id === stepId || isRoundOf(id, stepId))
    if (own === undefined) continue
    const said = { ...violationWords(violation, document, power), leftOut: of === 'chain' }
    const before = (all[own] ??= [])
    if (!before.some(({ cure, leftOut }) => cure === said.cure && leftOut === said.leftOut))
      before.push(said)
  }
  return all
}

/** Whether a step is one of the rounds of a loop that a step of the sheet is in. */
const isRoundOf = (id: string, stepId: string): boolean =>
  stepId.startsWith(id) && /^-\d+$/.test(stepId.slice(id.length))
