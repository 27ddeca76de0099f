/** A sweep along a line, from whatever file it comes in. */
import { describe, expect, test } from 'vitest'
import {
  InputError,
  ofTwoPorts,
  readReflections,
  readTouchstone,
  writeTouchstone,
} from '../src/index.ts'
import { writeTwoPort } from '../src/formats/touchstoneTwoPort.ts'

const frequencyHz = [7e6, 8e6, 9e6]
const re = [0.2, 0.1, -0.3]
const im = [0.05, -0.4, 0.1]
const onePort = writeTouchstone({
  ...{ referenceOhm: 50, comments: ['an analyser'] },
  frequencyHz: Float64Array.from(frequencyHz),
  re: Float64Array.from(re),
  im: Float64Array.from(im),
})
const twoPort = writeTwoPort({
  referenceOhm: 50,
  frequencyHz,
  s: frequencyHz.flatMap((_, k) => [re[k]!, im[k]!, 0.6, 0.1, 0.6, 0.1, 0.02, 0]),
})

describe('reflections', () => {
  test.each([
    ['a file of one port', onePort],
    ['a file of two ports: what its first one sees', twoPort],
    [
      'a table of real and imaginary part',
      `MHz;real;imaginary\n${frequencyHz.map((hz, k) => `${hz / 1e6};${re[k]};${im[k]}`).join('\n')}`,
    ],
    [
      'a table of R and X',
      `freq MHz,R,X\n${frequencyHz
        .map((hz, k) => {
          // By hand: z = (1 + ρ)/(1 − ρ).
          const d = (1 - re[k]!) ** 2 + im[k]! ** 2
          return `${hz / 1e6},${(50 * (1 - re[k]! ** 2 - im[k]! ** 2)) / d},${(100 * im[k]!) / d}`
        })
        .join('\n')}`,
    ],
  ])('from %s', (_, text) => {
    const sweep = readReflections(text, 50)
    expect([...sweep.frequencyHz]).toEqual(frequencyHz)
    for (const k of [0, 1, 2]) {
      expect(sweep.re[k]).toBeCloseTo(re[k]!, 6)
      expect(sweep.im[k]).toBeCloseTo(im[k]!, 6)
    }
  })

  test('of a table without a phase are refused, with what to save instead', () => {
    expect(() => readReflections('MHz,SWR\n7,1.5\n8,1.3', 50)).toThrow(/SWR alone.*s1p/)
  })

  test('of what is no sweep are refused', () => {
    for (const text of ['', 'hello', '<html>', '{"a": 1}', '1\n2\n3'])
      expect(() => readReflections(text, 50), text).toThrow(InputError)
  })

  test('a Touchstone file with a fault keeps its own words and line', () => {
    const broken = '# MHz S RI R 50\n7 0.2 0\n8 0.3\n'
    const words = (read: (text: string) => unknown) => {
      try {
        read(broken)
        return null
      } catch (error) {
        return (error as Error).message
      }
    }
    expect(words((text) => readReflections(text, 50))).toBe(
      words((text) => readTouchstone(text, 50)),
    )
  })

  test('the far end of a file of two ports is its other port', () => {
    expect(ofTwoPorts(twoPort)).toBe(true)
    expect(ofTwoPorts(onePort)).toBe(false)
    // Nine numbers in a row of a table are no ports.
    expect(ofTwoPorts('1 2 3 4 5 6 7 8 9')).toBe(false)
  })
})
