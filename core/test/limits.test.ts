import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import {
  attenuationDbPer100m,
  type CableClass,
  cableClasses,
  checkLimits,
  faultsOf,
  keyingTime,
  mostPower,
  profileOf,
  type RatedChain,
  ratedPowerAt,
  ratingsOf,
  standingOf,
  type Surroundings,
  tightest,
  upgradeTo,
  worstFaultAt,
} from '../src/index.ts'
import { heatingTimeS } from '../src/limits/faults.ts'
import { NEPER_PER_M } from '../src/constants.ts'
import { brokenBySwr, thermalShare } from '../src/limits/stress.ts'
import type { Stress } from '../src/index.ts'
import { permittedHeatWPerM } from '../src/stages/stress.ts'
import { type RatedStage } from '../src/limits/ratings.ts'

const pe5 = cableClasses.find(({ id }) => id === 'pe-5')!
const big = cableClasses.find(({ id }) => id === 'foam-10')!
/** A class as a chain carries it: with the id it was taken from. */
const carried = (of: CableClass) => ({ ...of, gearId: of.id })
const cable = carried(pe5)
const lossless = { z0Ohm: 50, velocityFactor: 0.66, k1DbPer100m: 0, k2DbPer100m: 0 }

const steady: Surroundings = { emission: { mode: 'FM' }, ambientC: 40 }
const voice: Surroundings = { emission: { mode: 'voice-plain' }, ambientC: 40 }

/** A source that puts all of its setting in, so that the power on the line is known. */
const chain = (stages: RatedStage[], rOhm = 50, xOhm = 0): RatedChain => ({
  transmitter: { behaviour: 'peaked', foldback: [] },
  stages,
  load: { kind: 'fixed', rOhm, xOhm },
})
const line = (over: Partial<Extract<RatedStage, { kind: 'line' }>> = {}): RatedStage => ({
  kind: 'line',
  lengthM: 30,
  cable,
  ...over,
})
const find = (c: RatedChain, powerW: number, kind: string, around = steady, frequencyHz = 14e6) =>
  checkLimits(c, { frequencyHz, powerW }, around).stresses.find((s) => s.kind === kind)!

describe('voltage along a line, by hand', () => {
  const rated: RatedStage = {
    kind: 'line',
    lengthM: 40,
    cable: lossless,
    limits: { voltageRms: 500 },
  }

  test('flat, 500 V stands for 5 000 W', () => {
    const most = mostPower(chain([rated]), { frequencyHz: 14e6, powerW: 100 }, steady)
    expect(most.powerW).toBeCloseTo(5000, -1)
    expect(most.by).toMatchObject({ kind: 'voltage', part: 0, basis: 'PEP' })
  })

  test('at SWR 3 the peak is √(P·Z₀·S): 1 667 W of net power, 2 222 W forward', () => {
    const c = chain([rated], 150)
    expect(find(c, 100, 'voltage').stress).toBeCloseTo(Math.sqrt(100 * 50 * 3), 6)
    const most = mostPower(c, { frequencyHz: 14e6, powerW: 100 }, steady).powerW
    expect(most).toBeCloseTo(500 ** 2 / 150, -1)
    // Net = forward·(1 − ρ²) with ρ = ½.
    expect(most / (1 - 0.25)).toBeCloseTo(2222, -1)
  })

  test('an open end doubles the forward voltage: 1 250 W of forward power', () => {
    const levelled: RatedChain = {
      ...chain([rated]),
      transmitter: { behaviour: 'levelled', foldback: [] },
    }
    const [open, short] = faultsOf(levelled, { frequencyHz: 14e6, powerW: 1250 }, steady, 3)
    expect(open!.held!.stress).toBeCloseTo(500, 3)
    expect(open!.held!.headroomDb).toBeCloseTo(0, 6)
    expect(short!.held!.stress).toBeCloseTo(500, 3)
  })

  test('a lead too short to hold a maximum has it at its end', () => {
    // 200 Ω at the end: the voltage is highest at the antenna and falls toward the source for λ/4.
    const short = find(chain([{ ...rated, lengthM: 1 }], 200), 100, 'voltage')
    expect(short.fromLoadM).toBeCloseTo(0, 9)
    expect(short.stress).toBeCloseTo(Math.sqrt(100 * 200), 6)
    // 12.5 Ω: it rises toward the source and has not reached the maximum yet.
    const rising = find(chain([{ ...rated, lengthM: 1 }], 12.5), 100, 'voltage')
    expect(rising.fromLoadM).toBeCloseTo(1, 9)
    expect(rising.stress).toBeLessThan(Math.sqrt(100 * 50 * 4))
  })
})

