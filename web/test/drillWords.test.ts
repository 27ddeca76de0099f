import { findDrill, findings, findingsOn, partOf } from '@saltline/core'
import { describe, expect, test } from 'vitest'
import { answerText, namesBehind, partNames } from '../src/model/drillWords.ts'

describe('a drill in words', () => {
  const mast = findDrill('gull-1', 2, 'gap')

  test('a finding has parts to choose from exactly where it is of one', () => {
    for (const finding of findings)
      expect([finding, partNames(mast, finding).length > 0]).toEqual([
        finding,
        partOf[finding] !== null,
      ])
  })

  test('a joint is named by what meets there, by the stage behind it', () => {
    expect(partNames(mast, 'gap')).toEqual([
      { value: 1, label: 'Patch lead to Arrester' },
      { value: 2, label: 'Arrester to Mast run' },
      { value: 3, label: 'Mast run to Tail' },
    ])
    expect(answerText(mast, { finding: 'gap', part: 3 })).toBe(
      'joint whose pins do not touch: Mast run to Tail',
    )
    // The hidden one is among them.
    expect(partNames(mast, 'gap').map(({ value }) => value)).toContain(mast.faults[0]!.part)
  })

  test('cables alone have jackets, and the antenna is the last thing behind a plane', () => {
    expect(partNames(mast, 'kinked').map(({ label }) => label)).toEqual([
      'Patch lead',
      'Mast run',
      'Tail',
    ])
    expect(namesBehind(mast, 2)).toEqual(['Mast run', 'Tail', 'antenna'])
  })

  test('what an analyser alone tells is no answer where there is none', () => {
    for (const finding of ['kinked', 'water', 'gap'] as const) {
      expect(findingsOn(1)).not.toContain(finding)
      expect(findingsOn(2)).toContain(finding)
    }
    expect(findingsOn(3)).not.toContain('none')
  })
})
