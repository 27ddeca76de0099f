/** The answer in words: what arrives, how far down that is, and who took most of the rest. */
import type { ChainDocument } from '@saltline/contract'
import {
  DB_PER_S_UNIT,
  floorPower,
  formatDb,
  formatPower,
  formatSwr,
  type Ledger,
  type LedgerRow,
  type PowerUnit,
  type Range,
  type Solution,
  type Spread,
} from '@saltline/core'
import { ledgerRanges } from './ledgerRanges.ts'
import { rangeText, wattsText } from './wattsText.ts'

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
  spread: Spread | null = null,
): string {
  const ranges = spread && ledgerRanges(ledger, spread)
  const lostIn = (row: LedgerRow) =>
    wattsText(row.lossW, 'W', ranges?.rows[ledger.rows.indexOf(row)]!.lossW)
  const notDelivered = (row: LedgerRow) =>
    `${document.transmitter.name} does not deliver ${lostIn(row)}, since it sees an SWR of ${rangeText(solution.planes[0]!.swr, spread?.planes[0]!.swr, formatSwr)}`
  const [first, second] = ledger.rows
    .filter((row) => row.lossW > 0.005 * ledger.settingW)
    .sort((a, b) => b.lossW - a.lossW)
  if (!first) return 'Next to nothing is lost on the way.'
  const most = first.share > 0.5 ? 'most of what is lost' : 'the largest share'
  const lead =
    first.stage < 0
      ? notDelivered(first)
      : `${nameOf(document, first.stage)} takes ${most}, ${lostIn(first)}`
  if (!second || second.share < 0.15) return `${lead}.`
  const follow =
    second.stage < 0
      ? notDelivered(second)
      : `${nameOf(document, second.stage)} takes ${lostIn(second)}`
  return `${lead}; ${follow}.`
}

/** How far down; of a range its two ends, and what is heard of the middle. */
export const downText = (db: number, range?: Range): string =>
  db >= -0.005
    ? `${rangeText(db, range, formatDb)} down, ${heardWords(db)}`
    : `${rangeText(-db, range && { low: -range.high, high: -range.low }, formatDb)} up`

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
