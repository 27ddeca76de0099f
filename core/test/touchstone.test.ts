import { readFileSync, readdirSync } from 'node:fs'
import { resolve } from 'node:path'
import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { readTouchstone, reflectionAt, writeTouchstone, type SweepLoad } from '../src/index.ts'

const folder = resolve(import.meta.dirname, '../../server/src/demo/antennas')

/** ρ = 0.6∠30° three ways. */
const re = 0.6 * Math.cos(Math.PI / 6)
const im = 0.3

describe('reading one-port files', () => {
  test.each([
    ['MA', '# MHz S MA R 50', '7.1 0.6 30'],
    ['DB', '# kHz S DB R 50', `7100 ${20 * Math.log10(0.6)} 30`],
    ['RI', '# GHz S RI R 50', `0.0071 ${re} ${im}`],
    ['RI in Hz, any order and case', '# ri r 50 hz s', `7100000 ${re} ${im}`],
    ['silent option line (GHz, MA, 50 Ω)', '#', '0.0071 0.6 30'],
  ])('%s', (_, option, row) => {
    const sweep = readTouchstone(`! a comment\r\n${option}\r\n${row} ! behind\r\n`, 50)
    expect(sweep.frequencyHz[0]).toBeCloseTo(7.1e6, 3)
    expect(sweep.re[0]).toBeCloseTo(re, 12)
    expect(sweep.im[0]).toBeCloseTo(im, 12)
    expect(sweep.comments).toEqual(['a comment', 'behind'])
  })

  test('another reference is carried over: 75 Ω in a 75 Ω file is 1.5 : 1 on 50 Ω', () => {
    const sweep = readTouchstone('# MHz S RI R 75\n10 0 0\n', 50)
    expect(sweep.re[0]).toBeCloseTo(0.2, 12)
    expect(sweep.im[0]).toBeCloseTo(0, 12)
  })

  test.each(['[Reference] 75', '[Reference]\n75'])(
    'version 2 with its keywords (%j)',
    (reference) => {
      const sweep = readTouchstone(
        `[Version] 2.0\n# MHz S RI R 50\n[Number of Ports] 1\n[Number of Frequencies] 2\n${reference}\n` +
          '[Begin Information]\nnot a number\n[End Information]\n[Network Data]\n10 0 0\n20 0 0\n[End]\nafter the end\n',
        50,
      )
      expect([...sweep.frequencyHz]).toEqual([10e6, 20e6])
      expect(sweep.re[0]).toBeCloseTo(0.2, 12)
    },
  )

  test('version 2 states Z in ohms', () => {
    const z = readTouchstone(
      '[Version] 2.0\n# MHz Z RI\n[Reference] 50\n[Network Data]\n10 100 0\n[End]',
      50,
    )
    expect(z.re[0]).toBeCloseTo(1 / 3, 12)
  })

  test('Z and Y parameters are multiples of the reference', () => {
    const z = readTouchstone('# MHz Z RI R 50\n10 2 0\n', 50)
    const y = readTouchstone('# MHz Y RI R 50\n10 0.5 0\n', 50)
    expect(z.re[0]).toBeCloseTo(1 / 3, 12)
    expect(y.re[0]).toBeCloseTo(1 / 3, 12)
  })

  test('a point that stands there twice with the same figures counts once, and is told', () => {
    const { frequencyHz, comments } = readTouchstone(
      '# MHz S RI R 50\n1 0.1 0\n1 0.1 0\n2 0 0\n2 0 0\n',
      50,
    )
    expect(Array.from(frequencyHz)).toEqual([1e6, 2e6])
    expect(comments.at(-1)).toBe('2 identical points merged')
  })

  test.each([
    ['# MHz S RI R 50\n1 0 0\n2 x 0\n', 3, /“x” is not a number/],
    ['# MHz S RI R 50\n1 0 0\n1 0.1 0\n', 3, /must rise/],
    ['# MHz S QQ R 50\n', 1, /“QQ”/],
    ['# MHz S RI R -5\n', 1, /reference/],
    ['! nothing here\n', 1, /no data/],
    ['# MHz S RI R 50\n1 0\n', 2, /two numbers/],
    ['# MHz S RI R 50\n1 0 0 1 0 1 0 0 0\n', 2, /two or more ports/],
    ['[Version] 2.0\n# MHz S RI\n[Number of Ports] 2\n', 3, /an antenna has one/],
    [
      '[Version] 2.0\n# MHz S RI R 50\n[Number of Frequencies] 3\n[Network Data]\n1 0 0\n[End]',
      6,
      /promises 3/,
    ],
  ])('%j is refused by its line', (text, line, message) => {
    expect(() => readTouchstone(text, 50)).toThrow(message)
    expect(() => readTouchstone(text, 50)).toThrow(`Line ${line}:`)
  })

  test.each(readdirSync(folder))('the demo sweep %s reads, rises and is passive', (file) => {
    const sweep = readTouchstone(readFileSync(resolve(folder, file), 'utf8'), 50)
    expect(sweep.frequencyHz.length).toBeGreaterThan(50)
    sweep.re.forEach((value, i) => expect(Math.hypot(value, sweep.im[i]!)).toBeLessThan(1))
  })

  test('what is written reads back the same', () => {
    const number = fc.double({ min: -0.7, max: 0.7, noNaN: true }).map((x) => x + 0) // no −0
    fc.assert(
      fc.property(fc.array(fc.tuple(number, number), { minLength: 1 }), (points) => {
        const sweep = {
          referenceOhm: 50,
          frequencyHz: Float64Array.from(points, (_, i) => 1e6 + i * 1000.5),
          re: Float64Array.from(points, (p) => p[0]),
          im: Float64Array.from(points, (p) => p[1]),
          comments: ['made up'],
        }
        expect(readTouchstone(writeTouchstone(sweep), 50)).toEqual(sweep)
      }),
    )
  })
})

test('between points the complex reflection is interpolated, not the SWR', () => {
  const load: SweepLoad = { kind: 'sweep', frequencyHz: [1e6, 2e6], re: [0.5, -0.5], im: [0, 0] }
  expect(reflectionAt(load, 1.5e6, 50)).toEqual({ re: 0, im: 0 })
  expect(reflectionAt(load, 2e6, 50)).toEqual({ re: -0.5, im: 0 })
})

test('an active sweep point is refused in words', () => {
  const load: SweepLoad = { kind: 'sweep', frequencyHz: [1e6, 2e6], re: [1.01, 0], im: [0, 0] }
  expect(() => reflectionAt(load, 1e6, 50)).toThrow(/more than.*gets/)
})
