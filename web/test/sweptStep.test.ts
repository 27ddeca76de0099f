/** What a step of a run sheet looks along, and when it says: mend it first. */
import { alongLine, expectedSweep, frequencyGrid, runSheets } from '@saltline/core'
import { describe, expect, test } from 'vitest'
import { chainOfDocument } from '../src/model/answers.ts'
import { alongOf } from '../src/model/alongLine.ts'
import { sweptLook, sweptProblem } from '../src/model/sweptStep.ts'
import { document as fixture } from './fixtures.ts'

const document = {
  ...fixture,
  load: { kind: 'fixed' as const, name: 'A', rOhm: 60, xOhm: 0 },
}
const chain = chainOfDocument(document, undefined)!
const lines = document.stages.flatMap((stage) => (stage.kind === 'line' ? [stage] : []))
const longest = lines.reduce((a, b) => (b.lengthM > a.lengthM ? b : a))

const partOf = (of: 'line' | 'cable') =>
  alongOf(sweptLook({ of, farEnd: 'open' }, document)!, document, chain)!

describe('what is looked along', () => {
  test('the line begins behind the last tuner', () => {
    const part = partOf('line')
    const tuner = document.stages.findLastIndex(({ kind }) => kind === 'tuner')
    expect(part.plane).toBeGreaterThan(tuner)
    expect(part.stages).toEqual(document.stages.slice(part.plane))
  })

  test('the cable under test is the longest one, alone', () => {
    const part = partOf('cable')
    expect(part.stages).toEqual([longest])
    expect(part.chain.stages).toHaveLength(1)
    expect(sweptLook({ of: 'cable', farEnd: 'open' }, document)!.name).toContain(longest.name)
  })

  test('without a cable there is nothing', () => {
    const bare = { ...document, stages: document.stages.filter(({ kind }) => kind !== 'line') }
    for (const of of ['line', 'cable'] as const)
      expect(sweptLook({ of, farEnd: 'open' }, bare)).toBeNull()
  })
})

describe('what is to be mended first', () => {
  const part = partOf('cable')
  const hz = frequencyGrid(10e6, 400e6, 401)
  const found = (lossier: number) => {
    const [line] = part.chain.stages
    const aged = { ...line!, ageing: { factor: lossier } } as typeof line & object
    const sweep = expectedSweep({ ...part.chain, stages: [aged] }, 0, hz, 'open')
    return { ...alongLine(part.chain, 0, sweep, 'open'), outside: null }
  }
  test('a cable as it should be is not, one that loses far more is', () => {
    expect(sweptProblem(found(1), 'open')).toBe(false)
    expect(sweptProblem(found(1.5), 'open')).toBe(true)
    // So lossy that its end is not seen.
    expect(found(3).end).toBeNull()
    expect(sweptProblem(found(3), 'open')).toBe(true)
  })

  test('what reflects on the way, or lies outside the range, is', () => {
    const sound = found(1)
    const outside = { lowHz: 1e6, highHz: 2e6, measured: 0.5, low: 0.1, high: 0.2 }
    expect(sweptProblem({ ...sound, outside }, 'antenna')).toBe(true)
    const [finding] = [
      { atM: 3, measured: 0.2, expected: 0.01, stage: 0, atJoint: false, rises: null },
    ]
    expect(sweptProblem({ ...sound, findings: [finding!] }, 'open')).toBe(true)
  })
})

test('sheets that ask for a sweep ask for it with the key up', () => {
  const asking = runSheets.flatMap(({ id, steps }) =>
    steps.flatMap((step) => ('sweep' in step && step.sweep ? [{ id, step }] : [])),
  )
  expect(asking.map(({ id }) => id).toSorted()).toEqual([
    'after-storm',
    'cable-acceptance',
    'yearly',
  ])
  for (const { step } of asking) {
    expect(step.kind).toBe('do')
    expect(step.seconds).toBeUndefined()
  }
})
