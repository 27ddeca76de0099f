/** Every explanation that a diagnosis weighs: a cause, how likely it is before any reading, and its sizes. */
import { complex, type Complex } from '../complex.ts'
import type { Stage } from '../stages/stage.ts'
import { meanToPeakOf } from '../source/modes.ts'
import { type Case, channelOf } from './evidence.ts'
import { hides } from '../sweep/alongLine.ts'
import { jointsOf } from '../sweep/pieces.ts'
import { usualPriors } from './priors.ts'
import { type AntennaChange, type Cause, hasKnobs, SIZE_RATIO } from './causes.ts'

/** One cause in all its sizes. */
export interface Candidate {
  /** Probability before the readings; all together make 1. */
  prior: number
  sizes: Cause[]
  /** How likely each size is where it is this cause; together they make 1. */
  weights: number[]
}

/** Sizes from … to, each `ratio` times the one before: finer than meters can tell apart. */
function steps(from: number, to: number, ratio: number): number[] {
  const count = Math.round(Math.log(to / from) / Math.log(ratio))
  return Array.from({ length: count + 1 }, (_, i) => from * (to / from) ** (i / count))
}

/** How often it is none of the causes, in the measure of the priors. */
const OTHER = 0.02

const DOWN_DB = steps(0.6, 17, 1.08).map((db) => -db)
const UP_DB = steps(0.8, 2.5, 1.12)
const LOSS_DB = steps(0.3, 15, SIZE_RATIO.loss)
const AGED = steps(1.25, 4, SIZE_RATIO.aged)
const MOVED = steps(0.01, 0.12, SIZE_RATIO.moved)
const OFF_DB = steps(0.9, 4, 1.1).flatMap((db) => [db, -db])

/** What a display that shifts its own range is misread by: a point overlooked, another scale. */
const SCALES_WITHOUT_RANGES = [0.1, 0.25, 0.4, 2.5, 4, 10]

const around = (size: number, steps: number): Complex[] =>
  Array.from({ length: steps }, (_, i) => {
    const phase = (2 * Math.PI * i) / steps
    return complex(size * Math.cos(phase), size * Math.sin(phase))
  })

