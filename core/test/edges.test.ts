/** What lies just at a limit, by hand. */
import { describe, expect, test } from 'vitest'
import {
  cableClasses,
  type Chain,
  InputError,
  isExtrapolated,
  ledgerOf,
  type RatedChain,
  solveChain,
  upgradeTo,
} from '../src/index.ts'
import { heatingTimeS } from '../src/limits/faults.ts'
import { resistorsImpedance } from '../src/load/resistors.ts'

const cable = { z0Ohm: 50, velocityFactor: 0.66, k1DbPer100m: 2, k2DbPer100m: 0.02 }

describe('a cable’s data', () => {
  test('begin at 1 MHz and end where its sheet ends, both included', () => {
    const to = { ...cable, maxHz: 30e6 }
    expect([0.999e6, 1e6, 30e6, 30.001e6].map((hz) => isExtrapolated(to, hz))).toEqual([
      true,
      false,
      false,
      true,
    ])
    expect(isExtrapolated(cable, 3e9)).toBe(false)
  })
})

describe('resistors in parallel', () => {
  const load = {
    kind: 'resistors',
    ohmEach: 200,
    count: 4,
    strayInductanceH: 0,
    strayCapacitanceF: 0,
  }
  const of = (more: object) => resistorsImpedance({ ...load, ...more } as never, 10e6)
  test('four of 200 Ω are 50 Ω', () => expect(of({})).toEqual({ re: 50, im: 0 }))
  test('a coil in series, a capacitor across, both', () => {
    // 2π·10 MHz·0.5 µH
    expect(of({ strayInductanceH: 0.5e-6 }).im).toBeCloseTo(31.4159, 3)
    // 50/(1 + j·2π·10 MHz·100 pF·50) = 50/(1 + j0.314159)
    const shunted = of({ strayCapacitanceF: 100e-12 })
    expect(shunted.re).toBeCloseTo(50 / (1 + 0.314159 ** 2), 3)
    expect(shunted.im).toBeCloseTo((-50 * 0.314159) / (1 + 0.314159 ** 2), 3)
    // Z = 50 + j31.4159, over 1 + j·0.00628319·Z.
    const both = of({ strayInductanceH: 0.5e-6, strayCapacitanceF: 100e-12 })
    const [a, b] = [1 - 0.00628319 * 31.4159, 0.00628319 * 50]
    expect(both.re).toBeCloseTo((50 * a + 31.4159 * b) / (a * a + b * b), 3)
    expect(both.im).toBeCloseTo((31.4159 * a - 50 * b) / (a * a + b * b), 3)
  })
})

describe('an amplifier', () => {
  const chain = (more: object): Chain => ({
    transmitter: { behaviour: 'levelled', foldback: [] },
    stages: [
      {
        kind: 'amplifier',
        gainDb: 12,
        driveW: 40,
        fullW: 500,
        behaviour: 'levelled',
        foldback: [],
        inputOhm: { rOhm: 50, xOhm: 0 },
        ...more,
      } as Chain['stages'][number],
    ],
    load: { kind: 'fixed', rOhm: 50, xOhm: 0 },
  })
  const at = { frequencyHz: 7e6, powerW: 20 }
  test.each([
    [{ driveW: 0 }, ['stages', 0, 'driveW']],
    [{ fullW: -1 }, ['stages', 0, 'fullW']],
    [{ inputOhm: { rOhm: 0, xOhm: 3 } }, ['stages', 0, 'inputOhm', 'rOhm']],
  ])('%j is refused with its place', (more, path) => {
    let thrown: unknown
    try {
      solveChain(chain(more), at)
    } catch (error) {
      thrown = error
    }
    expect(thrown).toBeInstanceOf(InputError)
    expect((thrown as InputError).path).toEqual(path)
  })

  test('adds in the account what it gives, and the account ends at the antenna', () => {
    const solution = solveChain(chain({}), at)
    const { rows, settingW } = ledgerOf(solution)
    const lost = rows.reduce((sum, { lossW }) => sum + lossW, 0)
    expect(settingW - lost).toBeCloseTo(solution.antennaW, 6)
    expect(solution.antennaW).toBeGreaterThan(200)
  })
})

test('a chain that loses nothing shares nothing out', () => {
  const solution = solveChain(
    {
      transmitter: { behaviour: 'levelled', foldback: [] },
      stages: [],
      load: { kind: 'fixed', rOhm: 50, xOhm: 0 },
    },
    { frequencyHz: 7e6, powerW: 20 },
  )
  for (const { lossW, share } of ledgerOf(solution).rows) {
    expect(lossW).toBeCloseTo(0, 9)
    expect(share).toBe(0)
  }
})

describe('the time until a part is too hot', () => {
  test('never at its limit, at once where it is there already', () => {
    expect(heatingTimeS(100, 100, 60)).toBe(Infinity)
    expect(heatingTimeS(100.1, 100, 60)).toBeGreaterThan(300)
    expect(heatingTimeS(200, 100, 60, 100)).toBe(0)
  })
  test('from cold at twice its limit: τ·ln 2; from half of it: τ·ln 1.5', () => {
    expect(heatingTimeS(200, 100, 60)).toBeCloseTo(60 * Math.log(2), 9)
    expect(heatingTimeS(200, 100, 60, 50)).toBeCloseTo(60 * Math.log(1.5), 9)
  })
})

describe('cables that would do in a place', () => {
  const thin = cableClasses.find(({ id }) => id === 'pe-5')!
  const offered = (z0Ohm: number) => {
    const chain: RatedChain = {
      transmitter: { behaviour: 'levelled', foldback: [] },
      stages: [{ kind: 'line', lengthM: 30, cable: { ...thin, z0Ohm }, limits: { averageW: 50 } }],
      load: { kind: 'fixed', rOhm: z0Ohm, xOhm: 0 },
    }
    const around = { emission: { mode: 'key-down' as const }, ambientC: 40 }
    const [section] = upgradeTo(chain, 200, [{ at: { frequencyHz: 7e6, powerW: 100 }, around }])
    return section!.replacements.map(({ cable: other }) => other)
  }

  test.each([50, 75])('have its impedance of %i Ω within 5 Ω', (z0Ohm) => {
    const cables = offered(z0Ohm)
    expect(cables.length).toBeGreaterThan(0)
    for (const other of cables) expect(Math.abs(other.z0Ohm - z0Ohm)).toBeLessThan(5)
  })
  test('lose no more than it, and it itself is not named again where it bears too little', () => {
    for (const other of offered(50))
      expect(other.k1DbPer100m).toBeLessThanOrEqual(1.05 * thin.k1DbPer100m)
  })
})
