import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import {
  type Dimension,
  formatDb,
  formatFrequency,
  formatImpedance,
  formatLength,
  formatPower,
  formatSwr,
  parseQuantity,
} from '../src/index.ts'

describe('reading what people type', () => {
  test.each([
    ['40 ft', 'length', 'm', 12.192],
    ['12,5', 'length', 'm', 12.5],
    ['12.5', 'length', 'ft', 3.81],
    ['0.5m', 'length', 'ft', 0.5],
    ["6'", 'length', 'm', 1.8288],
    ['7,1 MHz', 'frequency', 'MHz', 7.1e6],
    ['4,146', 'frequency', 'MHz', 4.146e6],
    ['7100k', 'frequency', 'MHz', 7.1e6],
    ['156.45', 'frequency', 'MHz', 156.45e6],
    ['1.5k', 'power', 'W', 1500],
    ['20 dBm', 'power', 'W', 0.1],
    ['1.234,5 W', 'power', 'W', 1234.5],
    ['1,234.5 W', 'power', 'W', 1234.5],
    ['−3', 'decibel', 'dB', -3],
    ['75 Ω', 'impedance', 'Ω', 75],
    ['2e3', 'plain', '', 2000],
    ['50', 'plain', '%', 50],
    ['7,3 mm', 'plain', 'mm', 7.3],
    ['-12', 'plain', '°C', -12],
  ] as [string, Dimension, string, number][])(
    '%s (%s in %s) is %d',
    (text, dimension, unit, want) => {
      const parsed = parseQuantity(text, dimension, unit)
      expect(parsed).toEqual({ ok: true, value: expect.closeTo(want, 6) as number })
    },
  )

  test.each([
    ['', 'length', /Type a length, such as/],
    ['abc', 'power', /“abc” is not a power/],
    ['12 miles', 'length', /“miles” is not a unit of length/],
    ['1.2.3', 'plain', /not a number/],
    ['5 5 W 5', 'power', /not a power|not a unit/],
  ] as [string, Dimension, RegExp][])('%j as %s says what to type', (text, dimension, message) => {
    const parsed = parseQuantity(text, dimension)
    expect(parsed.ok).toBe(false)
    expect((parsed as { message: string }).message).toMatch(message)
  })

  test('limits are named in the unit of the reader', () => {
    const parsed = parseQuantity('2 km'.replace('2 km', '900 m'), 'length', 'm', {
      max: 500,
      show: (m) => formatLength(m, 'm'),
    })
    expect(parsed).toEqual({ ok: false, message: 'The length must be 500\u00a0m or less.' })
  })

  test('any figure that was shown can be typed back', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.2, max: 900, noNaN: true }), (metres) => {
        const parsed = parseQuantity(formatLength(metres, 'ft'), 'length')
        expect(parsed.ok && Math.abs(parsed.value - metres)).toBeLessThan(0.17)
      }),
    )
  })
})

test('figures carry their unit and no idle digits', () => {
  const nb = (text: string) => text.replace(/ (?=\S+$)/, '\u00a0')
  expect(formatPower(72.53)).toBe(nb('73 W'))
  expect(formatPower(1.31)).toBe(nb('1.3 W'))
  expect(formatPower(0.244)).toBe(nb('0.24 W'))
  expect(formatPower(0.0081)).toBe(nb('8.1 mW'))
  expect(formatPower(1254)).toBe(nb('1.25 kW'))
  expect(formatPower(999.7)).toBe(nb('1.00 kW'))
  expect(formatPower(0)).toBe(nb('0 W'))
  expect(formatPower(0, 'dBm')).toBe(nb('−∞ dBm'))
  expect(formatPower(125, 'dBm')).toBe(nb('51.0 dBm'))
  expect(formatDb(0.0634)).toBe(nb('0.06 dB'))
  expect(formatDb(19.94)).toBe(nb('19.9 dB'))
  expect(formatSwr(1.618)).toBe('1.62')
  expect(formatSwr(53.84)).toBe('53.8')
  expect(formatSwr(Infinity)).toBe('∞')
  expect(formatFrequency(8.294e6)).toBe(nb('8.294 MHz'))
  expect(formatFrequency(156.625e6)).toBe(nb('156.625 MHz'))
  expect(formatLength(12.192, 'ft')).toBe(nb('40 ft'))
  expect(formatImpedance({ re: 67.2, im: -40.9 })).toBe('67 − j41\u00a0Ω')
})
