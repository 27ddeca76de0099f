import { readFileSync } from 'node:fs'
import { resolve } from 'node:path'
import { expect, test } from 'vitest'
import { compareVectors, limitOf, type VectorCase } from '../vectors/compare.ts'

const cases = JSON.parse(
  readFileSync(resolve(import.meta.dirname, '../vectors/chains.json'), 'utf8'),
) as VectorCase[]

test('the independent solutions are all there', () => {
  expect(cases.length).toBe(40)
  expect(new Set(cases.flatMap((c) => c.elements.map((e) => e.kind)))).toEqual(
    new Set(['line', 'pad', 'series', 'shunt']),
  )
})

test.each([...compareVectors(cases)])('%s agrees with the independent solutions', (name, worst) => {
  expect(worst.error, `worst in ${worst.caseId}`).toBeLessThanOrEqual(limitOf(name))
})

test('a wrong figure is noticed', () => {
  const spoiled = structuredClone(cases)
  spoiled[7]!.expected.planes[0]!.netW *= 1.00001
  const worst = compareVectors(spoiled).get('netW')!
  expect(worst.caseId).toBe(spoiled[7]!.id)
  expect(worst.error).toBeGreaterThan(limitOf('netW'))
})