/** Three ways for an antenna to change, each as likely; steps of the angle fine enough for the reflection between them. */
const antennaChanges: AntennaChange[][] = [
  MOVED.flatMap((share): AntennaChange[] => [
    { kind: 'moved', share },
    { kind: 'moved', share: -share },
  ]),
  // Further out the circle is longer, and asks for more steps.
  (
    [
      [0.15, 8],
      [0.25, 12],
      [0.36, 18],
      [0.5, 24],
      [0.75, 24],
    ] as const
  ).flatMap(([size, steps]) =>
    around(size, steps).map((by): AntennaChange => ({ kind: 'other', by })),
  ),
  around(0.95, 36).map((reflection): AntennaChange => ({ kind: 'broken', reflection })),
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

/** Planes between which a sweep tells one place from the next: each cable goes with the parts at its far end. */
const placesSeen = (stages: readonly Stage[], plane: number): number[] =>
  stages.slice(plane).some(hides) ? [] : jointsOf(stages.slice(plane)).map(({ to }) => plane + to)

/** How much cable there is to age in a stage. */
const cableIn = (stage: Stage): number =>
  stage.kind === 'line' && !stage.bypassed ? stage.lengthM * stage.cable.k1DbPer100m : 0

/** The cable that loses most in a group, or none. */
function dominantLine(stages: readonly Stage[], from: number, to: number): number | null {
  let best = from
  for (let k = from; k <= to; k++) if (cableIn(stages[k]!) > cableIn(stages[best]!)) best = k
  return cableIn(stages[best]!) > 0 ? best : null
}

/** How many times likelier than another a part is at fault that was found at fault elsewhere: a rule of practice. */
const SUSPECTED = 10

/** What could have led to the readings of a case. */
export function candidatesOf({
  chain,
  channels,
  instruments,
  readings,
  priors = usualPriors,
  suspects = [],
  sweeps = [],
  swaps = [],
}: Case): Candidate[] {
  const { stages } = chain
  const doubt = (stage: number) => (suspects.includes(stage) ? SUSPECTED : 1)
  const candidates: Candidate[] = []
  /** Families of sizes that are as likely as each other, unless they say otherwise. */
  const add = (prior: number, ...families: { share?: number; sizes: Cause[] }[]) => {
    const filled = families.filter(({ sizes }) => sizes.length > 0)
    if (filled.length === 0 || !(prior > 0)) return
    const whole = filled.reduce((sum, { share = 1 }) => sum + share, 0)
    candidates.push({
      prior,
      sizes: filled.flatMap(({ sizes }) => sizes),
      weights: filled.flatMap(({ share = 1, sizes }) =>
        sizes.map(() => share / whole / sizes.length),
      ),
    })
  }
  add(priors.none, { sizes: [{ kind: 'none' }] })
  add(priors.transmitter, {
    sizes: [...DOWN_DB, ...UP_DB].map((db) => ({ kind: 'transmitter', db, point: null })),
  })
  const channelsOf = (own: readonly { point: number }[]) => [
    ...new Set(own.map(({ point }) => channelOf(channels, point))),
  ]
  const read = channelsOf(readings)
  if (read.length > 1)
    for (const point of read)
      add(priors.transmitterOnChannel / read.length, {
        sizes: DOWN_DB.map((db) => ({ kind: 'transmitter', db, point })),
      })

  const groups = stageGroups(stages, [
    ...readings.map(({ plane }) => plane),
    ...sweeps.flatMap(({ plane }) => [plane, ...placesSeen(stages, plane)]),
    ...swaps.flatMap(({ stage }) => [stage, stage + 1]),
  ])
  // Long runs age; of short leads it is the connectors that give out.
  const allCable = stages.reduce((sum, stage) => sum + cableIn(stage), 0)
  for (const { from, to } of groups) {
    let share = 0
    for (let stage = from; stage <= to; stage++) share += doubt(stage) / stages.length
    add(
      priors.loss * share,
      { sizes: LOSS_DB.map((db) => ({ kind: 'loss', from, to, db })) },
      { sizes: LOSS_DB.map((db) => ({ kind: 'loss', from, to, db, joint: true })) },
    )
    const line = dominantLine(stages, from, to)
    if (line !== null)
      add(priors.aged * doubt(line) * (cableIn(stages[line]!) / allCable), {
        sizes: AGED.map((factor) => ({ kind: 'aged', stage: line, factor })),
      })
  }

  const retuning = stages.some(hasKnobs) ? [false, true] : [false]
  const antenna = (point: number | null): { sizes: Cause[] }[] =>
    antennaChanges.map((changes) => ({
      sizes: changes.flatMap((change) =>
        retuning.map((retuned): Cause => ({ kind: 'antenna', change, point, retuned })),
      ),
    }))
  // Of an antenna that was not connected no reading says anything.
  const onAntenna = readings.filter(
    ({ point }) => (channels[point]!.farEnd ?? 'antenna') === 'antenna',
  )
  const aired = channelsOf(onAntenna)
  const alone = aired.length <= 1
  add(priors.antenna + (alone ? priors.antennaOnChannel : 0), ...antenna(null))
  if (!alone)
    for (const point of aired) add(priors.antennaOnChannel / aired.length, ...antenna(point))

  const used = [...new Set(readings.map(({ instrument }) => instrument))]
  for (const instrument of used) {
    const meter = instruments[instrument]!
    const ratios = new Set(
      meter.rangesW.flatMap((a) =>
        meter.rangesW.map((b) => Number((a / b).toPrecision(3))).filter((r) => r !== 1),
      ),
    )
    const scales =
      ratios.size > 0 ? [...ratios].filter((r) => r >= 0.05 && r <= 20) : SCALES_WITHOUT_RANGES
    const shown = (factor: number, why: 'off' | 'scale'): Cause => ({
      kind: 'meter',
      instrument,
      factor,
      why,
    })
    add(
      priors.meter / used.length,
      { share: 0.6, sizes: OFF_DB.map((db) => shown(10 ** (db / 10), 'off')) },
      { share: 0.4, sizes: scales.map((factor) => shown(factor, 'scale')) },
    )
    const shows = readings.some(
      (r) => r.instrument === instrument && meanToPeakOf(channels[r.point]!.emission) < 0.9,
    )
    if (meter.kind === 'peak' && shows)
      add(priors.averaging / used.length, { sizes: [{ kind: 'averaging', instrument }] })
  }

  if (readings.some(({ reflectedW, swr }) => reflectedW !== undefined || swr !== undefined))
    add(priors['common mode'], {
      sizes: [0.08, 0.16, 0.3].map((rho) => ({ kind: 'common mode', rho })),
    })
  if (readings.length > 1)
    readings.forEach((_, reading) =>
      add(priors.slip / readings.length, { sizes: [{ kind: 'slip', reading }] }),
    )

  // One reading that is off is a slip, or may be anything: then there is nothing to be told from it.
  if (readings.length > 1) add(OTHER, { sizes: [{ kind: 'other' }] })

  const total = candidates.reduce((sum, { prior }) => sum + prior, 0)
  return candidates.map((candidate) => ({ ...candidate, prior: candidate.prior / total }))
}
