import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import {
  guessMapping,
  phaseUnknown,
  readSweepTable,
  rhoOfSwr,
  solveChain,
  answerChain,
  sweepBand,
  sweepFromTable,
} from '../src/index.ts'
import { reflectionOf } from '../src/load/reflection.ts'

const read = (text: string) => {
  const table = readSweepTable(text)
  return { table, mapping: guessMapping(table) }
}

describe('a table', () => {
  test.each([
    ['tabs', 'MHz\tSWR\n7,0\t1,5\n7,1\t1,7\n'],
    ['semicolons and decimal commas', 'MHz;SWR\r\n7,0;1,5\r\n7,1;1,7\r\n'],
    ['commas', 'MHz,SWR\n7.0,1.5\n7.1,1.7\n'],
    ['spaces', '# a remark\n7.0  1.5\n\n7.1  1.7\n'],
    ['quotes and a comma at the end', '"MHz","SWR"\n"7.0","1.5",\n"7.1","1.7",\n'],
  ])('with %s', (_, text) => {
    const { table } = read(text)
    expect(table.columns).toEqual([
      [7, 7.1],
      [1.5, 1.7],
    ])
  })

  test.each([
    ['Frequency (Hz),R,X,SWR\n7e6,40,3,1.3\n', 'Hz', 'rx', [1, 2]],
    ['freq GHz;|rho|;phase\n0,1;0,3;20\n', 'GHz', 'polar', [1, 2]],
    ['kHz\tRe\tIm\n7000\t0.1\t0.2\n', 'kHz', 'parts', [1, 2]],
    ['Frequency;VSWR\n7,1;1,5\n', 'MHz', 'swr', [1]],
    ['7.1 -14.2\n', 'MHz', 'returnLoss', [1]],
    ['7100000 1.4\n', 'Hz', 'swr', [1]],
    ['MHz,|Z|,phase\n7,50,-30\n', 'MHz', 'zPolar', [1, 2]],
    ['freq (kHz),Z mag,theta (deg)\n7000,50,-30\n', 'kHz', 'zPolar', [1, 2]],
    ['f/kHz;SWR\n7000;1,5\n', 'kHz', 'swr', [1]],
    ['frequency Hz,R Ohm,X Ohm,SWR at antenna\n7e6,40,3,1.3\n', 'Hz', 'rx', [1, 2]],
  ] as const)('%j is understood by its headings and numbers', (text, unit, form, values) => {
    expect(read(text).mapping).toMatchObject({ frequency: 0, unit, form, values })
  })

  test.each([
    ['nothing but words\n', /No row of numbers/],
    ['7.0 1.5\n7.1 x\n', /^Line 2: “x” is not a number/],
    ['7.0 1.5\n7.1 1.5 3\n', /^Line 2: 3 numbers, where line 1 has 2/],
    ['MHz;SWR\n7.0;>10\n7.1;2\n', /^Line 2: “>10” is a bound/],
    ['MHz;SWR\n7.0;2\n7.1;inf\n', /^Line 3: “inf” is a bound/],
  ])('%j is refused by its line', (text, message) => {
    expect(() => readSweepTable(text)).toThrow(message)
  })
})

