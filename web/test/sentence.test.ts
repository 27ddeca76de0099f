import { describe, expect, test } from 'vitest'
import { ledgerOf, solveChain } from '@saltline/core'
import { ledgerAsText } from '../src/lenses/budget/ledgerAsText.ts'
import { heardWords, takersSentence } from '../src/model/sentence.ts'
import { rangeText, wattsText } from '../src/model/wattsText.ts'
import { document } from './fixtures.ts'

const plain = (text: string) => text.replace(/[\u00a0\u2011]/g, (c) => (c === '\u00a0' ? ' ' : '-'))

const solve = (rOhm: number, frequencyHz = 8e6) =>
  solveChain(
    {
      transmitter: document.transmitter,
      stages: document.stages,
      load: { kind: 'fixed', rOhm, xOhm: 0 },
    },
    { frequencyHz, powerW: 100 },
  )
const say = (rOhm: number, frequencyHz?: number) => {
  const solution = solve(rOhm, frequencyHz)
  return plain(takersSentence(document, solution, ledgerOf(solution)))
}

test.each([
  [0.01, 'nothing lost'],
  [0.8, 'not heard'],
  [2.5, 'under half an S-unit'],
  [5, 'under one S-unit'],
  [6, 'about 1 S-unit'],
  [9.2, 'about 1.5 S-units'],
  [19, 'about 3 S-units'],
])('%d dB is heard as %s', (db, words) => {
  expect(plain(heardWords(db))).toBe(words)
})

describe('who took the rest', () => {
  test('a flat chain: the long run', () => {
    expect(say(50)).toMatch(/^Run takes most of what is lost, [\d.]+ W; Lead takes [\d.]+ W\.$/)
  })
  test('a bad match: the transmitter, with the SWR it sees', () => {
    expect(say(3, 2e6)).toMatch(
      /^Petrel does not deliver [\d.]+ W, since it sees an SWR of [\d.]+\.$/,
    )
  })
})

test('ranges are written with one unit, and only where the ends read differently', () => {
  expect(plain(wattsText(72, 'W', { low: 69.2, high: 75.8 }))).toBe('69 to 76 W')
  expect(plain(wattsText(72, 'W', { low: 71.9, high: 72.1 }))).toBe('72 W')
  expect(plain(wattsText(1, 'W', { low: 0.05, high: 2 }))).toBe('50 mW to 2.0 W')
  expect(rangeText(3, { low: 3, high: 4 }, String)).toBe('3 to 4')
})

test('the copied ledger has a row for every stage and adds up', () => {
  const solution = solve(20)
  const rows = ledgerAsText(document, ledgerOf(solution))
    .split('\n')
    .map((line) => line.split('\t'))
  expect(rows).toHaveLength(5)
  const lost = rows.slice(1).reduce((sum, row) => sum + Number(row[4]), 0)
  expect(lost).toBeCloseTo(100 - solution.antennaW, 2)
})
