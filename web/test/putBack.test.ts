import { describe, expect, test } from 'vitest'
import { beyondTuner } from '../src/model/answers.ts'
import { putBack } from '../src/model/putBack.ts'
import { readRanges } from '../src/pages/gear/readRanges.ts'
import { document } from './fixtures.ts'

describe('putting single fields back', () => {
  const edited = {
    ...document,
    name: 'Renamed',
    note: 'new',
    stages: document.stages.toReversed().map((stage) => ({ ...stage, name: `${stage.name}!` })),
  }

  test('touches what is named and nothing else', () => {
    const mended = putBack(edited, document, ['/name'])
    expect(mended).toEqual({ ...edited, name: document.name })
  })

  test('finds a stage by its id, wherever it stands now', () => {
    const last = edited.stages.length - 1
    const mended = putBack(edited, document, [`/stages/${last}/name`])
    expect(mended.stages[last]!.name).toBe(document.stages[0]!.name)
    expect(mended.stages[0]!.name).toBe(edited.stages[0]!.name)
  })

  test('what was not there before goes; without a pointer all is as it was saved', () => {
    expect(putBack(edited, document, ['/note'])).not.toHaveProperty('note')
    const added = {
      ...document,
      stages: [...document.stages, { ...document.stages[0]!, id: 'new' }],
    }
    expect(putBack(added, document, [`/stages/${document.stages.length}`]).stages).toHaveLength(
      document.stages.length,
    )
    expect(putBack(edited, document, [])).toBe(document)
    expect(putBack(edited, document, [''])).toBe(document)
  })
})

describe('a plane behind the last tuner', () => {
  const line = { kind: 'line' as const }
  const tuner = { kind: 'tuner' as const }
  const pad = { kind: 'pad' as const }
  test.each([
    [[line, tuner], 2, true],
    [[line, tuner], 1, false],
    [[tuner, line], 2, false],
    [[line, tuner, pad], 3, true],
    [[line, tuner, { ...line, bypassed: true }], 3, true],
    [[line, { ...tuner, bypassed: true }], 2, false],
    [[tuner, line, tuner], 3, true],
    [[tuner, line, tuner], 1, false],
    [[line, pad], 2, false],
  ] as const)('%#: %j, plane %d: %s', (stages, plane, expected) => {
    expect(beyondTuner(stages, plane)).toBe(expected)
  })
})

describe('full scales in one line', () => {
  test.each([
    ['5, 50, 500', [5, 50, 500]],
    ['5,50,500', [5, 50, 500]],
    ['5 W; 50 W; 1.5 kW', [5, 50, 1500]],
    ['100 W', [100]],
    ['5 50 500', [5, 50, 500]],
    ['', []],
  ])('%j', (text, rangesW) => expect(readRanges(text)).toEqual({ ok: true, rangesW }))
  test.each([
    ['1,500', /may be one range or two/],
    ['5, many', /Full scale “many”/],
    ['5, 0', /Full scale “0”/],
    ['5 MW', /must be .* or less/],
  ])('%j is refused', (text, message) => {
    const read = readRanges(text)
    expect(read.ok).toBe(false)
    expect((read as { message: string }).message).toMatch(message)
  })
})
