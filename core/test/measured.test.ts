import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import {
  type Chain,
  complex,
  deembed,
  deembedSize,
  deembedSizeRange,
  answerChain,
  feedPointCircle,
  drawingGrid,
  InputError,
  padLossDb,
  partClasses,
  readTwoPort,
  rhoOfSwr,
  solveChain,
  sweepBand,
  type Stage,
  swrAtLoad,
  thinTwoPort,
} from '../src/index.ts'
import { type LineStage } from '../src/stages/line.ts'
import { type MeasuredStage } from '../src/stages/measured.ts'
import { type TwoPortSweep, writeTwoPort } from '../src/formats/touchstoneTwoPort.ts'
import { writeStage } from '../src/stages/stage.ts'
import { newAbcd } from '../src/stages/twoPort.ts'
import { line } from './arbitrary.ts'

const run: LineStage = {
  kind: 'line',
  lengthM: 20,
  cable: { z0Ohm: 75, velocityFactor: 0.82, k1DbPer100m: 1, k2DbPer100m: 0.003 },
}

/** S-parameters of a stage on 50 Ω, from its ABCD: Pozar, table 4.2. */
function sOf(stage: Stage, frequencyHz: number[]): TwoPortSweep {
  const abcd = newAbcd()
  const s = frequencyHz.flatMap((hz) => {
    writeStage(stage, hz, 50, abcd)
    const [A, B, C, D] = [0, 2, 4, 6].map((i) => complex(abcd[i]!, abcd[i + 1]))
    const sum = (a: number, b: number, c: number, d: number) =>
      complex(
        a * A!.re + (b * B!.re) / 50 + c * 50 * C!.re + d * D!.re,
        a * A!.im + (b * B!.im) / 50 + c * 50 * C!.im + d * D!.im,
      )
    const all = sum(1, 1, 1, 1)
    const over = ({ re, im }: { re: number; im: number }) => {
      const q = all.re ** 2 + all.im ** 2
      return [(re * all.re + im * all.im) / q, (im * all.re - re * all.im) / q]
    }
    return [
      ...over(sum(1, 1, -1, -1)),
      ...over(complex(2)),
      ...over(complex(2)),
      ...over(sum(-1, 1, -1, 1)),
    ]
  })
  return { referenceOhm: 50, frequencyHz, s }
}

const asStage = ({ frequencyHz, s }: TwoPortSweep): MeasuredStage => ({
  kind: 'measured',
  frequencyHz,
  s,
})

const chainOf = (...stages: Stage[]): Chain => ({
  transmitter: {
    behaviour: 'levelled',
    foldback: [
      [1.5, 1],
      [3, 0.5],
    ],
  },
  stages,
  load: { kind: 'fixed', rOhm: 120, xOhm: -35 },
})