describe('heat', () => {
  test('a flat line is hottest at its input end, and bears its rated power there', () => {
    const rated = ratedPowerAt(pe5, 14e6)
    const heat = find(chain([line()]), rated, 'heat')
    expect(heat.fromLoadM).toBeCloseTo(30, 6)
    // Within what the complex Zc of the cable takes off the current.
    expect(Math.abs(heat.stress / heat.limit! - 1)).toBeLessThan(0.03)
  })

  test('permitted heat is P·2α, derated by ambient, gone at the conductor’s limit', () => {
    const stage = line() as Extract<RatedStage, { kind: 'line' }>
    const ratings = ratingsOf(stage)
    const [hz, watts] = ratings.averageW!.find(([f]) => f === 10e6)!
    const at40 = permittedHeatWPerM(stage.cable, { ratings, frequencyHz: 10e6, ambientC: 40 })!
    expect(at40).toBeCloseTo(watts * 2 * attenuationDbPer100m(pe5, hz) * NEPER_PER_M, 9)
    expect(
      permittedHeatWPerM(stage.cable, { ratings, frequencyHz: 10e6, ambientC: 60 })! / at40,
    ).toBeCloseTo(0.5, 9)
    expect(permittedHeatWPerM(stage.cable, { ratings, frequencyHz: 10e6, ambientC: 80 })).toBe(0)
  })

  test('a voice heats a fifth of a carrier, and bears five times its PEP', () => {
    const at = { frequencyHz: 14e6, powerW: 100 }
    const hot = (s: { kind: string }) => s.kind === 'heat'
    const fm = mostPower(chain([line()]), at, steady, hot).powerW
    expect(mostPower(chain([line()]), at, voice, hot).powerW / fm).toBeCloseTo(5, 2)
  })

  test('an over and a pause: half for a part that is slow, all for one that is quick', () => {
    const around = { ...steady, longestOverS: 180 }
    expect(thermalShare(around, 1e6)).toBeCloseTo(0.5, 3)
    expect(thermalShare(around, 1)).toBeCloseTo(1, 9)
    expect(thermalShare(around, 180)).toBeCloseTo(1 / (1 + Math.exp(-1)), 12)
    expect(thermalShare(around, undefined)).toBe(1)
  })

  test('a connector and a resistor are warmed by what passes and by what they take', () => {
    const n: RatedStage = { kind: 'pad', lossDb: 0, gearId: 'n' }
    // At SWR 2 the current alone would be that of twice the power.
    expect(find(chain([n], 100), 100, 'heat').stress).toBeCloseTo(200, 6)
    const resistor: RatedStage = { kind: 'shunt', rOhm: 50, xOhm: 0, limits: { averageW: 20 } }
    const heat = find(chain([resistor]), 100, 'heat', voice)
    expect(heat.stress).toBeCloseTo(10, 6)
    expect(standingOf(heat)).toBe('ok')
  })

  test('an arrester fires on the peak', () => {
    const arrester: RatedStage = { kind: 'pad', lossDb: 0, gearId: 'gas-230' }
    const firing = find(chain([arrester]), 529, 'firing')
    expect(firing).toMatchObject({ limit: 230, unit: 'V peak' })
    expect(firing.stress).toBeCloseTo(230, 0)
  })
})

describe('the most power', () => {
  const at = { frequencyHz: 14e6, powerW: 25 }
  const several = (rOhm: number, xOhm = 0): RatedChain => ({
    ...chain(
      [line(), { kind: 'pad', lossDb: 0.1, gearId: 'bnc' }, line({ lengthM: 5 })],
      rOhm,
      xOhm,
    ),
    transmitter: {
      behaviour: 'levelled',
      foldback: [
        [1.5, 1],
        [3, 0.5],
      ],
    },
  })

  test('lands within 0.1 % of the first limit, and no other is passed', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 10, max: 300, noNaN: true }),
        fc.double({ min: -150, max: 150, noNaN: true }),
        fc.constantFrom(steady, voice),
        (r, x, around) => {
          const c = several(r, x)
          const most = mostPower(c, at, around)
          const { stresses } = checkLimits(c, { ...at, powerW: most.powerW }, around)
          const ratios = stresses.filter((s) => s.limit !== null).map((s) => s.stress / s.limit!)
          expect(Math.max(...ratios)).toBeLessThanOrEqual(1)
          expect(Math.max(...ratios)).toBeGreaterThan(0.999)
        },
      ),
      { numRuns: 60 },
    )
  })

  test('falls with duty and with the heat of the day', () => {
    const c = several(80)
    const by = (over: Partial<Surroundings>) => mostPower(c, at, { ...steady, ...over }).powerW
    const shares = [0.1, 0.3, 0.6, 1].map((meanToPeak) =>
      by({ emission: { mode: 'own', meanToPeak, keyDown: 1 } }),
    )
    shares.forEach((w, i) => i > 0 && expect(w).toBeLessThanOrEqual(shares[i - 1]! * 1.0001))
    const days = [0, 20, 40, 60].map((ambientC) => by({ ambientC }))
    days.forEach((w, i) => i > 0 && expect(w).toBeLessThanOrEqual(days[i - 1]! * 1.0001))
    expect(days[3]).toBeLessThan(days[0]!)
  })

  test('through an amplifier, which is not in proportion', () => {
    const amplifier: RatedStage = {
      kind: 'amplifier',
      gainDb: 13,
      driveW: 40,
      fullW: 500,
      ceilings: { FM: 300 },
      behaviour: 'levelled',
      foldback: [],
      inputOhm: { rOhm: 50, xOhm: 0 },
    }
    const c = { ...several(60), stages: [amplifier, ...several(60).stages] }
    const most = mostPower(c, { ...at, mode: 'FM' }, steady)
    const { stresses } = checkLimits(c, { ...at, mode: 'FM', powerW: most.powerW }, steady)
    expect(tightest(stresses)!.headroomDb).toBeCloseTo(0, 2)
    const tripping = { ...c, stages: [{ ...amplifier, tripSwr: 1.1 }, ...several(60).stages] }
    expect(mostPower(tripping, at, steady)).toMatchObject({ powerW: 0, by: { kind: 'SWR' } })
  })

  test('a saturated amplifier into a part that bears a little less: worked by hand', () => {
    // 485 W out of an amplifier of 15 dB that gives 500 W for 50 W: Psat 505.4 W, 993.6/31.62 W of drive.
    const c = chain([
      {
        kind: 'amplifier',
        gainDb: 15,
        driveW: 50,
        fullW: 500,
        behaviour: 'levelled',
        foldback: [],
        inputOhm: { rOhm: 50, xOhm: 0 },
      },
      { kind: 'pad', lossDb: 0.1, limits: { averageW: 485 } },
    ])
    const keyed: Surroundings = { emission: { mode: 'key-down' }, ambientC: 40 }
    for (const powerW of [0.01, 25, 31, 50, 500]) {
      const most = mostPower(c, { ...at, powerW, mode: 'key-down' }, keyed)
      expect(most.powerW).toBeLessThanOrEqual(31.43)
      expect(most.powerW).toBeGreaterThan(31.43 * 0.999)
      expect(most.by).toMatchObject({ part: 1, kind: 'heat' })
    }
  })

  test('is never above a limit and within 0.1 % of it, whatever the amplifier and the start', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 6, max: 30, noNaN: true }),
        fc.double({ min: 0.02, max: 0.99, noNaN: true }),
        fc.double({ min: 10, max: 2000, noNaN: true }),
        fc.double({ min: -2, max: 4, noNaN: true }),
        (gainDb, compression, averageW, start) => {
          const driveW = 40
          const fullW = driveW * 10 ** (gainDb / 10) * compression
          const c = chain([
            {
              kind: 'amplifier',
              gainDb,
              driveW,
              fullW,
              behaviour: 'levelled',
              foldback: [],
              inputOhm: { rOhm: 90, xOhm: 20 },
            },
            { kind: 'pad', lossDb: 0.3, limits: { averageW } },
          ])
          const point = { ...at, mode: 'key-down' as const }
          const most = mostPower(c, { ...point, powerW: 10 ** start }, steady)
          const worst = (powerW: number) =>
            tightest(checkLimits(c, { ...point, powerW }, steady).stresses)!.headroomDb!
          expect(worst(most.powerW)).toBeGreaterThanOrEqual(0)
          expect(worst(most.powerW * 1.001)).toBeLessThan(0)
        },
      ),
    )
  })

  test('a cable given without loss is held against its rating all the same', () => {
    const rated = line({ cable: lossless, limits: { averageW: 300 } })
    const most = mostPower(chain([rated]), at, steady)
    expect(most.powerW).toBeLessThanOrEqual(300)
    expect(most.powerW).toBeGreaterThan(299.7)
  })

  test('knows no bound where no limit is known, and says how many are not', () => {
    const bare = chain([{ kind: 'line', lengthM: 10, cable: lossless }])
    expect(mostPower(bare, at, steady)).toEqual({ powerW: Infinity, by: null, unknown: 2 })
    expect(standingOf(find(bare, 100, 'voltage'))).toBe('unknown')
  })

  test('a licence is a limit too: PEP at the output, EIRP and ERP with the antenna’s gain', () => {
    const c = chain([{ kind: 'pad', lossDb: 3.0103 }])
    const most = (kind: 'PEP' | 'antenna' | 'EIRP' | 'ERP', average = false) =>
      mostPower(c, at, {
        ...steady,
        emission: { ...steady.emission, meanToPeak: 0.25, keyDown: 0.5 },
        licence: { kind, watts: 100, average },
        antennaGainDbi: 2.15,
      }).powerW
    expect(most('PEP')).toBeCloseTo(100, 0)
    expect(most('antenna')).toBeCloseTo(200, 0)
    // An eighth of the PEP is the average over a transmission.
    expect(most('PEP', true)).toBeCloseTo(800, 0)
    expect(most('ERP', true) / 1600).toBeCloseTo(1, 3)
    expect(most('ERP')).toBeCloseTo(200, 0)
    expect(most('EIRP')).toBeCloseTo(200 / 10 ** 0.215, 0)
  })

  test('a licence of radiated power is not judged without a gain: 0 dBi is a gain, none is not', () => {
    const c = chain([{ kind: 'pad', lossDb: 3.0103 }])
    const kinds = (kind: 'antenna' | 'EIRP' | 'ERP', antennaGainDbi?: number) =>
      checkLimits(c, at, {
        ...steady,
        licence: { kind, watts: 100 },
        antennaGainDbi,
      }).stresses.filter((stress) => stress.kind === 'licence').length
    expect([kinds('EIRP'), kinds('ERP'), kinds('antenna')]).toEqual([0, 0, 1])
    expect([kinds('EIRP', 0), kinds('ERP', -3)]).toEqual([1, 1])
  })

  test('with only an SWR known, the worst phase counts', () => {
    const swr: RatedChain = { ...several(50), load: { kind: 'swr', swr: 4 } }
    const worst = mostPower(swr, at, steady).powerW
    for (const [r, x] of [
      [200, 0],
      [12.5, 0],
      [23.53, 44.12],
    ] as const)
      expect(worst).toBeLessThanOrEqual(mostPower(several(r, x), at, steady).powerW * 1.01)
  })
})

