/** What a reading is expected to settle, held against the mutual information worked out by an integral. */
import { expect, test } from 'vitest'
import { settledBy } from '../src/diagnosis/nextReading.ts'

/** Two explanations whose figures lie `apart` deviations from each other: the share of doubt that one figure settles. */
function byIntegral(apart: number, share: number): number {
  const entropy = (p: number) =>
    p <= 0 || p >= 1 ? 0 : -p * Math.log(p) - (1 - p) * Math.log(1 - p)
  const normal = (x: number) => Math.exp((-x * x) / 2) / Math.sqrt(2 * Math.PI)
  const STEP = 0.001
  let left = 0
  for (let x = -8; x < apart + 8; x += STEP) {
    const first = share * normal(x)
    const second = (1 - share) * normal(x - apart)
    if (first + second > 0) left += (first + second) * entropy(first / (first + second)) * STEP
  }
  return 1 - left / entropy(share)
}

test.each([
  [0.5, 0.5],
  [1, 0.5],
  [2, 0.5],
  [3, 0.5],
  [2, 0.8],
  [2, 0.2],
])('figures %d deviations apart, the first at %d', (apart, share) => {
  const settles = settledBy([
    { group: 'a', weight: share, mean: [0], variance: [1] },
    { group: 'b', weight: 1 - share, mean: [apart], variance: [1] },
  ])
  expect(Math.abs(settles - byIntegral(apart, share))).toBeLessThan(0.07)
})

test('nothing where both show the same, all where they cannot be confused, nothing where there is one group', () => {
  const at = (group: string, mean: number) => ({ group, weight: 0.5, mean: [mean], variance: [1] })
  expect(settledBy([at('a', 3), at('b', 3)])).toBeCloseTo(0, 9)
  expect(settledBy([at('a', 0), at('b', 40)])).toBeCloseTo(1, 9)
  expect(settledBy([at('a', 0), at('a', 40)])).toBe(0)
})
