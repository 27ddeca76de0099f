/** Sizes that are passed over because they are out of the question: the ranking is the same as with all of them weighed. */
import { expect, test } from 'vitest'
import {
  type Case,
  type Cause,
  type Prepared,
  prepare,
  usualTolerances,
  weigh,
} from '../src/index.ts'
import { causedWaves } from '../src/diagnosis/causes.ts'
import { candidatesOf } from '../src/diagnosis/explanations.ts'
import { observablesOf } from '../src/diagnosis/evidence.ts'
import { likelihoodOf } from '../src/diagnosis/likelihood.ts'
import { logSumExp } from '../src/statistics/gaussian.ts'
import { kindsAbroad, trialAbroad } from '../bench/abroad.ts'

/** Probability of each candidate by the exact likelihood of every size. */
function exactly(kase: Case, prepared: Prepared): number[] {
  const observables = kase.readings.flatMap((reading, i) =>
    observablesOf(reading, i, kase.instruments[reading.instrument]!, kase.channels[reading.point]!),
  )
  const likelihood = likelihoodOf(kase, prepared, observables)
  const logs = candidatesOf(kase).map(
    ({ prior, sizes, weights }) =>
      Math.log(prior) +
      logSumExp(sizes.map((cause, i) => likelihood(cause).log + Math.log(weights[i]!))),
  )
  const total = logSumExp(logs)
  return logs.map((log) => Math.exp(log - total)).toSorted((a, b) => b - a)
}

test('nothing is passed over that counts, on chains of one answer and of several', () => {
  const states = new Set<boolean>()
  const prepared = new Map<string, Prepared>()
  for (let i = 0; i < 24; i++) {
    const trial = trialAbroad([kindsAbroad[i % kindsAbroad.length]!], 6_000_000 + i)
    const kase: Case = { ...trial, tolerances: usualTolerances }
    const key = `${trial.station} ${trial.channels[0]!.emission.mode}`
    const own = prepared.get(key) ?? prepare(kase)
    prepared.set(key, own)
    states.add(own.spread.states.length > 1)
    const { explanations } = weigh(kase, undefined, own).diagnosis
    const all = exactly(kase, own)
    explanations.forEach(({ probability }, k) =>
      expect(Math.abs(probability - all[k]!)).toBeLessThan(0.001),
    )
  }
  expect(states).toEqual(new Set([false, true]))
})

test('what a cause makes of a channel is kept for that channel alone, in whatever order one asks', () => {
  let matters = 0
  for (let i = 0; i < 12; i++) {
    const trial = trialAbroad([kindsAbroad[i % kindsAbroad.length]!], 7_000_000 + i)
    const kase: Case = { ...trial, tolerances: usualTolerances }
    const { chain, channels, tolerances } = kase
    // One that is of another channel first, then the same of this one.
    const causes = candidatesOf(kase)
      .flatMap(({ sizes }) => sizes.filter((_, k) => k % 9 === 0))
      .flatMap((cause): Cause[] =>
        cause.kind === 'antenna' || cause.kind === 'transmitter'
          ? [1, 0, null].map((point) => ({ ...cause, point }))
          : [cause],
      )
    const { waves } = prepare(kase)
    channels.slice(0, 2).forEach((at, point) => {
      const alone = causedWaves(chain, at, point, tolerances.reflection)
      for (const cause of causes) {
        expect(waves[point]!.under(cause)).toEqual(alone.under(cause))
        if (cause.kind !== 'antenna') continue
        expect(waves[point]!.matchShare(cause)).toBe(alone.matchShare(cause))
        matters += Number(alone.matchShare(cause) !== alone.matchShare({ kind: 'none' }))
      }
    })
  }
  expect(matters).toBeGreaterThan(0)
})