describe('a measured part', () => {
  test('solves as the stage it was measured from', () => {
    fc.assert(
      fc.property(line, fc.double({ min: 1e6, max: 50e6, noNaN: true }), (stage, frequencyHz) => {
        const at = { frequencyHz, powerW: 100 }
        const direct = solveChain(chainOf(stage), at)
        const measured = solveChain(chainOf(asStage(sOf(stage, [frequencyHz]))), at)
        expect(measured.antennaW).toBeCloseTo(direct.antennaW, 8)
        expect(measured.planes[0]!.swr).toBeCloseTo(direct.planes[0]!.swr, 8)
      }),
    )
  })

  test('turned round twice is as it was; turned once, an uneven part shows its other side', () => {
    const uneven = sOf({ kind: 'series', rOhm: 10, xOhm: 30 }, [7e6])
    // Lossy enough to stay passive with another S22.
    for (let k = 2; k < 6; k++) uneven.s[k]! *= 0.8
    uneven.s[6] = 0.2
    uneven.s[7] = -0.1
    const stage = asStage(uneven)
    const at = { frequencyHz: 7e6, powerW: 100 }
    const matched = (s: Stage) =>
      solveChain({ ...chainOf(s), load: { kind: 'fixed', rOhm: 50, xOhm: 0 } }, at)
    const [s11, s22] = [Math.hypot(uneven.s[0]!, uneven.s[1]!), Math.hypot(0.2, 0.1)]
    const rho = (s: Stage) => {
      const { re, im } = matched(s).planes[0]!.reflection
      return Math.hypot(re, im)
    }
    expect(rho(stage)).toBeCloseTo(s11, 10)
    expect(rho({ ...stage, turned: true })).toBeCloseTo(s22, 10)
  })

  test('that gives out more than it gets, or lets nothing through, is refused with its place', () => {
    const at = { frequencyHz: 7e6, powerW: 100 }
    const sOfPart = (...s: number[]) => asStage({ referenceOhm: 50, frequencyHz: [7e6], s })
    const active = sOfPart(0.3, 0, 1.1, 0, 1.1, 0, -0.4, 0)
    const closed = sOfPart(1, 0, 0, 0, 0, 0, 1, 0)
    for (const [stage, words] of [
      [active, /more comes out/],
      [closed, /nothing gets through/],
    ] as const) {
      expect(() => solveChain(chainOf(run, stage), at)).toThrow(words)
      expect(sweepBand(chainOf(stage), Float64Array.of(7e6), 100).antennaW[0]).toBeNaN()
    }
    try {
      solveChain(chainOf(run, active), at)
    } catch (error) {
      expect((error as InputError).path).toEqual(['stages', 1, 's'])
    }
  })

  test('never gives power, though a calibration be a little off', () => {
    const random = fc.double({ min: -1.1, max: 1.1, noNaN: true })
    fc.assert(
      fc.property(fc.array(random, { minLength: 8, maxLength: 8 }), (s) => {
        const stage = asStage({ referenceOhm: 50, frequencyHz: [7e6], s })
        let solution
        try {
          solution = solveChain(chainOf(run, stage), { frequencyHz: 7e6, powerW: 100 })
        } catch (error) {
          expect(error).toBeInstanceOf(InputError)
          return
        }
        expect(solution.stages[1]!.lossW).toBeGreaterThanOrEqual(-1e-9)
        expect(Number.isFinite(solution.antennaW)).toBe(true)
      }),
    )
    const slightlyOver = asStage({
      referenceOhm: 50,
      frequencyHz: [7e6],
      s: [0, 0, 1.005, 0, 1.005, 0, 0, 0],
    })
    const { stages } = solveChain(chainOf(slightlyOver), { frequencyHz: 7e6, powerW: 100 })
    expect(stages[0]!.lossW).toBeCloseTo(0, 9)
  })

  test('has no figure outside what was measured, and says so with its place', () => {
    const stage = asStage(sOf(run, [7e6, 8e6]))
    expect(() => solveChain(chainOf(run, stage), { frequencyHz: 9e6, powerW: 10 })).toThrow(
      /measured from 7\.000\sMHz to 8\.000\sMHz/,
    )
    try {
      solveChain(chainOf(run, stage), { frequencyHz: 9e6, powerW: 10 })
    } catch (error) {
      expect((error as InputError).path).toEqual(['stages', 1])
    }
    const bypassed = { ...stage, bypassed: true }
    expect(
      solveChain(chainOf(bypassed), { frequencyHz: 9e6, powerW: 10 }).antennaW,
    ).toBeGreaterThan(4)
  })
})

