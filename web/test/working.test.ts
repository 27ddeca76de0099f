import { describe, expect, test } from 'vitest'
import { answerChain, type Chain, ledgerOf } from '@saltline/core'
import type { ChainDocument } from '@saltline/contract'
import { schoolsOf, totalWorking, workingOf } from '../src/lenses/budget/working.ts'
import { document } from './fixtures.ts'

const at = { frequencyHz: 8e6, powerW: 100 }
const chain: Chain = {
  transmitter: document.transmitter,
  stages: document.stages,
  load: { kind: 'fixed', rOhm: 20, xOhm: 30 },
}
const answer = answerChain(chain, at)

/** The leading number of a result such as “12.3 W”, in the unit's own size. */
const number = (text: string): number => {
  const [value, unit] = text.split('\u00a0')
  return Number(value!.replace('−', '-')) * (unit === 'mW' ? 1e-3 : 1)
}

describe('working', () => {
  test('of the transmitter: its two parts are what is not delivered', () => {
    const { steps } = workingOf(document, answer.solution, -1)
    const step = (what: RegExp) => number(steps.find((s) => what.test(s.what))!.result)
    const parts = step(/: foldback/) + step(/: reflected/)
    expect(parts).toBeCloseTo(ledgerOf(answer.solution).rows[0]!.lossW, 0)
    expect(step(/Delivered/)).toBeCloseTo(answer.solution.transmitterNetW, 0)
  })

  test('of a peaked transmitter: nothing is returned', () => {
    const peaked: ChainDocument = {
      ...document,
      transmitter: { ...document.transmitter, behaviour: 'peaked' },
    }
    const { solution } = answerChain({ ...chain, transmitter: peaked.transmitter }, at)
    expect(
      workingOf(peaked, solution, -1)
        .steps.map((s) => s.what)
        .join(),
    ).toContain('Tuned output')
  })

  test('of a cable: matched and added make its loss, and the textbook figure stands beside it', () => {
    const { steps, sources } = workingOf(document, answer.solution, 2)
    const step = (what: RegExp) => number(steps.find((s) => what.test(s.what))!.result)
    expect(step(/Matched loss/) + step(/standing wave/)).toBeCloseTo(
      answer.solution.stages[2]!.lossDb,
      1,
    )
    expect(Math.abs(step(/textbook/) / answer.solution.stages[2]!.lossDb - 1)).toBeLessThan(0.2)
    expect(sources.length).toBeGreaterThan(1)
  })

  test.each([0, 1, 2])('of stage %d names what it takes', (k) => {
    const { steps, title } = workingOf(document, answer.solution, k)
    expect(title).toBe(document.stages[k]!.name)
    expect(number(steps.at(-1)!.result)).toBeCloseTo(answer.solution.stages[k]!.lossW, 0)
  })

  test('of a cable beyond its data says that it is extrapolated', () => {
    const [first] = document.stages
    if (first?.kind !== 'line') throw new Error('no line')
    const short = { ...document, stages: [{ ...first, cable: { ...first.cable, maxHz: 5e6 } }] }
    const { solution } = answerChain({ ...chain, stages: short.stages }, at)
    expect(workingOf(short, solution, 0).remarks.join(' ')).toContain('Extrapolated')
  })

  test('of the whole leads from the setting to the antenna', () => {
    const results = totalWorking(answer).steps.map((s) => number(s.result))
    expect(results[0]! - (results[0]! - results[1]!) - results[2]!).toBeCloseTo(results[3]!, -0.5)
    expect(results[4]).toBeCloseTo(ledgerOf(answer.solution).lossDb, 1)
  })

  test('says so where the phase is not known', () => {
    const unknown = answerChain({ ...chain, load: { kind: 'swr', swr: 5 } }, at)
    expect(totalWorking(unknown).remarks.join(' ')).toContain('not its phase')
    expect(totalWorking(answer).remarks.join(' ')).not.toContain('not its phase')
  })
})

test('both schools: what is sent again is never less than what is lost', () => {
  const [lost, resent, stands] = schoolsOf(chain, at).map(({ watts }) => number(watts))
  expect(resent!).toBeGreaterThan(lost!)
  expect(stands!).toBeLessThanOrEqual(lost!)
})
