import { describe, expect, test } from 'vitest'
import type { Station } from '@saltline/contract'
import { InputError, lineConstants, matchedLossDb } from '@saltline/core'
import { worksheets, worksheetOf } from '../src/worksheets/sheets/index.ts'
import { ageingOf, subjectsOf } from '../src/pages/bench/subjects.ts'
import { document } from './fixtures.ts'

const station = { gear: [], prices: { perM: {} } } as unknown as Station
const line = subjectsOf('c', document).find(({ kind }) => kind === 'line')!

describe('worksheets', () => {
  test('thirteen of them, each with steps, and what it shows and cannot show', () => {
    expect(worksheets.map(({ kind }) => kind)).toHaveLength(13)
    for (const sheet of worksheets) {
      expect(sheet.steps.length).toBeGreaterThan(0)
      expect(sheet.proves.length).toBeGreaterThan(0)
      expect(sheet.doesNot.length).toBeGreaterThan(0)
      expect(sheet.setup(sheet.initial)[0]!.pieces.length).toBeGreaterThan(1)
    }
    expect(worksheetOf('no such')).toBeUndefined()
  })

  test('an empty sheet asks for what it needs, or answers at once', () => {
    for (const sheet of worksheets)
      try {
        expect(sheet.reduce(sheet.initial, station, null).answer).not.toBe('')
      } catch (error) {
        expect(error).toBeInstanceOf(InputError)
      }
  })

  test('a substitution of the sheet’s own loss finds the cable as new', () => {
    const hz = 28e6
    const sheetDb = matchedLossDb(lineConstants(line.cable!, hz), line.lengthM!)
    const points = [{ mhz: 28, directW: 100, throughW: 100 / 10 ** (sheetDb / 10) }]
    const sheet = worksheetOf('substitution')!
    const result = sheet.reduce({ ...sheet.initial, points }, station, line)
    expect(result.sheetDb).toBeCloseTo(sheetDb, 9)
    expect(result.lead!.value).toBeCloseTo(sheetDb, 6)
    expect(ageingOf(line, line.lengthM!, result.loss!)).toBeCloseTo(1, 6)
  })

  test('twice the loss is a factor of two, over all frequencies', () => {
    const loss = [7e6, 28e6].map(
      (hz) => [hz, 2 * matchedLossDb(lineConstants(line.cable!, hz), line.lengthM!)] as const,
    )
    expect(ageingOf(line, line.lengthM!, loss)).toBeCloseTo(2, 9)
  })

  test('a dummy load goes by its sweep where there is one', () => {
    const sheet = worksheetOf('dummy-load')!
    const swept = [
      [1, 1.02],
      [100, 1.2],
      [200, 1.6],
    ]
    const { answer } = sheet.reduce({ ...sheet.initial, swept }, station, null)
    expect(answer.replaceAll('\u00a0', ' ')).toContain('Good up to 100 MHz')
  })
})

/** What a sheet comes to, with its non-breaking spaces made plain. */
function reduced(
  kind: string,
  inputs: Record<string, unknown>,
  subject = null as typeof line | null,
) {
  const sheet = worksheetOf(kind)
  const result = sheet!.reduce({ ...sheet!.initial, ...inputs }, station, subject)
  return {
    ...result,
    answer: result.answer.replaceAll('\u00a0', ' '),
    rows: new Map(
      result.rows.map(
        (row) => row.map((text) => text.replaceAll('\u00a0', ' ')) as [string, string],
      ),
    ),
  }
}

