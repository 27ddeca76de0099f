/** A learner that follows the diagnosis and the next reading it asks for: it sets the par, and it shows what to do. */
import type { Cause } from '../diagnosis/causes.ts'
import { type Explanation, weigh, type Weighed } from '../diagnosis/diagnose.ts'
import { type Prepared, prepare } from '../diagnosis/likelihood.ts'
import { weighPairs } from '../diagnosis/pairs.ts'
import type { MeterReading, Site } from '../diagnosis/evidence.ts'
import { type Exactness, type NextReading, nextReadings, USUAL } from '../diagnosis/nextReading.ts'
import { seeded } from '../statistics/random.ts'
import {
  ANALYSER_FROM,
  type Answer,
  type FindDrill,
  hiddenOf,
  judge,
  readingOf,
  seedNumber,
} from './findDrill.ts'
import type { FarEnd } from '../chain/farEnd.ts'
import { answerOfSweep, mayBeOnePlace } from './analyser.ts'
import { parOf } from './faults.ts'
import { lineConstants, matchedLossDb } from '../line/constants.ts'

/** So sure it names what it found. */
const SURE = 0.9
/** A reading that settles less is not worth taking. */
const WORTHWHILE = 0.04
const LEAST_READINGS = 3
/** How often something strange is read again. */
const REREAD = 2

const prepared = new Map<string, Prepared>()

/** A station's diagnosis, prepared once. */
function preparedFor({ station, kase }: FindDrill): Prepared {
  const known = prepared.get(station.id)
  if (known) return known
  const now = prepare(kase)
  prepared.set(station.id, now)
  return now
}

/** A drill has no knob for power. */
const AT_ITS_POWER: Exactness = { ...USUAL, lessPower: false }

/**
 * Best reading to take next after some, at the power that is set, and what they say so far.
 *
 * @param exactness of the ranking of places; as usual unless given
 */
export function bestNext(
  drill: FindDrill,
  readings: readonly MeterReading[],
  exactness: Exactness = AT_ITS_POWER,
): { weighed: Weighed; next: NextReading | null; strangest: Site[] } {
  const weighed = weigh({ ...drill.kase, readings }, undefined, preparedFor(drill))
  const planes = drill.station.chain.stages.map((_, plane) => plane)
  const asked = nextReadings(
    weighed,
    drill.kase.instruments[1]!,
    [...planes, planes.length],
    () => 1,
    exactness,
  )
  const taken = new Set(readings.map(keyOf))
  const { observables } = weighed.diagnosis
  const far = (o: (typeof observables)[number]) => Math.abs(o.deviation) / o.sigma
  return {
    weighed,
    strangest: [
      ...new Map(
        observables
          .toSorted((a, b) => far(b) - far(a))
          .map(({ observable }) => [keyOf(observable), observable] as const),
      ).values(),
    ],
    // The same reading once more tells nothing but the meter's scatter.
    next: asked.find((each) => !taken.has(keyOf(siteOf(each)))) ?? null,
  }
}

const keyOf = ({ point, plane, instrument }: Site) => `${point} ${plane} ${instrument}`

/** Where a next reading is taken: with the station's meter, or with the other one. */
export const siteOf = ({ point, plane, instrument }: NextReading): Site => ({
  point,
  plane,
  instrument: instrument ?? 1,
})

/** What an explanation is called, as an answer. */
function answerOfCause(cause: Cause, drill: FindDrill): Answer {
  switch (cause.kind) {
    case 'transmitter':
      return { finding: 'reduced', part: null, db: Math.abs(cause.db) }
    case 'loss': {
      const joint = likeliestJoint(cause, drill)
      return joint === null
        ? { finding: 'wet', part: cause.from, db: cause.db }
        : { finding: 'connector', part: joint, db: cause.db }
    }
    case 'aged': {
      const line = drill.station.chain.stages[cause.stage]!
      const { frequencyHz } = drill.station.channels[0]!
      const db =
        line.kind === 'line'
          ? matchedLossDb(lineConstants(line.cable, frequencyHz), line.lengthM) * (cause.factor - 1)
          : 0
      return { finding: 'wet', part: cause.stage, db }
    }
    case 'antenna':
      return { finding: 'antenna', part: null }
    case 'meter':
      return {
        finding: 'scale',
        part: cause.instrument,
        db: Math.abs(10 * Math.log10(cause.factor)),
      }
    case 'averaging':
      return { finding: 'averaging', part: cause.instrument }
    case 'common mode':
      return { finding: 'common', part: null }
    case 'slip':
      return { finding: 'misread', part: cause.reading }
    case 'none':
    case 'other':
      return { finding: 'none', part: null }
  }
}

/** Of stages that no reading has told apart: the first that is no long run; a loss in a long run alone is its cable's. */
function likeliestJoint({ from, to }: { from: number; to: number }, { station }: FindDrill) {
  for (let k = from; k <= to; k++) {
    const stage = station.chain.stages[k]!
    if (stage.kind !== 'line' || stage.lengthM <= 10) return k
  }
  return null
}

