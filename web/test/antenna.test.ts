import { describe, expect, test } from 'vitest'
import { readTouchstone } from '@saltline/core'
import { antennaView, spansUnder } from '../src/lenses/antenna/antennaView.ts'
import { sweepAsCsv, sweepAsTouchstone } from '../src/lenses/antenna/sweepFiles.ts'
import { document } from './fixtures.ts'

const chain = {
  transmitter: document.transmitter,
  stages: document.stages,
  load: { kind: 'resonator' as const, resonanceHz: 8e6, rOhm: 60, q: 12 },
}
const view = antennaView(chain, { lowHz: 7.6e6, highHz: 8.4e6 }, { powerW: 100, tunedHz: 8e6 }, 2)!

describe('the antenna view', () => {
  test('cable loss makes the band look wider at the radio than it is', () => {
    const width = (spans: typeof view.usable) =>
      spans.reduce((sum, s) => sum + s.highHz - s.lowHz, 0)
    expect(width(view.usable)).toBeGreaterThan(100e3)
    expect(width(view.seemsUsable)).toBeGreaterThan(width(view.usable))
  })
  test('there is none where the phase is not known', () => {
    expect(
      antennaView(
        { ...chain, load: { kind: 'swr', swr: 2 } },
        { lowHz: 7e6, highHz: 8e6 },
        { powerW: 100, tunedHz: 8e6 },
        2,
      ),
    ).toBeNull()
  })
  test('its Touchstone file reads back to the same reflection', () => {
    const sweep = readTouchstone(sweepAsTouchstone('test', view), 50)
    view.reflection.forEach(({ re, im }, i) => {
      expect(sweep.re[i]).toBeCloseTo(re, 12)
      expect(sweep.im[i]).toBeCloseTo(im, 12)
    })
  })
  test('its CSV has a row for every point, with units in the heading', () => {
    const lines = sweepAsCsv(view).trim().split('\n')
    expect(lines).toHaveLength(view.frequencyHz.length + 1)
    expect(lines[0]).toContain('R Ohm')
    expect(lines[101]!.split(',')).toHaveLength(6)
  })
})

test('spans of a sampled curve end between the samples', () => {
  expect(spansUnder([0, 1, 2, 3, 4], [3, 1, 1, 3, 1], 2)).toEqual([
    { lowHz: 0.5, highHz: 2.5, openLow: false, openHigh: false },
    { lowHz: 3.5, highHz: 4, openLow: false, openHigh: true },
  ])
})
