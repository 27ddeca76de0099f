import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import {
  attenuationDbPer100m,
  cableClasses,
  cableFromConstruction,
  fitAttenuation,
  identifyCable,
  InputError,
  readSheetTable,
  solveChain,
} from '../src/index.ts'
import { capacitancePfPerM } from '../src/cables/construction.ts'

const within = (a: number, b: number) => Math.abs(a / b - 1)

describe('the catalogue', () => {
  test('has 24 classes and more, from thin to thick, of both impedances', () => {
    expect(cableClasses.length).toBeGreaterThanOrEqual(24)
    expect(new Set(cableClasses.map(({ id }) => id)).size).toBe(cableClasses.length)
    expect(new Set(cableClasses.map(({ z0Ohm }) => z0Ohm))).toEqual(new Set([50, 75]))
    expect(new Set(cableClasses.map(({ dielectric }) => dielectric)).size).toBe(4)
    const outer = cableClasses.map(({ outerMm }) => outerMm)
    expect(Math.min(...outer)).toBeLessThan(3)
    expect(Math.max(...outer)).toBeGreaterThanOrEqual(28)
  })

  test.each(cableClasses.map((c) => [c.name, c] as const))(
    '%s agrees with its own construction',
    (_, cable) => {
      const made = cableFromConstruction(cable.construction)
      expect(within(made.z0Ohm, cable.z0Ohm), 'Z₀ within 4 %').toBeLessThan(0.04)
      expect(within(made.velocityFactor, cable.velocityFactor), 'VF within 2 %').toBeLessThan(0.02)
      expect(
        within(capacitancePfPerM(cable), cable.capacitancePfPerM),
        'capacitance within 1 %',
      ).toBeLessThan(0.01)
      for (const [mhz, db] of cable.pointsDbPer100m) {
        expect(
          within(attenuationDbPer100m(made, mhz * 1e6), db),
          `${mhz} MHz within 6 %`,
        ).toBeLessThan(0.06)
        expect(
          within(attenuationDbPer100m(cable, mhz * 1e6), db),
          `fit at ${mhz} MHz within 2 %`,
        ).toBeLessThan(0.02)
      }
      const rising = cable.pointsDbPer100m.map(([, db]) => db)
      expect(rising).toEqual([...rising].sort((a, b) => a - b))
      const falling = cable.ratedPowerW.map(([, w]) => w)
      expect(falling).toEqual([...falling].sort((a, b) => b - a))
      // The rating is one of heat: watts times loss is the same heat per metre at every frequency.
      const heat = cable.ratedPowerW.map(([mhz, w]) => w * attenuationDbPer100m(cable, mhz * 1e6))
      expect(Math.max(...heat) / Math.min(...heat)).toBeLessThan(1.15)
      expect(cable.construction.dielectricMm).toBeLessThan(cable.outerMm)
      expect(cable.minBendMm).toBeGreaterThan(cable.outerMm)
      expect(cable.maxHz / 1e6).toBeGreaterThanOrEqual(cable.pointsDbPer100m.at(-1)![0])
    },
  )
})

