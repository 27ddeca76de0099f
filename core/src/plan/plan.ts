/** Which cables, and where the tuner: everything that is worth its price or its weight. */
import type { Chain, OperatingPoint } from '../chain/chain.ts'
import { checkChain } from '../chain/checkChain.ts'
import { sweepBand } from '../chain/bandSweep.ts'
import { answerChain, middleW } from '../chain/phaseRange.ts'
import { isPassive } from '../chain/walkBand.ts'
import { type TunerPlace, withTunerAt } from '../chain/worthTuner.ts'
import { InputError } from '../errors.ts'
import type { Cable } from '../line/cable.ts'
import type { Stage } from '../stages/stage.ts'
import { withCable } from '../stages/withCable.ts'
import type { TunerStage } from '../tuner/kinds.ts'
import { lossBounds } from './bounds.ts'

/** A cable that may go into a section. */
export interface PlanCandidate {
  id: string
  cable: Cable
  /** Price or weight of a metre; missing where it is not known. */
  costPerM?: number | undefined
}

/** A section whose cable may change. Leaving it as it stands is always one of the choices. */
export interface PlanSection {
  /** Index of the stage, a line. */
  stage: number
  candidates: readonly PlanCandidate[]
  /** What the cable that is there counts for: 0 for a price, its weight; missing where that is not known. */
  presentCost?: number | undefined
}

export interface PlanRequest {
  chain: Chain
  /** One operating point a channel. */
  at: readonly OperatingPoint[]
  /** What counts: the channel with most loss, or the mean loss with a weight for every channel. */
  counts: 'worst' | readonly number[]
  sections: readonly PlanSection[]
  /** A tuner that may move, or come in; its cost where it would have to be bought. */
  tuner?:
    | { tuner: TunerStage; places: readonly TunerPlace[]; cost?: number | undefined }
    | undefined
  /** Of every section that gets another cable, such as its two connectors; missing where it is not known. */
  costPerSection?: number | undefined
  budget?: number | undefined
}

/** One combination, solved exactly. */
export interface PlanMember {
  cost: number
  /** From setting to antenna, dB: of the worst channel, or the weighted mean. */
  lossDb: number
  /** On every channel, W. */
  antennaW: number[]
  /** By section; null leaves it as it stands. */
  cables: (string | null)[]
  /** null leaves the tuner where it is. */
  place: TunerPlace | null
}

export interface Plan {
  /** Nothing that was ticked loses less for as little; rising in cost, falling in loss. */
  front: PlanMember[]
  /** How many combinations there are, and how many were solved; the others were proved to lose more. */
  combinations: number
  solved: number
  /** Candidates left out because their cost is not known, by section. */
  unknown: { section: number; id: string }[]
  /** True where the tuner's places were left out for the same reason. */
  tunerUnknown: boolean
}

/** More combinations than this are refused. */
const MOST_COMBINATIONS = 3_000_000
/** Two losses nearer than this are the same, dB: a bound and a solution differ by rounding. */
const ROUNDING_DB = 1e-9
const SAY_EVERY = 64

/**
 * The Pareto front of cost against loss over all combinations of cables and places.
 *
 * Every combination has a lower bound of its loss (`bounds.ts`). In the order of cost, a combination is solved only
 * where its bound lies below the least loss that was found for as little; so nothing better can be missed.
 *
 * @param progress told now and then the share that is done, and the front so far
 * @throws InputError where a section is no line, nothing may change, or there are more than three million combinations
 */
