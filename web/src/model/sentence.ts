/** The answer in words: what arrives, how far down that is, and who took most of the rest. */
import type { ChainDocument } from '@saltline/contract'
import {
  DB_PER_S_UNIT,
  floorPower,
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

/** The clauses after the first sentence: the two greatest losses, as far as they matter. */
export function takersSentence(
  document: ChainDocument,
  solution: Solution,
  ledger: Ledger,
): string {
  const [first, second] = ledger.rows
    .filter((row) => row.lossW > 0.005 * ledger.settingW)
    .sort((a, b) => b.lossW - a.lossW)
  if (!first) return 'Next to nothing is lost on the way.'
  const most = first.share > 0.5 ? 'most of what is lost' : 'the largest share'
  const lead =
    first.stage < 0
      ? notDelivered(document, solution, first.lossW)
      : `${nameOf(document, first.stage)} takes ${most}, ${formatPower(first.lossW)}`
  if (!second || second.share < 0.15) return `${lead}.`
  const follow =
    second.stage < 0
      ? notDelivered(document, solution, second.lossW)
      : `${nameOf(document, second.stage)} takes ${formatPower(second.lossW)}`
  return `${lead}; ${follow}.`
}

function notDelivered(document: ChainDocument, solution: Solution, watts: number): string {
  return `${document.transmitter.name} does not deliver ${formatPower(watts)}, since it sees an SWR of ${formatSwr(solution.planes[0]!.swr)}`
}

export const downText = (db: number): string =>
  db >= -0.005 ? `${formatDb(db)} down, ${heardWords(db)}` : `${formatDb(-db)} up`

/** What cannot stay as it is: no match, too much drive, an amplifier that would switch itself off. */
export interface Fact {
  stage: number
  text: string
}

export function factsOf(document: ChainDocument, solution: Solution, unit: PowerUnit): Fact[] {
  return solution.stages.flatMap(({ tuner, amplifier }, stage) => {
    const name = nameOf(document, stage)
    const facts: Fact[] = []
    if (tuner && !tuner.matched)
      facts.push({
        stage,
        text: `${name} cannot match this: ${tuner.reason ?? 'no setting does'}. The nearest it gets is SWR ${formatSwr(tuner.swrIn)}.`,
      })
    if (amplifier?.cure) {
      const { turnDownToW, padDb } = amplifier.cure
      const pad = padDb === null ? '' : `, or put a pad of at least ${formatDb(padDb)} at its input`
      facts.push({
        stage,
        text: `Too much drive: ${name} gets ${formatPower(amplifier.driveW, unit)} and wants at most ${formatPower(amplifier.mostDriveW, unit)} in this mode. Turn ${document.transmitter.name} down to ${formatPower(floorPower(turnDownToW), unit)}${pad}.`,
      })
    }
    if (amplifier?.trips) {
      const { by, value, limit } = amplifier.trips
      const text = (v: number) => (by === 'SWR' ? formatSwr(v) : formatPower(v, unit))
      facts.push({
        stage,
        text: `${name} would switch itself off: ${by} ${text(value)} at its output, its limit is ${text(limit)}. The figures are what it would give if it held.`,
      })
    }
    return facts
  })
}