describe('when something fails', () => {
  const levelled: RatedChain = {
    ...chain([line(), { kind: 'pad', lossDb: 0.05, gearId: 'gas-230' }, line({ lengthM: 10 })]),
    transmitter: {
      behaviour: 'levelled',
      foldback: [
        [2, 1],
        [10, 0.1],
      ],
    },
  }
  const faults = faultsOf(levelled, { frequencyHz: 14e6, powerW: 200 }, steady, 3)

  test('both ends, every joint, and the worst SWR that is allowed', () => {
    expect(faults.map(({ kind, plane }) => [kind, plane])).toEqual([
      ['open', 3],
      ['short', 3],
      ['joint', 1],
      ['joint', 2],
      ['worstSwr', 3],
    ])
  })

  test('foldback protects: with it every fault is milder', () => {
    for (const { held, unheld, kind } of faults)
      if (kind !== 'worstSwr') expect(held!.headroomDb).toBeGreaterThan(unheld!.headroomDb! + 0.5)
  })

  test('nothing retunes in a fault: a tuned output holds the forward power of the fair day', () => {
    // Only their voltage is rated: heat is another matter.
    const bare = (of: CableClass) => ({ ...of, gearId: undefined })
    const pe5m = (lengthM: number, cls = pe5): RatedStage => line({ lengthM, cable: bare(cls) })
    const stages: RatedStage[] = [
      { kind: 'pad', lossDb: 0.05 },
      pe5m(1.5),
      { kind: 'pad', lossDb: 0.05, limits: { voltageRms: 600 } },
      pe5m(30, big),
      { kind: 'pad', lossDb: 0.05 },
    ]
    let looked = 0
    for (const scale of [1, 1e-3, 1e-7, 0]) {
      const tuned: RatedChain = {
        ...chain(
          stages.map((stage) =>
            stage.kind === 'pad'
              ? { ...stage, lossDb: stage.lossDb * scale }
              : stage.kind === 'line'
                ? {
                    ...stage,
                    cable: {
                      ...stage.cable,
                      k1DbPer100m: stage.cable.k1DbPer100m * scale,
                      k2DbPer100m: 0,
                    },
                    limits: { voltageRms: 500 },
                  }
                : stage,
          ),
          70,
          15,
        ),
      }
      const point = { frequencyHz: 7e6, powerW: 100 }
      const fair = checkLimits(tuned, point, steady).solution.planes[0]!.forwardW
      for (const { kind, unheld } of faultsOf(tuned, point, steady)) {
        if (unheld?.unit !== 'V rms') continue
        looked++
        // On a line of 50 Ω with all of the forward power coming back: 2·√(P·Z₀), whatever the loss.
        expect(unheld.stress).toBeLessThan(2 * Math.sqrt(fair * 50) * 1.05)
        expect(unheld.stress, kind).toBeGreaterThan(0)
      }
    }
    expect(looked).toBeGreaterThan(8)
  })

  test('an amplifier that switches itself off protects what is behind it', () => {
    const amplifier: RatedStage = {
      kind: 'amplifier',
      gainDb: 13,
      driveW: 40,
      fullW: 500,
      behaviour: 'levelled',
      foldback: [],
      inputOhm: { rOhm: 50, xOhm: 0 },
    }
    const open = (over: Partial<typeof amplifier>) =>
      faultsOf(
        chain([{ ...amplifier, ...over }, line({ limits: { voltageRms: 300 } })]),
        { frequencyHz: 14e6, powerW: 40 },
        steady,
      )[0]!
    const bare = open({})
    expect(bare.held!.stress).toBeCloseTo(bare.unheld!.stress, 6)
    for (const over of [{ tripSwr: 3 }, { tripReflectedW: 60 }]) {
      const { held, unheld } = open(over)
      expect(held!.stress).toBe(0)
      expect(unheld!.stress).toBeCloseTo(bare.unheld!.stress, 6)
    }
  })

  test('an amplifier that switches itself off at some phases only, with a tuner behind it', () => {
    const stages: RatedStage[] = [
      {
        kind: 'amplifier',
        gainDb: 13,
        driveW: 40,
        fullW: 500,
        behaviour: 'levelled',
        foldback: [],
        tripSwr: 1.5,
        inputOhm: { rOhm: 50, xOhm: 0 },
      },
      {
        kind: 'tuner',
        method: 'network',
        network: 'L-low-pass',
        shuntAt: 'either',
        coilH: [1e-7, 3e-6],
        capacitorF: [15e-12, 300e-12],
        coilQ: 200,
        capacitorQ: 1000,
        limits: { voltageRms: 1000 },
      },
      line({ limits: { voltageRms: 500 } }),
    ]
    for (const load of [
      { kind: 'fixed' as const, rOhm: 60, xOhm: 10 },
      { kind: 'swr' as const, swr: 2 },
    ]) {
      const faults = faultsOf(
        { ...chain(stages), load },
        { frequencyHz: 14e6, powerW: 40 },
        steady,
        3,
      )
      expect(faults).toHaveLength(5)
    }
  })

  test('voltage breaks at once, heat takes its time where that is known', () => {
    const open = faultsOf(levelled, { frequencyHz: 14e6, powerW: 200 }, voice, 3)[3]
    expect(open!.unheld!.kind).toBe('firing')
    expect(open!.soonS).toBe(0)
    const slow = line({ limits: { averageW: 260, timeConstantS: 100 } })
    const [first] = faultsOf(
      { ...levelled, stages: [slow] },
      { frequencyHz: 14e6, powerW: 200 },
      steady,
      3,
    )
    expect(first!.unheld!.kind).toBe('heat')
    expect(first!.soonS).toBeGreaterThan(0)
    expect(first!.soonS).toBeLessThan(200)
    expect(heatingTimeS(2, 1, 100)).toBeCloseTo(100 * Math.LN2, 9)
    expect(heatingTimeS(0.9, 1, 100)).toBe(Infinity)
    // At 0.8 of its limit already, a fault of twice the limit: 0.18 τ, not 0.69 τ.
    expect(heatingTimeS(2, 1, 100, 0.8)).toBeCloseTo(100 * Math.log(1.2), 9)
    expect(heatingTimeS(2, 1, 100, 1.1)).toBe(0)
  })

  test('a fault begins from the heat of the fair day', () => {
    const at = { frequencyHz: 14e6, powerW: 200 }
    const slow = line({ limits: { averageW: 260, timeConstantS: 100 } })
    const own: RatedChain = { ...levelled, stages: [slow] }
    const fair = checkLimits(own, at, steady).stresses.find(({ kind }) => kind === 'heat')!
    const open = faultsOf(own, at, steady, 3).find(({ kind }) => kind === 'open')!
    const { stress, limit } = open.unheld!
    expect(fair.stress).toBeGreaterThan(0)
    expect(fair.stress).toBeLessThan(limit!)
    expect(open.soonS).toBeCloseTo(100 * Math.log((stress - fair.stress) / (stress - limit!)), 6)
    expect(open.soonS!).toBeLessThan(heatingTimeS(stress, limit!, 100))
  })

  test('a tuner stays where it was set; one known by its loss alone hides nothing', () => {
    const tuner: RatedStage = {
      kind: 'tuner',
      method: 'network',
      network: 'T',
      shuntAt: 'either',
      coilH: [1e-7, 28e-6],
      capacitorF: [15e-12, 300e-12],
      coilQ: 200,
      capacitorQ: 1000,
      limits: { voltageRms: 1000 },
    }
    const given: RatedStage = { kind: 'tuner', method: 'given', lossDb: 0.3, residualSwr: 1 }
    for (const stage of [tuner, given]) {
      const c = { ...levelled, stages: [stage, ...levelled.stages] }
      const [open] = faultsOf(c, { frequencyHz: 14e6, powerW: 200 }, steady, 3)
      expect(open!.unheld!.headroomDb).toBeLessThan(3)
    }
  })
})

