/** A sweep that a step of a run sheet asks for. */
import type { ChainDocument, StageDocument } from '@saltline/contract'
import type { AlongLine, Chain, FarEnd, Outside, SweepTarget } from '@saltline/core'
import { planesAlong } from './alongLine.ts'

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

/** What is looked along: the chain from where its line begins, or its longest cable alone. Null where there is no cable. */
export function sweptPart(
  { of }: SweepTarget,
  document: ChainDocument,
  chain: Chain,
): { chain: Chain; plane: number; stages: readonly StageDocument[]; where: string } | null {
  if (of === 'line') {
    const first = planesAlong(document)[0]
    return first
      ? { chain, plane: first.plane, stages: document.stages.slice(first.plane), where: first.name }
      : null
  }
  const lines = document.stages.flatMap((stage, k) =>
    stage.kind === 'line' && !stage.bypassed && stage.lengthM > 0 ? [{ stage, k }] : [],
  )
  const [first, ...others] = lines
  if (!first) return null
  const { stage, k } = others.reduce(
    (longest, own) => (own.stage.lengthM > longest.stage.lengthM ? own : longest),
    first,
  )
  return {
    chain: { ...chain, stages: [chain.stages[k]!] },
    ...{ plane: 0, stages: [stage], where: `at one end of ${stage.name} alone` },
  }
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