describe('a Touchstone file of two ports', () => {
  const sweep = sOf(run, [1e6, 2e6, 3e6])

  test('reads back as it was written', () => {
    const back = readTwoPort(writeTwoPort(sweep), 50)
    expect(back.frequencyHz).toEqual(sweep.frequencyHz)
    back.s.forEach((value, i) => expect(value).toBeCloseTo(sweep.s[i]!, 12))
  })

  test('on another reference it is the same part', () => {
    // A 75 Ω line is flat on 75 Ω: S11 is nothing, and only the delay is left.
    const flat = readTwoPort(`# MHz S MA R 75\n7 0 0 0.9 -40 0.9 -40 0 0\n`, 50)
    const on75: Chain = {
      transmitter: { behaviour: 'levelled', foldback: [] },
      stages: [asStage(flat)],
      load: { kind: 'fixed', rOhm: 75, xOhm: 0 },
    }
    const { planes, stages } = solveChain(on75, { frequencyHz: 7e6, powerW: 1 })
    expect(planes[0]!.impedanceOhm.re).toBeCloseTo(75, 8)
    expect(planes[0]!.impedanceOhm.im).toBeCloseTo(0, 8)
    expect(stages[0]!.lossDb).toBeCloseTo(-20 * Math.log10(0.9), 8)
  })

  test('Z parameters, and Y, of a T of resistors', () => {
    // Two arms of 10 Ω, 100 Ω to ground: Z11 = Z22 = 110, Z12 = Z21 = 100.
    const z = readTwoPort(
      '[Version] 2.0\n# MHz Z RI R 50\n[Number of Ports] 2\n7 110 0 100 0 100 0 110 0\n',
      50,
    )
    const d = 110 * 110 - 100 * 100
    const y = readTwoPort(
      `[Version] 2.0\n# MHz Y RI R 50\n[Number of Ports] 2\n7 ${110 / d} 0 ${-100 / d} 0 ${-100 / d} 0 ${110 / d} 0\n`,
      50,
    )
    z.s.forEach((value, i) => expect(y.s[i]).toBeCloseTo(value, 10))
    const chain: Chain = {
      transmitter: { behaviour: 'levelled', foldback: [] },
      stages: [asStage(z)],
      load: { kind: 'fixed', rOhm: 50, xOhm: 0 },
    }
    // 10 + 100 ∥ 60 Ω
    expect(
      solveChain(chain, { frequencyHz: 7e6, powerW: 1 }).planes[0]!.impedanceOhm.re,
    ).toBeCloseTo(47.5, 8)
  })

  test('the order of 12 and 21 is the file’s word; noise data is left alone', () => {
    const head = '[Version] 2.0\n# MHz S RI R 50\n[Number of Ports] 2\n'
    const row = '7 0.1 0 0.2 0 0.3 0 0.4 0\n'
    expect(readTwoPort(`${head}[Two-Port Data Order] 12_21\n${row}`, 50).s).toEqual([
      0.1, 0, 0.3, 0, 0.2, 0, 0.4, 0,
    ])
    expect(
      readTwoPort(`# MHz S RI R 50\n${row}8 0 0 0.5 0 0.5 0 0 0\n2 1.1 0.3 20 0.4\n`, 50)
        .frequencyHz,
    ).toEqual([7e6, 8e6])
  })

  test.each([
    ['# MHz S RI R 50\n7 0.1 0\n', /Line 2: .*one-port file/],
    ['# MHz S RI R 50\n7 0 0 3 0 0 0 0 0\n', /more comes out than goes in/],
    ['# MHz S RI R 50\n7 1 0 0 0 0 0 1 0\n', /nothing gets through/],
    ['[Version] 2.0\n# MHz S RI\n[Number of Ports] 2\n[Matrix Format] Lower\n', /Line 4: .*“Full”/],
    ['[Version] 2.0\n# MHz S RI\n[Reference] 50 75\n', /different references/],
  ])('%j is refused', (text, message) => {
    expect(() => readTwoPort(text, 50)).toThrow(message)
  })

  test('thinned, straight lines give it back to the tolerance that is stated', () => {
    const grid = Array.from({ length: 2001 }, (_, i) => 1e6 + i * 15e3)
    const whole = sOf(run, grid)
    const { sweep: thin, worst } = thinTwoPort(whole, 400)
    expect(thin.frequencyHz.length).toBeLessThanOrEqual(400)
    expect(thin.frequencyHz.length).toBeGreaterThan(20)
    let found = 0
    grid.forEach((hz, i) => {
      const above = Math.max(
        1,
        thin.frequencyHz.findIndex((f) => f >= hz),
      )
      const [f0, f1] = [thin.frequencyHz[above - 1]!, thin.frequencyHz[above]!]
      for (let k = 0; k < 8; k += 2) {
        const off = (p: number) => {
          const [a, b] = [thin.s[8 * (above - 1) + p]!, thin.s[8 * above + p]!]
          return a + ((b - a) * (hz - f0)) / (f1 - f0) - whole.s[8 * i + p]!
        }
        found = Math.max(found, Math.hypot(off(k), off(k + 1)))
      }
    })
    expect(found).toBeLessThanOrEqual(worst * (1 + 1e-9))
    expect(worst).toBeLessThan(0.01)
  })
})

