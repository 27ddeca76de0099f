/** Stop rules: whether a figure that was just read means to unkey, with what the meter can know of it. */
import { solveChain } from '../chain/solve.ts'
import type { Stress } from '../stages/stress.ts'
import { rhoOfSwr, swrOf } from '../load/reflection.ts'
import { swrRead } from '../measure/expectReading.ts'
import { leakOf, type Meter, readingDoubtW } from '../measure/meter.ts'
import type { Range } from '../statistics/quantile.ts'
import type { ExpectedStep } from './expectStep.ts'
import type { RunStep } from './sheet.ts'
import { cold } from './heat.ts'
import { LATE, type Moment } from './moment.ts'
import { forSeconds, permittedOutputW } from './stepLoad.ts'

/** What was read at a step. */
export interface StepReading {
  forwardW?: number | undefined
  reflectedW?: number | undefined
  swr?: number | undefined
}

/** A reading of the same kind taken before, in the same state of the chain and at the same place. */
export type EarlierReading = StepReading

/** Why to unkey now, or to look. */
export type StopReason =
  | { rule: 'SWR'; swr: number; most: number; range: Range }
  | { rule: 'reflected'; share: number; before: number }
  | { rule: 'forward fell'; watts: number; before: number }
  | { rule: 'far below'; watts: number; expected: number }
  | { rule: 'far above'; watts: number; expected: number }
  | { rule: 'part'; stress: Stress; overDb: number }
  | { rule: 'time'; seconds: number; most: number }

/** `stop`: over the limit whatever the meter's error is. `look`: it may be over. */
export interface Judged {
  is: 'stop' | 'look'
  reason: StopReason
}

/** Half of what was there is no drift of a meter. */
const HALF = 0.5
/** So many times what is expected is no spread of a chain. */
const FAR_ABOVE = 1.5
/** So much more of the power comes back than before, and at least so much of it. */
const JUMP = 2
const JUMP_SHARE = 0.04
/** A step without a limit of its own does not stop below this SWR, */
const LEAST_LIMIT = 1.5
/** nor where |ρ| is within twice its spread and a little more: ranges are 5 to 95 %. */
const BEYOND = 2
const MORE_RHO = 0.05

/**
 * The SWR that a step stops at: its own limit, or what follows from what the chain should show; null where neither is known.
 */
export const swrLimitOf = (
  { mostSwr }: Pick<RunStep, 'mostSwr'>,
  expected: Pick<ExpectedStep, 'swr' | 'chainSwr'> | undefined,
): number | null => {
  if (mostSwr !== undefined || !expected) return mostSwr ?? null
  const middle = rhoOfSwr(expected.swr)
  const spread = Math.max(0, rhoOfSwr(expected.chainSwr.high) - middle)
  return Math.max(LEAST_LIMIT, swrOf(middle + BEYOND * spread + MORE_RHO))
}

/** The most that a sound chain may show, as a factor of what is expected. */
const soundFactor = ({ chainRange, watts }: ExpectedStep): number =>
  watts > 0 ? Math.max(1, chainRange.high / watts) ** BEYOND : 1

/** What a figure may really be, ± W. */
const around = (meter: Meter, watts: number): Range => {
  const doubt = readingDoubtW(meter, watts)
  return { low: Math.max(0, watts - doubt), high: watts + doubt }
}

/**
 * |ρ| that a reading may be, with the errors of the meter and the leak of its bridge: √(R ± e) over √(F ∓ e), first order.
 * Null where nothing was read that says it.
 *
 * @param expectedW forward power, where only an SWR was read
 */
function rhoRange(read: StepReading, meter: Meter, expectedW?: number): Range | null {
  const swr = swrRead(read)
  if (swr === null) return null
  const forwardW = read.forwardW || expectedW
  const leak = leakOf(meter)
  if (!forwardW)
    return { low: Math.max(0, rhoOfSwr(swr) - leak), high: Math.min(1, rhoOfSwr(swr) + leak) }
  const forward = around(meter, forwardW)
  const reflected = around(meter, read.reflectedW ?? forwardW * rhoOfSwr(swr) ** 2)
  const ratio = (back: number, out: number) => (out > 0 ? Math.min(1, Math.sqrt(back / out)) : 1)
  return {
    low: Math.max(0, ratio(reflected.low, forward.high) - leak),
    high: Math.min(1, ratio(reflected.high, forward.low) + leak),
  }
}

/** A meter whose error is more than this share of what it shows tells no fault from it. */
const TELLS = 0.2

/**
 * Whether a meter can tell a fault from its own error at a power.
 *
 * @param watts as it shows them
 */
export const meterTells = (meter: Meter, watts: number): boolean =>
  readingDoubtW(meter, watts) <= TELLS * watts

export interface StopContext {
  meter: Meter
  expected?: ExpectedStep | undefined
  earlier?: EarlierReading | undefined
  /** Limits of the parts at the power that is expected; left out where no power is known. */
  limits?: readonly Stress[] | undefined
}

type Rule = (
  step: Pick<RunStep, 'mostSwr'>,
  read: StepReading,
  context: StopContext,
) => Judged | null

/** A figure's range against a limit. */
const over = (range: Range, limit: number, reason: StopReason): Judged | null =>
  range.low > limit ? { is: 'stop', reason } : range.high > limit ? { is: 'look', reason } : null

