import { describe, expect, test } from 'vitest'
import type { YearSeries } from '@saltline/core'
import { joinInChange, joinsOf } from '../src/model/meterJoins.ts'

const day = (on: string) => `${on}T10:00:00.000Z`
const use = (before: string, instrument: string, from: string, to: string) => ({
  before,
  instrument,
  from: day(from),
  to: day(to),
})
const power = { subject: { kind: 'power' as const, at: 'a' } }

describe('a row that goes on with another meter', () => {
  test('is marked where one ends and another begins, at its own places alone', () => {
    const uses = [
      use('a', 'Heron', '2024-01-01', '2024-12-01'),
      use('a', 'Tern', '2025-01-01', '2026-03-01'),
      use('load', 'Heron', '2024-01-01', '2024-12-01'),
      use('load', 'Plover', '2025-02-01', '2026-03-01'),
    ]
    expect(joinsOf(power, uses)).toEqual([
      { at: Date.parse(day('2025-01-01')), from: 'Heron', to: 'Tern' },
    ])
    const loss = { subject: { kind: 'loss' as const, from: 'a', to: 'load' } }
    expect(joinsOf(loss, uses).map(({ to }) => to)).toEqual(['Tern', 'Plover'])
  })
  test('two meters that are read side by side are no join', () => {
    const uses = [
      use('a', 'Heron', '2024-01-01', '2026-03-01'),
      use('a', 'Tern', '2025-01-01', '2026-03-01'),
    ]
    expect(joinsOf(power, uses)).toEqual([])
  })
  test('belongs to a change that it lies in, not to one after it', () => {
    const joins = [{ at: Date.parse(day('2025-01-01')), from: 'Heron', to: 'Tern' }]
    const row = (comparedWith: string): Pick<YearSeries, 'change' | 'points'> => ({
      change: { by: 0.6, comparedWith: Date.parse(day(comparedWith)), since: null },
      points: [{ at: Date.parse(day('2025-06-01')) }] as YearSeries['points'],
    })
    expect(joinInChange(row('2024-06-01'), joins)).toBeDefined()
    expect(joinInChange(row('2025-02-01'), joins)).toBeUndefined()
    expect(joinInChange({ ...row('2024-06-01'), change: null }, joins)).toBeUndefined()
  })
})
