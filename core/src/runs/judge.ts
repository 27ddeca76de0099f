import { checkLimits } from '../limits/mostPower.ts'
import type { Stress, Surroundings } from '../limits/stress.ts'
import { type ExpectedReading, swrRead } from '../measure/expectReading.ts'
import type { RunStep } from './sheet.ts'
import type { SteppedChain } from './stateOf.ts'

/** What was read at a step. */
export interface StepReading {
  forwardW?: number | undefined
  reflectedW?: number | undefined
  swr?: number | undefined
}

/** A reading of the same kind taken before, in the same state of the chain and at the same place. */
export type EarlierReading = StepReading

/** Why to unkey now. */
export type StopReason =
  | { rule: 'SWR'; swr: number; most: number }
  | { rule: 'reflected'; share: number; before: number }
  | { rule: 'forward fell'; watts: number; before: number }
  | { rule: 'far below'; watts: number; expected: number }
  | { rule: 'part'; stress: Stress; overDb: number }
  | { rule: 'time'; seconds: number; most: number }

/** Half of what was there is no drift of a meter. */
const HALF = 0.5
/** So much more of the power comes back than before, and at least so much of it. */
const JUMP = 2
const JUMP_SHARE = 0.04

/**
 * Whether a figure that was just read means: unkey now. The first rule that holds, the most dangerous first; null where
 * none does.
 *
 * @param limits what the parts bear, held against the power that was read; left out where no power is known
 */
export function stopFor(
  step: Pick<RunStep, 'mostSwr'>,
  read: StepReading,
  {
    expected,
    earlier,
    limits,
  }: {
    expected?: ExpectedReading | undefined
    earlier?: EarlierReading | undefined
    limits?: readonly Stress[] | undefined
  },
): StopReason | null {
  const swr = swrRead(read)
  if (step.mostSwr !== undefined && swr !== null && swr > step.mostSwr)
    return { rule: 'SWR', swr, most: step.mostSwr }
  const { forwardW } = read
  if (forwardW !== undefined && expected && expected.watts > 0 && limits) {
    const more = 10 * Math.log10(forwardW / expected.watts)
    const over = limits
      .filter(({ headroomDb }) => headroomDb !== null && headroomDb - more < 0)
      .sort((a, b) => a.headroomDb! - b.headroomDb!)[0]
    if (over) return { rule: 'part', stress: over, overDb: more - over.headroomDb! }
  }
  const share = reflectedShare(read)
  const before = earlier ? reflectedShare(earlier) : null
  if (share !== null && before !== null && share > JUMP * before && share > before + JUMP_SHARE)
    return { rule: 'reflected', share, before }
  if (
    forwardW !== undefined &&
    earlier?.forwardW !== undefined &&
    forwardW < HALF * earlier.forwardW
  )
    return { rule: 'forward fell', watts: forwardW, before: earlier.forwardW }
  if (forwardW !== undefined && expected && forwardW < HALF * expected.wattsRange.low)
    return { rule: 'far below', watts: forwardW, expected: expected.watts }
  return null
}

/** Of the power that goes out, the share that comes back; null where nobody read it. */
function reflectedShare(read: StepReading): number | null {
  const swr = swrRead(read)
  return swr === null ? null : ((swr - 1) / (swr + 1)) ** 2
}

/**
 * What the parts bear in a step's state, with an amplifier's rated output among them: figures of power alone, held
 * against what is read.
 */
export function limitsOfStep({ chain, at }: SteppedChain, around: Surroundings): Stress[] {
  const { stresses, solution } = checkLimits(chain, at, around)
  const rated = chain.stages.flatMap((stage, k): Stress[] => {
    if (stage.kind !== 'amplifier' || stage.bypassed) return []
    const output = solution.planes[k + 1]!.forwardW
    return [
      {
        part: k,
        kind: 'power',
        stress: output,
        limit: stage.fullW,
        unit: 'W',
        basis: 'PEP',
        headroomDb: 10 * Math.log10(stage.fullW / Math.max(output, 1e-12)),
      },
    ]
  })
  return [...stresses.filter(({ kind }) => kind !== 'licence'), ...rated]
}

/** Whether a time with the key down was too long. */
export const stopForTime = (
  { seconds, rest }: Pick<RunStep, 'seconds' | 'rest'>,
  elapsedS: number,
): StopReason | null =>
  seconds !== undefined && !rest && elapsedS > seconds * 1.5
    ? { rule: 'time', seconds: elapsedS, most: seconds }
    : null
