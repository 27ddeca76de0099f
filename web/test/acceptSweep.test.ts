import { alongLine, expectedSweep, frequencyGrid, sweepFigures } from '@saltline/core'
import { describe, expect, test } from 'vitest'
import { acceptances } from '../src/model/acceptSweep.ts'
import { chainOfDocument } from '../src/model/answers.ts'
import { dipsFrom, lossRows } from '../src/model/benchSweep.ts'
import { document as fixture } from './fixtures.ts'

const fixed = { kind: 'fixed' as const, name: 'A', rOhm: 50, xOhm: 0 }
const document = {
  ...fixture,
  load: fixed,
  stages: fixture.stages.filter(({ kind }) => kind === 'line' || kind === 'pad'),
}
const lines = document.stages.filter((stage) => stage.kind === 'line')
const longest = lines.reduce((a, b) => (b.lengthM > a.lengthM ? b : a))
const hz = frequencyGrid(10e6, 400e6, 401)
const middle = 205e6

/** The chain as it is written down, seen by a sweep of the chain as it is. */
function accepted(really: typeof document) {
  const chain = chainOfDocument(document, undefined)!
  const sweep = expectedSweep(chainOfDocument(really, undefined)!, 0, hz, 'open')
  const along = alongLine(chain, 0, sweep, 'open')
  const swept = { day: '2026-04-18', name: 'a.s1p' }
  return acceptances(document, 0, along, sweepFigures(sweep, along), middle, swept, 'm')
}
const withLongest = (change: Partial<typeof longest>) => ({
  ...document,
  stages: document.stages.map((stage) => (stage === longest ? { ...longest, ...change } : stage)),
})
const after = (edited: typeof document) =>
  edited.stages.find(({ id }) => id === longest.id) as typeof longest

describe('what a sweep found, taken over', () => {
  test('nothing of a line that is as written down', () => {
    expect(accepted(document)).toEqual([])
  })

  test('a longer cable becomes as long as it is, within the resolution', () => {
    const [length] = accepted(withLongest({ lengthM: longest.lengthM + 4 }))
    const { lengthM } = after(length!.edit(document) as typeof document)
    expect(lengthM).toBeCloseTo(longest.lengthM + 4, 0)
  })

  test('a lossier one loses so much, known as well as the analyser knows it', () => {
    const found = accepted(withLongest({ ageing: { factor: 1.4, reason: '' } }))
    const loss = found.find(({ label }) => label.includes('more than new'))!
    const own = after(loss.edit(document) as typeof document)
    expect(own.ageing!.factor).toBeGreaterThan(1.2)
    expect(own.ageing!.factor).toBeLessThan(1.6)
    expect(own.lossKnown!.on).toBe('2026-04-18')
    expect(own.lossKnown!.share).toBeGreaterThan(0)
    expect(own.lossKnown!.share).toBeLessThan(0.5)
  })
})

describe('a sweep instead of typed figures', () => {
  const alone = chainOfDocument({ ...document, stages: [longest] }, undefined)!
  test('quarter waves are counted by the spacing of the dips, however high the sweep begins', () => {
    for (const [end, first] of [
      ['open', 1],
      ['short', 2],
    ] as const)
      for (const skipped of [0, 1, 3]) {
        const { velocityFactor } = longest.cable
        const quarter = (velocityFactor * 299_792_458) / (4 * longest.lengthM)
        const from = (first + 2 * skipped - 0.7) * quarter
        const sweep = expectedSweep(alone, 0, frequencyGrid(from, from + 5 * quarter, 801), end)
        const { dipMhz, quarterWaves } = dipsFrom(sweep, end)
        expect(quarterWaves).toBe(first + 2 * skipped)
        expect((dipMhz * 1e6) / quarter / quarterWaves).toBeCloseTo(1, 1)
      }
  })

  test('without a dip it is said what to do', () => {
    const low = expectedSweep(alone, 0, frequencyGrid(1e3, 2e3, 20), 'open')
    expect(() => dipsFrom(low, 'open')).toThrow('sweep higher')
  })

  test('losses go into the column of their far end', () => {
    const sweep = expectedSweep(alone, 0, hz, 'short')
    expect(lossRows(sweep, 'short')).toHaveLength(8)
    expect(lossRows(sweep, 'short').every((row) => row.openDb === null && row.shortDb! > 0)).toBe(
      true,
    )
  })
})
