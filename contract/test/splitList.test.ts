import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { ListSplitter, type SplitLimits, TooLongError } from '../src/index.ts'

const LIMITS: SplitLimits = { portion: 3, element: 1000, rest: 10_000 }

/** What a splitter makes of a text that comes in pieces of any size. */
function split(text: string, sizes: readonly number[], limits = LIMITS) {
  const bytes = new TextEncoder().encode(text)
  const splitter = new ListSplitter(['log', 'readings'], limits)
  const items: unknown[] = []
  const counts: number[] = []
  for (let from = 0, i = 0; from < bytes.length; i++) {
    const size = sizes[i % sizes.length]!
    for (const portion of splitter.push(bytes.subarray(from, from + size))) {
      items.push(...(JSON.parse(`[${portion.text}]`) as unknown[]))
      counts.push(portion.count)
    }
    from += size
  }
  return { items, counts, rest: splitter.end() }
}

const sizes = fc.array(fc.integer({ min: 1, max: 40 }), { minLength: 1, maxLength: 5 })
/** Strings with all that could be taken for structure. */
const text = fc.oneof(
  fc.string({ unit: 'grapheme', maxLength: 12 }),
  fc.constantFrom('log', 'readings', '"', '\\', '[', ']', '{"log":{"readings":[', ',', 'é – ☂'),
)
const { value } = fc.letrec((tie) => ({
  value: fc.oneof(
    { depthSize: 'small', maxDepth: 3 },
    text,
    fc.double({ noNaN: true, noDefaultInfinity: true }).map((x) => x + 0),
    fc.constant(null),
    fc.boolean(),
    fc.array(tie('value'), { maxLength: 4 }),
    fc.dictionary(text, tie('value'), { maxKeys: 4 }),
  ),
}))
const object = fc.dictionary(text, value, { maxKeys: 4 })

describe('a long list is taken out of a JSON text', () => {
  test('in any pieces, with any spaces, wherever the list stands: nothing is lost or changed', () => {
    fc.assert(
      fc.property(
        object,
        object,
        fc.array(value, { maxLength: 12 }),
        sizes,
        fc.boolean(),
        (around, log, readings, pieces, spaced) => {
          const { log: _log, ...others } = around
          const { readings: _readings, ...rest } = log
          const whole = { ...others, log: { ...rest, readings } }
          const found = split(JSON.stringify(whole, null, spaced ? 2 : 0), pieces)
          expect(found.items).toEqual(readings)
          expect(found.counts.reduce((sum, n) => sum + n, 0)).toBe(readings.length)
          expect(Math.max(0, ...found.counts)).toBeLessThanOrEqual(LIMITS.portion)
          expect(JSON.parse(found.rest)).toEqual({ ...whole, log: { ...rest, readings: [] } })
        },
      ),
    )
  })

  test('a text without the list is left as it is', () => {
    for (const other of ['{"readings":[1,2]}', '{"log":[1]}', '[{"log":3}]', '', '{"a":'])
      expect(split(other, [3])).toEqual({ items: [], counts: [], rest: other })
  })

  test('a comma too many is counted', () => {
    const splitter = new ListSplitter(['log', 'readings'], { ...LIMITS, portion: 1 })
    const bytes = new TextEncoder().encode('{"log":{"readings":[1,2, ]}}')
    expect(splitter.push(bytes)).toEqual([
      { text: '1', count: 1 },
      { text: '2', count: 1 },
      { text: ' ', count: 1 },
    ])
  })

  test('what is too long is refused before it fills the memory', () => {
    const many = 'x'.repeat(6 * 1024 * 1024)
    expect(() => split(`{"log":{"readings":["${many}"]}}`, [1 << 20])).toThrow(TooLongError)
    expect(() => split(`{"note":"${many}"}`, [1 << 20])).toThrow(/at most 0 MB/)
  })
})
