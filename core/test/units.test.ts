import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import {
  conversionOf,
  type Dimension,
  fieldText,
  formatAmpere,
  formatCapacitance,
  formatDb,
  formatFrequency,
  formatImpedance,
  formatInductance,
  formatLength,
  formatPower,
  formatSwr,
  formatVolt,
  parseQuantity,
} from '../src/index.ts'

/** What the fields of each dimension show. */
const fieldUnits: Record<Dimension, string> = {
  length: 'ft',
  frequency: 'MHz',
  power: 'W',
  decibel: 'dB',
  impedance: 'Ω',
  voltage: 'V',
  current: 'A',
  inductance: 'µH',
  capacitance: 'pF',
  time: 'min',
  temperature: '°C',
  swr: '',
  plain: '',
}

describe('reading what people type', () => {
  test.each([
    ['40 ft', 'length', 'm', 12.192],
    ['12,5', 'length', 'm', 12.5],
    ['12.5', 'length', 'ft', 3.81],
    ['0.5m', 'length', 'ft', 0.5],
    ["6'", 'length', 'm', 1.8288],
    ['7,1 MHz', 'frequency', 'MHz', 7.1e6],
    ['14 mhz', 'frequency', 'MHz', 14e6],
    ['1 MW', 'power', 'W', 1e6],
    ['1 mW', 'power', 'W', 1e-3],
    ['780 µW', 'power', 'W', 780e-6],
    ['780 uW', 'power', 'W', 780e-6],
    ['1.2 KW', 'power', 'W', 1200],
    ['3 kV', 'voltage', 'V', 3000],
    ['2 min', 'time', 's', 120],
    ['4.7 nF', 'capacitance', 'pF', 4.7e-9],
    ['4.7', 'capacitance', 'pF', 4.7e-12],
    ['10n', 'capacitance', 'pF', 1e-8],
    ['3.4', 'inductance', 'µH', 3.4e-6],
    ['68 °F', 'temperature', '°C', 20],
    ['2.10:1', 'swr', '', 2.1],
    ['2.1 : 1', 'swr', '', 2.1],
    ['40\' 6"', 'length', 'm', 40.5 * 0.3048],
    ['40 ft 6 in', 'length', 'm', 40.5 * 0.3048],
    ['40′ 6″', 'length', 'm', 40.5 * 0.3048],
    ["40'", 'length', 'm', 40 * 0.3048],
    ['10 000', 'power', 'W', 10_000],
    ['1,234,567', 'plain', '', 1_234_567],
    ['1.234.567,5', 'plain', '', 1_234_567.5],
    ['0,500', 'plain', '', 0.5],
    ['1,50', 'plain', '', 1.5],
    ['12345,678', 'plain', '', 12345.678],
    ['7100k', 'frequency', 'MHz', 7.1e6],
    ['156.45', 'frequency', 'MHz', 156.45e6],
    ['1.5k', 'power', 'W', 1500],
    ['20 dBm', 'power', 'W', 0.1],
    ['1.234,5 W', 'power', 'W', 1234.5],
    ['1,234.5 W', 'power', 'W', 1234.5],
    ['−3', 'decibel', 'dB', -3],
    ['75 Ω', 'impedance', 'Ω', 75],
    ['2e3', 'plain', '', 2000],
    ['1e-3 kW', 'power', 'W', 1],
    ['50', 'plain', '%', 50],
    ['-12', 'temperature', '°C', -12],
    ['7,3 mm', 'length', 'mm', 0.0073],
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
    ['1 2', 'plain', /not a number/],
    ['5 10 W', 'power', /not a power/],
    ['1.5,2', 'plain', /not a number/],
    ['1,23,456', 'plain', /not a number/],
    ['1e999', 'plain', /not a number/],
    ['7 m', 'frequency', /“m” is not a unit of frequency/],
    ['5 constructor', 'power', /“constructor” is not a unit/],
    ['5 __proto__', 'power', /“__proto__” is not a unit/],
    ['5 toString', 'length', /“toString” is not a unit/],
    ['40\' 13"', 'length', /not a length|not a unit/],
    ['9'.repeat(200), 'plain', /too long/],
    ['5 5 W 5', 'power', /not a power|not a unit/],
  ] as [string, Dimension, RegExp][])('%j as %s says what to type', (text, dimension, message) => {
    const parsed = parseQuantity(text, dimension)
    expect(parsed.ok).toBe(false)
    expect((parsed as { message: string }).message).toMatch(message)
  })

  test('limits are named in the unit of the reader', () => {
    const parsed = parseQuantity('900 m', 'length', 'm', {
      max: 500,
      show: (m) => formatLength(m, 'm'),
    })
    expect(parsed).toEqual({ ok: false, message: 'The length must be 500\u00a0m or less.' })
    expect(parseQuantity('20', 'plain', '', { min: 10_000 })).toEqual({
      ok: false,
      message: 'The number must be 10000 or more.',
    })
  })

  describe('a comma or point that may group thousands', () => {
    test('a comma is asked about', () => {
      expect(parseQuantity('1,500 W', 'power', 'W')).toMatchObject({
        ok: false,
        choices: [1.5, 1500],
      })
      expect(parseQuantity('10,000', 'plain')).toMatchObject({ ok: false, choices: [10, 10_000] })
      expect(parseQuantity('14,175 kHz', 'frequency', 'MHz')).toMatchObject({
        ok: false,
        choices: [14_175, 14_175_000],
      })
    })
    test('a point is read as one, and the other reading is told', () => {
      expect(parseQuantity('1.500', 'power', 'W')).toEqual({ ok: true, value: 1.5, other: 1500 })
    })
    test('where the bounds leave one reading, that one is meant', () => {
      const bounds = { min: 10_000, max: 6e9 }
      expect(parseQuantity('8,294', 'frequency', 'MHz', bounds)).toEqual({
        ok: true,
        value: 8.294e6,
      })
      expect(parseQuantity('7,100', 'frequency', 'kHz', bounds)).toEqual({ ok: true, value: 7.1e6 })
    })
  })

  const everyDimension = Object.keys(fieldUnits) as Dimension[]
  const overThirtyDecades = fc
    .record({
      digits: fc.integer({ min: 1_000_000, max: 9_999_999 }),
      power: fc.integer({ min: -15, max: 15 }),
    })
    .map(({ digits, power }) => Number(`${digits}e${power - 6}`))

  test.each(everyDimension)('%s: a field reads back just what it shows', (dimension) => {
    fc.assert(
      fc.property(overThirtyDecades, (value) => {
        const parsed = parseQuantity(fieldText(value), dimension, fieldUnits[dimension])
        const conversion = conversionOf(dimension, fieldUnits[dimension])!
        expect(parsed).toMatchObject({
          ok: true,
          value: Number(conversion.toOwn(value).toPrecision(15)),
        })
      }),
    )
  })

  test.each([
    ['power', formatPower, 0.06],
    ['voltage', formatVolt, 0.006],
    ['current', formatAmpere, 0.006],
    ['inductance', formatInductance, 0.006],
    ['capacitance', formatCapacitance, 0.006],
    ['length', formatLength, 0.06],
  ] as [Dimension, (value: number) => string, number][])(
    '%s: a figure on the screen can be typed back, over its decades',
    (dimension, format, share) => {
      // From a picounit to a thousand, or a million where there is a prefix for it.
      const top = dimension === 'power' || dimension === 'voltage' ? 6 : 3
      fc.assert(
        fc.property(fc.double({ min: -11, max: top, noNaN: true }), (exponent) => {
          const value = 10 ** exponent
          if (dimension === 'voltage' && value < 1e-6) return
          if (dimension === 'current' && value < 1e-6) return
          const parsed = parseQuantity(format(value), dimension)
          expect(parsed.ok && Math.abs(parsed.value / value - 1)).toBeLessThan(share)
        }),
      )
    },
  )

  test('any text at all gives a finite figure or an error, at once', () => {
    const alphabet = fc.constantFrom(
      ...'0123456789.,:eE+-−–kKmMuµΩωHzWVAsftin\'"°%dBmx ∞_(){}constructor\t',
    )
    const texts = fc.oneof(
      fc.string(),
      fc.string({ unit: alphabet, maxLength: 100 }),
      fc.string({ unit: 'binary' }),
    )
    fc.assert(
      fc.property(texts, fc.constantFrom(...everyDimension), (text, dimension) => {
        const parsed = parseQuantity(text, dimension, fieldUnits[dimension])
        if (parsed.ok) expect(Number.isFinite(parsed.value)).toBe(true)
        else expect(parsed.message.length).toBeGreaterThan(10)
        if (parsed.ok && parsed.other !== undefined)
          expect(Number.isFinite(parsed.other)).toBe(true)
      }),
      { numRuns: 2000 },
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
  expect(formatPower(0, 'dBm')).toBe('none')
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
