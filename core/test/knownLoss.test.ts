import { describe, expect, test } from 'vitest'
import { candidatesOf } from '../src/diagnosis/explanations.ts'
import {
  type Case,
  cableClasses,
  chainUncertainty,
  diagnose,
  usualMeter,
  usualTolerances,
} from '../src/index.ts'
import type { LineStage } from '../src/stages/line.ts'
import { stationOf } from './stations.ts'

const cable = cableClasses.find(({ id }) => id === 'pe-5')!
const line = (lengthM: number, own: Partial<LineStage> = {}): LineStage => ({
  ...{ kind: 'line', lengthM, cable },
  ...own,
})
const chainOf = (...stages: LineStage[]) => ({
  ...stationOf(stages),
  load: { kind: 'fixed' as const, rOhm: 50, xOhm: 0 },
})
const at = [{ frequencyHz: 14e6, powerW: 100 }]
/** Only the cables are uncertain. */
const cablesOnly = { ...usualTolerances, length: 0, parts: 0, source: 0, reflection: 0 }
const widthDb = (...stages: LineStage[]) => {
  const [channel] = chainUncertainty(chainOf(...stages), at, cablesOnly, { seed: 3 })
  return channel!.lossDb.high - channel!.lossDb.low
}

describe('a cable whose loss was measured', () => {
  test('is known as well as it was measured, not as well as its class', () => {
    const byClass = widthDb(line(60))
    // The share of a loss is a share of its decibels: ± 2 % instead of ± 8 % is a quarter of the width.
    expect(widthDb(line(60, { lossKnown: { share: 0.02 } })) / byClass).toBeCloseTo(0.25, 2)
    expect(widthDb(line(60, { lossKnown: { share: 0.16 } })) / byClass).toBeCloseTo(2, 1)
    expect(widthDb(line(60, { lossKnown: { share: 0 } }))).toBeLessThan(1e-9)
  })

  test('leaves the others as they are', () => {
    const alone = widthDb(line(60))
    const beside = widthDb(line(60), line(60, { lossKnown: { share: 0 } }))
    expect(beside / alone).toBeCloseTo(1, 1)
  })

  test('is taken as it is where the chain takes all cables so', () => {
    const none = { ...cablesOnly, cable: 0 }
    const [channel] = chainUncertainty(chainOf(line(60, { lossKnown: { share: 0.1 } })), at, none, {
      seed: 3,
    })
    expect(channel!.lossDb.high - channel!.lossDb.low).toBeLessThan(1e-9)
  })
})

describe('a part that lost too much elsewhere', () => {
  const three = chainOf(line(20), line(20), line(20))
  const kase = (suspects?: number[]): Case => ({
    chain: three,
    channels: [{ ...at[0]!, emission: { mode: 'CW', meanToPeak: undefined } }],
    instruments: [usualMeter],
    readings: [
      { point: 0, plane: 0, instrument: 0, forwardW: 100 },
      // Somewhere behind the first plane 1 dB is lost that does not belong there.
      { point: 0, plane: 3, instrument: 0, forwardW: 100 * 10 ** -0.22 },
    ],
    tolerances: usualTolerances,
    ...(suspects && { suspects }),
  })
  const weightOf = (stage: number, suspects?: number[]) =>
    candidatesOf(kase(suspects))
      .filter(({ sizes }) =>
        sizes.some((cause) => 'from' in cause && cause.from <= stage && stage <= cause.to),
      )
      .reduce((sum, { prior }) => sum + prior, 0)

  test('is likelier to be at fault, and nothing is ruled out by it', () => {
    expect(weightOf(1, [1])).toBeGreaterThan(2 * weightOf(1))
    const sum = (suspects?: number[]) =>
      candidatesOf(kase(suspects)).reduce((all, { prior }) => all + prior, 0)
    expect(sum([1])).toBeCloseTo(1, 9)
    expect(candidatesOf(kase([1])).every(({ prior }) => prior > 0)).toBe(true)
    expect(candidatesOf(kase([1])).length).toBe(candidatesOf(kase()).length)
  })

  test('speaks louder for a loss in the diagnosis', () => {
    const lossShare = (suspects?: number[]) =>
      diagnose(kase(suspects))
        .explanations.filter(({ cause: { kind } }) => kind === 'loss' || kind === 'aged')
        .reduce((all, { probability }) => all + probability, 0)
    expect(lossShare([1])).toBeGreaterThan(lossShare())
  })
})