describe('what a source gives in a fault, by hand', () => {
  // No loss, so that an open end shows 2·√(P·Z₀) somewhere along half a wave and more.
  const open = (own: Partial<RatedChain>, powerW = 100, worst?: number) =>
    faultsOf(
      { ...chain([line({ cable: lossless, limits: { voltageRms: 300 } })]), ...own },
      { frequencyHz: 14e6, powerW },
      steady,
      worst,
    )
  const volts = (watts: number) => 2 * Math.sqrt(watts * 50)

  test('its foldback at an SWR beyond the last point, scaled to the fair day', () => {
    const foldback = [
      [1.5, 1],
      [3, 0.25],
    ] as const
    const levelled = { behaviour: 'levelled' as const, foldback }
    const [fault] = open({ transmitter: levelled })
    expect(fault!.held!.stress).toBeCloseTo(volts(25), 0)
    expect(fault!.unheld!.stress).toBeCloseTo(volts(100), 0)
    // On an antenna of SWR 3 it is folded back already, to 25 W forward; a fault leaves it there, held or not.
    const [folded] = open({ transmitter: levelled, load: { kind: 'fixed', rOhm: 150, xOhm: 0 } })
    expect(folded!.held!.stress).toBeCloseTo(volts(25), 0)
    expect(folded!.unheld!.stress).toBeCloseTo(volts(25), 0)
    // Without a curve nothing protects.
    const [bare] = open({ transmitter: { behaviour: 'levelled', foldback: [] } })
    expect(bare!.held!.stress).toBeCloseTo(volts(100), 0)
    // No power, no stress.
    expect(open({ transmitter: levelled }, 0)[0]!.unheld!.stress).toBe(0)
  })

  test('where the phase decides what comes out, it is the phase that lets most out', () => {
    // SWR 1.5 behind a quarter wave of 75 Ω: from 1.5 (75 W) to 3.4 at the radio.
    const quarterM = (299_792_458 / 14e6 / 4) * lossless.velocityFactor
    const [fault] = open({
      stages: [
        line({ cable: lossless, limits: { voltageRms: 300 } }),
        line({ cable: { ...lossless, z0Ohm: 75 }, lengthM: quarterM }),
      ],
      transmitter: {
        behaviour: 'levelled',
        foldback: [
          [1, 1],
          [2, 0.5],
          [3, 0.1],
        ],
      },
      load: { kind: 'swr', swr: 1.5 },
    })
    expect(fault!.unheld!.stress / volts(75)).toBeCloseTo(1, 1)
    expect(fault!.unheld!.stress).toBeGreaterThan(volts(65))
  })

  test('folded back to nothing on the fair day, it gives nothing in a fault', () => {
    const [fault] = open({
      transmitter: {
        behaviour: 'levelled',
        foldback: [
          [1.5, 1],
          [2, 0],
        ],
      },
      load: { kind: 'fixed', rOhm: 150, xOhm: 0 },
    })
    expect(fault!.held!.stress).toBe(0)
    expect(fault!.unheld!.stress).toBe(0)
  })

  test('a tuner with a network stays in, and may be what breaks', () => {
    const tuner: RatedStage = {
      ...{ kind: 'tuner', method: 'network', network: 'T', shuntAt: 'either' },
      ...{ coilH: [1e-7, 28e-6], capacitorF: [15e-12, 300e-12], coilQ: 200, capacitorQ: 1000 },
      limits: { voltageRms: 5 },
    }
    const [fault] = open({ stages: [tuner, line({ cable: lossless })] })
    expect(fault!.unheld).toMatchObject({ part: 0, kind: 'voltage' })
  })

  test('a dummy load: what it has cooled from, and a burst that is less than it bears for ever', () => {
    const load = { continuousW: 100, burst: { watts: 1000, minutes: 1 } }
    const { timeConstantMinutes } = keyingTime(load, 30)
    // From 0.3 of its limit to a tenth: a third is left.
    expect(keyingTime(load, 30).coolMinutes).toBeCloseTo(timeConstantMinutes * Math.log(3), 9)
    expect(keyingTime(load, 30).onMinutes).toBe(Infinity)
    expect(keyingTime({ ...load, burst: { watts: 50, minutes: 1 } }, 200)).toEqual({
      ...{ onMinutes: 0, coolMinutes: 0, timeConstantMinutes: 0 },
    })
  })

  test('a tuner known by its loss alone is as if it were not there, but before an amplifier', () => {
    const given: RatedStage = { kind: 'tuner', method: 'given', lossDb: 0, residualSwr: 1 }
    const rated = line({ cable: lossless, limits: { voltageRms: 300 } })
    const stressed = (stages: RatedStage[]) =>
      open({ stages }).find(({ kind }) => kind === 'open')!.unheld!.stress
    expect(stressed([given, rated])).toBeCloseTo(volts(100), 0)
    expect(stressed([rated, given])).toBeCloseTo(stressed([rated]), 9)
    // Left in, it would match even an open end.
    expect(stressed([given, rated])).toBeGreaterThan(1.5 * volts(25))
  })

  test('how soon: never within its limit, not known without a time constant, at once where volts break', () => {
    const soon = (limits: Record<string, number>) =>
      faultsOf(
        { ...chain([line({ limits })]), transmitter: { behaviour: 'levelled', foldback: [] } },
        { frequencyHz: 14e6, powerW: 100 },
        steady,
      ).find(({ kind }) => kind === 'open')!.soonS
    expect(soon({ averageW: 5000, timeConstantS: 60 })).toBe(Infinity)
    expect(soon({ averageW: 5000 })).toBeNull()
    expect(soon({ voltageRms: 20 })).toBe(0)
    const finite = soon({ averageW: 120, timeConstantS: 60 })!
    expect(finite).toBeGreaterThan(0)
    expect(finite).toBeLessThan(600)
  })

  test('of an antenna of unknown phase the phase that lets most out counts', () => {
    const foldback = [
      [1, 1],
      [2, 0.5],
    ] as const
    const [fault] = open({
      transmitter: { behaviour: 'levelled', foldback },
      load: { kind: 'swr', swr: 1.5 },
    })
    // Without loss every phase has SWR 1.5 at the radio: 75 W.
    expect(fault!.unheld!.stress).toBeCloseTo(volts(75), 0)
  })

  const amplifier: RatedStage = {
    ...{ kind: 'amplifier', gainDb: 10, driveW: 20, fullW: 200, behaviour: 'levelled' },
    foldback: [
      [1.5, 1],
      [4, 0.5],
    ],
    inputOhm: { rOhm: 50, xOhm: 0 },
  }
  const behind = (over: Partial<typeof amplifier>) =>
    open(
      {
        stages: [
          { ...amplifier, ...over } as RatedStage,
          line({ cable: lossless, limits: { voltageRms: 300 } }),
        ],
      },
      10,
    )

  test('an amplifier that trips is off beyond its SWR, and folds back as it does up to it', () => {
    // Trips at an open end: nothing. A worst SWR of 2 lies below a trip at 3, above one at 1.8.
    const at = (tripSwr: number) =>
      open(
        {
          stages: [
            { ...amplifier, tripSwr } as RatedStage,
            line({ cable: lossless, limits: { voltageRms: 300 } }),
          ],
        },
        10,
        2,
      ).at(-1)!
    expect(behind({ tripSwr: 3 })[0]!.held!.stress).toBe(0)
    expect(at(1.8).held!.stress).toBe(0)
    // 100 W; at SWR 2 a fifth of the way from 1.5 to 4: 0.9 of it. The line shows (1 + 1/3) of the forward volts.
    const peak = (4 / 3) * Math.sqrt(90 * 50)
    expect(at(3).held!.stress).toBeGreaterThan(0.9 * peak)
    expect(at(3).held!.stress).toBeLessThan(1.01 * peak)
  })

  test('by reflected power as by the SWR that it is', () => {
    // 100 W forward: 25 W back are |ρ| 0.5, SWR 3.
    const worst = (tripReflectedW: number, swr: number) =>
      open(
        {
          stages: [
            { ...amplifier, tripReflectedW } as RatedStage,
            line({ cable: lossless, limits: { voltageRms: 300 } }),
          ],
        },
        10,
        swr,
      ).at(-1)!.held!.stress
    expect(worst(25, 2.9)).toBeGreaterThan(0)
    expect(worst(25, 3.1)).toBe(0)
  })

  test('a fault behind an amplifier is not seen before it: a tuner there stays', () => {
    const given: RatedStage = { kind: 'tuner', method: 'given', lossDb: 3, residualSwr: 1 }
    const rated = line({ cable: lossless, limits: { voltageRms: 300 } })
    const of = (stages: RatedStage[]) => open({ stages }, 10)[0]!.unheld!.stress
    // In front of the amplifier it halves the drive, behind it it hides nothing and is taken as not there.
    expect(of([given, amplifier, rated])).toBeCloseTo(of([amplifier, rated]) / Math.SQRT2, 0)
    expect(of([amplifier, given, rated])).toBeGreaterThan(0.65 * of([amplifier, rated]))
    // One in bypass is no amplifier: what is behind the radio is seen by it.
    expect(of([{ ...amplifier, bypassed: true }, rated])).toBeCloseTo(volts(10), 0)
  })

  test('a cable that is warmed by no more than it bears never gives out', () => {
    const [fault] = open({ stages: [line({ limits: { averageW: 5000, timeConstantS: 60 } })] }, 10)
    expect(fault!.unheld!.kind).toBe('heat')
    expect(fault!.soonS).toBe(Infinity)
    const [unknown] = open({ stages: [line({ limits: { averageW: 20 } })] }, 100)
    expect(unknown!.soonS).toBeNull()
    // At its limit it never gets there; a little more and it does.
    expect(heatingTimeS(1, 1, 60)).toBe(Infinity)
    expect(heatingTimeS(2, 1, 60, 1)).toBe(0)
  })
})