const swrRule: Rule = (step, read, { meter, expected }) => {
  const swr = swrRead(read)
  const rho = rhoRange(read, meter, expected?.watts)
  const most = swrLimitOf(step, expected)
  if (swr === null || rho === null || most === null) return null
  const range = { low: swrOf(rho.low), high: swrOf(rho.high) }
  return over(range, most, { rule: 'SWR', swr, most, range })
}

const partRule: Rule = (_, { forwardW }, { meter, expected, limits }) => {
  if (forwardW === undefined || !expected || expected.watts <= 0 || !limits) return null
  const more = (watts: number) => 10 * Math.log10(Math.max(watts, 1e-12) / expected.watts)
  const tightest = limits
    .filter(({ headroomDb }) => headroomDb !== null)
    .sort((a, b) => a.headroomDb! - b.headroomDb!)[0]
  if (!tightest) return null
  const { low, high } = around(meter, forwardW)
  const reason: StopReason = {
    rule: 'part',
    stress: tightest,
    overDb: Math.max(0, more(forwardW) - tightest.headroomDb!),
  }
  // What a chain may show by its tolerances alone, at a power that is permitted, is no reason to unkey.
  const sound = 10 * Math.log10(soundFactor(expected))
  if (more(low) > tightest.headroomDb! + sound) return { is: 'stop', reason }
  return more(high) > tightest.headroomDb! + sound ? { is: 'look', reason } : null
}

const farAbove: Rule = (_, { forwardW }, { meter, expected }) =>
  forwardW !== undefined &&
  expected &&
  around(meter, forwardW).low > FAR_ABOVE * expected.watts * soundFactor(expected)
    ? { is: 'stop', reason: { rule: 'far above', watts: forwardW, expected: expected.watts } }
    : null

const reflectedRule: Rule = (_, read, { meter, earlier }) => {
  const now = rhoRange(read, meter)
  const then = earlier ? rhoRange(earlier, meter) : null
  if (!now || !then) return null
  const most = Math.max(JUMP * then.high ** 2, then.high ** 2 + JUMP_SHARE)
  const share = (reading: StepReading) => rhoOfSwr(swrRead(reading)!) ** 2
  return now.low ** 2 > most
    ? { is: 'stop', reason: { rule: 'reflected', share: share(read), before: share(earlier!) } }
    : null
}

const forwardFell: Rule = (_, { forwardW }, { meter, earlier }) =>
  forwardW !== undefined &&
  earlier?.forwardW !== undefined &&
  around(meter, forwardW).high < HALF * around(meter, earlier.forwardW).low
    ? { is: 'stop', reason: { rule: 'forward fell', watts: forwardW, before: earlier.forwardW } }
    : null

const farBelow: Rule = (_, { forwardW }, { meter, expected }) =>
  forwardW !== undefined &&
  expected &&
  around(meter, forwardW).high < HALF * expected.chainRange.low
    ? { is: 'stop', reason: { rule: 'far below', watts: forwardW, expected: expected.watts } }
    : null

/** The most dangerous first. */
const rules: readonly Rule[] = [swrRule, partRule, farAbove, reflectedRule, forwardFell, farBelow]

/**
 * Whether a figure that was just read means: unkey now; or that it may be over its limit. The first rule that says stop,
 * else the first that says look; null where none says anything.
 */
export function stopFor(
  step: Pick<RunStep, 'mostSwr'>,
  read: StepReading,
  context: StopContext,
): Judged | null {
  const judged = rules.flatMap((rule) => rule(step, read, context) ?? [])
  return judged.find(({ is }) => is === 'stop') ?? judged[0] ?? null
}

/**
 * The limits of the parts at a moment, for the time that the key may be down, with an amplifier's permitted output among
 * them: figures of power alone, compared with what is read.
 */
export function limitsAt({ load, setW, seconds, circuit, step }: Moment): Stress[] {
  if (!load) return []
  const { chain, at } = load.stepped
  const unset = circuit.tuner && step.tunes === 'tuner'
  const stresses = forSeconds(load.stresses(setW, unset), load.heated(setW, unset), seconds, cold)
  const outputs = chain.stages.some(({ kind, bypassed }) => kind === 'amplifier' && !bypassed)
    ? solveChain(chain, { ...at, powerW: setW }).stages
    : []
  const rated = chain.stages.flatMap((stage, k): Stress[] => {
    if (stage.kind !== 'amplifier' || stage.bypassed) return []
    const { outputW, foldback } = outputs[k]!.amplifier!
    const [output, limit] = [outputW * foldback, permittedOutputW(stage, at.mode)]
    const headroomDb = 10 * Math.log10(limit / Math.max(output, 1e-12))
    return [{ part: k, kind: 'power', stress: output, limit, unit: 'W', basis: 'PEP', headroomDb }]
  })
  return [...stresses.filter(({ kind }) => kind !== 'licence'), ...rated]
}

/** Whether a time with the key down was too long: half as long again as the step says, which is what parts were checked for. */
export const stopForTime = (
  { seconds, rest }: Pick<RunStep, 'seconds' | 'rest'>,
  elapsedS: number,
): StopReason | null =>
  seconds !== undefined && !rest && elapsedS > seconds * LATE
    ? { rule: 'time', seconds: elapsedS, most: seconds }
    : null
