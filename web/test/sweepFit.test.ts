import { expectedSweep, fitSweep, frequencyGrid, usualTolerances } from '@saltline/core'
import { describe, expect, test } from 'vitest'
import { chainOfDocument } from '../src/model/answers.ts'
import { dipsFrom, lossRows } from '../src/model/benchSweep.ts'
import { fitDoubts, fitRows } from '../src/model/sweepFit.ts'
import { document as fixture } from './fixtures.ts'

const fixed = { kind: 'fixed' as const, name: 'A', rOhm: 50, xOhm: 0 }
const document = {
  ...fixture,
  load: fixed,
  stages: fixture.stages.filter(({ kind }) => kind === 'line' || kind === 'pad'),
}
const lines = document.stages.filter((stage) => stage.kind === 'line')
const longest = lines.reduce((a, b) => (b.lengthM > a.lengthM ? b : a))
const hz = frequencyGrid(10e6, 250e6, 161)

/** What a sweep of the chain as it is says, where the chain as it is written down is fitted to it. */
function rowsOf(really: typeof document, end: 'open' | 'load' = 'open') {
  const chain = chainOfDocument(document, undefined)!
  const sweep = expectedSweep(chainOfDocument(really, undefined)!, 0, hz, end)
  const fit = fitSweep(chain, 0, sweep, end, usualTolerances)!
  const swept = { day: '2026-04-18', name: 'a.s1p' }
  return { rows: fitRows(fit, document.stages, document.load, swept, 'm'), fit }
}
const withLongest = (change: Partial<typeof longest>) => ({
  ...document,
  stages: document.stages.map((stage) => (stage === longest ? { ...longest, ...change } : stage)),
})
const after = (edited: typeof document) =>
  edited.stages.find(({ id }) => id === longest.id) as typeof longest

describe('what a sweep says of each part', () => {
  test('nothing is off of a line that is as written down, and nothing is offered', () => {
    const { rows, fit } = rowsOf(document)
    expect(rows.length).toBeGreaterThan(0)
    expect(rows.filter(({ off, take }) => off || take)).toEqual([])
    expect(fit.fits).toBe(true)
  })

  test('a longer way is found, and taken over it is as long as it is', () => {
    const { rows } = rowsOf(withLongest({ lengthM: longest.lengthM * 1.06 }))
    const takes = rows.flatMap(({ what, take }) => (what === 'length' && take ? [take.edit] : []))
    expect(takes.length).toBeGreaterThan(0)
    const edited = takes.reduce((own, edit) => edit(own) as typeof document, document)
    // Of two cables of one kind behind each other nobody can say which is the longer one.
    const whole = (own: typeof document) =>
      own.stages.reduce((sum, stage) => sum + (stage.kind === 'line' ? stage.lengthM : 0), 0)
    expect(whole(edited)).toBeCloseTo(whole(document) + longest.lengthM * 0.06, 1)
  })

  test('a lossier one loses so much, known as well as the analyser knows it', () => {
    const { rows, fit } = rowsOf(withLongest({ ageing: { factor: 1.4, reason: '' } }))
    const row = rows.find(({ take }) => take?.label.includes('more than new'))!
    const own = after(row.take!.edit(document) as typeof document)
    expect(own.ageing!.factor).toBeCloseTo(1.4, 1)
    expect(own.lossKnown!.on).toBe('2026-04-18')
    expect(own.lossKnown!.share).toBeGreaterThan(0)
    expect(own.lossKnown!.share).toBeLessThan(0.2)
    // A document's shares hold nineteen times in twenty, the fit's ranges nine in ten.
    const { lossPerMetre } = fit.lines.find(({ stage }) => document.stages[stage] === longest)!
    const nineInTen = (lossPerMetre.high - lossPerMetre.low) / 2 / lossPerMetre.value
    expect(own.lossKnown!.share / nineInTen).toBeCloseTo(1.96 / 1.645, 1)
  })

  test('a joint that reflects is named with its ohms', () => {
    const at = document.stages.findIndex((stage) => stage === longest)
    const joint = { id: 'joint', kind: 'series' as const, name: 'Joint', rOhm: 4, xOhm: 0 }
    const stages = document.stages.toSpliced(at, 0, joint as (typeof document.stages)[number])
    const { rows } = rowsOf({ ...document, stages })
    const named = rows.filter(({ what }) => what.startsWith('joint'))
    expect(named).toHaveLength(1)
    expect(named[0]!.found).toContain('0.04')
    expect(named[0]!.range).toMatch(/3\.9|4\.0/)
    expect(named[0]!.take).toBeNull()
  })

  test('so is one at the far end, where a load lets it be seen', () => {
    const joint = { id: 'joint', kind: 'series' as const, name: 'Joint', rOhm: 4, xOhm: 0 }
    const stages = [...document.stages, joint as (typeof document.stages)[number]]
    const { rows } = rowsOf({ ...document, stages }, 'load')
    const named = rows.filter(({ what }) => what.startsWith('joint'))
    expect(named.map(({ part }) => part)).toEqual(['Far end'])
    expect(named[0]!.found).toContain('0.04')
  })

  test('what it cannot say is said', () => {
    const { fit } = rowsOf(document)
    const untold = {
      ...fit,
      lines: fit.lines.map((own) => ({ ...own, lossDb: { ...own.lossDb, told: false } })),
    }
    expect(fitDoubts(untold, document.stages).join(' ')).toContain(
      `nothing new of the loss of ${lines.map(({ name }) => name).join(', ')}`,
    )
    expect(fitDoubts({ ...fit, fits: false }, document.stages)[0]).toContain('does not fit')
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
