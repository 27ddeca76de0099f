/** Alternatives beside the chain as it stands: watts, the nearest limit, and whether the difference is sure. */
import type { ChainDocument } from '@saltline/contract'
import {
  answerChain,
  middleW,
  cableClasses,
  type Chain,
  checkLimits,
  type Difference,
  differences,
  InputError,
  type PartGain,
  partGains,
  type Range,
  type Side,
  type Stress,
  tightest,
  type Tolerances,
} from '@saltline/core'
import { operatingPoint } from '../../model/answers.ts'
import { isPart, surroundingsOf } from '../../model/headroomWords.ts'
import type { Task } from '../task.ts'

export interface Candidate {
  document: ChainDocument
  chain: Chain
}

export interface CompareRequest {
  /** The chain as it stands comes first. */
  candidates: Candidate[]
  channelId: string
  /** Given where it is to be said how sure a difference is. */
  tolerances: Tolerances | null
}

/** One alternative on one channel. */
export interface Cell {
  antennaW: number
  /** Where the antenna's phase is not known. */
  range: Range | null
  /** Against the chain as it stands, dB; null where that has no figure. */
  db: number | null
  nearest: Stress | null
  difference: Difference | null
}

/** Of each candidate: by channel, a figure or why there is none. */
export type CompareRow = Record<string, Cell | string>

export interface CompareResult {
  rows: CompareRow[]
  /** What each part of the chain as it stands could give on the channel. */
  parts: PartGain[]
}

const DRAWS = 300

export const compareTask: Task<CompareRequest, CompareResult> = (
  { candidates, channelId, tolerances },
  progress,
): CompareResult => {
  const [base] = candidates
  const rows: CompareRow[] = []
  candidates.forEach((candidate, k) => {
    const row: CompareRow = {}
    for (const { id } of base!.document.channels) row[id] = cellOf(candidate, id, rows[0]?.[id])
    if (tolerances && k > 0) addDifferences(row, base!, candidate, tolerances)
    rows.push(row)
    progress((k + 1) / candidates.length)
  })
  return { rows, parts: partsOf(base!, channelId) }
}

function cellOf(
  { document, chain }: Candidate,
  channelId: string,
  base: Cell | string | undefined,
): Cell | string {
  const channel = document.channels.find(({ id }) => id === channelId)!
  const at = operatingPoint(document.transmitter, channel)
  try {
    const answer = answerChain(chain, at)
    const antennaW = middleW(answer)
    const { stresses } = checkLimits(chain, at, surroundingsOf(document, channel))
    return {
      antennaW,
      range: answer.spread?.antennaW ?? null,
      db: typeof base === 'object' ? 10 * Math.log10(antennaW / base.antennaW) : base ? null : 0,
      nearest: tightest(stresses.filter(isPart)),
      difference: null,
    }
  } catch (error) {
    if (error instanceof InputError) return error.message
    throw error
  }
}

/** Channels that have figures on both sides are drawn together. */
function addDifferences(
  row: CompareRow,
  base: Candidate,
  other: Candidate,
  tolerances: Tolerances,
) {
  const ids = base.document.channels
    .map(({ id }) => id)
    .filter((id) => typeof row[id] === 'object' && row[id].db !== null)
  if (ids.length === 0) return
  const found = differences(sideOf(base, ids, base), sideOf(other, ids, base), tolerances, {
    draws: DRAWS,
    seed: 1,
  })
  ids.forEach((id, c) => ((row[id] as Cell).difference = found[c]!))
}

/** A part that is the same in both errs alike in both. */
function sideOf({ document, chain }: Candidate, ids: string[], base: Candidate): Side {
  const known = new Map(base.document.stages.map((stage) => [stage.id, JSON.stringify(stage)]))
  return {
    chain,
    at: ids.map((id) =>
      operatingPoint(
        document.transmitter,
        document.channels.find((each) => each.id === id)!,
      ),
    ),
    names: document.stages.map((stage) =>
      known.get(stage.id) === JSON.stringify(stage) ? stage.id : `${stage.id}, changed`,
    ),
    load: JSON.stringify(document.load) === JSON.stringify(base.document.load) ? 'same' : 'other',
  }
}

/** A cable twice as thick may still go where one is; a thicker one hardly. */
const THICKER = 2

const outerOf = (stage: ChainDocument['stages'][number]): number | null =>
  stage.kind === 'line'
    ? (stage.cable.outerMm ??
      cableClasses.find(({ id }) => id === stage.cable.gearId)?.outerMm ??
      null)
    : null

function partsOf({ document, chain }: Candidate, channelId: string): PartGain[] {
  const channel = document.channels.find(({ id }) => id === channelId)!
  try {
    return partGains(chain, operatingPoint(document.transmitter, channel), (k, { outerMm }) => {
      const own = outerOf(document.stages[k]!)
      return own === null || outerMm <= THICKER * own
    })
  } catch (error) {
    if (error instanceof InputError) return []
    throw error
  }
}