describe('what surrounds a chain, by hand', () => {
  const one = chain([line({ cable: lossless, limits: { voltageRms: 300 } })])
  const at = { frequencyHz: 14e6, powerW: 100 }
  const of = (around: Partial<Surroundings>, own = one) =>
    checkLimits(own, at, { ...steady, ...around }).stresses

  test('a radio is held against its rating, a load against what it bears on average', () => {
    const rated = of({ ratedW: 120 }).find(({ kind }) => kind === 'power')!
    expect(rated).toMatchObject({ part: -1, stress: 100, limit: 120, unit: 'W', basis: 'PEP' })
    expect(rated.headroomDb).toBeCloseTo(10 * Math.log10(1.2), 9)
    const voiced = checkLimits(one, at, { ...voice, loadAverageW: 50 }).stresses.find(
      ({ kind, part }) => kind === 'heat' && part === 1,
    )!
    // A voice heats a fifth of a carrier.
    expect(voiced).toMatchObject({ limit: 50, unit: 'W', basis: 'mean' })
    expect(voiced.stress).toBeCloseTo(20, 6)
    expect(of({}).filter(({ part }) => part !== 0)).toEqual([])
  })

  test('a licence at the output, at the antenna, on average', () => {
    const lossy = chain([{ kind: 'pad', lossDb: 10 * Math.log10(2) }])
    const licensed = (licence: Surroundings['licence'], own = lossy, around = steady) =>
      checkLimits(own, at, { ...around, licence }).stresses.find(({ kind }) => kind === 'licence')!
    expect(licensed({ kind: 'PEP', watts: 400 })).toMatchObject({
      part: -1,
      limit: 400,
      basis: 'PEP',
    })
    expect(licensed({ kind: 'PEP', watts: 400 }).stress).toBeCloseTo(100, 6)
    expect(licensed({ kind: 'antenna', watts: 40 }).part).toBe(1)
    expect(licensed({ kind: 'antenna', watts: 40 }).stress).toBeCloseTo(50, 6)
    const mean = licensed({ kind: 'PEP', watts: 10, average: true }, lossy, voice)
    expect(mean.stress).toBeCloseTo(20, 6)
    expect(mean.basis).toBe('mean')
  })

  test('with an amplifier the output is its own: the last one’s in circuit', () => {
    const amplifier = (gainDb: number, bypassed = false): RatedStage => ({
      ...{ kind: 'amplifier', gainDb, driveW: 1000, fullW: 10_000, behaviour: 'levelled' },
      ...{ foldback: [], inputOhm: { rOhm: 50, xOhm: 0 }, bypassed },
    })
    const output = (stages: RatedStage[]) =>
      checkLimits(
        chain(stages),
        { ...at, powerW: 10 },
        { ...steady, licence: { kind: 'PEP', watts: 400 } },
      ).stresses.find(({ kind }) => kind === 'licence')!.stress
    const half: RatedStage = { kind: 'pad', lossDb: 10 * Math.log10(2) }
    expect(output([half])).toBeCloseTo(10, 6)
    expect(output([amplifier(10), half])).toBeCloseTo(100, 3)
    expect(output([amplifier(10), half, amplifier(10), half])).toBeCloseTo(500, 2)
    expect(output([amplifier(10, true), half])).toBeCloseTo(10, 6)
  })

  test('a standing is over below 0 dB, tight below 2 dB; of an SWR above it and above 85 % of it', () => {
    const standing = (own: Partial<Stress>) =>
      standingOf({
        ...{ part: 0, kind: 'voltage', stress: 1, limit: 1, unit: 'V rms', basis: 'PEP' },
        headroomDb: 0,
        ...own,
      })
    expect([-0.01, 0, 1.99, 2].map((headroomDb) => standing({ headroomDb }))).toEqual([
      ...['over', 'tight', 'tight', 'ok'],
    ])
    const swr = (stress: number) => standing({ kind: 'SWR', stress, limit: 2, headroomDb: null })
    expect([2.01, 2, 1.71, 1.7].map(swr)).toEqual(['over', 'tight', 'tight', 'ok'])
    expect(standing({ limit: null, headroomDb: null })).toBe('unknown')
    expect(standing({ kind: 'SWR', limit: null, headroomDb: null })).toBe('unknown')
  })

  test('of several as tight the first is named, and what has no headroom never', () => {
    const own = (part: number, headroomDb: number | null): Stress => ({
      ...{ part, kind: 'heat', stress: 1, limit: 1, unit: 'W', basis: 'mean', headroomDb },
    })
    expect(tightest([own(0, null), own(1, 3), own(2, 3), own(3, 4)])!.part).toBe(1)
    expect(tightest([own(0, null)])).toBeNull()
    const swr = (stress: number, limit: number | null): Stress => ({
      ...{ part: 5, kind: 'SWR', stress, limit, unit: '', basis: 'PEP', headroomDb: null },
    })
    expect(brokenBySwr([own(0, -3), swr(2, 2)])).toBeNull()
    expect(brokenBySwr([own(0, -3), swr(2, null)])).toBeNull()
    expect(brokenBySwr([own(0, -3), swr(2.1, 2)])!.part).toBe(5)
  })
})

