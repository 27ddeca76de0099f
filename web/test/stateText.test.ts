import { expect, test } from 'vitest'
import { stateText } from '../src/pages/station/stateText.ts'

type Chain = Parameters<typeof stateText>[0][number]
const left = (headroomDb: number) =>
  ({ nearest: { stress: { headroomDb, limit: 100, kind: 'heat' } } }) as unknown as Chain
const chain = (id: string, part: Partial<Chain>): Chain => ({
  ...{ id, nearest: undefined, problem: null },
  ...part,
})
const fine = chain('a', left(6))
const over = chain('b', left(-1))
const waiting = chain('c', {})
const alert = { chainId: 'a' }

test('nothing is counted before all of it is known, and then once', () => {
  expect(stateText([fine, waiting], [alert], true)).not.toMatch(/\d/)
  expect(stateText([over, waiting], [], true)).not.toMatch(/\d/)
  expect(stateText([fine, over], [alert], true)).toBe('2 of 2 chains need attention.')
  expect(stateText([over], [], true)).toBe('1 of 1 chain needs attention.')
  // A chain that cannot be solved is known not to be.
  expect(stateText([fine, chain('c', { problem: 'no sweep' })], [], true)).toMatch(/^All readings/)
  expect(stateText([fine], [], false)).toMatch(/^No readings yet/)
})
