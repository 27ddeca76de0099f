/** A sweep that a step of a run sheet asks for. */
import type { ChainDocument } from '@saltline/contract'
import type { AlongLine, FarEnd, Outside, SweepTarget } from '@saltline/core'
import { type Look, looksAlong } from './alongLine.ts'

export interface SweptStep {
  /** As which it is kept. */
  id: string
  text: string
  name: string
  /** When it was taken, as far as its file tells. */
  readAt: string
  /** What it says; null until that is worked out, and of a file that cannot be read. */
  said: string[] | null
  unreadable: boolean
  /** Something is not as it should be: mend it first. */
  wrong: boolean
}

/** What it says, as short as a record of a step takes it. */
export const sweptWords = ({ said }: SweptStep): string => (said ?? []).join(' ').slice(0, 200)

/** Where a step looks from: where the line of the chain begins, or at its longest cable alone. Null where there is no cable. */
export function sweptLook({ of }: SweepTarget, document: ChainDocument): Look | null {
  const looks = looksAlong(document)
  if (of === 'line') return looks.find(({ alone }) => !alone) ?? null
  const lengthOf = ({ before }: Look) => {
    const stage = document.stages.find(({ id }) => id === before)
    return stage?.kind === 'line' ? stage.lengthM : 0
  }
  const [longest] = looks.filter(({ alone }) => alone).toSorted((a, b) => lengthOf(b) - lengthOf(a))
  return longest ?? null
}

/** More loss than this beyond what is written down is worth mending first, dB one way. */
const MOST_EXTRA_DB = 0.5

/** Whether a sweep found something to be mended before anything is keyed. */
export const sweptProblem = (
  { findings, outside, end }: Pick<AlongLine, 'findings' | 'end'> & { outside: Outside | null },
  farEnd: FarEnd,
): boolean => {
  // An open or shorted end that is not seen at all lies behind more loss still.
  const hidden = (farEnd === 'open' || farEnd === 'short') && end === null
  const lossy = end !== null && end.extraLossDb > MOST_EXTRA_DB
  return findings.length > 0 || outside !== null || hidden || lossy
}