describe('parts', () => {
  test.each(partClasses.map((part) => [part.id, part] as const))(
    '%s: loss never falls, power never rises, and the figures are of this world',
    (_, { pointsDb, ratedPowerW, maxMhz }) => {
      pointsDb.forEach(([mhz, db], i) => {
        expect(db).toBeGreaterThan(0)
        expect(mhz).toBeLessThanOrEqual(maxMhz)
        if (i > 0) {
          expect(mhz).toBeGreaterThan(pointsDb[i - 1]![0])
          expect(db).toBeGreaterThanOrEqual(pointsDb[i - 1]![1])
        }
      })
      ratedPowerW.forEach(([, watts], i) => {
        expect(watts).toBeGreaterThan(0)
        if (i > 0) expect(watts).toBeLessThanOrEqual(ratedPowerW[i - 1]![1])
      })
    },
  )

  test('every filter says what it lets through, and its table lies in it; nothing else blocks', () => {
    for (const { part, passesMhz, pointsDb, maxMhz } of partClasses) {
      expect(passesMhz !== undefined).toBe(part === 'filter')
      if (!passesMhz) continue
      const [low, high] = passesMhz
      expect(low).toBeLessThan(high)
      expect(high).toBeLessThanOrEqual(maxMhz)
      for (const [mhz] of pointsDb) {
        expect(mhz).toBeGreaterThanOrEqual(low)
        expect(mhz).toBeLessThanOrEqual(high)
      }
    }
  })

  test('ids are unique and every kind has an entry', () => {
    expect(new Set(partClasses.map(({ id }) => id)).size).toBe(partClasses.length)
    expect(new Set(partClasses.map(({ part }) => part)).size).toBe(7)
  })

  test('loss between points runs straight on logarithmic axes, beyond them as √f', () => {
    const pad = {
      kind: 'pad' as const,
      lossDb: 9,
      points: [
        [1e6, 0.1],
        [100e6, 1],
      ] as const,
    }
    expect(padLossDb(pad, 1e6)).toBeCloseTo(0.1, 12)
    expect(padLossDb(pad, 10e6)).toBeCloseTo(Math.sqrt(0.1), 12)
    expect(padLossDb(pad, 400e6)).toBeCloseTo(2, 12)
    expect(padLossDb(pad, 0.25e6)).toBeCloseTo(0.05, 12)
  })
})

test('an SWR read at the input of a flat line is carried as the formula says', () => {
  const cable = { z0Ohm: 50, velocityFactor: 0.66, k1DbPer100m: 0, k2DbPer100m: 0.2 }
  const db = (0.2 * 40 * 10) / 100
  const { reflection, possible } = deembedSize(
    [{ kind: 'line', lengthM: 40, cable }],
    10e6,
    50,
    rhoOfSwr(1.8),
  )
  const expected = swrAtLoad(1.8, db)
  expect(possible).toBe(true)
  expect(reflection.re).toBeCloseTo(expected.rho, 3)
})

describe('a grid to draw on', () => {
  const n = 100_000
  const frequencyHz = Float64Array.from({ length: n }, (_, i) => 1e6 + i * 100)
  const re = new Float64Array(n).fill(0.5)
  re[43_210] = 0.01

  test('keeps a dip of a single point among a hundred thousand', () => {
    const grid = drawingGrid(
      { kind: 'sweep', frequencyHz, re, im: new Float64Array(n) },
      1e6,
      11e6,
      200,
    )
    expect(grid.length).toBeLessThanOrEqual(402)
    expect(grid).toContain(frequencyHz[43_210])
    grid.forEach((hz, i) => i > 0 && expect(hz).toBeGreaterThan(grid[i - 1]!))
  })

  test('is even where there are few points, or none', () => {
    expect([...drawingGrid(undefined, 1, 5, 4)]).toEqual([1, 2, 3, 4, 5])
  })
})

