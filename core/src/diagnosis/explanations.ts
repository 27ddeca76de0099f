/** Every explanation that a diagnosis weighs: a cause, how likely it is before any reading, and its sizes. */
import { complex, type Complex } from '../complex.ts'
import type { Stage } from '../stages/stage.ts'
import { meanToPeakOf } from '../source/modes.ts'
import type { Case } from './evidence.ts'
import { type AntennaChange, type Cause, hasKnobs } from './causes.ts'

/** One cause in all its sizes. */
export interface Candidate {
  /** Probability before the readings; all together make 1. */
  prior: number
  sizes: Cause[]
}

/** How often each kind is the cause at all: rules of practice, of the same order for all. */
const PRIOR = {
  none: 0.36,
  transmitter: 0.14,
  channel: 0.06,
  loss: 0.14,
  aged: 0.1,
  antenna: 0.1,
  meter: 0.05,
  averaging: 0.02,
  'common mode': 0.02,
  slip: 0.03,
}

/** Sizes from … to, each `ratio` times the one before: finer than meters can tell apart. */
function steps(from: number, to: number, ratio: number): number[] {
  const count = Math.round(Math.log(to / from) / Math.log(ratio))
  return Array.from({ length: count + 1 }, (_, i) => from * (to / from) ** (i / count))
}

const DOWN_DB = steps(0.6, 17, 1.08).map((db) => -db)
const UP_DB = steps(0.8, 2.5, 1.12)
const LOSS_DB = steps(0.3, 15, 1.1)
const AGED = steps(1.25, 4, 1.08)
const MOVED = steps(0.01, 0.12, 1.4)
const OFF_DB = steps(0.9, 4, 1.1).flatMap((db) => [db, -db])

const around = (size: number, steps: number): Complex[] =>
  Array.from({ length: steps }, (_, i) => {
    const phase = (2 * Math.PI * i) / steps
    return complex(size * Math.cos(phase), size * Math.sin(phase))
  })

const antennaChanges: AntennaChange[] = [
  ...MOVED.flatMap((share): AntennaChange[] => [
    { kind: 'moved', share },
    { kind: 'moved', share: -share },
  ]),
  ...[0.15, 0.3, 0.5, 0.75].flatMap((size) =>
    around(size, 6).map((by): AntennaChange => ({ kind: 'other', by })),
  ),
  ...around(0.95, 6).map((reflection): AntennaChange => ({ kind: 'broken', reflection })),
]

/** Runs of stages that no reading separates: from … to. */
export function stageGroups(
  stages: readonly Stage[],
  readAt: readonly number[],
): { from: number; to: number }[] {
  const cuts = [...new Set([0, ...readAt, stages.length])].sort((a, b) => a - b)
  return cuts
    .slice(1)
    .map((cut, i) => ({ from: cuts[i]!, to: cut - 1 }))
    .filter(({ from, to }) => stages.slice(from, to + 1).some((stage) => !stage.bypassed))
}

/** How much cable there is to age in a stage. */
const cableIn = (stage: Stage): number =>
  stage.kind === 'line' && !stage.bypassed ? stage.lengthM * stage.cable.k1DbPer100m : 0

/** The cable that loses most in a group, or none. */
function dominantLine(stages: readonly Stage[], from: number, to: number): number | null {
  let best = from
  for (let k = from; k <= to; k++) if (cableIn(stages[k]!) > cableIn(stages[best]!)) best = k
  return cableIn(stages[best]!) > 0 ? best : null
}

/** What could have led to the readings of a case. */
export function candidatesOf({ chain, channels, instruments, readings }: Case): Candidate[] {
  const { stages } = chain
  const candidates: Candidate[] = []
  const add = (prior: number, sizes: Cause[]) => {
    if (sizes.length > 0 && prior > 0) candidates.push({ prior, sizes })
  }
  add(PRIOR.none, [{ kind: 'none' }])
  add(
    PRIOR.transmitter,
    [...DOWN_DB, ...UP_DB].map((db) => ({ kind: 'transmitter', db, point: null })),
  )
  const read = [...new Set(readings.map(({ point }) => point))]
  if (read.length > 1)
    for (const point of read)
      add(
        PRIOR.channel / read.length,
        DOWN_DB.map((db) => ({ kind: 'transmitter', db, point })),
      )

  const groups = stageGroups(
    stages,
    readings.map(({ plane }) => plane),
  )
  // Long runs age; of short leads it is the connectors that give out.
  const allCable = stages.reduce((sum, stage) => sum + cableIn(stage), 0)
  for (const { from, to } of groups) {
    const share = (to - from + 1) / Math.max(1, stages.length)
    add(
      PRIOR.loss * share,
      LOSS_DB.map((db) => ({ kind: 'loss', from, to, db })),
    )
    const line = dominantLine(stages, from, to)
    if (line !== null)
      add(
        PRIOR.aged * (cableIn(stages[line]!) / allCable),
        AGED.map((factor) => ({ kind: 'aged', stage: line, factor })),
      )
  }

  const retuning = stages.some(hasKnobs) ? [false, true] : [false]
  const antenna = (point: number | null): Cause[] =>
    antennaChanges.flatMap((change) =>
      retuning.map((retuned): Cause => ({ kind: 'antenna', change, point, retuned })),
    )
  add(PRIOR.antenna * (read.length > 1 ? 0.7 : 1), antenna(null))
  if (read.length > 1)
    for (const point of read) add((PRIOR.antenna * 0.3) / read.length, antenna(point))

  const used = [...new Set(readings.map(({ instrument }) => instrument))]
  for (const instrument of used) {
    const meter = instruments[instrument]!
    const ratios = new Set(
      meter.rangesW.flatMap((a) =>
        meter.rangesW.map((b) => Number((a / b).toPrecision(3))).filter((r) => r !== 1),
      ),
    )
    const scales = [...ratios].filter((r) => r >= 0.05 && r <= 20)
    add(PRIOR.meter / used.length, [
      ...OFF_DB.map((db): Cause => ({
        kind: 'meter',
        instrument,
        factor: 10 ** (db / 10),
        why: 'off',
      })),
      ...scales.map((factor): Cause => ({ kind: 'meter', instrument, factor, why: 'scale' })),
    ])
    const shows = readings.some(
      (r) => r.instrument === instrument && meanToPeakOf(channels[r.point]!.emission) < 0.9,
    )
    if (meter.kind === 'peak' && shows)
      add(PRIOR.averaging / used.length, [{ kind: 'averaging', instrument }])
  }

  if (readings.some(({ reflectedW, swr }) => reflectedW !== undefined || swr !== undefined))
    add(
      PRIOR['common mode'],
      [0.08, 0.16, 0.3].map((rho) => ({ kind: 'common mode', rho })),
    )
  if (readings.length > 1)
    readings.forEach((_, reading) => add(PRIOR.slip / readings.length, [{ kind: 'slip', reading }]))

  const total = candidates.reduce((sum, { prior }) => sum + prior, 0)
  return candidates.map(({ prior, sizes }) => ({ prior: prior / total, sizes }))
}