describe('each sheet by hand', () => {
  test('both ends: 100 W and 1 W back in, 50 W and 2 W back out', () => {
    const { lead, rows, working } = reduced('both-ends', {
      mhz: 28,
      nearForwardW: 100,
      nearReflectedW: 1,
      farForwardW: 50,
      farReflectedW: 2,
    })
    // 10·log₁₀(99/48) = 3.14 dB; forward over forward 3.01 dB leads, since it is the matched loss.
    expect(rows.get('Net in over net out')).toMatch(/^3\.14 dB/)
    expect(lead!.value).toBeCloseTo(3.0103, 4)
    expect(rows.get('Lost as heat')).toBe('51 W')
    expect(working.join()).toContain('99')
  })

  test('both ends: a meter that cannot tell the two powers apart proves no loss', () => {
    const { mind } = reduced('both-ends', { nearForwardW: 10, farForwardW: 9.9 })
    expect(mind).toMatch(/no loss is proved/)
  })

  test('one end: 6 dB open and 5 dB shorted are 2.75 dB one way', () => {
    const { lead, answer } = reduced('one-port', {
      points: [{ mhz: 30, openDb: 6, shortDb: 5 }],
      accuracyDb: 0,
      directivityDb: 80,
    })
    expect(lead!.value).toBeCloseTo(2.75, 6)
    expect(answer).toMatch(/loses 2\.75 dB on 30\.000 MHz/)
  })

  test('dips of 12 and 17 MHz on a line of 0.66 are 19.8 m apart from their end', () => {
    const { lead, rows } = reduced('velocity-factor', {
      ask: 'fault',
      dipMhz: 12,
      secondMhz: 17,
      factor: 0.66,
    })
    expect(lead!.value).toBeCloseTo(19.79, 2)
    expect(rows.get('Distance')).toMatch(/19\.8 m/)
  })

  test('a velocity factor other than the sheet’s is doubted', () => {
    const dip = { dipMhz: 3, lengthM: 20, lengthDoubtM: 0.01 }
    expect(reduced('velocity-factor', dip, line).mind).toMatch(/another factor/)
    expect(reduced('velocity-factor', dip, line).velocityFactor).toBeCloseTo(0.8, 2)
  })

  test('through-line: a reflection under the meter’s leak is no figure', () => {
    const { mind, rows } = reduced('through-line', { forwardW: 100, reflectedW: 0.1 })
    expect(mind).toMatch(/its own leak/)
    expect(rows.get('Reflected')).toBe('0.1 %')
    expect(reduced('through-line', { forwardW: 100, reflectedW: 11.11 }).answer).toMatch(
      /^SWR 2\.00/,
    )
  })

  test('a power beyond the largest range asks for an attenuator', () => {
    expect(reduced('range-choice', { pepW: 5000 }).answer).toMatch(/Too much for this meter/)
    expect(reduced('range-choice', { pepW: 18, swr: 1.2 }).answer).toMatch(
      /Forward on 20 W, reflected on 5\.0 W/,
    )
  })

  test('two meters: 3 dB apart cannot both be right, a tenth of a dB can', () => {
    const pairs = (secondW: number) => ({ pairs: [{ firstW: 40, secondW }] })
    expect(reduced('two-meters', pairs(80)).answer).toMatch(/do not agree.*3\.01 dB/)
    expect(reduced('two-meters', pairs(41)).answer).toMatch(/They agree/)
    expect(reduced('two-meters', pairs(80)).lead!.value).toBeCloseTo(3.0103, 4)
  })

  test('probe: 70.4 V behind a drop of 0.3 V are 50 W, and the diode is said to matter', () => {
    const { lead, because } = reduced('probe', {
      volts: 70.41,
      voltsDoubt: 0,
      ohmDoubt: 0,
      diodeDoubt: 0.2,
    })
    expect(lead!.value).toBeCloseTo(70.71 ** 2 / 100, 2)
    expect(because![0]!.name).toBe('diode drop')
  })

  test('dummy load: a burnt resistor shows on the ohmmeter', () => {
    expect(reduced('dummy-load', { measuredOhm: 55 }).mind).toMatch(/burnt/)
    expect(reduced('dummy-load', { meanW: 50 }).rows.get('50 W for')).toBe('no time limit')
    const hot = reduced('dummy-load', { meanW: 200, burstW: 150, burstMin: 5 }).rows.get(
      '200 W for',
    )
    // 60 W for ever, 150 W for 5 min: τ = 9.8 min, and 200 W last −τ·ln(1 − 60/200) = 3.5 min.
    expect(hot).toBe('3.5 min')
  })

  test('dummy load: in a small closed box the print on its resistors means little', () => {
    const boxed = reduced('dummy-load', { wattsEach: 50, boxCm2: 250, junctionCase: 2.5 })
    // 130 K over 2.5/12 + 750/250 K/W are 40.5 W.
    expect(boxed.answer).toContain('41 W continuous, not the 600 W that are printed on it')
    expect(boxed.rows.get('Closed box to still air')).toBe('3.00 K/W, typical')
  })

  test('leads: the odd one is named, and can be a cable of the station', () => {
    const { answer, table, cables } = reduced('leads', {
      reference: [{ mhz: 28, watts: 50 }],
      leads: [
        { name: 'Long', cable: 'pe-5', lengthM: 7, mhz: null, watts: 43.8, volts: 13.8 },
        { name: 'Short', cable: 'pe-5', lengthM: 2, mhz: 28, watts: 40, volts: 13.2 },
      ],
    })
    expect(answer).toMatch(/^Short: 2 m that lose what \d+.*should .*a connector, most likely/)
    expect(table!.rows.map((row) => row[0])).toEqual(['Long', '▲ Short'])
    expect(cables!.map(({ name }) => name)).toEqual(['Long', 'Short'])
    const lossDb = (matchedLossDb(lineConstants(cables![1]!.cable, 28e6), 2) * 100) / 100
    expect(lossDb).toBeCloseTo(10 * Math.log10(50 / 40), 2)
  })

  test('leads: a frequency without its reference is asked for', () => {
    expect(() =>
      reduced('leads', {
        reference: [{ mhz: 28, watts: 50 }],
        leads: [{ name: 'A', cable: '', lengthM: 2, mhz: 7, watts: 40, volts: null }],
      }),
    ).toThrow('read the power without a lead there too')
  })

  test('calibration: how far it is off, and what is left', () => {
    const { answer, table } = reduced('calibration', {
      pairs: [
        { shownW: 50, trueW: 45 },
        { shownW: 100, trueW: 95 },
      ],
    })
    expect(answer).toMatch(/^It is off by up to \+11 %; corrected, it is good to ± [\d.]+ %\.$/)
    expect(table!.rows[0]).toEqual(['50.0', '45.0', '0.900'])
  })

  test('AM: four times the carrier is full depth; an averaging meter cannot show it', () => {
    const { rows, answer, mind } = reduced('am-depth', { carrierW: 25, pepW: 100 })
    expect(answer).toMatch(/^Modulation depth 100 % \(/)
    expect(rows.get('Average with a full tone')).toBe('38 W')
    expect(mind).toContain('shows the average')
  })

  test('converter: −73 dBm are S9 on HF, and 20 dB more say so', () => {
    const { rows } = reduced('converter', { watts: 1e-3 * 10 ** (-73 / 10), mhz: 7 })
    expect(rows.get('A receiver on 7.000 MHz would show')).toBe('S9.0')
    expect(
      reduced('converter', { watts: 1e-3 * 10 ** (-53 / 10), mhz: 7 }).rows.get(
        'A receiver on 7.000 MHz would show',
      ),
    ).toBe('S9 + 20 dB')
    expect(reduced('converter', { rho: 1 / 3 }).rows.get('Mismatch loss')).toBe('0.512 dB')
  })

  test('what is missing is asked for', () => {
    for (const [kind, words] of [
      ['substitution', /Fill in one line/],
      ['both-ends', /forward power at both ends/],
      ['one-port', /open, shorted, or both/],
      ['velocity-factor', /frequency of the dip/],
      ['through-line', /forward and reflected/],
      ['two-meters', /both meters/],
      ['probe', /what the voltmeter shows/],
    ] as const)
      expect(() => reduced(kind, {})).toThrow(words)
  })
})