test('a dummy load of 300 W for 10 minutes and 100 W for ever', () => {
  const load = { continuousW: 100, burst: { watts: 300, minutes: 10 } }
  const keying = keyingTime(load, 300)
  expect(keying.onMinutes).toBeCloseTo(10, 9)
  expect(keying.timeConstantMinutes).toBeCloseTo(-10 / Math.log(2 / 3), 9)
  expect(keying.coolMinutes).toBeCloseTo(keying.timeConstantMinutes * Math.log(10), 9)
  expect(keyingTime(load, 80).onMinutes).toBe(Infinity)
  expect(keyingTime(load, 1000).onMinutes).toBeLessThan(3)
})

describe('along the chain', () => {
  const stages = [line({ lengthM: 20 }), { kind: 'pad', lossDb: 0.1, gearId: 'bnc' } as RatedStage]
  const { solution, stresses } = checkLimits(
    chain(stages, 150, 40),
    { frequencyHz: 14e6, powerW: 100 },
    voice,
  )
  const profile = profileOf(stages, solution, voice)

  test('the highest share of the profile is that of the stress', () => {
    for (const kind of ['voltage', 'heat'] as const)
      stages.forEach((_, k) => {
        const stress = stresses.find((s) => s.part === k && s.kind === kind)!
        expect(Math.max(...profile[k]![kind]!)).toBeCloseTo(stress.stress / stress.limit!, 2)
      })
  })

  test('a cable that is bypassed has no curve, one without a limit of heat none of that', () => {
    const [whole] = stages
    expect(profileOf([{ ...whole!, bypassed: true } as RatedStage], solution, voice)).toEqual([
      { voltage: null, heat: null },
    ])
    const heldTo = (voltageRms: number) =>
      profileOf(
        [line({ lengthM: 20, cable: lossless, limits: { voltageRms } })],
        solution,
        voice,
      )[0]!
    const { voltage, heat } = heldTo(500)
    heldTo(1000).voltage!.forEach((share, i) => expect(2 * share).toBeCloseTo(voltage![i]!, 9))
    expect([voltage!.length > 2, heat]).toEqual([true, null])
    // A device has one value at both its ends.
    expect(profile[1]!.heat).toHaveLength(2)
  })

  test('what is not known or bypassed has no curve', () => {
    const bare = [line({ cable: lossless }), { ...stages[1]!, bypassed: true }] as RatedStage[]
    expect(profileOf(bare, solution, voice)).toEqual([
      { voltage: null, heat: null },
      { voltage: null, heat: null },
    ])
  })
})