describe('the fit', () => {
  test('finds the law it was made from, whatever it was', () => {
    const k = fc.record({
      k1: fc.double({ min: 0.05, max: 5, noNaN: true }),
      k2: fc.double({ min: 0, max: 0.05, noNaN: true }),
    })
    fc.assert(
      fc.property(k, ({ k1, k2 }) => {
        const points = [1, 10, 50, 200, 1000].map((f) => [f, k1 * Math.sqrt(f) + k2 * f] as const)
        const fit = fitAttenuation(points)
        expect(within(fit.k1DbPer100m, k1)).toBeLessThan(1e-6)
        expect(Math.abs(fit.k2DbPer100m - k2)).toBeLessThan(1e-7 + 1e-6 * k2)
        expect(fit.rms).toBeLessThan(1e-9)
      }),
    )
  })

  test('never goes negative', () => {
    // Slower than √f: the dielectric part would come out below zero.
    const flat = fitAttenuation([
      [1, 1],
      [100, 8],
      [1000, 20],
    ])
    expect(flat.k2DbPer100m).toBe(0)
    const steep = fitAttenuation([
      [1, 0.01],
      [100, 1.2],
      [1000, 14],
    ])
    expect(steep.k1DbPer100m).toBe(0)
  })

  test('one slip among good points is named and does not drag the rest', () => {
    const good = [1, 10, 30, 100, 300, 1000].map(
      (f) => [f, 0.7 * Math.sqrt(f) + 0.002 * f] as [number, number],
    )
    good[3]![1] *= 1.5
    const fit = fitAttenuation(good)
    expect(fit.points.filter((p) => p.doubtful).map((p) => p.mhz)).toEqual([100])
    expect(within(fit.k1DbPer100m, 0.7)).toBeLessThan(1e-6)
  })

  test.each([
    [[[10, 1]], /At least two points/],
    [
      [
        [10, 1],
        [10, 2],
      ],
      /different frequencies/,
    ],
    [
      [
        [10, -1],
        [20, 2],
      ],
      /Point 1: the loss/,
    ],
    [
      [
        [0, 1],
        [20, 2],
      ],
      /Point 1: the frequency/,
    ],
    [
      [
        [10, 5],
        [200, 2],
      ],
      /must rise/,
    ],
  ] as [[number, number][], RegExp][])('%j is refused', (points, words) => {
    expect(() => fitAttenuation(points)).toThrow(words)
  })
})

describe('a pasted table', () => {
  const read = (text: string, per: '10 m' | '100 m' | '100 ft' = '100 m') =>
    readSheetTable(text, { per, unit: 'MHz' }).points

  test.each([
    ['tabs', '10\t4.8\n100\t16.1'],
    ['spaces', '10   4.8\n\n100 16.1\n'],
    ['decimal commas and semicolons', '10;4,8\r\n100;16,1'],
    ['decimal commas and tabs', '10\t4,8\n100\t16,1'],
    ['commas', '10,4.8\n100,16.1'],
    ['units in every row', '10 MHz  4.8 dB\n100 MHz  16.1 dB'],
    ['a heading', 'MHz  dB/100 m\n10 4.8\n100 16.1'],
  ])('with %s', (_, text) => {
    expect(read(text)).toEqual([
      [10, 4.8],
      [100, 16.1],
    ])
  })

  test('100 ft are 30.48 m, and a heading overrules what was assumed', () => {
    const [[, db]] = read('10 1\n100 4', '100 ft') as [[number, number]]
    expect(db).toBeCloseTo(3.2808, 4)
    const table = readSheetTable('GHz\tdB per 100 ft\n0.1\t4.5\n1\t16', {
      per: '10 m',
      unit: 'MHz',
    })
    expect(table).toMatchObject({ per: '100 ft', unit: 'GHz' })
    expect(table.points[0]![0]).toBeCloseTo(100, 9)
  })

  test.each([
    [
      '1 GHz 21 dB\n100 MHz 6.5 dB',
      [
        [1000, 21],
        [100, 6.5],
      ],
    ],
    [
      'MHz;dB/m\n10;0,048\n100;0,161',
      [
        [10, 4.8],
        [100, 16.1],
      ],
    ],
    [
      'MHz dB/km\n10 48\n100 161',
      [
        [10, 4.8],
        [100, 16.1],
      ],
    ],
    [
      'MHz\tdB/ft\n10\t0.048\n100\t0.161',
      [
        [10, 15.748],
        [100, 52.822],
      ],
    ],
    [
      'MHz, loss per 1000 ft\n10, 48\n100, 161',
      [
        [10, 15.748],
        [100, 52.822],
      ],
    ],
    [
      '1,000 21.5\n100 6.5',
      [
        [1000, 21.5],
        [100, 6.5],
      ],
    ],
    [
      '1.000;21,5\n100;6,5',
      [
        [1000, 21.5],
        [100, 6.5],
      ],
    ],
    [
      '| 10 | 4.8 |\n| 100 | 16.1 |',
      [
        [10, 4.8],
        [100, 16.1],
      ],
    ],
  ])('%j: units in headings and rows, thousands by the other figures', (text, points) => {
    const got = read(text)
    points.forEach(([mhz, db], i) => {
      expect(got[i]![0]).toBeCloseTo(mhz!, 6)
      expect(got[i]![1]).toBeCloseTo(db!, 2)
    })
  })

  test.each([
    ['1,000 21\n100 6', /Line 1: “1,000” may be 1 or 1000/],
    ['0 4.8\n100 16.1', /Line 1: the frequency must be more than 0/],
    ['10 4.8\n100 -16.1', /Line 2: the loss must be 0 or more/],
    ['MHz dB/mile\n10 4.8\n100 16.1', /Line 1: .*mile.* use metres or feet/],
    ['10 4.8\n1e9 16.1', /Line 2: the frequency .* at most 100 GHz/],
  ])('%j is refused by its line', (text, message) => {
    expect(() => read(text)).toThrow(message)
  })

  test('is read in time whatever it holds', () => {
    for (const filler of ['\t', ' ', ';', ',', '1', '1 ', '.', 'e', '-', '1,'])
      expect(() => read(`10 4.8\n1${filler.repeat(20_000)}x`)).toThrow(InputError)
    fc.assert(
      fc.property(
        fc.string({ unit: fc.constantFrom(...'0123456789 .,;\t\n|-eGMkHzdB/mft'), maxLength: 80 }),
        (text) => {
          try {
            for (const [mhz, db] of read(text)) {
              expect(mhz).toBeGreaterThan(0)
              expect(db).toBeGreaterThanOrEqual(0)
            }
          } catch (error) {
            expect(error).toBeInstanceOf(InputError)
          }
        },
      ),
      { numRuns: 500 },
    )
  })

  test('a broken line is named', () => {
    expect(() => read('10 4.8\nhundred 16')).toThrow(/Line 2: expected a frequency and a loss/)
    expect(() => read('10 4.8')).toThrow(InputError)
  })
})

