import type { ChainDocument } from '@saltline/contract'
import { type Cause, lineConstants, matchedLossDb, padLossDb } from '@saltline/core'
import { changeStage, type Edit } from './edits.ts'

/** No cable ages by more: a loss beyond it is a joint. */
const MOST_AGED = 20

/** What a cause changes in the chain, so that the prediction speaks of the station as it is. */
export function applyOf(
  cause: Cause,
  document: ChainDocument,
  hz: number,
): { label: string; done: string; edit: Edit } | null {
  const index =
    cause.kind === 'aged'
      ? cause.stage
      : cause.kind === 'loss' && cause.from === cause.to
        ? cause.to
        : -1
  const stage = document.stages[index]
  const label = 'Apply to the chain'
  const reason = 'found from readings'
  if (stage?.kind === 'line') {
    const now = stage.ageing?.factor ?? 1
    const lossDb = matchedLossDb(lineConstants(stage.cable, hz), stage.lengthM)
    const to =
      cause.kind === 'loss' ? now + cause.db / lossDb : now * (cause as { factor: number }).factor
    const factor = Number(to.toFixed(2))
    if (factor > MOST_AGED) return null
    return {
      label,
      done: `${stage.name} is now aged by ${factor}`,
      edit: changeStage(stage.id, (own) =>
        own.kind === 'line' ? { ...own, ageing: { factor, reason } } : own,
      ),
    }
  }
  if (stage?.kind === 'pad' && cause.kind === 'loss') {
    const lossDb = Number((padLossDb(stage, hz) + cause.db).toFixed(2))
    return {
      label,
      done: `${stage.name} now loses ${lossDb}\u00a0dB`,
      edit: changeStage(stage.id, (own) =>
        own.kind === 'pad' ? { ...own, lossDb, points: undefined, atHz: undefined } : own,
      ),
    }
  }
  return null
}
