/** The answer in words: what arrives, how far down that is, and who took most of the rest. */
import type { ChainDocument } from '@saltline/contract'
import {
  DB_PER_S_UNIT,
  formatDb,
  formatPower,
  formatSwr,
  type Ledger,
  type PowerUnit,
  type Solution,
} from '@saltline/core'

/** How a drop in level is heard at the other end; the words follow the number. */
export function heardWords(db: number): string {
  const units = db / DB_PER_S_UNIT
  if (db < 0.05) return 'nothing lost'
  if (db < 1) return 'not heard'
  if (units < 0.5) return 'under half an S‑unit'
  if (units < 0.95) return 'under one S‑unit'
  const rounded = Math.round(units * 2) / 2
  return `about ${rounded} S‑unit${rounded === 1 ? '' : 's'}`
}

const nameOf = (document: ChainDocument, stage: number): string =>
  stage < 0 ? document.transmitter.name : document.stages[stage]!.name

/** The clauses after the first sentence: the two greatest takers, as far as they matter. */
export function takersSentence(
  document: ChainDocument,
  solution: Solution,
  ledger: Ledger,
  unit: PowerUnit,
): string {
  const [first, second] = ledger.rows
    .filter((row) => row.lossW > 0.005 * ledger.settingW)
    .sort((a, b) => b.lossW - a.lossW)
  if (!first) return 'Next to nothing is lost on the way.'
  const most = first.share > 0.5 ? 'most of what is lost' : 'the largest share'
  const lead =
    first.stage < 0
      ? holdsBack(document, solution, first.lossW, unit)
      : `${nameOf(document, first.stage)} takes ${most}, ${formatPower(first.lossW, unit)}`
  if (!second || second.share < 0.15) return `${lead}.`
  const follow =
    second.stage < 0
      ? holdsBack(document, solution, second.lossW, unit)
      : `${nameOf(document, second.stage)} takes ${formatPower(second.lossW, unit)}`
  return `${lead}; ${follow}.`
}

function holdsBack(document: ChainDocument, solution: Solution, watts: number, unit: PowerUnit) {
  return `${document.transmitter.name} holds back ${formatPower(watts, unit)}, since it sees an SWR of ${formatSwr(solution.planes[0]!.swr)}`
}

export const downText = (db: number): string => `${formatDb(db)} down, ${heardWords(db)}`
