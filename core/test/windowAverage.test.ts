import fc from 'fast-check'
import { expect, test } from 'vitest'
import { windowAverageW } from '../src/index.ts'

/** The highest average found by moving the window over the transmissions, a hundredth of a second at a time. */
function bySliding(averageW: number, overS: number, windowS: number): number {
  const steps = 100
  const on = (at: number) => at % (2 * overS) < overS
  let most = 0
  const samples = 4000
  for (let start = 0; start < steps; start++) {
    const from = (start / steps) * 2 * overS
    let sum = 0
    for (let k = 0; k < samples; k++) if (on(from + ((k + 0.5) / samples) * windowS)) sum++
    most = Math.max(most, sum / samples)
  }
  return averageW * most
}

test('the average over a window is the highest that any place of the window gives', () => {
  fc.assert(
    fc.property(
      fc.double({ min: 1, max: 1500, noNaN: true }),
      fc.integer({ min: 5, max: 1200 }),
      fc.constantFrom(360, 1800),
      (averageW, overS, windowS) => {
        const found = bySliding(averageW, overS, windowS)
        expect(Math.abs(windowAverageW(averageW, overS, windowS) - found) / averageW).toBeLessThan(
          0.012,
        )
      },
    ),
    { numRuns: 60 },
  )
})

test.each([
  ['as long as half of the window', 180, 50],
  ['of four minutes in six', 240, 400 / 6],
  ['longer than the window', 600, 100],
  ['not known', undefined, 100],
])('worked by hand: a transmission %s', (_, overS, watts) => {
  expect(windowAverageW(100, overS, 360)).toBeCloseTo(watts, 9)
})