describe('more power', () => {
  const at = (frequencyHz: number) => ({ at: { frequencyHz, powerW: 100 }, around: steady })
  const c: RatedChain = {
    ...chain([line({ lengthM: 2 }), line({ lengthM: 30, cable: carried(big) })], 70),
    transmitter: {
      behaviour: 'levelled',
      foldback: [
        [1.5, 1],
        [3, 0.2],
      ],
    },
  }

  test('names what gives out on any channel, and cables that would do', () => {
    const [lead, run] = upgradeTo(c, 600, [at(4e6), at(28e6)])
    expect(lead!.worst!.headroomDb).toBeLessThan(0)
    expect(run!.worst!.headroomDb).toBeGreaterThan(0)
    expect(run!.replacements).toEqual([])
    expect(lead!.replacements.length).toBeGreaterThan(0)
    for (const { cable: other, headroomDb } of lead!.replacements) {
      expect(headroomDb).toBeGreaterThanOrEqual(1)
      expect(attenuationDbPer100m(other, 28e6)).toBeLessThan(attenuationDbPer100m(pe5, 28e6) * 1.06)
      const swapped: RatedChain = {
        ...c,
        transmitter: { behaviour: 'levelled', foldback: [] },
        stages: [line({ lengthM: 2, cable: carried(other) }), c.stages[1]!],
      }
      const heat = find(swapped, 600, 'heat', steady, 28e6)
      expect(heat.stress).toBeLessThan(heat.limit!)
    }
  })

  test.each([
    [600, [4e6, 28e6]],
    [2000, [4e6]],
    [900, [28e6, 4e6]],
    [1500, [50e6, 14e6]],
  ])(
    'for %d W the cables are the three thinnest that lose no more and leave a decibel, %j',
    (watts, channels) => {
      const [lead] = upgradeTo(c, watts, channels.map(at))
      const top = Math.max(...channels)
      const leaves = (other: CableClass) => {
        const swapped: RatedChain = {
          ...c,
          transmitter: { behaviour: 'levelled', foldback: [] },
          stages: [line({ lengthM: 2, cable: carried(other) }), c.stages[1]!],
        }
        const all = channels.flatMap((frequencyHz) =>
          checkLimits(swapped, { frequencyHz, powerW: watts }, steady).stresses.filter(
            ({ part, headroomDb }) => part === 0 && headroomDb !== null,
          ),
        )
        return Math.min(...all.map(({ headroomDb }) => headroomDb!))
      }
      const would = cableClasses
        .filter(
          (other) =>
            Math.abs(other.z0Ohm - 50) < 5 &&
            attenuationDbPer100m(other, top) / attenuationDbPer100m(pe5, top) <= 1.05 &&
            leaves(other) >= 1,
        )
        .toSorted((a, b) => a.outerMm - b.outerMm)
        .map((other) => [other.id, leaves(other).toFixed(6)])
      expect(would.length).toBeGreaterThan(3)
      expect(
        lead!.replacements.map(({ cable: of, headroomDb }) => [of.id, headroomDb.toFixed(6)]),
      ).toEqual(would.slice(0, 3))
    },
  )

  test('a cable is held against the loss of the highest channel alone, with a twentieth to spare', () => {
    const now = cableClasses.find(({ id }) => id === pe5.id)!
    const dbAt = (loss: number) => ({ ...pe5, k1DbPer100m: loss, k2DbPer100m: 0, id: 'own' })
    const named = (k1: number) =>
      upgradeTo({ ...c, stages: [line({ lengthM: 2, cable: carried(dbAt(k1)) })] }, 600, [
        at(4e6),
        at(28e6),
      ])[0]!.replacements.map(({ cable: of }) => of.id)
    // Its own loss at 28 MHz is that of the class, or just over a twentieth less.
    const k1 = attenuationDbPer100m(now, 28e6) / Math.sqrt(28)
    const thinnest = named(k1 * 3)[0]!
    const of = cableClasses.find(({ id }) => id === thinnest)!
    const own = attenuationDbPer100m(of, 28e6) / Math.sqrt(28)
    expect(named(own / 1.049)).toContain(thinnest)
    expect(named(own / 1.051)).not.toContain(thinnest)
  })

  test('behind an amplifier the worst of open and short is named, counted in the whole chain', () => {
    const amplifier: RatedStage = {
      ...{ kind: 'amplifier', gainDb: 12, driveW: 40, fullW: 500, behaviour: 'levelled' },
      ...{ foldback: [], inputOhm: { rOhm: 50, xOhm: 0 } },
    }
    const rated = (voltageRms: number) => line({ lengthM: 7, cable, limits: { voltageRms } })
    const own = { ...c, stages: [rated(900), amplifier, rated(700), rated(400)] }
    const channels = [at(4e6), at(9e6), at(28e6)]
    const worst = worstFaultAt(own, 500, channels)!
    const asked: RatedChain = {
      ...own,
      transmitter: { behaviour: 'levelled', foldback: [] },
      stages: own.stages.slice(2),
    }
    const all = channels.flatMap(({ at: { frequencyHz } }) =>
      faultsOf(asked, { frequencyHz, powerW: 500 }, steady).flatMap(({ kind, plane, unheld }) =>
        (kind === 'open' || kind === 'short') && unheld
          ? [{ kind, plane, part: unheld.part, headroomDb: unheld.headroomDb! }]
          : [],
      ),
    )
    const least = all.toSorted((a, b) => a.headroomDb - b.headroomDb)[0]!
    expect(worst).toMatchObject({
      ...{ kind: least.kind, plane: least.plane + 2 },
      unheld: { part: least.part + 2, headroomDb: least.headroomDb },
    })
    expect(new Set(all.map(({ headroomDb }) => headroomDb.toFixed(3))).size).toBeGreaterThan(2)
  })

  test('a channel that the antenna was not measured for is left out', () => {
    const swept: RatedChain = {
      ...c,
      load: { kind: 'sweep', frequencyHz: [3e6, 8e6], re: [0.2, 0.2], im: [0, 0] },
    }
    const [both] = upgradeTo(swept, 600, [at(4e6), at(28e6)])
    const [one] = upgradeTo(swept, 600, [at(4e6)])
    expect(both!.worst).toEqual(one!.worst)
  })

  test('says what breaks if the antenna fails, with nothing to protect it', () => {
    const run = line({ lengthM: 30, cable: lossless, limits: { voltageRms: 500 } })
    const cases = [{ at: { frequencyHz: 14e6, powerW: 100 }, around: steady }]
    // An open end doubles the voltage: 1 250 W of forward power is the most.
    expect(worstFaultAt(chain([run]), 1200, cases)!.unheld!.headroomDb).toBeGreaterThan(0)
    const broken = worstFaultAt(chain([run]), 1300, cases)!
    expect(broken).toMatchObject({ plane: 1, unheld: { part: 0, kind: 'voltage' } })
    expect(broken.unheld!.headroomDb).toBeLessThan(0)
    expect(worstFaultAt(chain([line({ cable: lossless })]), 1300, cases)).toBeNull()
  })

  test('little power needs nothing new; only what is behind an amplifier is asked', () => {
    expect(upgradeTo(c, 20, [at(4e6)]).every(({ replacements }) => replacements.length === 0)).toBe(
      true,
    )
    const amplifier: RatedStage = {
      kind: 'amplifier',
      gainDb: 12,
      driveW: 40,
      fullW: 500,
      behaviour: 'levelled',
      foldback: [],
      inputOhm: { rOhm: 50, xOhm: 0 },
    }
    const behind = upgradeTo({ ...c, stages: [c.stages[0]!, amplifier, ...c.stages] }, 600, [
      at(4e6),
    ])
    expect(behind.map(({ stage }) => stage)).toEqual([2, 3])
  })
})