/** What explanations come to as answers, the most probable first: several may have the same. */
export function findingsOf(
  explanations: readonly Pick<Explanation, 'cause' | 'probability'>[],
  drill: FindDrill,
): { answer: Answer; probability: number; cause: Cause }[] {
  const all = new Map<string, { answer: Answer; probability: number; cause: Cause }>()
  for (const explanation of explanations) {
    // It has no name to answer with.
    if (explanation.cause.kind === 'other') continue
    const answer = answerOfCause(explanation.cause, drill)
    const key = `${answer.finding} ${answer.part}`
    const known = all.get(key)
    if (known) known.probability += explanation.probability
    else all.set(key, { answer, ...explanation })
  }
  return [...all.values()].sort((a, b) => b.probability - a.probability)
}

/** The causes of all pairs, each with the probability of the pairs that it is in. */
function likeliestOfPairs(weighed: Weighed): Pick<Explanation, 'cause' | 'probability'>[] {
  const all = weighPairs(weighed).pairs.flatMap(({ causes, probability }) =>
    causes.map((cause) => ({ cause, probability })),
  )
  return all.filter(({ cause, probability }) => cause.kind !== 'none' && probability > 1e-4)
}

/** What rests on figures that may be chance is read again before it is named: where, or null where that was done. */
function rereadFor(
  { finding, part }: Answer,
  readings: readonly MeterReading[],
  strangest: readonly Site[],
): Site | null {
  const sites =
    finding === 'misread'
      ? [readings[part!]!]
      : finding === 'antenna' || finding === 'common'
        ? strangest.slice(0, REREAD)
        : []
  const times = (site: Site) => readings.filter((other) => keyOf(other) === keyOf(site)).length
  const open = sites.find((site) => times(site) < 2)
  return open ? { point: open.point, plane: open.plane, instrument: open.instrument } : null
}

export interface Learned {
  answers: Answer[]
  /** Readings taken, the record not counted; and looks at parts. */
  readings: MeterReading[]
  looks: number
  /** Whether every fault of the drill was named with its part. */
  right: boolean
}

/**
 * Works through a drill: reads where the diagnosis asks to, until it is sure or has read `most` times.
 *
 * @param most readings at the most; three times par unless given
 */
export function learn(drill: FindDrill, most?: number): Learned {
  const random = seeded(seedNumber(drill.seed) + 2)
  const out: Learned = { answers: [], readings: [], looks: 0, right: true }
  let left = [...drill.faults]
  let record: readonly MeterReading[] = drill.record
  while (left.length > 0) {
    const hidden = hiddenOf(drill, left)
    const budget = most ?? 3 * parOf(left)
    const own: MeterReading[] = []
    const take = (site: Site) => {
      const shown = hidden.show(site, hidden.wavesAt(site.point)[site.plane]!, random)
      own.push(readingOf(site, shown))
    }
    // Once something was put right, what was read before is read again.
    if (record.length === 0)
      for (const { point, plane, instrument } of drill.record) take({ point, plane, instrument })
    // Where two things are wrong, every plane is read with the meter that is not the station's.
    if (left.length > 1) {
      for (let plane = 0; plane <= drill.station.chain.stages.length; plane++)
        take({ point: 0, plane, instrument: 1 })
      take({ point: 0, plane: 0, instrument: 0 })
    }
    // With the antenna, then with a load in its place: once each.
    const ends: FarEnd[] = drill.level >= ANALYSER_FROM ? ['antenna', 'load'] : []
    let seen: Answer | null = null
    const sweep = (answer: Answer): Answer | null => {
      while (!seen && ends.length > 0) {
        out.looks++
        seen = answerOfSweep(drill, left, answer, ends.shift()!)
      }
      return seen
    }
    let leader: Cause
    let sure: boolean
    for (;;) {
      const readings = [...record, ...own]
      const { weighed, next, strangest } = bestNext(drill, readings)
      const explanations =
        left.length > 1 ? likeliestOfPairs(weighed) : weighed.diagnosis.explanations
      const [first] = findingsOf(explanations, drill)
      leader = first!.cause
      sure = first!.probability >= SURE && !openJoint(leader)
      const again = rereadFor(first!.answer, readings, strangest)
      const enough = own.length >= LEAST_READINGS && sure && !again
      if (
        enough ||
        own.length >= budget ||
        (!next && !again) ||
        (sure && !again && next!.settles < WORTHWHILE)
      ) {
        break
      }
      // What a few readings leave open may be one place of the line.
      if (own.length >= LEAST_READINGS && !sure && sweep(first!.answer)) break
      take(sure && again ? again : next ? siteOf(next) : again!)
    }
    let answer = answerOfCause(leader, drill)
    if (answer.finding === 'wet') {
      out.looks++
      if (left.some(({ cause }) => cause.kind === 'swapped' && cause.stage === answer.part))
        answer = { ...answer, finding: 'swapped' }
    }
    if (!sure || seen || mayBeOnePlace.includes(answer.finding)) answer = sweep(answer) ?? answer
    out.answers.push(answer)
    out.readings.push(...own)
    const { finding, part, fault } = judge(drill, answer, left)
    if (!finding || !part) {
      out.right = false
      break
    }
    left = left.filter((other) => other !== fault)
    // What was read before the first fault was put right says nothing of the station as it is now.
    record = []
  }
  return out
}

const openJoint = (cause: Cause): boolean => cause.kind === 'loss' && cause.from !== cause.to
