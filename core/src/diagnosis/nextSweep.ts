/** Whether an analyser would tell the leading causes apart, and from where. */
import { seeded } from '../statistics/random.ts'
import { hides } from '../sweep/alongLine.ts'
import { frequencyGrid } from '../chain/bandSweep.ts'
import type { FarEnd } from '../chain/farEnd.ts'
import type { Cause } from './causes.ts'
import type { Case } from './evidence.ts'
import { hiddenStation, usualSeeing } from './simulate.ts'
import { sweepEvidence } from './sweepEvidence.ts'

export interface NextSweep {
  plane: number
  /** What to connect in the antenna's place for it. */
  farEnd: FarEnd
  lowHz: number
  highHz: number
  /** What it would tell apart. */
  between: [Cause, Cause]
  /** Evidence that it would bring for the right one of them, whichever that is, dB. */
  db: number
}

const POINTS = 201
/** From half of the lowest channel to twice the highest. */
const SPAN = 2
const KNOWN_EXACTLY = { length: 0, cable: 0, parts: 0, source: 0, reflection: 0 }
/** Less evidence is not worth the way to the line: four times as likely. */
const LEAST_DB = 6
/** A short tells no more than an open end. */
const ENDS: readonly FarEnd[] = ['antenna', 'load', 'open']

/**
 * What a sweep from the nearest place behind the tuners would tell, of the antenna, or with a load or nothing in its place, which
 * takes the way to the antenna as well: each of two causes is put into the chain, and what the analyser would then show is
 * weighed for both. The one that tells most for what it costs.
 *
 * @param between the leading causes, in their likeliest sizes
 * @param costOf infinite for a place where nothing can be connected today
 * @returns null where it would not tell them apart
 */
export function nextSweep(
  kase: Omit<Case, 'readings'>,
  between: readonly [Cause, Cause],
  costOf: (plane: number) => number,
): NextSweep | null {
  const { chain, channels, tolerances } = kase
  const { stages, load } = chain
  const behind = stages.findLastIndex(hides) + 1
  const lastLine = stages.findLastIndex(({ kind, bypassed }) => kind === 'line' && !bypassed)
  const planes = Array.from({ length: Math.max(0, lastLine + 1 - behind) }, (_, i) => behind + i)
  const plane = planes.find((each) => Number.isFinite(costOf(each)))
  if (plane === undefined || channels.length === 0) return null
  const hz = channels.map(({ frequencyHz }) => frequencyHz)
  const known =
    load.kind === 'sweep'
      ? [load.frequencyHz[0]!, load.frequencyHz[load.frequencyHz.length - 1]!]
      : [0, Infinity]
  const lowHz = Math.max(known[0]!, Math.min(...hz) / SPAN)
  const highHz = Math.min(known[1]!, Math.max(...hz) * SPAN)
  const grid = frequencyGrid(lowHz, highHz, POINTS)
  const stations = between.map((truth) =>
    hiddenStation({ ...kase, tolerances: KNOWN_EXACTLY }, [truth], 1),
  )
  const told = ENDS.flatMap((farEnd) => {
    const cost = costOf(plane) + (farEnd === 'antenna' ? 0 : costOf(stages.length))
    if (!Number.isFinite(cost)) return []
    const each = stations.map((station, i) => {
      const sweep = station.sweep(plane, grid, farEnd, usualSeeing, seeded(1))
      const logs = sweepEvidence(chain, [{ ...sweep, plane, farEnd }], tolerances, between)
      return logs[i]! - logs[1 - i]!
    })
    const db = (10 / Math.LN10) * Math.min(...each)
    return db >= LEAST_DB ? [{ farEnd, db, worth: db / cost }] : []
  })
  const [best] = told.sort((a, b) => b.worth - a.worth)
  if (!best) return null
  const { farEnd, db } = best
  return { plane, farEnd, lowHz, highHz, between: [...between], db }
}
