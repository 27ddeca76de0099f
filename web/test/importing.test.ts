import { modes } from '@saltline/contract'
import { describe, expect, test } from 'vitest'
import {
  guessMapping,
  modeIds,
  type OnePortSweep,
  readSweepTable,
  rhoOfSwr,
  type Stage,
  carryToFeedPoint,
} from '@saltline/core'
import { isTouchstone, isTwoPort, previewOf, SWEEP_FILES } from '../src/model/sweepFile.ts'

const swrOnly = (...swrs: number[]): OnePortSweep => ({
  referenceOhm: 50,
  frequencyHz: Float64Array.from(swrs, (_, i) => (i + 1) * 1e6),
  re: Float64Array.from(swrs, rhoOfSwr),
  im: new Float64Array(swrs.length),
  comments: ['made up'],
})
const pad: Stage = { kind: 'pad', lossDb: 1 }

describe('carrying a sweep that has no phase', () => {
  test('the returning wave has paid twice: |ρ|·10^(loss/10)', () => {
    const carried = carryToFeedPoint(swrOnly(1.5, 2), [pad], false)
    if (!carried.possible) throw new Error(carried.message)
    expect(carried.sweep.re[0]).toBeCloseTo(rhoOfSwr(1.5) * 10 ** 0.1, 9)
    expect(carried.sweep.im[1]).toBe(0)
    expect(carried.sweep.comments).toEqual(['made up'])
  })

  test('what cannot be is counted and named at its first frequency', () => {
    const carried = carryToFeedPoint(swrOnly(1.5, 20, 30), [pad], false)
    expect(carried).toMatchObject({ possible: false })
    expect((carried as { message: string }).message).toMatch(
      /2 of 3 points, the first at 2\.000.MHz/,
    )
  })

  test('at the feed point itself nothing changes', () => {
    const carried = carryToFeedPoint(swrOnly(3), [], false)
    expect(carried.possible && carried.sweep.re[0]).toBeCloseTo(0.5, 12)
  })

  test('through a tuner or an amplifier there is no looking, with a phase or without', () => {
    const tuner: Stage = { kind: 'tuner', method: 'given', lossDb: 0.3, residualSwr: 1 }
    const sweep = { ...swrOnly(2), im: Float64Array.of(0.1) }
    expect(carryToFeedPoint(swrOnly(2), [tuner], false).possible).toBe(false)
    expect(carryToFeedPoint(sweep, [{ ...tuner, bypassed: true }]).possible).toBe(true)
    expect(carryToFeedPoint(sweep, [tuner])).toMatchObject({
      possible: false,
      message: expect.stringContaining('measure on its antenna side') as string,
    })
  })
})

describe('files by their names', () => {
  test.each([
    ['vee.s1p', true, false],
    ['FILTER.S2P', true, true],
    ['readings.csv', false, false],
    ['s1p', false, false],
  ])('%s', (name, touchstone, twoPort) => {
    expect(isTouchstone(name)).toBe(touchstone)
    expect(isTwoPort(name)).toBe(twoPort)
  })

  test('all that can be read can be chosen', () => {
    for (const ending of ['.s1p', '.s2p', '.csv']) expect(SWEEP_FILES.split(',')).toContain(ending)
  })
})

test('a preview shows the first rows of a table, and how many there are', () => {
  const rows = Array.from({ length: 12 }, (_, i) => `${7 + i / 10},${1 + i / 10}`)
  const table = readSweepTable(['MHz,SWR', ...rows].join('\n'))
  const preview = previewOf(table, guessMapping(table))
  expect(preview.rowCount).toBe(12)
  expect(preview.rows).toEqual([
    [7, 1],
    [7.1, 1.1],
    [7.2, 1.2],
    [7.3, 1.3],
    [7.4, 1.4],
  ])
  expect(preview.guess).toMatchObject({ form: 'swr', unit: 'MHz' })
})

test('the document knows the modes that the table explains', () => {
  expect([...modes]).toEqual([...modeIds])
})
