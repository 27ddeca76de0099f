import { describe, expect, test } from 'vitest'
import { chainDocumentSchema } from '@saltline/contract'
import { describeChange } from '../src/model/describeChange.ts'
import * as edits from '../src/model/edits.ts'
import { stageChoices } from '../src/model/stages/index.ts'
import { readSelection, writeSelection } from '../src/model/selection.ts'
import { document } from './fixtures.ts'

const order = (d: typeof document) => d.stages.map(({ id }) => id).join('')

describe('edits', () => {
  test('move a stage, also past the ends', () => {
    expect(order(edits.moveStage('a', 1)(document))).toBe('bac')
    expect(order(edits.moveStage('a', 9)(document))).toBe('bca')
    expect(order(edits.moveStage('c', -1)(document))).toBe('cab')
    expect(edits.moveStage('nobody', 1)(document)).toBe(document)
  })

  test('duplicate with a free name, right behind', () => {
    const once = edits.duplicateStage('a', 'x')(document)
    expect(once.stages.map((s) => s.name)).toEqual(['Lead', 'Lead 2', 'Meter', 'Run'])
    const twice = edits.duplicateStage('x', 'y')(once)
    expect(twice.stages.map((s) => s.name)).toEqual(['Lead', 'Lead 2', 'Lead 3', 'Meter', 'Run'])
  })

  test('bypass and put back leave the stage as it was', () => {
    const off = edits.toggleBypass('b')(document)
    expect(off.stages[1]!.bypassed).toBe(true)
    expect(edits.toggleBypass('b')(off)).toEqual(document)
  })

  test.each(stageChoices)('a new $label is valid at once', ({ choice }) => {
    const stage = edits.newStage(choice, document)
    const next = edits.insertStage(1, stage)(document)
    expect(next.stages[1]).toBe(stage)
    expect(chainDocumentSchema.safeParse(next).error).toBeUndefined()
  })

  test('no edit touches the document it was given', () => {
    const before = structuredClone(document)
    edits.removeStage('a')(document)
    edits.changeChannel('c1', { powerW: 1 })(document)
    edits.removeChannel('c1')(document)
    expect(document).toEqual(before)
  })
})

describe('a change in words', () => {
  const words = (edit: edits.Edit) => describeChange(document, edit(document))
  test.each([
    [
      'length',
      edits.changeStage('c', (s) => ({ ...s, lengthM: 50 }) as typeof s),
      ['Run: length 40\u00a0m → 50\u00a0m'],
    ],
    [
      'loss',
      edits.changeStage('b', (s) => ({ ...s, lossDb: 0.2 }) as typeof s),
      ['Meter: loss 0.10\u00a0dB → 0.20\u00a0dB'],
    ],
    ['removal', edits.removeStage('b'), ['Meter removed']],
    ['order', edits.moveStage('a', 2), ['stages reordered']],
    ['bypass', edits.toggleBypass('a'), ['Lead: bypassed']],
    ['power', edits.changeChannel('c2', { powerW: 25 }), ['8.294\u00a0MHz: 50\u00a0W → 25\u00a0W']],
    ['nothing', (d) => ({ ...d }), []],
  ] as [string, edits.Edit, string[]][])('%s', (_, edit, want) => {
    expect(words(edit)).toEqual(want)
  })
})

test('what is selected survives the address', () => {
  for (const selection of [
    { kind: 'stage', id: 'duct' },
    { kind: 'plane', index: 3 },
    { kind: 'antenna' },
  ] as const)
    expect(readSelection(writeSelection(selection))).toEqual(selection)
  for (const text of [null, '', 'stage:', 'plane:x', 'rubbish'])
    expect(readSelection(text)).toBeNull()
})
