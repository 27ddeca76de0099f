/** The question of someone who has just one: five figures in, a small chain out. */
import { CHAIN_DOCUMENT_VERSION, type ChainDocument, limits } from '@saltline/contract'
import {
  cableClasses,
  type Dimension,
  formatDb,
  formatSwr,
  lineConstants,
  matchedLossDb,
  parseQuantity,
  swrAtLoad,
} from '@saltline/core'
import { copyOfClass } from '../../model/stages/line.ts'

export interface QuickSum {
  powerW: number
  cableId: string
  lengthM: number
  frequencyHz: number
  swr: number
  readAt: 'radio' | 'antenna'
  /** A lossless one at the radio, or none. */
  tuner: 'none' | 'radio'
}

export const firstSum: QuickSum = {
  powerW: 100,
  cableId: 'pe-5',
  lengthM: 30,
  frequencyHz: 14.2e6,
  swr: 1.5,
  readAt: 'antenna',
  tuner: 'none',
}

/** The sum as an address, in the units people type: `?p=100&cable=pe-5&l=30&f=14.2&swr=1.5&at=antenna`. */
export const writeQuickSum = (sum: QuickSum): Record<string, string> => ({
  p: String(sum.powerW),
  cable: sum.cableId,
  l: String(sum.lengthM),
  f: String(Number((sum.frequencyHz / 1e6).toPrecision(9))),
  swr: String(sum.swr),
  at: sum.readAt,
  ...(sum.tuner === 'radio' && { tuner: 'radio' }),
})

/** What an address says, and which of its parts could not be read. */
export interface ReadAddress {
  sum: QuickSum
  /** In words, one a part: what stands in the address and what was taken instead. */
  unread: string[]
}

/** Reads an address, in the same grammar as the fields; what is missing is as in the first sum. */
export function readQuickSum(search: URLSearchParams): ReadAddress {
  const unread: string[] = []
  const number = (
    key: string,
    dimension: Dimension,
    unit: string,
    [min, max]: readonly [number, number],
    otherwise: number,
  ) => {
    const text = search.get(key)
    if (text === null) return otherwise
    const parsed = parseQuantity(text, dimension, unit, { min, max })
    if (parsed.ok) return parsed.value
    unread.push(`${key}=${text}: ${parsed.message}`)
    return otherwise
  }
  const cable = search.get('cable')
  const known = cableClasses.some(({ id }) => id === cable)
  if (cable !== null && !known) unread.push(`cable=${cable}: there is no such class of cable.`)
  return {
    sum: {
      powerW: number('p', 'power', 'W', limits.powerW, firstSum.powerW),
      cableId: known ? cable! : firstSum.cableId,
      lengthM: number('l', 'length', 'm', limits.lengthM, firstSum.lengthM),
      frequencyHz: number('f', 'frequency', 'MHz', limits.frequencyHz, firstSum.frequencyHz),
      swr: number('swr', 'swr', '', limits.swr, firstSum.swr),
      readAt: search.get('at') === 'radio' ? 'radio' : 'antenna',
      tuner: search.get('tuner') === 'radio' ? 'radio' : 'none',
    },
    unread,
  }
}

/** A tuner that takes nothing: the sum is about the cable. */
const perfectTuner = {
  id: 'tuner',
  kind: 'tuner' as const,
  name: 'Tuner',
  method: 'given' as const,
  lossDb: 0,
  residualSwr: 1,
}

export type QuickChain =
  | { possible: true; document: ChainDocument; swrAtAntenna: number }
  | { possible: false; message: string }

/** The chain a sum describes, or why its SWR and its cable cannot both be right. */
export function quickChain(sum: QuickSum): QuickChain {
  const cable = cableClasses.find(({ id }) => id === sum.cableId)!
  const loss = matchedLossDb(lineConstants(cable, sum.frequencyHz), sum.lengthM)
  let swrAtAntenna = sum.swr
  if (sum.readAt === 'radio') {
    const seen = swrAtLoad(sum.swr, loss)
    if (!seen.possible) {
      return {
        possible: false,
        message:
          `An SWR of ${formatSwr(sum.swr)} at the radio cannot come through ${formatDb(loss)} of cable: ` +
          `even an open end would read only ${formatSwr(seen.highestSwrSeen)}. ` +
          `Either the reading is wrong, or the cable is shorter or better than given.`,
      }
    }
    swrAtAntenna = seen.swr
  }
  return {
    possible: true,
    swrAtAntenna,
    document: {
      version: CHAIN_DOCUMENT_VERSION,
      name: 'Quick sum',
      transmitter: { name: 'Transmitter', ratedW: sum.powerW, behaviour: 'levelled', foldback: [] },
      stages: [
        ...(sum.tuner === 'radio' ? [perfectTuner] : []),
        {
          id: 'cable',
          kind: 'line',
          name: 'Cable',
          lengthM: sum.lengthM,
          cable: copyOfClass(cable),
        },
      ],
      load: {
        kind: 'swr',
        name: 'Antenna',
        swr: Math.min(1000, Number(swrAtAntenna.toPrecision(6))),
      },
      channels: [
        { id: 'c1', frequencyHz: sum.frequencyHz, mode: 'voice-plain', powerW: sum.powerW },
      ],
    },
  }
}
