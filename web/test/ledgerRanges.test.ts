import { describe, expect, test } from 'vitest'
import { answerChain, type Chain, ledgerOf, lineRanges, solveChain } from '@saltline/core'
import { ledgerAsText } from '../src/lenses/budget/ledgerAsText.ts'
import { ledgerRanges } from '../src/model/ledgerRanges.ts'
import { downText, takersSentence } from '../src/model/sentence.ts'
import { levelText } from '../src/model/wattsText.ts'
import { document } from './fixtures.ts'

const cable = { z0Ohm: 50, velocityFactor: 0.66, k1DbPer100m: 0.6, k2DbPer100m: 0.002 }
const transmitter = { behaviour: 'levelled', foldback: [] } as Chain['transmitter']
const chain: Chain = {
  transmitter,
  stages: [
    { kind: 'line', lengthM: 7.3, cable: { ...cable, z0Ohm: 75 } },
    { kind: 'line', lengthM: 23.1, cable },
  ],
  load: { kind: 'swr', swr: 3.2 },
}
const at = { frequencyHz: 14.2e6, powerW: 100 }
const rho = 2.2 / 4.2

/** The same chain for a phase that somebody had measured. */
function known(phase: number): Chain {
  const below = 1 - 2 * rho * Math.cos(phase) + rho * rho
  const load = {
    kind: 'fixed' as const,
    rOhm: (50 * (1 - rho * rho)) / below,
    xOhm: (100 * rho * Math.sin(phase)) / below,
  }
  return { ...chain, load }
}
const everyPhase = Array.from({ length: 1440 }, (_, k) =>
  solveChain(known((k * Math.PI) / 720), at),
)
const ends = (values: readonly number[]) => ({
  low: Math.min(...values),
  high: Math.max(...values),
})
const near = (range: { low: number; high: number }, values: readonly number[]) => {
  const { low, high } = ends(values)
  expect(range.low / low).toBeCloseTo(1, 3)
  expect(range.high / high).toBeCloseTo(1, 3)
}

describe('where the phase of the antenna is not known', () => {
  const { solution, spread } = answerChain(chain, at)
  const ledger = ledgerOf(solution)
  const ranges = ledgerRanges(ledger, spread!)
  const all = everyPhase.map(ledgerOf)

  test('every figure of the ledger ranges over what each phase would give', () => {
    for (const k of [0, 1, 2]) {
      const own = ranges.rows[k]!
      near(
        own.outW!,
        all.map(({ rows }) => rows[k]!.outW),
      )
      near(
        own.lossDb!,
        all.map(({ rows }) => rows[k]!.lossDb),
      )
      near(
        own.lossW!,
        all.map(({ rows }) => rows[k]!.lossW),
      )
      near(
        own.swrAfter!,
        all.map(({ rows }) => rows[k]!.swrAfter),
      )
    }
    near(
      ranges.total.lossDb,
      all.map(({ lossDb }) => lossDb),
    )
    near(
      ranges.total.takenW!,
      all.map(({ takenW }) => takenW),
    )
    expect(ranges.rows[1]!.lossDb!.high).toBeGreaterThan(1.2 * ranges.rows[1]!.lossDb!.low)
  })

  test('what a cable takes does not depend on how the transmitter folds back', () => {
    const foldback = [
      [1.5, 1],
      [3, 0.4],
    ] as [number, number][]
    const other = answerChain({ ...chain, transmitter: { ...transmitter, foldback } }, at)
    const theirs = ledgerRanges(ledgerOf(other.solution), other.spread!)
    for (const k of [1, 2]) {
      expect(theirs.rows[k]!.lossDb!.low).toBeCloseTo(ranges.rows[k]!.lossDb!.low, 3)
      expect(theirs.rows[k]!.lossDb!.high).toBeCloseTo(ranges.rows[k]!.lossDb!.high, 3)
      expect(theirs.rows[k]!.swrAfter!.high).toBeCloseTo(ranges.rows[k]!.swrAfter!.high, 3)
    }
  })

  test('a section bears what the worst phase lets it bear', () => {
    const bears = lineRanges(chain, at, 0)!
    const lines = everyPhase.map(({ stages }) => stages[0]!.line!)
    near(
      bears.maxVoltageRms,
      lines.map(({ maxVoltageRms }) => maxVoltageRms.value),
    )
    near(
      bears.maxCurrentRms,
      lines.map(({ maxCurrentRms }) => maxCurrentRms.value),
    )
    near(
      bears.maxHeatWPerM,
      lines.map(({ maxHeatWPerM }) => maxHeatWPerM.value),
    )
    expect(lineRanges(known(1), at, 0)).toBeNull()
  })

  test('the sentence and the copied table say ranges too', () => {
    const named = {
      ...document,
      stages: document.stages.slice(0, 2).map((stage, i) => ({ ...stage, name: `Cable ${i}` })),
    }
    const plain = (text: string) => text.replaceAll('\u00a0', ' ')
    expect(plain(takersSentence(named, solution, ledger, spread))).toMatch(/[\d.]+ to [\d.]+ W/)
    expect(plain(takersSentence(named, solution, ledger))).not.toMatch(/\d to \d/)
    expect(plain(downText(2, { low: 1.5, high: 2.5 }))).toMatch(/^1\.5 to 2\.5 dB down, /)
    expect(plain(levelText(100, 60, { low: 50, high: 80 }))).toMatch(/^−0\.97 to 3\.0 dB$/)
    expect(plain(levelText(100, 400, { low: 200, high: 800 }))).toBe('+3.0 to 9.0 dB')
    expect(plain(levelText(100, 100, { low: 80, high: 200 }))).toBe('+3.0 dB to −0.97 dB')
    const table = ledgerAsText(named, ledger, ranges).split('\n')
    const [low, high] = table[2]!.split('\t').slice(7, 9).map(Number)
    expect(low).toBeCloseTo(ranges.rows[1]!.lossDb!.low, 2)
    expect(high).toBeCloseTo(ranges.rows[1]!.lossDb!.high, 2)
    expect(ledgerAsText(named, ledger).split('\n')[0]).not.toContain('least')
  })
})