export function plan(
  request: PlanRequest,
  progress: (share: number, front: readonly PlanMember[]) => void = () => {},
): Plan {
  const { chain, at, counts, costPerSection, budget = Infinity } = request
  check(request)
  const unknown: Plan['unknown'] = []
  /** What may stand in each section: null for what stands there, if that counts for something known. */
  const choices = request.sections.map((section, s) => {
    const { lengthM } = chain.stages[section.stage] as Extract<Stage, { kind: 'line' }>
    const bought = section.candidates.flatMap(({ id, cable, costPerM }) => {
      if (costPerM === undefined || costPerSection === undefined) {
        unknown.push({ section: s, id })
        return []
      }
      return [{ id, cable, cost: costPerM * lengthM + costPerSection }]
    })
    const present =
      section.presentCost === undefined
        ? []
        : [{ id: null, cable: null, cost: section.presentCost }]
    return [...present, ...bought]
  })
  const { tuner } = request
  const places: { place: TunerPlace | null; cost: number }[] = [{ place: null, cost: 0 }]
  if (tuner?.cost !== undefined)
    for (const place of tuner.places)
      places.push({ place, cost: place === 'none' ? 0 : tuner.cost })

  const perPlace = choices.reduce((product, { length }) => product * length, 1)
  const combinations = perPlace * places.length
  if (combinations > MOST_COMBINATIONS)
    throw new InputError(
      `These are ${combinations} combinations; at most ${MOST_COMBINATIONS} can be looked at. Tick fewer cables or sections.`,
      ['sections'],
    )

  const chainAt = (place: TunerPlace | null): Chain =>
    place === null ? chain : withTunerAt(chain, tuner!.tuner, place)
  const costs = new Float64Array(combinations)
  const bounds = new Float64Array(combinations)
  places.forEach(({ place, cost }, p) => {
    const placed = chainAt(place)
    const sections = request.sections.map(({ stage }, s) => ({
      stage: placed.stages.indexOf(chain.stages[stage]!),
      cables: choices[s]!.map(({ cable }) => cable),
    }))
    const perChannel = at.map((point) => lossBounds(placed, point, sections))
    for (let i = 0; i < perPlace; i++) {
      costs[p * perPlace + i] = cost + costOf(choices, i)
      bounds[p * perPlace + i] = combined(
        perChannel.map((losses) => losses[i]!),
        counts,
      )
    }
  })

  const front: PlanMember[] = []
  let solved = 0
  const tried = new Uint8Array(combinations)
  const attempt = (index: number): void => {
    if (tried[index] || costs[index]! > budget) return
    if (leastLossFor(front, costs[index]!) <= bounds[index]! + ROUNDING_DB) return
    tried[index] = 1
    const { place } = places[Math.floor(index / perPlace)]!
    const picked = pickedOf(choices, index % perPlace)
    const placed = chainAt(place)
    const stages = placed.stages.map((stage) => {
      const s = request.sections.findIndex((section) => chain.stages[section.stage] === stage)
      const cable = s < 0 ? null : picked[s]!.cable
      return cable ? withCable(stage, cable) : stage
    })
    const antennaW = wattsOn({ ...placed, stages }, at)
    solved++
    insert(front, {
      cost: costs[index]!,
      lossDb: combined(
        antennaW.map((watts, c) => 10 * Math.log10(at[c]!.powerW / watts)),
        counts,
      ),
      antennaW,
      cables: picked.map(({ id }) => id),
      place,
    })
  }

  const order = Uint32Array.from(costs.keys()).sort(
    (a, b) => costs[a]! - costs[b]! || bounds[a]! - bounds[b]!,
  )
  // What the bounds alone would choose comes first: good solutions early leave fewer to solve.
  let least = Infinity
  for (const index of order)
    if (bounds[index]! < least) {
      least = bounds[index]!
      attempt(index)
    }
  let said = solved
  order.forEach((index, done) => {
    attempt(index)
    if (solved >= said + SAY_EVERY) {
      said = solved
      progress(done / combinations, front)
    }
  })
  return {
    front,
    combinations,
    solved,
    unknown,
    tunerUnknown: tuner !== undefined && tuner.cost === undefined,
  }
}

function check({ chain, at, counts, sections, tuner }: PlanRequest): void {
  if (at.length === 0) throw new InputError('A plan needs at least one channel.', ['at'])
  for (const point of at) checkChain(chain, point)
  if (counts !== 'worst' && !(counts.length === at.length && counts.some((w) => w > 0)))
    throw new InputError('Every channel needs a weight, and one of them more than 0.', ['counts'])
  if (sections.length === 0 && !tuner)
    throw new InputError('Tick at least one section or place that may change.', ['sections'])
  sections.forEach(({ stage }, s) => {
    if (chain.stages[stage]?.kind !== 'line')
      throw new InputError('Only a length of cable can get another cable.', [
        'sections',
        s,
        'stage',
      ])
  })
}

/** Watts at the antenna on every channel: all at once where they are in proportion to the power. */
function wattsOn(chain: Chain, at: readonly OperatingPoint[]): number[] {
  const hz = Float64Array.from(at, ({ frequencyHz }) => frequencyHz)
  const perWatt = isPassive(chain.stages) ? sweepBand(chain, hz, 1).antennaW : null
  // A channel without a figure says why when it is solved alone.
  return at.map((point, c) =>
    perWatt && !Number.isNaN(perWatt[c])
      ? perWatt[c]! * point.powerW
      : middleW(answerChain(chain, point)),
  )
}

/** Losses of all channels as one. */
function combined(losses: readonly number[], counts: PlanRequest['counts']): number {
  if (counts === 'worst') return Math.max(...losses)
  let sum = 0
  let weights = 0
  losses.forEach((loss, c) => {
    if (counts[c]! > 0) {
      sum += counts[c]! * loss
      weights += counts[c]!
    }
  })
  return sum / weights
}

/** Combination number `index` of one place: the last section changes fastest. */
function pickedOf<T>(choices: readonly (readonly T[])[], index: number): T[] {
  const picked: T[] = []
  let rest = index
  for (let s = choices.length - 1; s >= 0; s--) {
    const own = choices[s]!
    picked[s] = own[rest % own.length]!
    rest = Math.floor(rest / own.length)
  }
  return picked
}

function costOf(choices: readonly (readonly { cost: number }[])[], index: number): number {
  let sum = 0
  let rest = index
  for (let s = choices.length - 1; s >= 0; s--) {
    const own = choices[s]!
    sum += own[rest % own.length]!.cost
    rest = Math.floor(rest / own.length)
  }
  return sum
}

/** The least loss on the front for at most this cost. */
function leastLossFor(front: readonly PlanMember[], cost: number): number {
  let least = Infinity
  for (const member of front) {
    if (member.cost > cost) break
    least = member.lossDb
  }
  return least
}

/** Keeps the front in order and free of what another member beats. */
function insert(front: PlanMember[], member: PlanMember): void {
  if (leastLossFor(front, member.cost) <= member.lossDb) return
  const at = front.findIndex(({ cost }) => cost >= member.cost)
  const from = at < 0 ? front.length : at
  let beaten = 0
  while (front[from + beaten] && front[from + beaten]!.lossDb >= member.lossDb) beaten++
  front.splice(from, beaten, member)
}