test('construction that cannot be is refused by its field', () => {
  const made = {
    innerMm: 1,
    dielectricMm: 3,
    epsilonR: 2.28,
    tanDelta: 3e-4,
    innerFactor: 1,
    outerFactor: 1,
  }
  expect(() => cableFromConstruction({ ...made, dielectricMm: 0.5 })).toThrow(
    /thicker than the inner/,
  )
  expect(() => cableFromConstruction({ ...made, epsilonR: 0.5 })).toThrow(/εr/)
})

describe('identifying', () => {
  test.each([
    [{ marking: 'rg 213' }, 'pe-10'],
    [{ outerMm: 7.2, dielectric: 'white, soft foam', z0Ohm: 50 }, 'foam-7'],
    [{ outerMm: 6.8, z0Ohm: 75 }, 'foam-7-75'],
    [{ outerMm: 2.6, dielectric: 'white, hard, slippery' }, 'ptfe-2.5'],
    [{ outerMm: 16, shield: 'corrugated' }, 'corrugated-16'],
  ] as const)('%j is most likely %s', (clues, id) => {
    const [first, second] = identifyCable(clues)
    expect(first!.cable.id).toBe(id)
    expect(first!.fit).toBeGreaterThan(second?.fit ?? 0)
    expect(first!.reasons.length).toBe(Object.keys(clues).length)
  })

  test('nothing known, nothing claimed', () => {
    expect(identifyCable({})).toEqual([])
  })
})

describe('age and temperature', () => {
  const lossWith = (over: object) =>
    solveChain(
      {
        transmitter: { behaviour: 'levelled', foldback: [] },
        stages: [
          {
            kind: 'line',
            lengthM: 50,
            cable: cableClasses.find(({ id }) => id === 'pe-10')!,
            ...over,
          },
        ],
        load: { kind: 'fixed', rOhm: 50, xOhm: 0 },
      },
      { frequencyHz: 100e6, powerW: 100 },
    ).stages[0]!.line!.matchedLossDb

  test('a factor of 1.5 costs half as much again', () => {
    expect(within(lossWith({ ageing: { factor: 1.5 } }), 1.5 * lossWith({}))).toBeLessThan(1e-3)
  })
  test('20 K more cost 4 % of the conductor part', () => {
    const warm = lossWith({ temperatureC: 40 }) / lossWith({})
    expect(warm).toBeGreaterThan(1.034)
    expect(warm).toBeLessThan(1.04)
    expect(lossWith({ temperatureC: 20 })).toBe(lossWith({}))
  })
})