test('every reflection of the circle at the feed point shows the same in front of the line', () => {
  const cable = { z0Ohm: 75, velocityFactor: 0.66, k1DbPer100m: 1, k2DbPer100m: 0.005 }
  const stages: Stage[] = [
    { kind: 'line', lengthM: 10, cable },
    { kind: 'pad', lossDb: 0.3 },
  ]
  const circle = feedPointCircle(stages, 14.1e6, 50, 0.2)!
  expect(Math.hypot(circle.re, circle.im)).toBeGreaterThan(0.1)
  for (let i = 0; i < 36; i++) {
    const phase = (i * Math.PI) / 18
    const re = circle.re + circle.radius * Math.cos(phase)
    const im = circle.im + circle.radius * Math.sin(phase)
    const below = (1 - re) ** 2 + im ** 2
    const { planes } = solveChain(
      {
        transmitter: { behaviour: 'levelled', foldback: [] },
        stages,
        load: {
          kind: 'fixed',
          rOhm: (50 * (1 - re * re - im * im)) / below,
          xOhm: (100 * im) / below,
        },
      },
      { frequencyHz: 14.1e6, powerW: 100 },
    )
    expect(planes[0]!.swr).toBeCloseTo(1.5, 9)
  }
  // What would all have to be active is no antenna; a match has no size.
  expect(feedPointCircle([{ kind: 'pad', lossDb: 6 }], 14.1e6, 50, 0.9)).toBeNull()
  expect(feedPointCircle(stages, 14.1e6, 50, 0)).toMatchObject({ radius: 0 })
})

test('across a band the circle holds on the frequency of its reading, and is gone a tenth away', () => {
  const cable = { z0Ohm: 75, velocityFactor: 0.66, k1DbPer100m: 1, k2DbPer100m: 0.005 }
  const stages: Stage[] = [{ kind: 'line', lengthM: 10, cable }]
  const circle = { ...feedPointCircle(stages, 14e6, 50, 0.2)!, frequencyHz: 14e6 }
  const transmitter = { behaviour: 'levelled' as const, foldback: [] }
  const read: Chain = { transmitter, stages, load: { kind: 'swr', swr: 1.5, circle } }
  const size: Chain = { ...read, load: { kind: 'swr', swr: 1.5 } }
  const hz = Float64Array.of(12e6, 14e6, 15.4e6)
  const band = sweepBand(read, hz, 100)
  hz.forEach((frequencyHz, i) => {
    const { spread } = answerChain(i === 1 ? read : size, { frequencyHz, powerW: 100 })
    // The band is turned in fewer steps.
    expect(band.antennaWLow[i]).toBeCloseTo(spread!.antennaW.low, 1)
    expect(band.antennaWHigh[i]).toBeCloseTo(spread!.antennaW.high, 1)
  })
  const blind = sweepBand(size, hz, 100)
  expect(Math.abs(blind.antennaWLow[1]! - band.antennaWLow[1]!)).toBeGreaterThan(0.2)
})

test('of a size alone, the size behind a line of another impedance is a range', () => {
  const cable = { z0Ohm: 75, velocityFactor: 0.66, k1DbPer100m: 1, k2DbPer100m: 0.005 }
  const line: Stage = { kind: 'line', lengthM: 10, cable }
  const { low, high } = deembedSizeRange([line], 14.1e6, 50, 0.2)
  let [least, most] = [1, 0]
  for (let i = 0; i < 3600; i++) {
    const phase = (i * Math.PI) / 1800
    const { reflection } = deembed([line], 14.1e6, 50, {
      re: 0.2 * Math.cos(phase),
      im: 0.2 * Math.sin(phase),
    })
    const size = Math.hypot(reflection.re, reflection.im)
    least = Math.min(least, size)
    most = Math.max(most, size)
  }
  expect(low).toBeCloseTo(least, 3)
  expect(high).toBeCloseTo(most, 3)
  // What a flat line would make of it lies between, and the range is no small matter.
  const { reflection } = deembedSize([line], 14.1e6, 50, 0.2)
  expect(reflection.re).toBeGreaterThan(low)
  expect(reflection.re).toBeLessThan(high)
  expect((1 + high) / (1 - high)).toBeGreaterThan(2)
  // On a line of the reference there is none; where all may come back, it is said.
  const flat = deembedSizeRange([{ ...line, cable: { ...cable, z0Ohm: 50 } }], 14.1e6, 50, 0.2)
  expect(flat.high - flat.low).toBeLessThan(0.04)
  expect(deembedSizeRange([line], 14.1e6, 50, 0.9).high).toBe(1)
})
