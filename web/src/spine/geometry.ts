/**
 * The spine in its own coordinates: `along` in pixels from the transmitter to the antenna, and
 * watts across. A drawing turns these into x and y (lying) or y and x (running downward).
 */
import { beyondTuner } from '../model/answers.ts'
import type { ChainDocument, StageDocument } from '@saltline/contract'
import type { ChannelAnswer } from '../model/answers.ts'
import { netAlongLine, type Solution } from '@saltline/core'

/** Where an item sits, px along the spine. */
export interface Slot {
  start: number
  end: number
}

export interface SpineSlots {
  transmitter: Slot
  stages: Slot[]
  /** Where the band ends and the antenna begins. */
  end: number
}

export interface SlotSizes {
  /** Room for transmitter and stages, px. */
  available: number
  transmitter: number
  /** Least room a stage may have, px. */
  least: number
  /** Comfortable room for a device, px. */
  device: number
}

/**
 * Gives every stage room: a device its comfortable width, a cable more the longer it is (as √ℓ, so
 * that metres beside tens of metres stay visible). Where there is not enough, all shrink evenly to
 * the least; below that the spine is longer than its window.
 */
export function layOut(stages: readonly StageDocument[], sizes: SlotSizes): SpineSlots {
  const { available, transmitter, least, device } = sizes
  const weight = (stage: StageDocument) => (stage.kind === 'line' ? Math.sqrt(stage.lengthM) : 0)
  const room = available - transmitter
  const comfortable = stages.length * device
  const base = Math.max(least, Math.min(device, room / Math.max(1, stages.length)))
  const spare = Math.max(0, room - Math.max(comfortable, stages.length * base))
  const total = stages.reduce((sum, stage) => sum + weight(stage), 0)
  let at = transmitter
  const slots = stages.map((stage) => {
    const share = total > 0 ? weight(stage) / total : 1 / stages.length
    const start = Math.round(at)
    at += base + spare * share
    // Whole pixels: a small change of one length then leaves most of the others where they are.
    return { start, end: Math.round(at) }
  })
  return { transmitter: { start: 0, end: transmitter }, stages: slots, end: Math.round(at) }
}

export interface BandPoint {
  along: number
  watts: number
}

/** Steps along a cable: enough for a smooth curve on a wide screen. */
const LINE_POINTS = 33
/** A device's step: level, then down within the middle of its slot. */
const STEP = 0.34

/** The upper edge of the band: net watts all the way along. */
export function netBand(
  stages: readonly StageDocument[],
  solution: Solution,
  slots: SpineSlots,
): BandPoint[] {
  const points: BandPoint[] = [
    { along: slots.transmitter.start, watts: solution.transmitterNetW },
    { along: slots.transmitter.end, watts: solution.transmitterNetW },
  ]
  stages.forEach((stage, k) => {
    const { start, end } = slots.stages[k]!
    const inW = solution.planes[k]!.netW
    const outW = solution.planes[k + 1]!.netW
    if (stage.kind === 'line' && !stage.bypassed) {
      netAlongLine(stage, solution, k, LINE_POINTS).forEach((watts, i) =>
        points.push({ along: start + ((end - start) * i) / (LINE_POINTS - 1), watts }),
      )
    } else {
      const third = (end - start) * STEP
      points.push(
        { along: start, watts: inW },
        { along: start + third, watts: inW },
        { along: end - third, watts: outW },
        { along: end, watts: outW },
      )
    }
  })
  return points
}

/** The net power of another chain, stretched to the length of this one. */
export function outlineBand(
  { document, answer }: { document: ChainDocument; answer: ChannelAnswer | null },
  slots: SpineSlots,
  end: number,
): BandPoint[] | undefined {
  if (!answer?.ok) return undefined
  return netBand(document.stages, answer.solution, slots).map(({ along, watts }) => ({
    along: (along * end) / slots.end,
    watts,
  }))
}

/** The returning current: reflected watts from plane to plane, as far as there is a line to carry a wave. */
export const returnedBand = (
  solution: Solution,
  slots: SpineSlots,
  stages: readonly StageDocument[],
): BandPoint[] => [
  { along: slots.transmitter.end, watts: solution.planes[0]!.reflectedW },
  ...slots.stages.map(({ end }, k) => ({
    along: end,
    watts: beyondTuner(stages, k + 1) ? 0 : solution.planes[k + 1]!.reflectedW,
  })),
]

/** What one source drives: the transmitter up to an amplifier, that amplifier to the next. */
export interface Leg {
  /** Where its level line begins and ends, and where its power leaves the source. */
  start: number
  output: number
  end: number
  /** Its salt line: what the source would give a match, W. */
  settingW: number
  /** What leaves it. */
  netW: number
  /** Index of the amplifier that drives it; −1 for the transmitter. */
  stage: number
}

/** The legs of a solved chain, from the transmitter to the antenna. */
export function legsOf(solution: Solution, slots: SpineSlots): Leg[] {
  const { settingW, transmitterNetW, stages, planes } = solution
  const legs: Leg[] = [
    {
      start: slots.transmitter.start,
      output: slots.transmitter.end,
      end: slots.end,
      settingW,
      netW: transmitterNetW,
      stage: -1,
    },
  ]
  stages.forEach(({ amplifier }, k) => {
    if (!amplifier) return
    const { start, end } = slots.stages[k]!
    const third = (end - start) * STEP
    legs.at(-1)!.end = start + third
    const from = end - third
    legs.push({
      start: from,
      output: from,
      end: slots.end,
      settingW: amplifier.outputW,
      netW: planes[k + 1]!.netW,
      stage: k,
    })
  })
  return legs
}

/** Along-position of every plane. */
export const planePositions = (slots: SpineSlots): number[] => [
  slots.transmitter.end,
  ...slots.stages.map(({ end }) => end),
]

/** A round step for an axis that ends at `topW`, W. */
export function axisTicks(topW: number): number[] {
  const raw = topW / 5
  const magnitude = 10 ** Math.floor(Math.log10(raw))
  const step = [1, 2, 2.5, 5, 10].map((m) => m * magnitude).find((s) => s >= raw * 0.999)!
  const ticks: number[] = []
  for (let w = 0; w <= topW * 1.001; w += step) ticks.push(Number(w.toPrecision(6)))
  return ticks
}
