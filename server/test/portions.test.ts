/** How many rows a transaction has: as many as hold nobody up. */
import { expect, test } from 'vitest'
import { byPortions, PORTION, sizeAfter } from '../src/store/arrivals.ts'

test('portions grow while they are quick, and shrink where they take long', () => {
  expect(sizeAfter(250, 10)).toBe(500)
  expect(sizeAfter(1000, 60)).toBe(2000)
  expect(sizeAfter(1000, 240)).toBe(500)
  expect(sizeAfter(PORTION, 1)).toBe(PORTION)
  expect(sizeAfter(250, 5000)).toBe(250)
})

test('every one of a list is in one portion, in order', async () => {
  const items = Array.from({ length: 5003 }, (_, i) => i)
  const portions: number[][] = []
  await byPortions(items, async (portion, from) => {
    expect(portion[0]).toBe(from)
    portions.push(portion)
  })
  expect(portions.flat()).toEqual(items)
  expect(Math.max(...portions.map(({ length }) => length))).toBeLessThanOrEqual(PORTION)
})
