/** What a reading is expected to settle, held against the mutual information worked out by an integral. */
import { expect, test } from 'vitest'
import { outcomesOf, settledBy } from '../src/diagnosis/imagine.ts'

const outcomes = outcomesOf(48)
const alone = Float64Array.of(1)

/**
 * Two explanations whose figures lie `apart` deviations from each other, the second `wider` times as wide: the share of doubt
 * that one figure settles.
 */
function byIntegral(apart: number, share: number, wider = 1): number {
  const entropy = (p: number) =>
    p <= 0 || p >= 1 ? 0 : -p * Math.log(p) - (1 - p) * Math.log(1 - p)
  const normal = (x: number) => Math.exp((-x * x) / 2) / Math.sqrt(2 * Math.PI)
  const STEP = 0.001
  let left = 0
  for (let x = -8 * wider; x < apart + 8 * wider; x += STEP) {
    const first = share * normal(x)
    const second = ((1 - share) * normal((x - apart) / wider)) / wider
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
  const settles = settledBy(
    [
      { group: 'a', weight: share, mean: [0], triangle: alone },
      { group: 'b', weight: 1 - share, mean: [apart], triangle: alone },
    ],
    outcomes,
  )
  expect(Math.abs(settles - byIntegral(apart, share))).toBeLessThan(0.07)
})

test.each([
  [0, 3],
  [0, 8],
  [2, 3],
  [1, 0.2],
])('figures %d deviations apart, the second %d times as wide', (apart, wider) => {
  const settles = settledBy(
    [
      { group: 'a', weight: 0.5, mean: [0], triangle: alone },
      { group: 'b', weight: 0.5, mean: [apart], triangle: Float64Array.of(wider) },
    ],
    outcomes,
  )
  expect(Math.abs(settles - byIntegral(apart, 0.5, wider))).toBeLessThan(0.07)
})

test.each([
  [1, 1, 0],
  [1, 1, 0.8],
  [1.5, -1, 0.5],
  [2, 0, -0.6],
  [1, 1, 0.95],
  [0.5, -0.5, 0.95],
])('two figures %d and %d deviations apart, whose errors hang together by %d', (x, y, r) => {
  // As one figure is that lies so many deviations away (Mahalanobis).
  const apart = Math.sqrt((x * x - 2 * r * x * y + y * y) / (1 - r * r))
  const triangle = Float64Array.of(1, 0, r, Math.sqrt(1 - r * r))
  const settles = settledBy(
    [
      { group: 'a', weight: 0.5, mean: [0, 0], triangle },
      { group: 'b', weight: 0.5, mean: [x, y], triangle },
    ],
    outcomes,
  )
  expect(Math.abs(settles - byIntegral(apart, 0.5))).toBeLessThan(0.07)
})

test('nothing where both show the same, all where they cannot be confused, nothing where there is one group', () => {
  const at = (group: string, mean: number) => ({
    group,
    weight: 0.5,
    mean: [mean],
    triangle: alone,
  })
  expect(settledBy([at('a', 3), at('b', 3)], outcomes)).toBeCloseTo(0, 9)
  expect(settledBy([at('a', 0), at('b', 40)], outcomes)).toBeCloseTo(1, 9)
  expect(settledBy([at('a', 0), at('a', 40)], outcomes)).toBe(0)
})
