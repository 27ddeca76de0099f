import { describe, expect, test } from 'vitest'
import type { Station } from '@saltline/contract'
import { InputError, lineConstants, matchedLossDb } from '@saltline/core'
import { worksheets, worksheetOf } from '../src/bench/sheets/index.ts'
import { ageingOf, subjectsOf } from '../src/bench/subjects.ts'
import { document } from './fixtures.ts'

const station = { gear: [] } as unknown as Station
const line = subjectsOf('c', document).find(({ kind }) => kind === 'line')!

describe('worksheets', () => {
  test('ten of them, each with steps, and what it shows and cannot show', () => {
    expect(worksheets.map(({ kind }) => kind)).toHaveLength(10)
    for (const sheet of worksheets) {
      expect(sheet.steps.length).toBeGreaterThan(0)
      expect(sheet.proves.length).toBeGreaterThan(0)
      expect(sheet.doesNot.length).toBeGreaterThan(0)
      expect(sheet.setup(sheet.initial)[0]!.pieces.length).toBeGreaterThan(1)
    }
    expect(worksheetOf('no such')).toBe(worksheets[0])
  })

  test('an empty sheet asks for what it needs, or answers at once', () => {
    for (const sheet of worksheets)
      try {
        expect(sheet.reduce(sheet.initial, station, null).answer).not.toBe('')
      } catch (error) {
        expect(error).toBeInstanceOf(InputError)
      }
  })

  test('a substitution of the sheet’s own loss finds the cable as new', () => {
    const hz = 28e6
    const sheetDb = matchedLossDb(lineConstants(line.cable!, hz), line.lengthM!)
    const points = [{ mhz: 28, directW: 100, throughW: 100 / 10 ** (sheetDb / 10) }]
    const sheet = worksheetOf('substitution')
    const result = sheet.reduce({ ...sheet.initial, points }, station, line)
    expect(result.sheetDb).toBeCloseTo(sheetDb, 9)
    expect(result.lead!.value).toBeCloseTo(sheetDb, 6)
    expect(ageingOf(line, result.loss!)).toBeCloseTo(1, 6)
  })

  test('twice the loss is a factor of two, over all frequencies', () => {
    const loss = [7e6, 28e6].map(
      (hz) => [hz, 2 * matchedLossDb(lineConstants(line.cable!, hz), line.lengthM!)] as const,
    )
    expect(ageingOf(line, loss)).toBeCloseTo(2, 9)
  })

  test('a dummy load goes by its sweep where there is one', () => {
    const sheet = worksheetOf('dummy-load')
    const swept = [
      [1, 1.02],
      [100, 1.2],
      [200, 1.6],
    ]
    const { answer } = sheet.reduce({ ...sheet.initial, swept }, station, null)
    expect(answer.replaceAll('\u00a0', ' ')).toContain('Good up to 100 MHz')
  })
})