describe('a sweep of a table', () => {
  const make = (text: string, over = {}) => {
    const { table, mapping } = read(text)
    return sweepFromTable(table, { ...mapping, ...over }, 50)
  }

  test('an SWR may be written as 2.10:1', () => {
    const { sweep } = make('MHz,SWR\n7,2.10:1\n7.1,1.5 : 1\n')
    expect(sweep.re[0]).toBeCloseTo(1.1 / 3.1, 12)
    expect(sweep.re[1]).toBeCloseTo(0.2, 12)
  })

  test('a frequency twice counts once where its figures are the same, and is refused where not', () => {
    const { sweep, merged } = make('MHz,R,X\n7,50,1\n7.1,40,2\n7,50,1\n')
    expect([...sweep.frequencyHz]).toEqual([7e6, 7.1e6])
    expect(merged).toBe(1)
    expect(sweep.comments).toContain('1 identical point merged')
    expect(() => make('MHz,R,X\n7,50,1\n7.1,40,2\n7,50,3\n')).toThrow(/^Line 4: .*line 2 has it/)
  })

  test('R and X give the reflection; rows may come in any order', () => {
    const { sweep, phaseKnown } = make('MHz,R,X\n7.2,30,-20\n7.0,50,0\n')
    const { re, im } = reflectionOf({ re: 30, im: -20 }, 50)
    expect(phaseKnown).toBe(true)
    expect([...sweep.frequencyHz]).toEqual([7e6, 7.2e6])
    expect(sweep.re[1]).toBeCloseTo(re, 12)
    expect(sweep.im[1]).toBeCloseTo(im, 12)
    expect(sweep.re[0]).toBe(0)
  })

  test('size and angle, and real and imaginary part, say the same', () => {
    const polar = make('MHz,rho,phase\n7,0.5,60\n').sweep
    const parts = make('MHz,re,im\n7,0.25,0.4330127018922193\n').sweep
    expect(polar.re[0]).toBeCloseTo(parts.re[0]!, 12)
    expect(polar.im[0]).toBeCloseTo(parts.im[0]!, 12)
  })

  test('|Z| and phase are R and X in other words, in degrees or radians', () => {
    const rx = make('MHz,R,X\n7,30,-40\n').sweep
    const degrees = make(`MHz,|Z|,phase\n7,50,${(Math.atan2(-40, 30) * 180) / Math.PI}\n`).sweep
    const radians = make(`MHz,|Z|,phase (rad)\n7,50,${Math.atan2(-40, 30)}\n`).sweep
    for (const sweep of [degrees, radians]) {
      expect(sweep.re[0]).toBeCloseTo(rx.re[0]!, 12)
      expect(sweep.im[0]).toBeCloseTo(rx.im[0]!, 12)
    }
  })

  test('thousands are told from decimals by the table’s other figures', () => {
    expect([...make('kHz;SWR\n7.100;1,5\n7.200;1,6\n').sweep.frequencyHz]).toEqual([7.1e6, 7.2e6])
    expect([...make('MHz\tSWR\n7,100\t1,5\n').sweep.frequencyHz]).toEqual([7.1e6])
    expect(() => make('MHz;SWR\n7,100;2\n')).toThrow(/“7,100” may be 7.1 or 7100/)
  })

  test('is read in time whatever it holds', () => {
    for (const filler of ['1', '1.', '\t', ',', ' ', '-'])
      expect(() => readSweepTable(`7 1.5\n${filler.repeat(9000)}x 1`)).toThrow(/^Line 2/)
    expect(() => readSweepTable(`7 1.5\n${'1'.repeat(100_000)} 1`)).toThrow(/^Line 2: longer/)
  })

  test('SWR and return loss of either sign have a size and no phase', () => {
    const swr = make('MHz,SWR\n7,3\n')
    const loss = make('MHz,return loss\n7,-6.0205999\n')
    expect(swr.phaseKnown).toBe(false)
    expect(swr.sweep.re[0]).toBeCloseTo(0.5, 12)
    expect(loss.sweep.re[0]).toBeCloseTo(0.5, 7)
  })

  test.each([
    ['MHz,SWR\n7,0.9\n', {}, /^Line 2: SWR is 0.9/],
    ['MHz,R,X\n7,-4,0\n', {}, /^Line 2: R is -4/],
    ['MHz,rho,phase\n7,1.2,0\n', {}, /^Line 2: .*between 0 and 1/],
    ['MHz,SWR\n7,1.2\n8,1.3\n7,1.4\n', {}, /^Line 4: .*line 2 has it too/],
    ['MHz,SWR\n0,1.2\n', {}, /^Line 2: the frequency/],
    [
      'MHz,return loss\n7,100000\n',
      {},
      /^Line 2: a return loss of 100000 dB is more than anything/,
    ],
    [
      'MHz,|Z|,phase\n7,50,120\n',
      {},
      /^Line 2: at a phase of 120° the resistance would be negative/,
    ],
    ['MHz,R,X\n7,40,3\n', { values: [1, 1] }, /choose different/],
  ])('%j is refused by its line', (text, over, message) => {
    expect(() => make(text, over)).toThrow(message)
  })

  test('what is written as CSV reads back the same', () => {
    const part = fc.double({ min: -0.7, max: 0.7, noNaN: true })
    fc.assert(
      fc.property(
        fc.array(fc.tuple(part, part), { minLength: 1 }),
        fc.constantFrom(',', ';', '\t'),
        (points, separator) => {
          const rows = points.map(([re, im], i) => [1e6 + i * 250, re, im].join(separator))
          const { sweep } = make([['Hz', 're', 'im'].join(separator), ...rows].join('\n'))
          points.forEach(([re, im], i) => {
            expect(sweep.re[i]).toBe(re + 0)
            expect(sweep.im[i]).toBe(im + 0)
          })
        },
      ),
    )
  })
})

describe('a sweep without phase', () => {
  const load = {
    kind: 'sweep' as const,
    frequencyHz: [7e6, 8e6],
    re: [rhoOfSwr(3), rhoOfSwr(3)],
    im: [0, 0],
    phaseUnknown: true,
  }
  const cable = { z0Ohm: 50, velocityFactor: 0.66, k1DbPer100m: 1.4, k2DbPer100m: 0.01 }
  const base = {
    transmitter: { behaviour: 'peaked' as const, foldback: [] },
    stages: [{ kind: 'line' as const, lengthM: 4, cable }],
  }

  test('answers as an SWR of the same size does, ranges and all', () => {
    const at = { frequencyHz: 7.5e6, powerW: 100 }
    expect(phaseUnknown(load)).toBe(true)
    const swept = answerChain({ ...base, load }, at)
    const plain = answerChain({ ...base, load: { kind: 'swr', swr: 3 } }, at)
    expect(swept.spread!.antennaW.low).toBeCloseTo(plain.spread!.antennaW.low, 9)
    expect(swept.spread!.antennaW.high).toBeCloseTo(plain.spread!.antennaW.high, 9)
  })

  test('over a band it lies between the two ends of its range', () => {
    const band = sweepBand({ ...base, load }, Float64Array.of(7.1e6, 7.9e6), 100)
    expect(band.antennaWLow[0]).toBeLessThan(band.antennaWHigh[0]!)
    const one = solveChain({ ...base, load }, { frequencyHz: 7.1e6, powerW: 100 }, 1)
    expect(one.antennaW).toBeGreaterThan(band.antennaWLow[0]! - 0.1)
    expect(one.antennaW).toBeLessThan(band.antennaWHigh[0]! + 0.1)
  })
})
